/** The other end of `kernel.c`: what programs ask of the kernel, answered by a simulated board. */
import { execFile, execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { converse } from '../../../core/simulated/buses'
import { chipNamed, lineKeyOf, offsetOf } from '../../../core/simulated/chips'
import { simulatedFiles, type Entry } from '../../../core/simulated/files'
import { frameSetting } from '../../../core/simulated/frames'
import { LineRequest } from '../../../core/simulated/line-request'
import type { World } from '../../../core/diagnosis/world'
import { exchangeOver } from '../../../core/simulated/spi'
import type { LineEvent, Machine } from '../../../core/simulated/machine'

/** Published: errno(3), Linux's numbers. */
const ERRNO = { ENOENT: 2, EAGAIN: 11, EACCES: 13, EBUSY: 16, ENODEV: 19, EINVAL: 22, EREMOTEIO: 121 } as const
const failed = (name: keyof typeof ERRNO) => `err ${ERRNO[name]}`
const toBytes = (hex: string) => [...Buffer.from(hex, 'hex')]

/** The flags of a request for lines. Published: Linux, include/uapi/linux/gpio.h. */
const OUTPUT = 1 << 3, EDGES = 3 << 4, UP = 1 << 8, DOWN = 1 << 9, NONE = 1 << 10

/** One program at a board. */
class Calls {
  private readonly asked: (LineRequest | null)[] = []
  private readonly edges = new Map<number, LineEvent>()
  /** Bytes that went out over each SPI node, one message after the other. */
  readonly sent: { path: string, hz: number, bytes: number[] }[] = []

  private files: { world: World, at: Map<string, Entry> }

  constructor(private readonly machine: Machine) {
    this.files = { world: machine.world, at: simulatedFiles(machine) }
  }

  /** What lies there now: looked up anew once something was written or plugged. */
  private entry(path: string): Entry | undefined {
    if (this.files.world !== this.machine.world) this.files = { world: this.machine.world,
      at: simulatedFiles(this.machine) }
    return this.files.at.get(path)
  }

  answer(line: string): string {
    const [call = '', ...words] = line.split(' ')
    const { machine } = this
    switch (call) {
      case 'now': return `ok ${Math.round(machine.nowS * 1e9)}`
      case 'pass':
        machine.pass(Number(words[0]))
        return 'ok'
      case 'open': return this.open(words[0]!, Number(words[1]))
      case 'content': return `ok ${Buffer.from(this.entry(words[0]!)!.read?.() ?? '').toString('hex')}`
      case 'write': return this.write(words[0]!, Buffer.from(words[1] ?? '', 'hex'))
      case 'i2c': return this.i2c(words)
      case 'spi':
        this.sent.push({ path: words[0]!, hz: Number(words[1]), bytes: toBytes(words[2] ?? '') })
        return `ok ${Buffer.from(exchangeOver(machine, words[0]!, toBytes(words[2] ?? ''))).toString('hex')}`
      case 'port': {
        const port = machine.ports.get(machine.portPath(words[0]!)!)!
        port.setting = frameSetting(Number(words[1]), words[2]!)
        return 'ok'
      }
      case 'ready': return this.ready(words[0]!, Number(words[1]) / 1000)
      case 'read': {
        const port = machine.ports.get(machine.portPath(words[0]!)!)!
        const taken = port.waiting.slice(0, Number(words[1]))
        port.waiting = port.waiting.slice(taken.length)
        return `ok ${Buffer.from(taken).toString('hex')}`
      }
      case 'lines': {
        const chip = chipNamed(machine, words[0]!)!
        return this.lines(Number(words[1]), Number(words[2]),
          words.slice(3).map(offset => lineKeyOf(chip, Number(offset))))
      }
      case 'get': return 'ok '
        + `${this.asked[Number(words[0])]!.values().reduce<number>((bits, level, nth) => bits + level * 2 ** nth, 0)}`
      case 'set': {
        const asked = this.asked[Number(words[0])]!
        asked.set(asked.lines.map((_, nth) => Math.floor(Number(words[1]) / 2 ** nth) % 2 as 0 | 1))
        return 'ok'
      }
      case 'wait': {
        const event = this.asked[Number(words[0])]!.next(Number(words[1]) / 1000)
        if (event) this.edges.set(Number(words[0]), event)
        return `ok ${event ? 1 : 0}`
      }
      case 'edge': {
        const event = this.edges.get(Number(words[0]))
        this.edges.delete(Number(words[0]))
        return event ? `ok ${Math.round(event.atS * 1e9)} ${event.rising ? 1 : 2} ${offsetOf(event.line)}` : failed('EAGAIN')
      }
      case 'release':
        this.asked[Number(words[0])] = null
        return 'ok'
      default: throw new Error(`the stand-in knows no "${line}"`)
    }
  }

  private open(path: string, mode: number): string {
    const entry = this.entry(path)
    if (!entry) return failed('ENOENT')
    const kind = /^\/dev\/i2c/.test(path)
      ? 'b'
      : /^\/dev\/spidev/.test(path)
        ? 's'
        : /^\/dev\/(tty|serial)/.test(path)
          ? 't'
          : /^\/dev\/gpiochip/.test(path) ? 'c' : /^\/dev\/input/.test(path) ? 'e' : 'f'
    return kind === 'f' && mode !== 0 && !entry.write ? failed('EACCES') : `ok ${kind}`
  }

  private write(path: string, content: Buffer): string {
    const { machine } = this
    const port = machine.portPath(path)
    if (port) {
      machine.send(port, [...content])
      return 'ok'
    }
    try {
      this.entry(path)!.write!(content.toString())
      this.files = { world: machine.world, at: simulatedFiles(machine) }
      this.onFolders()
      return 'ok'
    }
    catch (error) {
      const name = /^E[A-Z]+/.exec((error as Error).message)?.[0]
      if (!name || !(name in ERRNO)) throw error
      return failed(name as keyof typeof ERRNO)
    }
  }

  /** Called after a file was written: other files may be there now. */
  onFolders: () => void = () => {}

  private i2c([path = '', address = '', wanted = '', hex = '']: string[]): string {
    const found = converse(this.machine, path.replace('/dev/i2c-', ''), Number(address), toBytes(hex), Number(wanted))
    return found ? `ok ${Buffer.from(found).toString('hex')}` : failed('EREMOTEIO')
  }

  private ready(path: string, withinS: number): string {
    const { machine } = this
    const port = machine.portPath(path)
    if (!port) return 'ok 0'
    const untilS = machine.nowS + withinS
    while (!machine.ports.get(port)!.waiting.length
      && machine.nowS < untilS) machine.pass(Math.min(0.25, untilS - machine.nowS))
    return `ok ${machine.ports.get(port)!.waiting.length ? 1 : 0}`
  }

  private lines(flags: number, levels: number, lines: number[]): string {
    const isOutput = (flags & OUTPUT) !== 0
    const asked = LineRequest.of(this.machine, lines, {
      output: isOutput, edges: (flags & EDGES) !== 0, ...flags & UP
        ? { bias: 'up' as const }
        : flags & DOWN ? { bias: 'down' as const } : flags & NONE ? { bias: 'none' as const } : {},
    })
    if (typeof asked === 'string') return failed(asked)
    this.asked.push(asked)
    if (isOutput) asked.set(lines.map((_, nth) => (levels >> nth & 1) as 0 | 1))
    return `ok ${this.asked.length - 1}`
  }
}

export interface Ran { out: string, err: string, status: number, sent: Calls['sent'] }

/** A folder with the library built in it, which runs programs at simulated boards. */
export class KernelStandIn {
  private readonly folder = mkdtempSync(join(tmpdir(), 'kernel-'))
  private readonly library = join(this.folder, 'kernel.so')

  constructor() {
    execFileSync('gcc', ['-shared', '-fPIC', '-O1', '-o', this.library, 'test/reference/stand-ins/kernel.c', '-ldl'])
  }

  remove(): void {
    rmSync(this.folder, { recursive: true })
  }

  /** A file of that name and text among those of the stand-in; its path. */
  file(name: string, text: string): string {
    const path = join(this.folder, name)
    writeFileSync(path, text)
    return path
  }

  /** Builds a C program; its path. Warnings are errors. */
  built(name: string, text: string): string {
    const path = join(this.folder, name.replace(/\.c$/, ''))
    execFileSync('gcc', ['-O1', '-Wall', '-Wextra', '-Werror', '-o', path, this.file(name, text)])
    return path
  }

  /** Runs a program; its calls go to the board. Everything it is at takes the board's time. */
  async run(machine: Machine, command: string, args: readonly string[]): Promise<Ran> {
    const root = mkdtempSync(join(this.folder, 'root-'))
    const socket = join(root, 'kernel')
    const calls = new Calls(machine)
    const known = new Set<string>()
    calls.onFolders = () => {
      for (const path of simulatedFiles(machine)
        .keys()) if (/^\/(dev|sys\/(bus|class))\//.test(path) && !known.has(path)) {
        known.add(path)
        mkdirSync(join(root, dirname(path)), { recursive: true })
        writeFileSync(join(root, path), '')
      }
    }
    calls.onFolders()
    let broken: unknown
    const server = createServer((connection) => {
      let rest = ''
      connection.setEncoding('latin1').on('data', (text) => {
        rest += text
        for (let end = rest.indexOf('\n'); end >= 0; end = rest.indexOf('\n')) {
          const line = rest.slice(0, end)
          rest = rest.slice(end + 1)
          try {
            connection.write(`${calls.answer(line)}\n`)
          }
          catch (error) {
            broken = error
            connection.destroy()
          }
        }
      })
    })
    await new Promise<void>(resolve => server.listen(socket, resolve))
    const ran = await new Promise<Ran>(resolve => execFile(command, [...args], {
      encoding: 'utf8', env: { LD_PRELOAD: this.library, STAND_IN: socket, STAND_IN_ROOT: root, PATH: '/usr/bin:/bin',
        LC_ALL: 'C.UTF-8',
        PYTHONDONTWRITEBYTECODE: '1' },
    }, (error, out, err) => resolve({ out, err, status: error ? Number(error.code ?? -1) : 0, sent: calls.sent })))
    server.close()
    if (broken) throw broken
    return ran
  }
}
