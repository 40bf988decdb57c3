/**
 * Parts on SPI that programs speak to: what comes back while bytes go out. By the part's name in the catalogue; all others answer nothing.
 * From memory of the chips' data sheets but where a source is named.
 */
import type { ResolvedPart } from '../../facts/types'
import type { Machine } from './machine'

/** One message with its select low throughout: as many bytes back as go out. A bus where nobody answers reads 0. */
export function exchangeOver(machine: Machine, path: string, sent: readonly number[]): number[] {
  const silent = sent.map(() => 0)
  const owner = selectedAt(machine, path)
  if (!owner) return silent
  machine.pass(sent.length * 8e-6)
  const { world } = machine
  if (!world.isFed(owner) || world.isDead(owner.id) || !world.isWired(owner) || !isOutOfReset(machine, owner)) return silent
  // Nine bits of each byte: the level of its line for data before the byte itself, where it has one.
  const data = sideLevel(machine, owner, 'dc')
  machine.bytes.set(owner.id, [...machine.bytes.get(owner.id) ?? [], ...sent.map(byte => byte | (data ?? 0) << 8)])
  return CHIPS[owner.part.id]?.(sent, machine, owner) ?? silent
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

type Chip = (sent: readonly number[], machine: Machine, owner: ResolvedPart) => number[] | undefined
const version = (asked: number, value: number): Chip => ([first], _, __) => first === asked ? [0, value] : undefined

const CHIPS: Readonly<Record<string, Chip>> = {
  'card-reader-spi': version(0xEE, 0x92),
  'radio-spi': version(0x42, 0x12),
  'pressure-spi': (sent, machine, owner) => {
    const [code = 0] = sent
    const key = `${owner.id} figure`
    const three = (value: number) => [value >> 16 & 0xFF, value >> 8 & 0xFF, value & 0xFF]
    if (code >= 0xA0 && code <= 0xAE) {
      const trim = TRIMS[(code - 0xA0) / 2] ?? 0
      return [0, trim >> 8, trim & 0xFF]
    }
    const [pressure, temperature] = rawOf(machine.quantity(owner, 'temperature'), machine.quantity(owner, 'pressure'))
    if (code === 0x48) machine.written.set(key, pressure)
    else if (code === 0x58) machine.written.set(key, temperature)
    else if (code === 0 && sent.length === 4) return [0, ...three(machine.written.get(key) ?? 0)]
    return undefined
  },
}

/** Published: data sheet MS5611-01BA03, figure 2, typical values of C1 to C6; the first and the last word are the maker's. */
const TRIMS = [0, 40127, 36924, 23317, 23282, 33464, 28312, 0] as const

/** Temperature in hundredths of °C and pressure in Pa that two raw figures come to. Published: the same, figures 2 and 3. */
export function airOf(d1: number, d2: number): { centi: number, pascal: number } {
  const [, c1, c2, c3, c4, c5, c6] = TRIMS
  const step = d2 - c5 * 2 ** 8
  const first = 2000 + step * c6 / 2 ** 23
  const cold = Math.min(0, first - 2000)
  const offset = c2 * 2 ** 16 + c4 * step / 2 ** 7 - 5 * cold ** 2 / 2
  const sensitivity = c1 * 2 ** 15 + c3 * step / 2 ** 8 - 5 * cold ** 2 / 4
  return { centi: cold < 0 ? first - step ** 2 / 2 ** 31 : first, pascal: (d1 * sensitivity / 2 ** 21 - offset) / 2 ** 15 }
}

/** Raw figures that come next to the air around it. */
function rawOf(celsius: number, hectopascal: number): [d1: number, d2: number] {
  const d2 = lowest(value => airOf(0, value).centi >= celsius * 100)
  return [lowest(value => airOf(value, d2).pascal >= hectopascal * 100), d2]
}

/** The least figure of 24 bits at which a thing is true that stays so. */
function lowest(isTrue: (value: number) => boolean): number {
  let [low, high] = [0, 2 ** 24 - 1]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (isTrue(middle)) high = middle
    else low = middle + 1
  }
  return low
}
