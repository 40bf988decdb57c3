/**
 * ls: names in columns or a line each, and the long form with device numbers. Published: coreutils 9.1, held
 * against Debian's own.
 */
import { defineCommand, type Command as LibraryCommand } from 'just-bash/browser'
import type { Entry } from '../files'
import { INFO } from '../info'

const WIDTH = 80
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** Names in as many columns as fit, down the columns first, two spaces apart; a line is shorter than the width. */
export function inColumns(names: readonly string[], width = WIDTH): string {
  for (let wanted = names.length; wanted > 0; wanted--) {
    const rows = Math.ceil(names.length / wanted)
    // The last of them may stay empty: it counts as wanted all the same.
    const widths = Array.from({ length: wanted }, (_, column) => {
      const longest = Math.max(0, ...names.slice(column * rows, (column + 1) * rows).map(name => name.length))
      return longest && column < wanted - 1 ? longest + 2 : longest
    })
    if (wanted > 1 && widths.reduce((sum, own) => sum + Math.max(own, 3), 0) >= width) continue
    return Array.from({ length: rows }, (_, row) => widths.map((_, column) => names[column * rows + row])
      .map((name, column, line) => {
        if (name === undefined) return ''
        return line[column + 1] === undefined ? name : name.padEnd(widths[column]!)
      })
      .join('')).join('\n') + '\n'
  }
  return ''
}

const ordered = (names: readonly string[]) => [...names].sort((a, b) => {
  if (a < b) return -1
  return a > b ? 1 : 0
})

interface Stat { isDirectory: boolean, isSymbolicLink: boolean, size: number }

type Entries = ReadonlyMap<string, Entry>

/** The command over the files that are there now; `-C` is the usual where people look, and a pipe gets a line each. */
export const ls = (entries: () => Entries,
  madeAt: () => Date): LibraryCommand => defineCommand('ls', async (args, { fs, cwd }) => {
  const width = Number(args.flatMap(arg => /^-w(\d+)$/.exec(arg)?.[1] ?? [])[0] ?? WIDTH)
  const letters = new Set(args.filter(arg => /^-[A-Za-z1]+$/.test(arg)).flatMap(arg => [...arg.slice(1)]))
  const unknown = [...letters].find(letter => !'aAdl1CFhrtR'.includes(letter))
  if (unknown) return { stdout: '',
    stderr: `ls: invalid option -- '${unknown}'\nTry 'ls --help' for more information.\n`, exitCode: 2 }
  const paths = args.filter(arg => !arg.startsWith('-') || arg === '-')
  let stderr = ''
  const [single, folders]: [string[], string[]] = [[], []]
  for (const path of ordered(paths.length ? paths : ['.'])) {
    const whole = fs.resolvePath(cwd, path)
    try {
      const { isDirectory } = await fs.stat(whole)
      if (isDirectory && !letters.has('d')) folders.push(path)
      else single.push(path)
    }
    catch {
      stderr += `ls: cannot access '${path}': No such file or directory\n`
    }
  }
  const long = async (name: string, whole: string): Promise<string[]> => {
    const stat: Stat = await fs.lstat(whole)
    const entry = entries().get(whole)
    const target = stat.isSymbolicLink ? ` -> ${await fs.readlink(whole)}` : ''
    let mode: string
    if (stat.isSymbolicLink) mode = 'lrwxrwxrwx'
    else if (stat.isDirectory) mode = 'drwxr-xr-x'
    else if (entry?.device) mode = `${/^\/dev\/mmc/.test(whole) ? 'b' : 'c'}rw-rw----`
    else mode = entry && !entry.write
      ? '-r--r--r--'
      : '-rw-r--r--'
    const home = whole.startsWith('/home/')
    const made = madeAt()
    const when = `${MONTHS[made.getUTCMonth()]} ${String(made.getUTCDate()).padStart(2)} `
      + `${[made.getUTCHours(), made.getUTCMinutes()].map(value => String(value).padStart(2, '0')).join(':')}`
    return [mode, '1', home ? INFO.user : 'root', entry?.group ?? (home ? INFO.user : 'root'),
      entry?.device ?? String(stat.size), when,
      `${name}${target}`]
  }
  const shown = async (names: readonly string[], at: (name: string) => string): Promise<string> => {
    if (!letters.has('l')) return letters.has('C') ? inColumns(names, width) : names.map(name => `${name}\n`).join('')
    const rows = await Promise.all(names.map(name => long(name, at(name))))
    const widths = [0, 1, 2, 3, 4].map(i => Math.max(0, ...rows.map(row => row[i]!.length)))
    return rows.map(([mode, links, user, group, size, when, name]) => [
      mode, links!.padStart(widths[1]!), user!.padEnd(widths[2]!), group!.padEnd(widths[3]!),
      size!.padStart(widths[4]!), when, name,
    ].join(' ') + '\n').join('')
  }
  let stdout = await shown(single, path => fs.resolvePath(cwd, path))
  for (const folder of folders) {
    const whole = fs.resolvePath(cwd, folder)
    const all = ordered(await fs.readdir(whole))
      .filter(name => letters.has('a') || letters.has('A') || !name.startsWith('.'))
    const names = letters.has('a') ? ['.', '..', ...all] : all
    if (folders.length + single.length > 1 || stderr) stdout += `${stdout ? '\n' : ''}${folder}:\n`
    stdout += (letters.has('l') ? 'total 0\n' : '')
      + await shown(letters.has('r') ? names.reverse() : names, name => fs.resolvePath(whole, name))
  }
  return { stdout, stderr, exitCode: stderr ? 2 : 0 }
})
