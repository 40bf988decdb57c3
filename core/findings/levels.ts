/** Voltages across every connection, and currents of the lines. */
import { dividedV, READY_DIVIDER } from '../signals/divider'
import { claimOf } from '../placement/refs'
import type { Terminal } from '../facts/types'
import { boardLimit } from './limits'
import type { Finding, Fix, Rule } from './types'

const onLine = (terminal: Terminal) => terminal.signal && terminal.place?.kind === 'header' && terminal.place.line
const called = (terminal: Terminal) => `${terminal.owner.name} ${terminal.label}`
const spot = (terminal: Terminal) => terminal.place?.kind === 'header' ? { partId: terminal.owner.id, terminal: terminal.key, position: terminal.place.position } : { partId: terminal.owner.id, terminal: terminal.key }
const positionOf = (terminal: Terminal) => terminal.place?.kind === 'header' ? terminal.place.position : 0
const volts = (value: number) => Number(value.toFixed(2))

/** What arrives at the board when the part drives high, after what stands between. */
export function arrivingV({ signal, between }: Terminal): number | null {
  const high = signal?.outputHighV?.value
  if (high === undefined || (signal!.direction === 'in' && signal!.drive !== 'open-drain')) return null
  if (between?.kind === 'level-shifter') return 3.3
  if (between?.kind === 'divider') return dividedV(high, between.upperOhm!, between.lowerOhm!)
  return high
}

/** A part puts more on a line than the input stands, or a divider leaves too little. */
export const levelAtBoard: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const arriving = arrivingV(terminal)
  const most = boardLimit(facts, 'inputMaxV')!
  const least = boardLimit(facts, 'inputHighMinV')!
  if (arriving === null) return []
  const bus = terminal.signal!.drive === 'open-drain' || terminal.signal!.direction === 'both'
  if (arriving > most.value) return [{
    code: 'level.too-high', id: `level.too-high ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${volts(arriving)} V into position ${positionOf(terminal)}`,
    sentence: `${called(terminal)} puts ${volts(arriving)} V on an input that stands ${most.value} V at most: the line will be damaged. Put ${bus ? 'a level shifter for open-drain lines' : 'a divider or a level shifter'} between.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'arrives', value: volts(arriving), unit: 'V', limit: most.value, origin: most.origin, limitKey: most.key }],
    fixes: levelFixes(terminal, bus),
  }]
  if (terminal.between?.kind === 'divider' && arriving < least.value) return [{
    code: 'level.divided-too-low', id: `level.divided-too-low ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `Too little is left for position ${positionOf(terminal)}`,
    sentence: `The divider leaves ${volts(arriving)} V of ${terminal.signal!.outputHighV!.value} V, and an input needs ${least.value} V to read high. Use a larger lower resistor.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'arrives', value: volts(arriving), unit: 'V', limit: least.value, origin: least.origin, limitKey: least.key }],
    fixes: levelFixes(terminal, bus),
  }]
  return []
})

function levelFixes(terminal: Terminal, bus: boolean): Fix[] {
  const { upperOhm, lowerOhm } = READY_DIVIDER
  const left = volts(dividedV(terminal.signal!.outputHighV!.value, upperOhm, lowerOhm))
  return [
    ...bus ? [] : [{ label: `Divider 1.8 kΩ over 3.3 kΩ (${left} V)`, edits: [{ edit: 'set-between' as const, terminal: terminal.key, between: { ...READY_DIVIDER } }] }],
    { label: 'Level shifter', edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'level-shifter' } }] },
  ]
}

/** The board's high level is below what the part's input is sure to read. */
export const levelAtPart: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const { signal, between } = terminal
  const high = boardLimit(facts, 'outputHighV')!
  if (signal!.direction === 'out' || between) return []
  const shifter: Fix[] = [{ label: 'Level shifter to 5 V', edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'level-shifter' } }] }]
  const needed = signal!.inputHighMinV
  if (needed && needed.value > high.value) return [{
    code: 'level.too-low', id: `level.too-low ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)} may not see a high`,
    sentence: `Position ${positionOf(terminal)} gives ${high.value} V and the input asks ${needed.value} V: it works on some days and flickers on others. Put a level shifter between.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'given', value: high.value, unit: 'V', limit: needed.value, origin: needed.origin }],
    fixes: shifter,
  }]
  return []
})

