/** Faults of what pulls a bus up: resistors that are not there, and too strong ones. */
import type { Facts } from '../facts/types'
import { i2cFigures } from '../signals/figures/i2c'
import type { Fault } from './types'
import { WEIGHTS } from './weights'

export interface PulledBus {
  busId: string
  label: string
  /** Header position of its data, and of the 3.3 V that it is pulled to. */
  position: number
  rail: number
  /** All resistors side by side, as planned. */
  ohm: number
  /** Only modules pull it up, none of which the board or the plan's own resistors do. */
  isByModules: boolean
  parts: string[]
}

/** Buses at the header that something pulls up. */
export function pulledBuses(facts: Facts): PulledBus[] {
  const rail = facts.board?.header.find(({ kind }) => kind === '3V3')?.position
  if (rail === undefined) return []
  return i2cFigures(facts).flatMap(({ busId, label, pullUps, pullUpOhm }): PulledBus[] => {
    const terminals = facts.groups.filter(({ bus }) => bus?.id === busId).flatMap(group => group.terminals)
    const data = terminals.find(({ signal, place }) => signal!.role === 'i2c.sda' && place?.kind === 'header')
    if (pullUpOhm === null || data?.place?.kind !== 'header') return []
    return [{
      busId, label, rail, position: data.place.position, ohm: pullUpOhm,
      isByModules: pullUps.every(({ onBoardOfPart }) => onBoardOfPart),
      parts: [...new Set(terminals.map(({ owner }) => owner.id))],
    }]
  })
}

/** A figure as one reads it off a resistor: `1.8 kΩ`, `470 Ω`. */
export const ohmSaid = (ohm: number): string =>
  ohm < 1000 ? `${Math.round(ohm)} Ω` : `${Number((ohm / 1000).toPrecision(2))} kΩ`

export function pullFaults(facts: Facts): Fault[] {
  return pulledBuses(facts).flatMap(({ busId, label, position, isByModules, parts }): Fault[] => [
    ...isByModules
      ? [{
          id: `pull:none:${busId}`,
          title: `Nothing pulls ${label} up: the modules lack their resistors, or they were taken off`,
          mend: `Put 4.7 kΩ from data to 3.3 V and from clock to 3.3 V, once on the bus.`,
          weight: WEIGHTS.pull, at: { parts, positions: [position] },
          changes: [{ change: 'pull' as const, busId, how: 'none' as const }],
        }]
      : [],
    {
      id: `pull:strong:${busId}`,
      title: `${label} is pulled up too hard: a wrong resistor, or too many modules that bring their own`,
      mend: 'Leave one pair of resistors on the bus and take off those of the other modules: a part has to pull '
        + 'against all of them.',
      weight: WEIGHTS.pull, at: { parts, positions: [position] }, changes: [{ change: 'pull', busId, how: 'strong' }],
    },
  ])
}
