/** Each serial link of a plan: the rate at both ends, the frame, what passes. */
import { circuitOf, clockOf } from '../../facts/circuits'
import { isMet } from '../../facts/conditions'
import type { Variant } from '../../catalogue/types'
import type { Facts, ResolvedPart } from '../../facts/types'
import { bytesPerSecond, partSerialRate, serialRate, type Rate } from '../rates'

export interface SerialLinkFigures {
  partId: string
  name: string
  busId: string
  busLabel: string
  controllerId: string
  circuit: Variant | null
  baud: number
  baudOption?: string
  frame: string
  /** Null where the divider cannot make the rate at all. */
  board: Rate | null
  boardClock: { sourceHz: number, divider: string, followsCore: boolean, origin: string } | null
  /** Null where nothing is known of the part's own clock: it is taken to be exact. */
  part: Rate | null
  /** Between the two ends, as a share of the rate. */
  difference: number | null
  carriesBytesPerS: number
  sendsBytesPerS: number
  flowControlWired: boolean
}

export function serialFigures(facts: Facts): SerialLinkFigures[] {
  return facts.groups.flatMap((group): SerialLinkFigures[] => {
    const { owner, bus } = group
    const { serial } = owner.part
    // A link of which a wire is still open is none yet.
    if (group.terminals.some(terminal => !terminal.place && !terminal.signal!.optional)) return []
    if (group.kind !== 'serial' || !bus?.controller || !serial || !isMet(serial.when, owner.options)) return []
    const baud = baudOf(owner)
    const clock = clockOf(bus.controller, facts.plan)
    const board = clock ? serialRate(clock, baud) : null
    const part = serial.clock ? partSerialRate(serial.clock, baud) : null
    return [{
      partId: owner.id, name: owner.name, busId: bus.id, busLabel: bus.label, controllerId: bus.controller.id,
      circuit: circuitOf(bus.controller, facts.plan),
      baud, ...(serial.baudOption && { baudOption: serial.baudOption }), frame: serial.frame, board, part,
      boardClock: clock
        ? { sourceHz: clock.sourceHz, divider: clock.divider, followsCore: clock.followsCore === true,
            origin: clock.origin }
        : null,
      difference: board ? (board.rateHz - (part?.rateHz ?? baud)) / baud : null,
      carriesBytesPerS: bytesPerSecond(baud, serial.frame), sendsBytesPerS: serial.sendsBytesPerS ?? 0,
      // One of the two alone holds only one side back.
      flowControlWired:
        ['serial.rts', 'serial.cts'].every(role =>
          group.terminals.some(terminal => terminal.place && terminal.signal!.role === role)),
    }]
  })
}

/** The rate the link runs at: the part's own, or the option that sets it. */
export function baudOf({ part, options }: ResolvedPart): number {
  const chosen = part.serial?.baudOption ? Number(options[part.serial.baudOption]) : NaN
  return Number.isFinite(chosen) && chosen > 0 ? chosen : part.serial!.baud
}
