/** Each SPI device of a plan: the clock it gets, what its screen shows, how long its wires are. */
import { clockOf } from '../../facts/circuits'
import type { Facts } from '../../facts/types'
import { framesPerSecond, spiClock, spiStepAbove, type Rate } from '../rates'

export interface SpiDeviceFigures {
  partId: string
  name: string
  busId: string
  busLabel: string
  maxClockHz: number
  /** Null where the board file does not say what the controller divides. */
  clock: Rate | null
  stepAboveHz: number | null
  /** What the maker asks, or the most the part stands. */
  askedHz: number
  mode: number
  wireM: number
  screen: { width: number, height: number, bitsPerPixel: number, framesPerS: number } | null
  /** Share of the bus that what the part sends takes. */
  busyShare: number
}

export function spiFigures(facts: Facts): SpiDeviceFigures[] {
  return facts.groups.flatMap((group): SpiDeviceFigures[] => {
    const { owner, bus } = group
    if (group.kind !== 'spi' || !bus?.controller || !owner.part.spi) return []
    const source = clockOf(bus.controller, facts.plan)
    const { maxClockHz, mode, bytesPerS = 0 } = owner.part.spi
    const clock = source ? spiClock(source, facts.plan.clocks[owner.id] ?? maxClockHz) : null
    const atHz = clock?.rateHz ?? maxClockHz
    const { display } = owner.part
    const signal = group.terminals.find(terminal => terminal.signal!.role === 'spi.clock')
    return [{
      partId: owner.id, name: owner.name, busId: bus.id, busLabel: bus.label, maxClockHz, clock, mode,
      askedHz: Math.min(maxClockHz, facts.plan.clocks[owner.id] ?? maxClockHz),
      stepAboveHz: source && clock ? spiStepAbove(source, clock.rateHz) : null,
      wireM: owner.part.isAddOn ? 0 : facts.plan.build.wires[signal?.key ?? '']?.lengthM ?? owner.part.leadM ?? 0.2,
      screen: display?.picture === 'SPI'
        ? {
            ...display,
            framesPerS: Math.min(framesPerSecond(atHz, display.width, display.height, display.bitsPerPixel),
              display.maxHz ?? Infinity),
          }
        : null,
      busyShare: bytesPerS * 8 / atHz,
    }]
  })
}
