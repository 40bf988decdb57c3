/** A script that puts the files where they belong: POSIX shell, says what it does, keeps what was there. */
import { shellWord } from './quoting'
import type { Facts } from '../facts/types'
import { textOf, type SmallFile } from './types'

/** True for files that are read from the card before anything runs. */
export const isForCard = ({ after }: SmallFile) => after.is === 'first start'

export function applyScript(files: readonly SmallFile[], facts: Facts, groups: readonly string[]): string {
  const { host } = facts.plan
  const running = files.filter(file => !isForCard(file))
  const commands = [...new Set(running.flatMap(({ after }) =>
    after.is === 'reload' ? after.command.split(' && ') : []))]
  const again = running.some(({ after }) => after.is === 'restart')
  const login = running.some(({ after }) => after.is === 'new login') || (host.user !== undefined && groups.length > 0)
  const end = textMark(running)
  return [
    '#!/bin/sh', '# Puts the small files of this plan where they belong. What was there is kept as NAME.before.',
    '# Run it on the board: sudo sh apply.sh',
    'set -eu', '[ "$(id -u)" = 0 ] || { echo "run it as root: sudo sh $0" >&2; exit 1; }', '',
    'put() { # path, owner, mode; the text comes in',
    '  case $1 in "~"/*) echo "say which user the plan is for: $1" >&2; exit 1;; esac',
    '  mkdir -p "$(dirname "$1")"', '  if [ -e "$1" ]; then cp -p "$1" "$1.before"; fi', '  cat > "$1.new"', '  chmod "$3" "$1.new"',
    '  chown "$2" "$1.new"', '  mv "$1.new" "$1"', '  echo "wrote $1"', '}', '',
    ...running.flatMap(file => [`put ${shellWord(file.path)} ${shellWord(file.owner)} ${file.mode} <<'${end}'`,
      textOf(file).replace(/\n$/, ''), end, '']),
    ...host.user && groups.length
      ? [`for group in ${groups.map(shellWord).join(' ')}; do`,
          '  if getent group "$group" > /dev/null', `  then usermod -aG "$group" ${shellWord(host.user)}`,
          '  else echo "no group $group on this image"', '  fi', 'done']
      : [],
    ...commands,
    ...again ? ['echo "restart the board: some of it is read at the start only"'] : [],
    ...login ? ['echo "log out and in again: groups and what starts with the desktop count from then on"'] : [], '',
  ].join('\n')
}

/** A mark that stands in none of the files. */
function textMark(files: readonly SmallFile[]): string {
  let mark = 'END'
  while (files.some(file => file.rows.some(([line]) => line === mark))) mark += 'D'
  return mark
}
