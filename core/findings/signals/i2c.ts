/** The I²C buses as circuits: pull-ups, speed, time. */
import { MODES } from '../../signals/i2c'
import { ohmsInWords } from '../../signals/series'
import { pullUpKey, WIRE_KEY, wirePfPerM, type I2cBusFigures } from '../../signals/figures/i2c'
import type { Worksheet } from '../../vocabulary/worksheets'
import type { Facts } from '../../facts/types'
import type { Edit } from '../../plan/edits'
import type { Finding, Fix, Rule } from '../types'
import { hertz, rounded } from './words'

const MANUAL = 'published: NXP UM10204 §7.1'
/** A bus busier than this leaves no room for what comes unasked. Common practice. */
const MAX_BUSY = 0.7

const sheet = (bus: I2cBusFigures): Worksheet => ({
  kind: 'pull-up', supplyV: bus.supplyV, clockHz: bus.clockHz, capacitancePf: Math.round(bus.capacitancePf),
  pullUpOhms: bus.pullUps.map(entry => entry.ohm),
})
const clockFix = (bus: I2cBusFigures, clockHz: number): Fix => ({
  label: `Run it at ${hertz(clockHz)}`,
  edits: [{ edit: 'set-clock', bus: bus.busId, clockHz: clockHz === 100_000 ? null : clockHz }],
})

/** Resistors of all boards together: too strong for a part to pull low, or too weak to rise in time. */
export const pullUps: Rule = ({ facts, signals }) => signals.i2c.flatMap((bus): Finding[] => {
  const common = {
    stages: ['wiring' as const],
    subjects: [{ busId: bus.busId }, ...bus.pullUps.flatMap(({ partId }) => partId ? [{ partId }] : [])],
    worksheet: sheet(bus),
  }
  if (bus.pullUpOhm === null || bus.riseS === null) return [{
    ...common, code: 'i2c.no-pull-up', id: `i2c.no-pull-up ${bus.busId}`, severity: 'stop',
    title: `${bus.label} has no pull-up resistors`,
    sentence: `Nothing pulls its two wires up: no part can be heard. Put a resistor of ${ohmsInWords(pullFor(bus))} `
      + 'from each wire to 3V3.',
    figures: [{ label: 'most', value: Math.round(bus.maxOhm), unit: 'Ω', origin: MANUAL }],
    fixes: pullUpFix(bus, facts),
  }]
  const list = bus.pullUps.map(({ name, ohm }) => `${name} ${ohmsInWords(ohm)}`).join(', ')
  const sinkOhm = bus.sinkOhm ?? bus.pullUpOhm
  const off = sinkOhm < bus.minOhm ? enoughOff(bus, sinkOhm) : null
  if (sinkOhm < bus.minOhm) return [{
    ...common, code: 'i2c.pull-up-strong', id: `i2c.pull-up-strong ${bus.busId}`, severity: 'caution',
    title: `${bus.label} is pulled up too hard`,
    sentence: `${list}${sinkOhm < bus.pullUpOhm ? ', and those beyond the level shifters,' : ''} make ${ohmsInWords(sinkOhm)} together; a `
      + `part that sinks ${bus.mode.sinkMa} mA cannot pull that low. `
      + tooStrong(off),
    figures: [{ label: 'together', value: Math.round(sinkOhm), unit: 'Ω', limit: Math.round(bus.minOhm),
      origin: MANUAL }],
    fixes: off?.length
      ? [{
          label: `Take the resistors off ${off.map(entry => entry.name).join(', ')}`,
          edits: off.map(({ partId }): Edit => ({ edit: 'set-limit', key: pullUpKey(partId), value: 0 })),
        }]
      : [],
  }]
  if (bus.pullUpOhm > bus.maxOhm) return [{
    ...common, code: 'i2c.pull-up-weak', id: `i2c.pull-up-weak ${bus.busId}`,
    severity: bus.reachable ? 'caution' : 'stop',
    title: `${bus.label} rises too slowly for ${hertz(bus.clockHz)}`,
    sentence: `With ${list} and some ${Math.round(bus.capacitancePf)} pF its edges take ${Math.round(bus.riseS * 1e9)} `
      + 'ns. '
      + `${bus.reachable ? `It keeps up to ${hertz(bus.reachable.clockHz)}.` : 'Not even the slowest speed is sure.'} `
      + 'Shorten the wires, or add a pull-up of '
      + `${ohmsInWords(roundDown(1 / Math.max(1e-9, 1 / bus.maxOhm - 1 / bus.pullUpOhm)))}.`,
    figures: [
      { label: 'rise', value: Math.round(bus.riseS * 1e9), unit: 'ns', limit: Math.round(bus.mode.riseS * 1e9),
        origin: MANUAL },
      { label: 'together', value: Math.round(bus.pullUpOhm), unit: 'Ω', limit: Math.round(bus.maxOhm), origin: MANUAL },
    ],
    fixes: bus.reachable && bus.reachable.clockHz < bus.clockHz ? [clockFix(bus, bus.reachable.clockHz)] : [],
  }]
  if (bus.capacitancePf > bus.mode.maxPf) return [{
    ...common, code: 'i2c.too-long', id: `i2c.too-long ${bus.busId}`, severity: 'caution',
    title: `${bus.label} has too much wire`,
    sentence: `${rounded(bus.wireM)} m of wire and its parts make some ${Math.round(bus.capacitancePf)} pF. Split it `
      + 'with a bus switch, or shorten it.',
    figures: [{
      label: 'capacitance', value: Math.round(bus.capacitancePf), unit: 'pF', limit: bus.mode.maxPf,
      origin: 'published: NXP UM10204 table 10',
    }, {
      label: 'a metre of wire', value: wirePfPerM(facts), unit: 'pF/m', limitKey: WIRE_KEY, limit: wirePfPerM(facts),
      origin: facts.plan.limits[WIRE_KEY]?.origin ?? 'memory: 50 to 100 pF a metre beside its return',
    }],
    fixes: [],
  }]
  return []
})

