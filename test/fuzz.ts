/**
 * Inputs that nobody would write, for every reader: whole ones with pieces cut out, doubled, swapped and twisted, and
 * noise. What comes back is a result or a typed error, soon.
 */
import { gatherFacts } from '../core/facts/gather'
import { lintBoot } from '../core/boot/lint'
import { tellDialect } from '../core/boot/dialects/tell'
import { readGrid } from '../core/bringup/grid'
import { baseSource } from '../core/devicetree/bases/base'
import { readBlob } from '../core/devicetree/blob/read'
import { writeBlob } from '../core/devicetree/blob/write'
import { boardFromTree } from '../core/devicetree/board/catalogue'
import { readPositions } from '../core/devicetree/board/positions'
import { profileOf } from '../core/devicetree/board/profile'
import { applyOverlay } from '../core/devicetree/overlay/apply'
import { compileText } from '../core/devicetree/source/compile'
import { printSource } from '../core/devicetree/source/print'
import { DeviceTreeError } from '../core/devicetree/types'
import { evaluate } from '../core/evaluate'
import { readPlanText } from '../core/plan/read'
import { readZip, zipOf, ZipError } from '../core/documents/zip'
import { demoPlans } from '../demo'
import { FRESH_FILE } from './generated'
import { catalogue } from './plans'
import { pick, random } from './random'

type Next = () => number

/** A reader, whole inputs of it, and what it may throw. */
export interface Reader {
  name: string
  seeds: readonly Uint8Array[]
  read: (bytes: Uint8Array) => unknown
  mayThrow: readonly (new (...args: never[]) => Error)[]
}

const bytesOf = (text: string) => new TextEncoder().encode(text)
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes)

const SOURCES = [
  '/dts-v1/;\n/ { model = "Shed"; bus: i2c@1 { compatible = "x-i2c"; reg = <1 0x20>; #address-cells = <1>; }; };\n&bus { status = '
  + '"okay"; };\n',
  '/dts-v1/;\n/plugin/;\n/ { fragment@0 { target = <&bus>; __overlay__ { s@76 { reg = <(0x70 + 6)>; label = "a\\tb"; b = [0a 0b]; }; }; '
  + '}; };\n',
  '#define F(a, b...) a ## _x b\n#if defined(F) && !0\n/dts-v1/; / { F(p, = <1>); };\n#else\n#error no\n#endif\n',
  baseSource(catalogue.boards.get('forty-classic')!).slice(0, 3000),
]
const BLOBS = SOURCES.slice(0, 2).map(source => writeBlob(compileText(source, { symbols: true })))
const GRID = '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n20: 20 -- -- UU -- -- -- -- -- -- -- -- -- -- -- --\n'
const BOOT = [
  FRESH_FILE, 'dtoverlay=w1-gpio,gpiopin=4\n[pi4]\ngpio=17=op,dh\ninclude more.txt\n',
  'menu title x\nlabel l\n  kernel /Image\n  append root=/dev/x console=ttyS0\n  fdtoverlays /a.dtbo\n',
  'overlays=i2c1 '
  + 'spi\nextraargs=quiet\n',
]

/** Every reader of what somebody else wrote. */
export const READERS: readonly Reader[] = [
  {
    name: 'plan', seeds: demoPlans.map(plan => bytesOf(JSON.stringify(plan))), mayThrow: [],
    read: (bytes) => {
      const read = readPlanText(textOf(bytes))
      // What the reader lets through has to be judged without a fall.
      if (read.ok && bytes.length % 7 === 0) evaluate(read.plan, catalogue)
      return read
    },
  },
  {
    name: 'boot file', seeds: BOOT.map(bytesOf), mayThrow: [],
    read: (bytes) => {
      const text = textOf(bytes)
      const board = [...catalogue.boards.values()][bytes.length % catalogue.boards.size]!
      return lintBoot(
        { files: { text, dialect: tellDialect(text), includes: { 'more.txt': text }, commandLine: text.slice(0, 200) },
          board },
      )
    },
  },
  {
    name: 'boot file of a plan', seeds: BOOT.map(bytesOf), mayThrow: [],
    read: bytes => gatherFacts({ ...demoPlans[bytes.length % 3]!, boot: { text: textOf(bytes) } }, catalogue),
  },
  {
    name: 'tree source', seeds: SOURCES.map(bytesOf), mayThrow: [DeviceTreeError],
    read: bytes => printSource(compileText(textOf(bytes), { symbols: true }), { labels: true }),
  },
  {
    name: 'tree blob', seeds: BLOBS, mayThrow: [DeviceTreeError],
    read: (bytes) => {
      const tree = readBlob(bytes)
      const profile = profileOf(tree)
      return [printSource(tree, { labels: true }),
        boardFromTree(profile, [{ position: 3, name: 'x' }] as never, { id: 'x', name: 'x' })]
    },
  },
  { name: 'overlay', seeds: [BLOBS[1]!], mayThrow: [DeviceTreeError],
    read: bytes => applyOverlay(readBlob(BLOBS[0]!), readBlob(bytes)) },
  {
    name: 'zip', mayThrow: [ZipError],
    seeds: [zipOf([{ path: 'a.txt', bytes: bytesOf('text '.repeat(40)) },
      { path: 'b/c.bin', bytes: new Uint8Array(2000) }])],
    read: bytes => readZip(bytes, { maxBytes: 1_000_000, maxFiles: 50 }),
  },
  { name: 'pasted scan', seeds: [bytesOf(GRID)], mayThrow: [], read: bytes => readGrid(textOf(bytes)) },
  {
    name: 'pasted positions', seeds: [bytesOf('3 PA12\n5 PA11 # sda\n6 GND\n')], mayThrow: [],
    read: bytes => readPositions(textOf(bytes)),
  },
]

