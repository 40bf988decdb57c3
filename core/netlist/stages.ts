/** What stands in a signal's wire, as components with pins of their own. */
import { stageComponent } from '../plan/ids'
import type { Terminal } from '../facts/types'
import type { Between } from '../plan/types'
import type { Component, ComponentId, Pin, PinId } from './types'

/** Where a pin of a stage goes. */
export type StageEnd
  /** The part's own terminal. */
  = | 'part'
  /** The place that the plan gives the terminal. */
    | 'place'
    | 'ground' | '3V3'
  /** What feeds the part. */
    | 'part supply'
  /** The part's own return, apart from the board's. */
    | 'part return'

export interface StagePin { pin: string, label: string, end: StageEnd }

interface StageSpec {
  what: string
  /** Several terminals of one part share one board of it. */
  shared: boolean
  /** One set for each terminal, named with its number where the stage is shared. */
  channel: readonly StagePin[]
  /** Once for the whole stage. */
  common: readonly StagePin[]
  /** Made-up price. */
  price: number
}

const GROUND: StagePin = { pin: 'gnd', label: 'GND', end: 'ground' }
const LOAD_STAGE: readonly StagePin[] = [{ pin: 'in', label: 'IN', end: 'place' },
  { pin: 'load', label: 'LOAD −', end: 'part' }]

/** One row for each kind; a part that drives an opto-coupler has it the other way round. */
export const STAGES: Readonly<Record<Between['kind'], StageSpec>> = {
  'divider': {
    what: 'Voltage divider, two resistors', shared: false, price: 0.2,
    channel: [{ pin: 'in', label: 'in', end: 'part' }, { pin: 'out', label: 'tap', end: 'place' }], common: [GROUND],
  },
  'level-shifter': {
    what: 'Level shifter board', shared: true, price: 2,
    channel: [{ pin: 'high', label: 'HV', end: 'part' }, { pin: 'low', label: 'LV', end: 'place' }],
    common: [{ pin: 'vhigh', label: 'HV supply', end: 'part supply' }, { pin: 'vlow', label: 'LV supply', end: '3V3' },
      GROUND],
  },
  'transistor': { what: 'Transistor stage with flyback diode', shared: false, price: 0.5, channel: LOAD_STAGE,
    common: [GROUND] },
  'mosfet': { what: 'MOSFET stage with flyback diode', shared: false, price: 1, channel: LOAD_STAGE, common: [GROUND] },
  'opto-coupler': {
    what: 'Opto-coupler with its resistors', shared: false, price: 1,
    channel: [
      { pin: 'anode', label: 'input +', end: 'part' }, { pin: 'cathode', label: 'input −', end: 'part return' },
      { pin: 'out', label: 'output', end: 'place' },
    ],
    common: [GROUND],
  },
  'pull-up': {
    what: 'Resistor', shared: false, price: 0.1, channel: [{ pin: 'a', label: 'one end', end: 'place' }],
    common: [{ pin: 'b', label: 'other end', end: '3V3' }],
  },
  'rs232-converter': {
    what: 'RS-232 converter board', shared: true, price: 3,
    channel: [{ pin: 'line', label: 'RS-232 side', end: 'part' }, { pin: 'logic', label: 'logic side', end: 'place' }],
    common: [{ pin: 'vcc', label: 'VCC', end: '3V3' }, GROUND],
  },
}

/** Stages in whose wire the part is a load of two terminals: its return goes through the stage. */
export const DRIVES_LOAD: ReadonlySet<Between['kind']> = new Set<Between['kind']>(['mosfet', 'transistor'])

/** A resistor beside the wire, not in it. */
export const BESIDE: ReadonlySet<Between['kind']> = new Set<Between['kind']>(['pull-up'])

export interface Stage {
  component: Component
  /** Pins with where each goes, and for which terminal; common ones have the first. */
  ends: { pin: PinId, end: StageEnd, terminal: Terminal }[]
}

/** Every stage of the plan. A terminal without a place has its stage all the same: it lies on the table. */
export function stagesOf(terminals: readonly Terminal[]): Stage[] {
  const groups = new Map<ComponentId, Terminal[]>()
  for (const terminal of terminals) {
    const { between, key, owner } = terminal
    if (!between || !terminal.signal) continue
    const id = STAGES[between.kind].shared
      ? stageComponent(`${owner.id}.${between.kind}${between.fit ? `-${between.fit}` : ''}`)
      : stageComponent(key)
    groups.set(id, [...groups.get(id) ?? [], terminal])
  }
  return [...groups].map(([id, list]) => stageOf(id, list))
}

function stageOf(id: ComponentId, terminals: Terminal[]): Stage {
  const first = terminals[0]!
  const spec = STAGES[first.between!.kind]
  const pins: Pin[] = []
  const ends: Stage['ends'] = []
  const add = ({ pin, label, end }: StagePin, terminal: Terminal, number: string) => {
    const name = `${id}.${pin}${number}`
    pins.push({ id: name, label: number ? `${label}${number}` : label })
    ends.push({ pin: name, end, terminal })
  }
  terminals.forEach((terminal, i) => spec.channel.forEach(pin => add(pin, terminal, spec.shared ? String(i + 1) : '')))
  spec.common.forEach(pin => add(pin, first, ''))
  const names = terminals.map(terminal => terminal.label).join(', ')
  return {
    component: {
      id, kind: 'stage', name: `${spec.what.split(',')[0]!.replace(/ with .*/, '')} at ${first.owner.name} ${names}`,
      what: figures(first.between!, spec.what), partId: first.owner.id, pins, inside: [], price: spec.price,
    },
    ends,
  }
}

const ohms = (value: number) => value >= 1000 ? `${Number((value / 1000).toFixed(2))} kΩ` : `${value} Ω`

function figures(between: Between, what: string): string {
  if (between.kind === 'pull-up') return `Resistor, ${ohms(between.ohm!)}`
  if (between.kind === 'divider') return `Divider, ${ohms(between.upperOhm!)} over ${ohms(between.lowerOhm!)}`
  return between.fit ? `${what}, for ${between.fit} lines` : what
}
