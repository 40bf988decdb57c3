/**
 * The shell of the simulated board. The language, pipes and text tools are those of a library; what knows of the board
 * is ours. Files are live: a read asks the machine, a write tells it.
 */
import { Bash, defineCommand, InMemoryFs } from 'just-bash/browser'
import {
  arecord, aplay, busyCores, date, dmesg, groups, hostname, hwclock, ip, lsmod, lsusb, speakerTest,
  systemctl, uname, uptime, vcgencmd, whoami,
} from './commands/system'
import { i2cdetect, i2cdump, i2cget, i2cset } from './commands/i2c'
import { gpiodetect, gpioget, gpioinfo, gpiomon, gpioset } from './commands/lines'
import { ls } from './commands/ls'
import { stty } from './commands/stty'
import type { Command, Printed } from './commands/types'
import { simulatedFiles, type Entry } from './files'
import { INFO } from './info'
import type { Machine } from './machine'

const HOME = `/home/${INFO.user}`

const COMMANDS: Readonly<Record<string, Command>> = {
  aplay, arecord, date, dmesg, gpiodetect, gpioget, gpioinfo, gpiomon, gpioset, groups, hostname, hwclock, i2cdetect,
  i2cdump, i2cget,
  i2cset, ip,
  lsmod, lsusb, stty, systemctl, uname, uptime, vcgencmd, whoami, 'busy-cores': busyCores, 'speaker-test': speakerTest,
}
/** What the library brings and a board has too. */
const TOOLS = [
  'awk', 'basename', 'cat', 'cp', 'cut', 'dirname', 'echo', 'egrep', 'env', 'false', 'fgrep', 'find', 'grep', 'head',
  'mkdir', 'mv', 'nl',
  'od', 'printenv', 'printf', 'pwd', 'readlink', 'rev', 'rm', 'rmdir', 'sed', 'seq', 'sleep', 'sort', 'stat', 'tac',
  'tail', 'tee',
  'timeout',
  'touch', 'tr', 'true', 'uniq', 'wc', 'which', 'xargs', 'bash', 'sh',
] as const

/** What a board usually has and this one has not: it runs no programs. */
const ELSEWHERE = [
  'apt', 'apt-get', 'curl', 'df', 'free', 'gcc', 'git', 'htop', 'less', 'make', 'minicom', 'nano', 'picocom', 'ping',
  'pip', 'pip3', 'ps',
  'python', 'python3', 'screen', 'top', 'vi', 'vim', 'watch', 'wget',
] as const
const elsewhere = (name: string) => defineCommand(name, async () => ({
  stdout: '', stderr: `${name}: not on the simulated board. ":help" lists what hands can do, "help" what can be typed.\n`, exitCode: 127,
}))
/** Names that can be typed here, for help and completion. */
export const COMMAND_NAMES: readonly string[] = [...Object.keys(COMMANDS), ...TOOLS, 'ls', 'sudo', 'cd', 'exit'].sort()

/** Most that one line may do before it is taken for a loop without end. */
const LIMITS = { maxCommandCount: 5000, maxLoopIterations: 5000, maxOutputSize: 1_000_000 }

/** Files that ask the machine. */
class LiveFs extends InMemoryFs {
  entries = new Map<string, Entry>()
  /** Called after something was told: other files may be there now. */
  afterWrite: () => Promise<void> = async () => {}

  private async entryAt(path: string): Promise<Entry | undefined> {
    const direct = this.entries.get(path)
    if (direct && !direct.link) return direct
    if (!this.entries.size) return undefined
    // A read through a link.
    try {
      return this.entries.get(await this.realpath(path))
    }
    catch {
      // No such file: whoever asked is told so by the read itself.
      return undefined
    }
  }

  override async readFileBuffer(path: string): Promise<Uint8Array> {
    const entry = await this.entryAt(path)
    if (!entry?.read) return super.readFileBuffer(path)
    const content = entry.read()
    return typeof content === 'string' ? new TextEncoder().encode(content) : content
  }

  override async readFile(path: string, options?: Parameters<InMemoryFs['readFile']>[1]): Promise<string> {
    return await this.entryAt(path).then(entry => entry?.read)
      ? new TextDecoder().decode(await this.readFileBuffer(path))
      : super.readFile(path, options)
  }

  override async readFileBytes(path: string): ReturnType<InMemoryFs['readFileBytes']> {
    if (!(await this.entryAt(path))?.read) return super.readFileBytes(path)
    // One sign for each byte, as the library carries them.
    return String.fromCharCode(...await this.readFileBuffer(path)) as unknown as Awaited<ReturnType<InMemoryFs['readFileBytes']>>
  }

  private async written(path: string, content: string | Uint8Array): Promise<boolean> {
    const entry = await this.entryAt(path)
    if (!entry) return false
    if (!entry.write) throw new Error(`EACCES: permission denied, open '${path}'`)
    entry.write(typeof content === 'string' ? content : new TextDecoder().decode(content))
    await this.afterWrite()
    return true
  }