interface Removable { partId: string, name: string, ohm: number }

/**
 * The fewest boards whose resistors have to go, strongest first; null where what stays, the board's own and added ones,
 * is too strong.
 */
function enoughOff(bus: I2cBusFigures, sinkOhm: number): Removable[] | null {
  const own = bus.pullUps.flatMap(({ partId, name, ohm, onBoardOfPart }): Removable[] => onBoardOfPart && partId
    ? [{ partId, name, ohm }]
    : [])
    .sort((a, b) => a.ohm - b.ohm)
  let conductance = 1 / sinkOhm
  for (let count = 1; count <= own.length; count++) {
    conductance -= 1 / own[count - 1]!.ohm
    if (conductance <= 1 / bus.minOhm) return own.slice(0, count)
  }
  return null
}

const tooStrong = (off: Removable[] | null): string => off
  ? `Take the resistors off ${off.length === 1 ? 'one of the boards' : `${off.length} of the boards`}, the strongest `
  + `first: ${off.map(entry => entry.name).join(', ')}.`
  : 'What the board itself and the added resistors pull is too strong already: take added ones out, or run it where '
    + 'parts sink more.'

/** 4.7 kΩ where that is enough, else what is. */
const pullFor = (bus: I2cBusFigures): number => Math.min(4700, roundDown(bus.maxOhm))

/** A resistor on each wire, noted at the first part whose wires have nothing in them yet. */
function pullUpFix(bus: I2cBusFigures, facts: Facts): Fix[] {
  const group = facts.groups.find(entry =>
    entry.bus?.id === bus.busId && entry.terminals.every(terminal => !terminal.between))
  if (!group) return []
  const ohm = pullFor(bus)
  return [{
    label: `Two pull-ups of ${ohmsInWords(ohm)} to 3V3`,
    edits: group.terminals.map(({ key }): Edit => ({ edit: 'set-between', terminal: key,
      between: { kind: 'pull-up', ohm } })),
  }]
}

const roundDown = (ohm: number) => Number(ohm.toPrecision(2))

