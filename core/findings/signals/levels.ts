/** Voltages across every connection, both ways. */
import { isHeaderRail, RAIL_V } from '../../catalogue/rails'
import type { Terminal } from '../../facts/types'
import { bitHzOf } from '../../signals/edges'
import { chosenDivider, dividedV, judgeDivider } from '../../signals/divider'
import { ohmsInWords, type SeriesName } from '../../signals/series'
import type { Worksheet } from '../../vocabulary/worksheets'
import { freePartId } from '../../plan/create'
import type { Between } from '../../plan/types'
import { boardLimit, type Limit } from '../limits'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { called, rounded, spot, whereIs } from './words'

const onLine = (terminal: Terminal) => terminal.signal && terminal.place?.kind === 'header' && terminal.place.line
/** Below this a line's protection conducts. Memory. */
const MIN_V = -0.3
/** From here on a divider alone is no protection against what else a machine's wire carries. Common practice. */
const MACHINE_V = 12
/** What a shifter made for open-drain lines keeps up with. Memory. */
const OPEN_DRAIN_SHIFTER_HZ = 2_000_000

/** What arrives at the board when the part drives high, after what stands between; null where it drives nothing. */
export function arrivingV({ signal, between }: Terminal): number | null {
  const high = signal?.outputHighV?.value
  if (high === undefined || (signal!.direction === 'in' && signal!.drive !== 'open-drain')) return null
  if (between?.kind === 'divider') return dividedV(high, between.upperOhm!, between.lowerOhm!)
  if (between && ['level-shifter', 'opto-coupler', 'rs232-converter'].includes(between.kind)) return 3.3
  return high
}

const isOpenDrain = ({ signal }: Terminal) => signal!.drive === 'open-drain' || signal!.direction === 'both'

/** A part puts more on a line than the input stands, or a divider leaves too little. */
export const levelAtBoard: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const arriving = arrivingV(terminal)
  const max = boardLimit(facts, 'inputMaxV')!
  const min = boardLimit(facts, 'inputHighMinV')!
  if (arriving === null || terminal.signal!.analog || negative(terminal)) return []
  if (arriving > max.value) return [{
    code: 'level.too-high', id: `level.too-high ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${rounded(arriving)} V into ${whereIs(terminal)}`,
    sentence: `${called(terminal)} puts ${rounded(arriving)} V on an input that stands ${max.value} V at most: the `
      + `line will be damaged. ${wayOutOf(terminal, arriving)}`,
    subjects: [spot(terminal)],
    figures: [{ label: 'arrives', value: rounded(arriving), unit: 'V', limit: max.value, origin: max.origin,
      limitKey: max.key }],
    fixes: levelFixes(terminal, max, min),
    ...(!isOpenDrain(terminal) && { worksheet: dividerSheet(terminal, max, min) }),
  }]
  if (terminal.between?.kind === 'divider' && arriving < min.value) return [{
    code: 'level.divided-too-low', id: `level.divided-too-low ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `Too little is left for ${whereIs(terminal)}`,
    sentence: `The divider leaves ${rounded(arriving)} V of ${terminal.signal!.outputHighV!.value} V, and an input `
      + `needs ${min.value} V to read high. Use a larger lower resistor.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'arrives', value: rounded(arriving), unit: 'V', limit: min.value, origin: min.origin,
      limitKey: min.key }],
    fixes: levelFixes(terminal, max, min), worksheet: dividerSheet(terminal, max, min),
  }]
  return []
})

function wayOutOf(terminal: Terminal, arriving: number): string {
  if (isOpenDrain(terminal)) return 'Put a level shifter for open-drain lines between, or pull it up to 3V3 only.'
  return arriving >= MACHINE_V
    ? 'Put an opto-coupler between: it also keeps the machine\'s disturbances out.'
    : 'Put a divider or a level shifter between.'
}

function dividerSheet(terminal: Terminal, max: Limit, min: Limit): Worksheet {
  return {
    kind: 'divider', inputV: terminal.signal!.outputHighV!.value, mostV: max.value, leastV: min.value, series: 'E12',
    bitHz: bitHzOf(terminal) ?? 1000,
  }
}

