/** Chips that have lines: the board's own, and those of expanders whose driver is there. */
import type { Facts, ResolvedPart } from '../facts/types'
import { linesOffered } from '../facts/expander-lines'
import { positionPin } from '../netlist/board'
import type { PinId } from '../netlist/types'
import type { Present } from '../diagnosis/devices'

export interface SimulatedChip {
  /** As under /dev: `gpiochip0`. */
  name: string
  number: number
  label: string
  /** How many lines it has. */
  count: number
  /** Null for the board's own. */
  owner: ResolvedPart | null
}

/** A simulated board as far as its chips matter. */
interface HasLineChips { facts: Facts, lineChips: readonly SimulatedChip[] }

/** Label of the chip that has the header's lines. */
const OWN_LABEL = 'header-lines'
/** A line of any chip is one number: those of the board's own as they are, those of others so far up for each chip. */
const STEP = 1000

export const lineKeyOf = ({ number }: Pick<SimulatedChip, 'number'>, offset: number): number => number * STEP + offset
export const chipNumberOf = (line: number): number => Math.floor(line / STEP)
export const offsetOf = (line: number): number => line % STEP

/** What pulls a line that is let go: the smaller expanders always push a little upwards. memory */
export const usualBias = ({ label }: SimulatedChip): 'up' | 'none' => label.startsWith('pcf') ? 'up' : 'none'

/** Every chip that is there now, the board's own first. */
export function lineChips(facts: Facts, devices: readonly Present[]): SimulatedChip[] {
  return [
    { name: 'gpiochip0', number: 0, label: OWN_LABEL,
      count: Math.max(...facts.board!.lines.map(({ line }) => line)) + 1, owner: null },
    ...devices.flatMap(({ path, owner }): SimulatedChip[] => {
      const number = /^\/dev\/gpiochip(\d+)$/.exec(path)?.[1]
      const count = owner ? linesOffered(owner).length : 0
      if (!owner || !count || number === undefined || number === '0') return []
      // The driver takes the chip's own name for a label. memory
      const label = owner.part.kernel?.compatible.split(',').at(-1) ?? owner.part.id
      return [{ name: `gpiochip${number}`, number: Number(number), label, count, owner }]
    }),
  ]
}

/** By its name, its number, its node or its label. */
export const chipNamed = (machine: Pick<HasLineChips, 'lineChips'>, text: string): SimulatedChip | null =>
  machine.lineChips.find(({ name, number, label }) => [name, String(number), `/dev/${name}`, label].includes(text))
  ?? null

export const chipOf = (machine: Pick<HasLineChips, 'lineChips'>, line: number): SimulatedChip | null =>
  machine.lineChips.find(({ number }) => number === chipNumberOf(line)) ?? null

/** Where a line comes out; null where it comes out nowhere. */
export function pinOfChipLine(machine: HasLineChips, line: number): PinId | null {
  const chip = chipOf(machine, line)
  if (chip?.owner) {
    const offer = linesOffered(chip.owner)[offsetOf(line)]
    const terminal = offer && Object.values(offer.terminals)[0]
    return terminal === undefined ? null : `${chip.owner.id}.${terminal}`
  }
  const position = machine.facts.board!.header.find(entry => entry.line === line)?.position
  return position === undefined ? null : positionPin(position)
}