/** A part that the bus is too fast for. */
export const busTooFast: Rule = ({ signals }) => signals.i2c.flatMap((bus): Finding[] => {
  if (!bus.slowest || bus.slowest.maxClockHz >= bus.clockHz) return []
  const fits = [...MODES].reverse().find(mode => mode.clockHz <= bus.slowest!.maxClockHz)?.clockHz
    ?? bus.slowest.maxClockHz
  return [{
    code: 'i2c.too-fast', id: `i2c.too-fast ${bus.busId}`, severity: 'stop', stages: ['wiring', 'boot'],
    title: `${bus.label} is too fast for ${bus.slowest.name}`,
    sentence: `It runs at ${hertz(bus.clockHz)} and the part follows up to ${hertz(bus.slowest.maxClockHz)}: it `
      + 'answers wrongly or not at all. Slow the bus down, or give the part another bus.',
    subjects: [{ partId: bus.slowest.partId, busId: bus.busId }],
    figures: [{ label: 'clock', value: bus.clockHz, unit: 'Hz', limit: bus.slowest.maxClockHz, origin: 'part file' }],
    fixes: [clockFix(bus, fits)],
  }]
})

/** More asking than the bus has time for. */
export const busTime: Rule = ({ signals }) => signals.i2c.flatMap((bus): Finding[] => {
  if (bus.busyShare <= MAX_BUSY) return []
  const largest = [...bus.polls].sort((a, b) => b.hz * b.bytes - a.hz * a.bytes)[0]!
  const faster = bus.clockHz < 400_000 && (bus.slowest?.maxClockHz ?? 400_000) >= 400_000
    && (bus.reachable?.clockHz ?? 0) >= 400_000
  return [{
    code: 'i2c.busy', id: `i2c.busy ${bus.busId}`, severity: bus.busyShare > 1 ? 'stop' : 'caution', stages: ['wiring'],
    title: `${bus.label} has no time left`,
    sentence: `Asking every part as often as it wants takes ${Math.round(bus.busyShare * 100)} % of the time. `
      + `${largest.name} takes most, with ${largest.bytes} bytes ${largest.hz} times a second. `
      + `${faster ? 'Run the bus faster' : 'Ask less often, or give it a bus of its own'}.`,
    subjects: [{ busId: bus.busId, partId: largest.partId }],
    figures: [{ label: 'busy', value: Math.round(bus.busyShare * 100), unit: '%', limit: MAX_BUSY * 100,
      origin: 'practice' }],
    fixes: faster ? [clockFix(bus, 400_000)] : [],
  }]
})

/** At this clock the controller copes with a clock that is held. memory */
const WAITS_HZ = 50_000

/** Parts that hold the clock, on controllers that do not wait well. */
export const stretching: Rule = ({ facts, signals }) => signals.i2c.flatMap((bus): Finding[] => {
  const controller = facts.buses.find(entry => entry.id === bus.busId)?.controller
  if (!bus.stretching.length || !controller?.clock?.followsCore || bus.clockHz <= WAITS_HZ) return []
  const names = bus.stretching.map(id => facts.parts.find(owner => owner.id === id)!.name)
  return [{
    code: 'i2c.stretching', id: `i2c.stretching ${bus.busId}`, severity: 'note', stages: ['wiring', 'bringup'],
    title: `${names.join(' and ')} ${names.length > 1 ? 'hold' : 'holds'} the clock of ${bus.label}`,
    sentence: `${names.length > 1 ? 'They pull' : 'It pulls'} SCL low while thinking, and this controller may then `
      + 'lose a bit. If readings fail now and then, slow the bus to 50 kHz or use a software bus, which waits.',
    subjects: [{ busId: bus.busId }, ...bus.stretching.map(partId => ({ partId }))],
    figures: [{ label: 'clock', value: bus.clockHz, unit: 'Hz', origin: 'memory' }],
    fixes: [{ label: 'Run it at 50 kHz', edits: [{ edit: 'set-clock', bus: bus.busId, clockHz: WAITS_HZ } as Edit] }],
  }]
})