/** Ways to bring a level down, the simplest first: worked for this voltage and this speed. */
function levelFixes(terminal: Terminal, max: Limit, min: Limit): Fix[] {
  const put = (label: string,
    between: Between): Fix => ({ label, edits: [{ edit: 'set-between', terminal: terminal.key, between }] })
  const arriving = terminal.signal!.outputHighV!.value
  const shifter = put('Level shifter',
    { kind: 'level-shifter', fit: isOpenDrain(terminal) ? 'open-drain' : 'push-pull' })
  if (isOpenDrain(terminal)) return arriving >= MACHINE_V ? [put('Opto-coupler', { kind: 'opto-coupler' })] : [shifter]
  if (arriving >= MACHINE_V) {
    return [
      put('Opto-coupler', { kind: 'opto-coupler' }),
      ...worked(terminal, max, min).map(({ label, between }) => put(label, between)),
    ]
  }
  return [...worked(terminal, max, min).map(({ label, between }) => put(label, between)), shifter]
}

/** A divider that keeps limit, threshold and edges: the usual pair where it does, else the best of E12, E24, E96. */
function worked(terminal: Terminal, max: Limit, min: Limit): { label: string, between: Between }[] {
  const inputV = terminal.signal!.outputHighV!.value
  const bitHz = bitHzOf(terminal)
  const named = (upperOhm: number, lowerOhm: number) => ({
    label: `Divider ${ohmsInWords(upperOhm)} over ${ohmsInWords(lowerOhm)} `
      + `(${rounded(dividedV(inputV, upperOhm, lowerOhm))} V)`,
    between: { kind: 'divider', upperOhm, lowerOhm } as Between,
  })
  for (const series of ['E12', 'E24', 'E96'] as SeriesName[]) {
    const found = chosenDivider({ inputV, mostV: max.value, leastV: min.value, series, ...bitHz && { bitHz } })
    if (found) return [named(found.upperOhm, found.lowerOhm)]
  }
  return []
}

/** With the minus sign of print. */
const signed = (value: number) => String(value).replace('-', '−')
const negative = ({ signal, between }: Terminal) =>
  !between && signal?.outputLowV !== undefined && signal.outputLowV.value < MIN_V

/** Levels that go below ground, as RS-232 does. */
export const levelNegative: Rule = ({ facts }) => facts.terminals.filter(onLine).filter(negative)
  .map((terminal): Finding => ({
    code: 'level.negative', id: `level.negative ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${signed(terminal.signal!.outputLowV!.value)} V into ${whereIs(terminal)}`,
    sentence: `${called(terminal)} swings from ${terminal.signal!.outputLowV!.value} to `
      + `${terminal.signal!.outputHighV?.value ?? 0} V, and inverted: a line stands nothing below ground and the board `
      + 'is damaged. A divider does not help; put a converter between.',
    subjects: [spot(terminal)],
    figures: [{
      label: 'lowest', value: terminal.signal!.outputLowV!.value, unit: 'V', limit: MIN_V,
      origin: terminal.signal!.outputLowV!.origin,
    }],
    fixes: [{
      label: 'RS-232 converter on the whole link',
      edits: terminal.owner.signals
        .filter(signal => signal.role.startsWith('serial.'))
        .map(signal => ({ edit: 'set-between', terminal: `${terminal.owner.id}.${signal.id}`,
          between: { kind: 'rs232-converter' } })),
    }],
  }))

/** A varying voltage on a digital line, or past what an analog input stands. */
export const levelAnalog: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  if (!terminal.signal?.analog) return []
  if (onLine(terminal)) return [{
    code: 'level.analog', id: `level.analog ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${whereIs(terminal)} cannot read a varying voltage`,
    sentence: `${called(terminal)} gives a voltage between 0 and ${terminal.signal.outputHighV?.value ?? 3.3} V; a `
      + 'line only tells high from low. Lead it to an analog converter.',
    subjects: [spot(terminal)], figures: [{ label: 'asked', value: 'analog', limit: 'digital', origin: 'board file' }],
    fixes: converterFix(terminal, facts),
  }]
  const { place } = terminal
  const max = place?.kind === 'terminal' ? place.offer.inputMaxV : undefined
  const arriving = arrivingV(terminal)
  if (!max || arriving === null || arriving <= max.value) return []
  const limit = { value: max.value, origin: max.origin, key: '' }
  return [{
    code: 'level.analog-too-high', id: `level.analog-too-high ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${rounded(arriving)} V into ${whereIs(terminal)}`,
    sentence: `${called(terminal)} reaches ${rounded(arriving)} V and the analog input stands ${max.value} V: the `
      + 'converter is damaged. Put a divider between, and scale the reading back.',
    subjects: [spot(terminal)],
    figures: [{ label: 'arrives', value: rounded(arriving), unit: 'V', limit: max.value, origin: max.origin }],
    fixes: worked(terminal, limit, { ...limit, value: 0 }).map(({ label, between }) => ({
      label, edits: [{ edit: 'set-between', terminal: terminal.key, between }],
    })),
    worksheet: dividerSheet(terminal, limit, { ...limit, value: 0 }),
  }]
})

