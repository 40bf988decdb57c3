/**
 * Parts on SPI that programs speak to: what comes back while bytes go out. What a chip answers stands in
 * its part's folder.
 */
import { spiChipOf } from '../catalogue/chips'
import type { ResolvedPart } from '../facts/types'
import type { Machine } from './machine'

/** One message with its select low throughout: as many bytes back as go out. A bus where nobody answers reads 0. */
export function exchangeOver(machine: Machine, path: string, sent: readonly number[]): number[] {
  const silent = sent.map(() => 0)
  const owner = selectedAt(machine, path)
  if (!owner) return silent
  machine.pass(sent.length * 8e-6)
  const { world } = machine
  if (!world.isFed(owner) || world.isDead(owner.id) || !world.isWired(owner)
    || !isOutOfReset(machine, owner)) return silent
  // Nine bits of each byte: the level of its line for data before the byte itself, where it has one.
  const data = sideLevel(machine, owner, 'dc')
  machine.bytes.set(owner.id, [...machine.bytes.get(owner.id) ?? [], ...sent.map(byte => byte | (data ?? 0) << 8)])
  return spiChipOf(owner.part.id)?.(sent, {
    of: what => machine.quantity(owner, what),
    kept: {
      get: name => machine.written.get(`${owner.id} ${name}`),
      set: (name, value) => void machine.written.set(`${owner.id} ${name}`, value),
    },
  }) ?? silent
}

/** Whose select the node pulls. */
function selectedAt({ facts }: Machine, path: string): ResolvedPart | null {
  const nodeOf = (owner: ResolvedPart) => {
    const bus = facts.groups.find(group => group.owner === owner && group.bus?.kind === 'spi')?.bus
    const select = facts.terminals.find(terminal => terminal.owner === owner && terminal.signal?.role === 'spi.select')
    return bus?.controller?.device?.replace('{select}', String(select ? facts.selectNumbers.get(select.key) ?? 0 : 0))
  }
  return facts.parts.find(owner => nodeOf(owner) === path) ?? null
}

/** Level of a line beside the bus; undefined where the part has none. */
function sideLevel(machine: Machine, { id }: ResolvedPart, signal: string): 0 | 1 | undefined {
  const place = machine.facts.byKey.get(`${id}.${signal}`)?.place
  return place?.kind === 'header' && place.line ? machine.level(place.line.line) : undefined
}
const isOutOfReset = (machine: Machine, owner: ResolvedPart) => sideLevel(machine, owner, 'reset') !== 0
