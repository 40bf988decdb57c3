/** How a part's terminal role meets the board: which controller signal serves it. */
import type { Board, Controller, ControllerKind, Route, SignalRole } from '../catalogue/types'

export interface Wanted {
  kind: ControllerKind
  /** Controller signal; a trailing `*` takes any with that beginning. */
  signal: string
}

/** Transmit meets receive: a part's `serial.tx` goes to the board's `rx`. */
const WANTED: Partial<Record<SignalRole, Wanted[]>> = {
  'i2c.sda': [{ kind: 'i2c', signal: 'sda' }],
  'i2c.scl': [{ kind: 'i2c', signal: 'scl' }],
  'spi.clock': [{ kind: 'spi', signal: 'clock' }],
  'spi.mosi': [{ kind: 'spi', signal: 'mosi' }],
  'spi.miso': [{ kind: 'spi', signal: 'miso' }],
  'spi.select': [{ kind: 'spi', signal: 'select*' }],
  'serial.tx': [{ kind: 'serial', signal: 'rx' }],
  'serial.rx': [{ kind: 'serial', signal: 'tx' }],
  'serial.rts': [{ kind: 'serial', signal: 'cts' }],
  'serial.cts': [{ kind: 'serial', signal: 'rts' }],
  'i2s.clock': [{ kind: 'i2s', signal: 'clock' }],
  'i2s.frame': [{ kind: 'i2s', signal: 'frame' }],
  'i2s.dataIn': [{ kind: 'i2s', signal: 'dataIn' }],
  'i2s.dataOut': [{ kind: 'i2s', signal: 'dataOut' }],
  'pwm': [{ kind: 'pwm', signal: 'out' }],
  'strip': [{ kind: 'pwm', signal: 'out' }, { kind: 'spi', signal: 'mosi' }, { kind: 'i2s', signal: 'dataOut' }],
}

/**
 * True where a part's program drives the circuit itself, so that the kernel need not have it on: strips, but for
 * those on SPI.
 */
export const drivenByProgram = (terminals: readonly { signal?: { role: SignalRole } }[],
  { kind }: { kind: string }): boolean =>
  kind !== 'spi' && terminals[0]?.signal?.role === 'strip'

const USUAL_STRIP_CIRCUITS: NonNullable<Board['stripBy']> = ['pwm', 'spi']
/** Circuits that make a strip's signal on this board. */
export const stripCircuits = ({ stripBy }: Pick<Board, 'stripBy'>): readonly ControllerKind[] =>
  stripBy ?? USUAL_STRIP_CIRCUITS

/** Controller signals that serve a role; empty for roles any free line serves. */
export function wantedBy(role: SignalRole): Wanted[] {
  return WANTED[role] ?? []
}

/** True for roles that any line of the board can take. */
export function takesAnyLine(role: SignalRole): boolean {
  return role === 'line' || role === 'onewire'
}

export function signalMatches(wanted: string, offered: string): boolean {
  return wanted.endsWith('*') ? offered.startsWith(wanted.slice(0, -1)) : wanted === offered
}

/** Bus family a role belongs to, e.g. `i2c` for `i2c.sda`; null for roles that stand alone on any line. */
export function groupKind(role: SignalRole): ControllerKind | 'strip' | null {
  if (takesAnyLine(role)) return null
  if (role === 'strip') return 'strip'
  return wantedBy(role)[0]!.kind
}

export interface SignalReach {
  controller: Controller
  route: Route
  signal: string
}

/** Boards do not change: what reaches a line is worked out once for each of them. */
const reached = new WeakMap<Board, Map<string, readonly SignalReach[]>>()

/** Every controller signal that reaches this line and serves this role, default controllers first. */
export function reaches(board: Board, role: SignalRole, line: number): readonly SignalReach[] {
  const known = reached.get(board) ?? new Map<string, readonly SignalReach[]>()
  reached.set(board, known)
  const key = `${role} ${line}`
  const before = known.get(key)
  if (before) return before
  const found = reachesOf(board, role, line)
  known.set(key, found)
  return found
}

function reachesOf(board: Board, role: SignalRole, line: number): SignalReach[] {
  const wanted = wantedBy(role).filter(entry => role !== 'strip' || stripCircuits(board).includes(entry.kind))
  return board.controllers
    .flatMap(controller => controller.routes.flatMap(route => Object.entries(route.lines)
      .filter(([signal, at]) =>
        at === line && wanted.some(w => w.kind === controller.kind && signalMatches(w.signal, signal)))
      .map(([signal]) => ({ controller, route, signal }))))
    .sort((a, b) => Number(b.controller.isDefault) - Number(a.controller.isDefault))
}

const ROLE_WORDS: Record<SignalRole, string> = {
  'line': 'a line', 'onewire': '1-Wire data', 'pwm': 'a PWM output', 'strip': 'a strip output',
  'i2c.sda': 'I²C data (SDA)', 'i2c.scl': 'I²C clock (SCL)',
  'spi.clock': 'SPI clock', 'spi.mosi': 'SPI data out (MOSI)', 'spi.miso': 'SPI data in (MISO)',
  'spi.select': 'an SPI select',
  'serial.tx': 'serial receive (RX)', 'serial.rx': 'serial transmit (TX)', 'serial.rts': 'serial CTS',
  'serial.cts': 'serial RTS',
  'i2s.clock': 'I²S clock', 'i2s.frame': 'I²S frame', 'i2s.dataIn': 'I²S data in', 'i2s.dataOut': 'I²S data out',
}

/** What the board has to offer for a role, in words. */
export function roleInWords(role: SignalRole): string {
  return ROLE_WORDS[role]
}