function converterFix(terminal: Terminal, { catalogue, plan, parts }: Evidence['facts']): Fix[] {
  if (parts.some(owner => owner.part.offers?.some(offer => offer.kind === 'analog'))) {
    return [{ label: 'Take it off the line, then place the rest',
      edits: [{ edit: 'release', terminal: terminal.key }] }]
  }
  const converter = [...catalogue.parts.values()].find(part => part.offers?.some(offer => offer.kind === 'analog'))
  return converter
    ? [{
        label: `Add: ${converter.name}`,
        edits: [
          { edit: 'add-part', part: { id: freePartId(plan, converter.id), type: converter.id, name: converter.name } },
          { edit: 'release', terminal: terminal.key },
        ],
      }]
    : []
}

/** The board's high level is below what the part's input is sure to read. */
export const levelAtPart: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const { signal, between } = terminal
  const high = boardLimit(facts, 'outputHighV')!
  const needed = signal!.inputHighMinV
  if (signal!.direction === 'out' || (between && between.kind !== 'pull-up') || !needed
    || needed.value <= high.value) return []
  // High is off, and the board's high is not enough: what hangs there stays on.
  if (signal!.idleLevel === 'high') return [{
    code: 'level.never-off', id: `level.never-off ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${called(terminal)} does not switch off`,
    sentence: `It is off while its input is high, and asks ${needed.value} V for that; ${whereIs(terminal)} gives `
      + `${high.value} V: it stays on, or hangs between on and off. Put a level shifter between.`,
    subjects: [spot(terminal)],
    figures: [{
      label: 'given', value: high.value, unit: 'V', limit: needed.value, origin: needed.origin,
      limitKey: `${terminal.key}.inputHighMinV`,
    }],
    fixes: [{
      label: 'Level shifter to 5 V',
      edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'level-shifter', fit: 'push-pull' } }],
    }],
  }]
  return [{
    code: 'level.too-low', id: `level.too-low ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)} may not see a high`,
    sentence: `Position ${terminal.place?.kind === 'header' ? terminal.place.position : ''} gives ${high.value} V and `
      + `the input asks ${needed.value} V: it works on some days and flickers on others. Put a level shifter between.`,
    subjects: [spot(terminal)],
    figures: [{
      label: 'given', value: high.value, unit: 'V', limit: needed.value, origin: needed.origin,
      limitKey: `${terminal.key}.inputHighMinV`,
    }],
    fixes: [{
      label: 'Level shifter to 5 V',
      edits: [{
        edit: 'set-between', terminal: terminal.key,
        between: { kind: 'level-shifter', fit: isOpenDrain(terminal) ? 'open-drain' : 'push-pull' },
      }],
    }],
  }]
})

/** A shifter made for open-drain lines on a fast push-pull one, or the other way round. */
export const shifterFit: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { between } = terminal
  if (between?.kind !== 'level-shifter' || !between.fit || !terminal.signal) return []
  const wanted = isOpenDrain(terminal) ? 'open-drain' : 'push-pull'
  const bitHz = bitHzOf(terminal) ?? 0
  if (between.fit === wanted || (wanted === 'push-pull' && bitHz <= OPEN_DRAIN_SHIFTER_HZ)) return []
  return [{
    code: 'level.shifter-unfit', id: `level.shifter-unfit ${terminal.key}`,
    severity: wanted === 'open-drain' ? 'stop' : 'caution',
    stages: ['wiring'],
    title: `${called(terminal)}: the shifter is of the wrong kind`,
    sentence: wanted === 'open-drain'
      ? 'A push-pull shifter drives against the other end of an open-drain line: nothing answers. Take one made '
      + 'for open-drain lines.'
      : 'A shifter with pull-up resistors is too slow for this line: its edges round off and bits are lost. Take one '
        + 'made for push-pull lines.',
    subjects: [spot(terminal)],
    figures: [{ label: 'bit rate', value: bitHz, unit: 'Hz', limit: OPEN_DRAIN_SHIFTER_HZ, origin: 'memory' }],
    fixes: [{
      label: `Take one for ${wanted} lines`,
      edits: [{ edit: 'set-between', terminal: terminal.key, between: { ...between, fit: wanted } }],
    }],
  }]
})

