/** Chip selects of the SPI buses in use: which lines they are, and by which numbers the kernel knows them. */
import type { Facts, SelectPlan } from './types'

type Given = Pick<Facts, 'groups' | 'atPosition' | 'board'>

/** One plan for each SPI bus of the board in use. */
export function selectPlansOf({ groups, atPosition, board }: Given): Map<string, SelectPlan> {
  const plans = new Map<string, SelectPlan>()
  const positionOf = new Map((board?.header ?? []).flatMap(entry => entry.line === undefined
    ? []
    : [[entry.line, entry.position] as const]))
  // A part whose wires lie on several buses has its select here once they are put right: it is no stranger on the line.
  const torn = new Set(groups.filter(group => group.kind === 'spi' && !group.bus)
    .flatMap(group => group.terminals.filter(terminal => terminal.signal!.role === 'spi.select')))
  for (const { bus } of groups) {
    if (bus?.kind !== 'spi' || !bus.route || !bus.controller || plans.has(bus.id)) continue
    const mine = groups.filter(group => group.bus?.id === bus.id).flatMap(group => group.terminals)
    const hardware = [0, 1, 2].map(n => bus.route!.lines[`select${n}`]).filter(line => line !== undefined)
    const taken = new Set(mine.flatMap(({ signal, place }) => signal!.role === 'spi.select' && place?.kind === 'header'
      && place.line
      ? place.line.line
      : []))
    const used = hardware.filter(line => taken.has(line))
    const isForeign = (line: number) =>
      (atPosition.get(positionOf.get(line) ?? -1) ?? []).some(terminal => terminal.signal && !mine.includes(terminal)
        && !torn.has(terminal))
    const usual = bus.route.boot.every(need => need.kind !== 'overlay')
    if (usual && hardware.every(line => used.includes(line) || !isForeign(line))) plans.set(
      bus.id, { busId: bus.id, lines: hardware, by: 'usual', hardware },
    )
    else plans.set(bus.id, { busId: bus.id, by: 'overlay', hardware, lines: used.length || usual
      ? used
      : hardware.filter(line => !isForeign(line)).slice(0, 1) })
  }
  return plans
}

/** `part.terminal` of a select → its number on its bus. */
export function selectNumbersOf({ groups }: Given, plans: ReadonlyMap<string, SelectPlan>): Map<string, number> {
  const numbers = new Map<string, number>()
  for (const { bus, terminals } of groups) {
    const plan = bus && plans.get(bus.id)
    if (!plan) continue
    for (const { key, signal, place } of terminals) {
      if (signal!.role !== 'spi.select' || place?.kind !== 'header' || !place.line) continue
      const number = plan.lines.indexOf(place.line.line)
      if (number >= 0) numbers.set(key, number)
    }
  }
  return numbers
}