const SPICE = [
  '{', '}', '[', ']', '"', '\\', '\0', '\n', '=', ',', '<', '>', '(', ')', '&', '#', '/', '*', '@', '-1', '1e999', 'null', '__proto__',
  'constructor', '\u2028', '0x', ';', ':', '../', '\uFEFF', '\uD800', '{}', '[[]]', '99999999999999999999', '/include/', '#include "x"',
].map(bytesOf)

const join = (...pieces: Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
  let at = 0
  for (const piece of pieces) {
    whole.set(piece, at)
    at += piece.length
  }
  return whole
}

/** One input, from a seed: the same number gives the same input. */
export function fuzzed({ seeds }: Reader, seed: number): Uint8Array {
  const next = random(seed * 2_654_435 + 17)
  for (let i = 0; i < 3; i++) next()
  if (next() < 0.03) return Uint8Array.from({ length: Math.floor(next() * 300) }, () => Math.floor(next() * 256))
  let bytes = pick(next, seeds)
  for (let twists = 1 + Math.floor(next() * 5); twists > 0; twists--) bytes = twisted(bytes, next)
  return bytes
}

function twisted(bytes: Uint8Array, next: Next): Uint8Array {
  const at = Math.floor(next() * (bytes.length + 1))
  const to = Math.min(bytes.length, at + Math.floor(next() * 30))
  const [head, piece, tail] = [bytes.subarray(0, at), bytes.subarray(at, to), bytes.subarray(to)]
  switch (Math.floor(next() * 7)) {
    case 0: return join(head, tail)
    case 1: return join(head, piece, piece, tail)
    case 2: return join(head, pick(next, SPICE), tail)
    case 3: return join(head, pick(next, SPICE), piece, tail)
    case 4: return join(head, ...Array<Uint8Array>(Math.floor(next() * 40)).fill(piece), tail)
    case 5: return bytes.slice(0, at)
    default: {
      const flipped = Uint8Array.from(bytes)
      if (at < bytes.length) flipped[at] = (flipped[at]! ^ (1 << Math.floor(next() * 8))) & 0xFF
      return flipped
    }
  }
}

export interface Fallen { reader: string, seed: number, what: string }

/** The longest that any input took. */
export interface Fuzzed { fallen: Fallen[], longestMs: number, count: number }

/** Reads so many inputs with each reader; gives those that ended otherwise than they may. */
export function fuzz(inputs: number, from = 1, maxMs = 2000): Fuzzed {
  const result: Fuzzed = { fallen: [], longestMs: 0, count: 0 }
  for (const reader of READERS) {
    for (let seed = from; seed < from + Math.ceil(inputs / READERS.length); seed++) {
      const started = performance.now()
      result.count++
      try {
        reader.read(fuzzed(reader, seed))
      }
      catch (error) {
        if (!reader.mayThrow.some(kind => error instanceof kind)) {
          result.fallen.push(
            { reader: reader.name, seed,
              what: error instanceof Error ? `${error.name}: ${error.message}` : String(error) },
          )
        }
      }
      const ms = performance.now() - started
      result.longestMs = Math.max(result.longestMs, ms)
      if (ms > maxMs) result.fallen.push({ reader: reader.name, seed, what: `took ${Math.round(ms)} ms` })
    }
  }
  return result
}