/** A divider whose edges take too much of a bit. */
export const dividerEdges: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { between } = terminal
  const bitHz = bitHzOf(terminal)
  if (between?.kind !== 'divider' || !bitHz || !terminal.signal?.outputHighV) return []
  const { edgeS, currentMa } = judgeDivider(terminal.signal.outputHighV.value, between.upperOhm!, between.lowerOhm!, 50)
  if (edgeS <= 0.1 / bitHz) return []
  return [{
    code: 'level.divider-slow', id: `level.divider-slow ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)}: the divider rounds the edges off`,
    sentence: `With some 50 pF at the input an edge takes ${rounded(edgeS * 1e6, 3)} µs of a bit of `
      + `${rounded(1e6 / bitHz, 3)} µs. Take smaller resistors; this pair draws ${rounded(currentMa)} mA.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'edge', value: rounded(edgeS * 1e6, 3), unit: 'µs', limit: rounded(1e5 / bitHz, 3),
      origin: 'practice' }],
    fixes: worked(terminal, boardLimit(facts, 'inputMaxV')!, boardLimit(facts, 'inputHighMinV')!)
      .map(({ label, between: better }) => ({
        label, edits: [{ edit: 'set-between', terminal: terminal.key, between: better }],
      })),
    worksheet: dividerSheet(terminal, boardLimit(facts, 'inputMaxV')!, boardLimit(facts, 'inputHighMinV')!),
  }]
})

/** Volts that a part's own pull-up ties its terminal to: the highest rail of the part, where it says nothing else. */
function pulledToV({ owner, signal }: Terminal): number | null {
  if (signal?.pull?.to !== 'up') return null
  return signal.outputHighV?.value ?? (owner.supplies.length
    ? Math.max(...owner.supplies.filter(supply => isHeaderRail(supply.rail)).map(supply => RAIL_V[supply.rail]))
    : null)
}

/** An input that its own part pulls up past what the line stands, with nothing between. */
export const pulledTooHigh: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const high = pulledToV(terminal)
  const max = boardLimit(facts, 'inputMaxV')!
  // What an output puts there is the other rule's matter.
  if (high === null || high <= max.value || (terminal.between && terminal.between.kind !== 'pull-up')
    || arrivingV(terminal) !== null) {
    return []
  }
  const ohm = terminal.signal!.pull!.ohm
  return [{
    code: 'level.pulled-too-high', id: `level.pulled-too-high ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${called(terminal)} is pulled up to ${rounded(high)} V`,
    sentence: `The part pulls ${whereIs(terminal)} up to ${rounded(high)} V through ${ohmsInWords(ohm.value)}, and a `
      + `line stands ${max.value} V at most: whenever the board does not hold it low, current flows into the `
      + 'processor. Put a level shifter between.',
    subjects: [spot(terminal)],
    figures: [{ label: 'pulled to', value: rounded(high), unit: 'V', limit: max.value, origin: max.origin,
      limitKey: max.key }],
    fixes: [{
      label: 'Level shifter',
      edits: [{
        edit: 'set-between', terminal: terminal.key,
        between: { kind: 'level-shifter', fit: isOpenDrain(terminal) ? 'open-drain' : 'push-pull' },
      }],
    }],
  }]
})

/** What an open-collector output wants where the maker's part says nothing. practice */
const USUAL_PULL_OHM = 10_000

/** An output that only pulls down, and nothing that pulls its wire up. */
export const pullMissing: Rule = ({ facts }) => facts.terminals.filter(onLine).flatMap((terminal): Finding[] => {
  const { signal, between, place } = terminal
  if (signal!.drive !== 'open-drain' || signal!.direction !== 'out' || signal!.outputHighV || signal!.pull || between
    || !['line', 'pwm'].includes(signal!.role)) {
    return []
  }
  const line = place?.kind === 'header' ? place.line! : undefined
  if (line?.fixedPullUpOhm) return []
  return [{
    code: 'pull.missing', id: `pull.missing ${terminal.key}`, severity: 'caution', stages: ['wiring', 'build'],
    title: `Nothing pulls ${called(terminal)} up`,
    sentence: 'This output only pulls its wire down, and neither the part nor the board holds it up: it reads as noise '
      + 'between. '
      + `${line?.resetPull === 'up' ? `The line's inner pull holds it until a program changes that. ` : ''}Put a `
      + `resistor of ${ohmsInWords(USUAL_PULL_OHM)} to 3V3, or let the program switch the line's inner pull-up on.`,
    subjects: [spot(terminal)],
    figures: [{ label: 'pull-up', value: 'none', limit: ohmsInWords(USUAL_PULL_OHM), origin: 'practice' }],
    fixes: [{
      label: `Resistor of ${ohmsInWords(USUAL_PULL_OHM)} to 3V3`,
      edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'pull-up', ohm: USUAL_PULL_OHM } }],
    }],
  }]
})