  override async writeFile(...given: Parameters<InMemoryFs['writeFile']>): Promise<void> {
    if (!await this.written(given[0], given[1])) await super.writeFile(...given)
  }

  override async appendFile(...given: Parameters<InMemoryFs['appendFile']>): Promise<void> {
    if (!await this.written(given[0], given[1])) await super.appendFile(...given)
  }
}

export interface Shell {
  /** Runs a line; the folder one is in and the variables stay. */
  run: (line: string) => Promise<Required<Printed>>
  /** The folder that one is in, with the home as `~`. */
  folder: () => string
}

/** A shell on a machine that is up. It is opened anew after each start. */
export function openShell(machine: Machine): Shell {
  const fs = new LiveFs()
  let known = ''
  let cwd = HOME
  let env: Record<string, string> = { HOME, USER: INFO.user, HOSTNAME: INFO.host,
    PATH: '/usr/bin:/bin:/usr/sbin:/sbin', LANG: 'C.UTF-8' }

  /** The folders follow what is plugged in. */
  async function refresh(): Promise<void> {
    const files = simulatedFiles(machine)
    const key = [...files.keys()].join('\n')
    if (key === known) {
      fs.entries = files
      return
    }
    const gone = known.split('\n').filter(path => path && !files.has(path))
    fs.entries = new Map()
    for (const path of gone) await fs.rm(path, { force: true })
    for (const [path, { link }] of files) {
      if (known.includes(path) && await fs.exists(path)) continue
      await fs.mkdir(path.slice(0, path.lastIndexOf('/')) || '/', { recursive: true })
      if (link) await fs.symlink(link, path)
      else await fs.writeFile(path, '')
    }
    fs.entries = files
    known = key
  }

  fs.afterWrite = refresh

  const wrap = (name: string, command: Command) => defineCommand(name, async (args, { stdin }) => {
    const { out = '', err = '', status = 0 } = command({ machine, args, input: String(stdin) })
    return { stdout: out, stderr: err, exitCode: status }
  })
  const shell = new Bash({
    fs, cwd: HOME, env, commands: [...TOOLS], executionLimits: LIMITS, defenseInDepth: false,
    // Time passes on the board alone.
    sleep: async ms => machine.pass(ms / 1000),
    customCommands: [
      ...Object.entries(COMMANDS).map(([name, command]) => wrap(name, command)), ...ELSEWHERE.map(elsewhere),
      ls(() => fs.entries, () => machine.startedAt),
      defineCommand('sudo', async (args, context) => {
        const [first, ...rest] = args.filter(arg => !/^-[EHnS]+$/.test(arg))
        if (first === undefined) return { stdout: '', stderr: 'usage: sudo command\n', exitCode: 1 }
        return context.exec!([first, ...rest].map(quoted).join(' '), { cwd: context.cwd })
      }),
    ],
  })
  return {
    folder: () => {
      if (cwd === HOME) return '~'
      return cwd.startsWith(`${HOME}/`) ? `~${cwd.slice(HOME.length)}` : cwd
    },
    run: async (line) => {
      await refresh()
      const { stdout, stderr, exitCode, env: after,
        stdoutKind } = await shell.exec(line, { cwd, env, replaceEnv: true }).catch(refused)
      env = { ...env, ...after }
      cwd = env.PWD ?? cwd
      machine.pass(0.05)
      const out = stdoutKind === 'bytes'
        ? new TextDecoder().decode(Uint8Array.from(stdout, sign => sign.charCodeAt(0)))
        : stdout
      return { out, err: stderr.replaceAll(/^bash: line \d+: /gm, 'bash: ')
        .replace(/^bash: too many .*|.*maximum (loop|output).*$/m, 'Stopped: this line comes to no end.'),
      status: exitCode }
    },
  }
}

/** What the file system refuses ends the line with its reason; anything else is a fault of ours, and goes on up. */
function refused(error: unknown): Awaited<ReturnType<Bash['exec']>> {
  if (!(error instanceof Error) || !/^E[A-Z]{3,}: /.test(error.message)) throw error
  // Published: strerror(3).
  const why = { EINVAL: 'Invalid argument', ENODEV: 'No such device' }[/^E[A-Z]+/.exec(error.message)![0]]
  if (why) return { stdout: '', stderr: `bash: echo: write error: ${why}\n`, exitCode: 1, env: {} }
  const denied = /^EACCES: permission denied, open '(.*)'/.exec(error.message)
  return { stdout: '', stderr: denied ? `bash: ${denied[1]}: Permission denied\n` : `bash: ${error.message}\n`,
    exitCode: 1, env: {} }
}

const quoted = (word: string) => `'${word.replaceAll('\'', '\'\\\'\'')}'`
