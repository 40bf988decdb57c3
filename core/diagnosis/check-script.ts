/**
 * A script that looks, on the board itself, at everything that a command can show of the plan: POSIX shell, reads
 * only, needs nothing installed, says what it skips. What it prints is one report that the Bring-up stage takes
 * back as it is (`paste.ts`).
 */
import { pathOfProbe } from '../plan/ids'
import type { Probe } from './types'

/** Prints a line as a prompt and runs it; a command that is not there is skipped and told. */
const HEAD = String.raw`#!/bin/sh
# What the board shows of the plan. Reads only: it writes no file, sets no line, changes nothing.
# sh check.sh > report.txt, and paste the report. "sh check.sh load" keeps all cores busy for a minute before the last look.
set -u
LC_ALL=C
export LC_ALL
PATH=$PATH:/usr/sbin:/sbin
skipped=0
look() {
  printf '$ %s\n' "$*"
  if command -v "$1" > /dev/null 2>&1; then
    command "$@" 2>&1
  else
    printf '# skipped: there is no %s here\n' "$1"
    skipped=$((skipped + 1))
  fi
}
show() {
  printf '$ cat %s\n' "$1"
  if [ -r "$1" ]; then
    tr -d '\000' < "$1"
    printf '\n'
  else
    printf '# skipped: %s cannot be read here\n' "$1"
    skipped=$((skipped + 1))
  fi
}
there() {
  printf '$ ls -d %s\n' "$1"
  # Left without quotes so that a pattern finds what it means; what finds nothing is printed as it is.
  # shellcheck disable=SC2086
  ls -d $1 2>&1
}
busy() {
  cores=$(grep -c '^processor' /proc/cpuinfo 2> /dev/null || printf 1)
  printf '# %s cores busy for a minute\n' "$cores"
  pids=
  while [ "$cores" -gt 0 ]; do
    (while :; do :; done) &
    pids="$pids $!"
    cores=$((cores - 1))
  done
  # A stop by hand stops them too.
  trap 'kill $pids 2> /dev/null; exit 1' INT TERM
  sleep 60
  # shellcheck disable=SC2086
  kill $pids 2> /dev/null
  trap - INT TERM
}`

const quoted = (text: string) => `'${text.replaceAll('\'', '\'\\\'\'')}'`

/**
 * The script of a plan, from the probes of its run sheet. Law: run by any POSIX shell it ends with 0, and its
 * report is read whole.
 *
 * @param name Name of the plan; it stands in a comment, on one line.
 */
export function checkScriptOf(name: string, probes: readonly Probe[]): string {
  const nodes = probes.flatMap(({ id }) => pathOfProbe(id) ?? [])
  const scans = probes.filter(({ id, command }) => id.startsWith('scan:') && command?.startsWith('i2cdetect -y '))
    .map(({ command }) => command!)
  return [
    HEAD, '', `printf '# Report on %s\\n' ${quoted(name.replace(/\s+/g, ' ').trim())}`, 'show /proc/device-tree/model', 'look uname -sr', '',
    '# Device nodes of the plan', ...nodes.map(path => `there ${quoted(path)}`), '',
    '# Buses: a scan asks each address once, and is refused where a driver holds it', ...scans.map(command =>
      `look ${command}`), '',
    '[ "$#" -gt 0 ] && [ "$1" = load ] && busy', 'show /sys/class/thermal/thermal_zone0/temp', 'look vcgencmd get_throttled',
    `printf '# End of the report, %s skipped\\n' "$skipped"`, '',
  ].join('\n')
}