/** Relays, fans and lamps that hang on a line with nothing between. */
export const drivenStraight: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, between, place } = terminal
  if (!signal?.load || between?.kind === 'mosfet' || between?.kind === 'transistor' || !place || place.kind === 'nowhere') return []
  const most = boardLimit(facts, 'lineMaxMa')
  const asked = signal.inputCurrentMa?.value
  const what = { coil: 'A coil', motor: 'A motor', lamp: 'A lamp' }[signal.load]
  const kick = signal.load === 'lamp' ? '' : ' and kicks back when switched off'
  return [{
    code: 'line.driven-straight', id: `line.driven-straight ${terminal.key}`, severity: 'stop', stages: ['wiring', 'power'],
    title: `${terminal.owner.name} is driven straight from ${place.kind === 'header' ? `position ${place.position}` : place.terminal}`,
    sentence: `${what} draws ${asked ?? 'more'} mA${kick}; a line gives ${most?.value ?? 16} mA: the line is damaged or the board resets. Put a driving stage${kick ? ' with a flyback diode' : ''} between.`,
    subjects: [spot(terminal)],
    figures: asked !== undefined && most ? [{ label: 'asked', value: asked, unit: 'mA', limit: most.value, origin: most.origin, limitKey: most.key }] : [],
    fixes: [
      { label: 'Add a MOSFET stage', edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'mosfet' } }] },
      { label: 'Add a transistor stage', edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'transistor' } }] },
    ],
  }]
})

/** A line, or all lines together, driven past their current. */
export const lineCurrent: Rule = ({ facts }) => {
  const drawing = facts.terminals.filter(terminal => onLine(terminal) && currentOf(terminal) > 0)
  const most = boardLimit(facts, 'lineMaxMa')
  const total = boardLimit(facts, 'linesTotalMaxMa')
  if (!most || !total) return []
  const findings = drawing.filter(terminal => !terminal.signal!.load && currentOf(terminal) > most.value).map((terminal): Finding => ({
    code: 'line.overload', id: `line.overload ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `Position ${positionOf(terminal)} is overloaded`,
    sentence: `${called(terminal)} draws ${currentOf(terminal)} mA from a line that gives ${most.value} mA: the line is damaged. Put a driving stage between.`,
    subjects: [spot(terminal)], figures: [{ label: 'drawn', value: currentOf(terminal), unit: 'mA', limit: most.value, origin: most.origin, limitKey: most.key }],
    fixes: [{ label: 'Add a MOSFET stage', edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'mosfet' } }] }],
  }))
  // A terminal that is over the limit of one line already has its own finding.
  const sum = drawing.filter(terminal => currentOf(terminal) <= most.value).reduce((all, terminal) => all + currentOf(terminal), 0)
  if (sum > total.value) findings.push({
    code: 'lines.overload', id: 'lines.overload', severity: 'stop', stages: ['wiring', 'power'],
    title: 'All lines together are overloaded',
    sentence: `The lines drive ${volts(sum)} mA together and stand ${total.value} mA: the processor is damaged. Put driving stages between, the largest first.`,
    subjects: drawing.map(spot), figures: [{ label: 'together', value: volts(sum), unit: 'mA', limit: total.value, origin: total.origin, limitKey: total.key }],
    fixes: [],
  })
  return findings
}

/** Current a terminal takes from its line; a driving stage leaves next to nothing. */
function currentOf({ signal, between }: Terminal): number {
  return between?.kind === 'mosfet' || between?.kind === 'level-shifter' ? 0 : between?.kind === 'transistor' ? 1 : signal?.inputCurrentMa?.value ?? 0
}

/** Outputs that the reset pull moves before any program runs. */
export const movesAtStart: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, place } = terminal
  if (!signal?.idleLevel || place?.kind !== 'header' || !place.line) return []
  const idlePull = signal.idleLevel === 'high' ? 'up' : 'down'
  const pull = place.line.resetPull
  if (pull === idlePull || (!terminal.owner.part.contacts && !signal.load)) return []
  return [{
    code: 'start.moves', id: `start.moves ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)} may pull in while the board starts`,
    sentence: `Until a program runs, line ${place.line.line} is pulled ${pull} and this input idles ${signal.idleLevel}. Move it to a line pulled ${idlePull}, or add a resistor of your own.`,
    subjects: [spot(terminal)], figures: [{ label: 'pull at reset', value: pull, limit: idlePull, origin: 'memory' }],
    fixes: claimOf(terminal) === undefined ? [{ label: `Release ${called(terminal)}`, edits: [{ edit: 'release', terminal: terminal.key }] }] : [],
  }]
})
