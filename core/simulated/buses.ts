/**
 * Who answers on a bus of the simulated board, what is in its registers, and the conversations that programs
 * have with it.
 */
import type { Bus, ResolvedPart } from '../facts/types'
import type { Machine } from './machine'
import { registersOf } from '../catalogue/chips'
import type { ChipState } from '../catalogue/shapes/chip'

export interface Chip { owner: ResolvedPart, isHeld: boolean }

/**
 * The bus by its number, with who answers where; null where there is none. Behind a stuck line every address answers,
 * and nobody is there.
 */
export function busOf(machine: Machine,
  number: string): { bus: Bus | null, chips: Map<number, Chip>, isStuck: boolean } | null {
  const path = `/dev/i2c-${number}`
  const bus = machine.facts.buses.find(({ controller, software }) => controller?.device === path
    || (software && String(software.number) === number)) ?? null
  if (!bus) return machine.devices.some(device => device.path === path)
    ? { bus, chips: new Map(), isStuck: false }
    : null
  const heard = machine.world.heard(bus)
  if (heard === 'no bus') return null
  if (heard === 'stuck') return { bus, chips: new Map(), isStuck: true }
  return { bus, isStuck: false,
    chips: new Map(heard.map(({ owner, address }) => [address, { owner, isHeld: isHeld(machine, owner) }])) }
}

/** A driver of the kernel has it: its node is in the tree, and it answered when it was asked. */
function isHeld(machine: Machine, owner: ResolvedPart): boolean {
  const device = machine.facts.devices.find(entry => entry.owner === owner && !entry.also)
  const binding = owner.part.kernel
  if (!device || !binding || !machine.isIn(owner.id)) return false
  return machine.drivers.some(({ compatible, address }) => address === device.address
    && [binding.compatible, binding.generic].some(name => name !== undefined && compatible.includes(name)))
}

const readingOf = (machine: Machine, owner: ResolvedPart): ChipState => ({
  of: what => machine.quantity(owner, what), now: machine.now,
  written: register => machine.written.get(`${owner.id} ${register}`),
})

/** What one register holds: what a program wrote there, else what the part has. */
export function valueAt(machine: Machine, owner: ResolvedPart, register: number): { value: number, width: 1 | 2 } {
  const registers = registersOf(owner.part.id)
  const reading = readingOf(machine, owner)
  return { value: reading.written(register) ?? registers?.at(register, reading) ?? 0, width: registers?.width ?? 1 }
}

export function writeTo(machine: Machine, owner: ResolvedPart, register: number, value: number): void {
  machine.written.set(`${owner.id} ${register}`, value)
}

/** Where a part stands: the register that was named last, or the command that was given. */
const POINTER = 'pointer'

/**
 * One conversation on a bus: bytes written, then so many read, as a program asks the kernel for it. Null where nobody
 * answers. Of a stuck line every byte reads 0.
 */
export function converse(machine: Machine, number: string, address: number, sent: readonly number[],
  wanted: number): number[] | null {
  const found = busOf(machine, number)
  if (!found) return null
  if (found.isStuck) return Array.from({ length: wanted }, () => 0)
  const owner = found.chips.get(address)?.owner
  if (!owner) return null
  machine.pass(0.001)
  const registers = registersOf(owner.part.id)
  const width = registers?.width ?? 1
  const [first, ...rest] = sent
  machine.bytes.set(owner.id, [...machine.bytes.get(owner.id) ?? [], ...sent])
  if (registers?.answers) {
    // It thinks for a millisecond after a command, and answers nobody meanwhile. Published: Sensirion, data sheet
    // SCD4x, table 9.
    if (sent.length && wanted) return null
    if (first !== undefined) machine.written.set(`${owner.id} ${POINTER}`, first << 8 | (rest[0] ?? 0))
    const answer = registers.answers(machine.written.get(`${owner.id} ${POINTER}`) ?? 0, readingOf(machine, owner))
    return Array.from({ length: wanted }, (_, i) => answer[i] ?? 0xFF)
  }
  if (first !== undefined) machine.written.set(`${owner.id} ${POINTER}`, first)
  let at = machine.written.get(`${owner.id} ${POINTER}`) ?? 0
  for (let i = 0; i + width <= rest.length; i += width, at = (at + 1) & 0xFF) {
    writeTo(machine, owner, at, width === 2 ? rest[i]! << 8 | rest[i + 1]! : rest[i]!)
  }
  return Array.from({ length: Math.ceil(wanted / width) }, (_, i) => valueAt(machine, owner, (at + i) & 0xFF))
    .flatMap(({ value }) => width === 2 ? [value >> 8 & 0xFF, value & 0xFF] : [value & 0xFF]).slice(0, wanted)
}
