/**
 * A part of the maker's own from a form: a few figures and a pin table. What a form does not ask stands in the file, to
 * be edited there.
 */
import type { Part, Rail } from './types'
import type { PinRow } from './pin-table'

export interface PartDraft {
  name: string
  summary: string
  group: Part['group']
  pins: readonly PinRow[]
  rail: Rail
  idleMa: number
  typicalMa: number
  peakMa: number
  /** What it puts on its outputs when high. */
  highV: number
  /** From where on it reads a high; null where nobody knows. */
  readsHighV: number | null
  /** I²C: its address, as `0x44`. */
  address: string
  spiHz: number
  baud: number
  /** Its size lying, and how high it stands; null where nobody measured. */
  widthMm: number | null
  depthMm: number | null
  aboveMm: number | null
}

/** A form before anything is typed. */
export const emptyDraft = (): PartDraft => ({
  name: '', summary: '', group: 'sensing', pins: [], rail: '3V3', idleMa: 0.1, typicalMa: 1, peakMa: 5, highV: 3.3,
  readsHighV: null,
  address: '0x40', spiHz: 1_000_000, baud: 9600, widthMm: null, depthMm: null, aboveMm: null,
})

const slug = (text: string): string =>
  text.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 40)

/** An id for a terminal that begins with a letter and is not taken yet. */
function idOf(label: string, taken: Set<string>): string {
  const base = slug(label).replace(/-/g, '').replace(/^(?=\d)/, 'p') || 'pin'
  let id = base
  for (let n = 2; taken.has(id); n++) id = `${base}${n}`
  taken.add(id)
  return id
}

/** A box of its size; nothing while one of the three is not known. */
const bodyOf = ({ widthMm, depthMm, aboveMm }: PartDraft) => widthMm !== null && depthMm !== null && aboveMm !== null
  ? { body: { widthMm, depthMm, aboveMm, origin: 'measured' } }
  : {}

/**
 * The part that a form describes; `taken` are the ids of all parts there are. Not checked: `readOwn` does that, as
 * for any file.
 */
export function partOfDraft(draft: PartDraft, taken: ReadonlySet<string>): Part {
  const base = `own-${slug(draft.name) || 'part'}`
  let id = base
  for (let n = 2; taken.has(id); n++) id = `${base}-${n}`
  const used = new Set<string>()
  const roles = new Set(draft.pins.map(pin => pin.role))
  const high = { value: draft.highV, origin: 'yours' }
  const signals = draft.pins.filter(pin => pin.role !== 'supply' && pin.role !== 'ground' && pin.role !== 'none')
    .map((pin) => {
      const isOpenDrain = pin.role === 'i2c.sda' || pin.role === 'i2c.scl' || pin.role === 'onewire'
      return {
        id: idOf(pin.label, used), label: pin.label, role: pin.role, direction: pin.direction,
        ...isOpenDrain && { drive: 'open-drain' },
        ...pin.direction !== 'in' || isOpenDrain ? { outputHighV: high } : {},
        ...pin.direction !== 'out' && draft.readsHighV !== null
        && { inputHighMinV: { value: draft.readsHighV, origin: 'yours' } },
      }
    })
  const supplies = draft.pins.filter(pin => pin.role === 'supply').map((pin, i) => ({
    id: idOf(pin.label, used), label: pin.label, rail: draft.rail, from: 'header' as const,
    idleMa: i ? 0 : draft.idleMa, typicalMa: i ? 0 : draft.typicalMa, peakMa: i ? 0 : draft.peakMa, origin: 'yours',
  }))
  const grounds = draft.pins.filter(pin => pin.role === 'ground')
    .map(pin => ({ id: idOf(pin.label, used), label: pin.label }))
  return {
    id, name: draft.name.trim(), summary: draft.summary.trim() || draft.name.trim(), group: draft.group,
    signals, supplies, grounds,
    ...roles.has('i2c.sda') && { i2c: { address: draft.address.toLowerCase(), maxClockHz: 400_000 } },
    ...roles.has('spi.clock') && { spi: { maxClockHz: draft.spiHz, mode: 0 } },
    ...(roles.has('serial.tx') || roles.has('serial.rx')) && { serial: { baud: draft.baud, frame: '8N1' } },
    ...bodyOf(draft), leadM: 0.2,
  } as Part
}
