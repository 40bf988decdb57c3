/**
 * What one chooses a part by: how it connects, what it is fed with, what it takes of the board, what it costs. Read
 * from its file alone.
 */
import type { Part } from './types'

/** How a part meets the board, as it is said. */
export type Link = 'I²C' | 'SPI' | 'Serial' | '1-Wire' | 'PWM' | 'I²S' | 'Strip' | 'Lines' | 'USB' | 'Video'
  | 'Flat cable'
  | 'Fan socket' | 'Nothing'

export interface Traits {
  links: Link[]
  /** `3V3`, `5V`, `12 V` …; empty where it is not fed. */
  rails: string[]
  /** Header lines that no other part can use beside it: all but the wires of a bus that is shared. */
  ownLines: number
  typicalMa: number
  peakMa: number
  /** A figure is for each unit of a count option. */
  perUnit: boolean
  price: number | null
}

const LINKS: Readonly<Record<string, Link>> = {
  i2c: 'I²C', spi: 'SPI', serial: 'Serial', onewire: '1-Wire', pwm: 'PWM', i2s: 'I²S', strip: 'Strip', line: 'Lines',
}
const PLUGS: Readonly<Record<NonNullable<Part['plugs']>[number]['socket'], Link>> = {
  usb: 'USB', video: 'Video', fan: 'Fan socket', display: 'Flat cable',
}
/** Wires that every part on the bus shares. */
const SHARED = new Set(['i2c.sda', 'i2c.scl', 'spi.clock', 'spi.mosi', 'spi.miso', 'i2s.clock', 'i2s.frame'])

export function traitsOf(part: Part): Traits {
  const roles = part.signals.map(signal => signal.role)
  const links = [...new Set([...roles.map(role => LINKS[role.split('.')[0]!]!),
    ...(part.plugs ?? []).map(plug => PLUGS[plug.socket])])]
  const sum = (of: 'typicalMa' | 'peakMa') => part.supplies.reduce((all, supply) => all + supply[of], 0)
  return {
    links: links.length ? links : ['Nothing'],
    rails: [...new Set(part.supplies.map(supply => supply.rail))],
    ownLines: roles.filter(role => !SHARED.has(role)).length,
    typicalMa: sum('typicalMa'), peakMa: sum('peakMa'),
    perUnit: part.supplies.some(supply => supply.perOption !== undefined),
    price: part.price ?? null,
  }
}

export interface TraitRow {
  label: string
  /** One for each part, in the order given. */
  values: string[]
  differs: boolean
}

const ma = (value: number): string =>
  value >= 1000 ? `${(value / 1000).toFixed(2)} A` : `${Number(value.toPrecision(3))} mA`

/** Parts side by side: one row for each thing that one of them has something to say on. */
export function compareParts(parts: readonly Part[]): TraitRow[] {
  const rows: [string, (part: Part, traits: Traits) => string][] = [
    ['what it is', part => part.summary],
    ['connects by', (_, { links }) => links.join(', ')],
    ['fed with', (_, { rails }) => rails.join(', ')],
    ['typical', (_, { typicalMa, perUnit }) => typicalMa ? ma(typicalMa) + (perUnit ? ' each' : '') : ''],
    ['at peak', (_, { peakMa, perUnit }) => peakMa ? ma(peakMa) + (perUnit ? ' each' : '') : ''],
    ['lines of its own', (_, { ownLines }) => String(ownLines)],
    ['address', part => part.i2c?.address ?? optionValues(part, part.i2c?.addressOption)],
    ['fastest bus', (part) => {
      const hz = part.i2c?.maxClockHz ?? part.spi?.maxClockHz
      if (hz) return hz >= 1e6 ? `${hz / 1e6} MHz` : `${hz / 1000} kHz`
      return ''
    }],
    ['rate', part => part.serial ? `${part.serial.baud} baud, ${part.serial.frame}` : ''],
    ['puts out, high', (part) => {
      const volts = part.signals.flatMap(signal => signal.outputHighV?.value ?? [])
      return volts.length ? `${Math.max(...volts)} V` : ''
    }],
    ['offers', part => [...new Set((part.offers ?? []).map(offer => offer.kind))]
      .map(kind => `${(part.offers ?? []).filter(offer => offer.kind === kind).length} ${OFFERS[kind]}`).join(', ')],
    ['contacts', ({ contacts }) => contacts
      ? `${contacts.count}: ${contacts.maxAcA} A at ${contacts.maxAcV} V AC, ${contacts.maxDcA} A at `
      + `${contacts.maxDcV} V DC`
      : ''],
    ['picture', ({ display }) => display ? `${display.sizeInch}″, ${display.width} × ${display.height}` : ''],
    ['touch', ({ display }) => display ? display.touch : ''],
    ['boot file', part => part.boot?.length ? 'a line of its own' : ''],
    ['price, made up', (_, { price }) => price === null ? '' : String(price)],
    ['caution', part => (part.cautions ?? []).join(' ')],
  ]
  const traits = parts.map(traitsOf)
  return rows.map(([label, say]) => {
    const values = parts.map((part, i) => say(part, traits[i]!))
    return { label, values: values.map(value => value || '—'), differs: new Set(values).size > 1 }
  }).filter(row => row.values.some(value => value !== '—'))
}

const OFFERS = { line: 'lines', i2c: 'bus channels', analog: 'analog inputs' } as const

const optionValues = (part: Part, id: string | undefined): string =>
  part.options?.find(option => option.id === id)?.values?.map(entry => entry.value).join(', ') ?? ''
