/** A pin table as it is pasted from a data sheet, a page or a spreadsheet, read into a part's terminals. */
import Papa from 'papaparse'
import type { Part } from './types'

export type PinRole = Part['signals'][number]['role'] | 'supply' | 'ground' | 'none'

export const PIN_ROLES: Readonly<Record<PinRole, string>> = {
  'supply': 'supply', 'ground': 'ground', 'none': 'not connected',
  'line': 'a plain line', 'onewire': '1-Wire', 'pwm': 'PWM', 'strip': 'data of a light strip',
  'i2c.sda': 'I²C SDA', 'i2c.scl': 'I²C SCL',
  'spi.clock': 'SPI clock', 'spi.mosi': 'SPI data in of the part', 'spi.miso': 'SPI data out of the part',
  'spi.select': 'SPI select',
  'serial.tx': 'serial, the part sends', 'serial.rx': 'serial, the part receives', 'serial.rts': 'serial RTS',
  'serial.cts': 'serial CTS',
  'i2s.clock': 'I²S bit clock', 'i2s.frame': 'I²S frame', 'i2s.dataIn': 'I²S data into the part',
  'i2s.dataOut': 'I²S data out of the part',
}

export interface PinRow {
  label: string
  /** What else the row says. */
  note: string
  role: PinRole
  /** Seen from the part; of a plain line alone it is a question. */
  direction: 'in' | 'out' | 'both'
  /** The role is a guess that the label alone does not carry. */
  unsure: boolean
}

/** By what a label says, the more special first. Abbreviations as they stand on boards: common practice. */
const BY_LABEL: readonly (readonly [pattern: RegExp, role: PinRole, direction: PinRow['direction']])[] = [
  [/^(nc|n\/c|dnc|-|not connected|do not connect)$/, 'none', 'in'],
  [/^(gnd|vss|ground|agnd|dgnd|pgnd|0 ?v|minus|[-−])$/, 'ground', 'in'],
  [/^(v(cc|dd|in|io|bus|m|s)\d?|a?vdd|dvdd|3[v.]3v?|3v|5v|\+ ?5 ?v?|\+ ?3[.,]?3 ?v?|power|supply|pwr|plus|\+)$/,
    'supply', 'in'],
  [/^(sda|i2c.?sda|sda\/sdi|sda\/mosi)$/, 'i2c.sda', 'both'], [/^(scl|i2c.?scl|scl\/sck|scl\/sclk)$/, 'i2c.scl', 'in'],
  [/^(bclk|bck|i2s.?sck|i2s.?clk)$/, 'i2s.clock', 'in'], [/^(lrck?|lrclk|ws|wsel|fs)$/, 'i2s.frame', 'in'],
  [/^(sck|sclk|spi.?clk|spi.?sck|clk|clock)$/, 'spi.clock', 'in'], [/^(mosi|sdi|copi|si)$/, 'spi.mosi', 'in'],
  [/^(miso|sdo|cipo|so)$/, 'spi.miso', 'out'],
  [/^(cs|ss|ncs|csn|csb|cs0|ce|nss|cs\/ss|select|load)$/, 'spi.select', 'in'],
  [/^(tx|txd|txo|tx0|uart.?tx|out.?tx)$/, 'serial.tx', 'out'], [/^(rx|rxd|rxi|rx0|uart.?rx)$/, 'serial.rx', 'in'],
  [/^rts$/, 'serial.rts', 'out'], [/^cts$/, 'serial.cts', 'in'], [/^(dq|1-?wire|onewire|owb)$/, 'onewire', 'both'],
  [/^(pwm|pwm\w|servo|speed)$/, 'pwm', 'in'],
  [/^(int\d?|irq|drdy|rdy|alert|alrt|busy|out|do|dout|sqw|pps|1pps|flag|fault|echo)$/, 'line', 'out'],
  [/^(rst|reset|nrst|en|enable|dc|d\/c|a0|rs|wake|shdn|sd|standby|stby|trig|trigger|step|dir|bl|led|in\d?|addr?|ad0)$/,
    'line', 'in'],
]

const HEADINGS: Readonly<Record<string, 'label' | 'role' | 'note'>> = {
  'pin': 'label', 'name': 'label', 'label': 'label', 'signal': 'label', 'symbol': 'label', 'pin name': 'label',
  'terminal': 'label',
  'function': 'role', 'role': 'role', 'type': 'role',
  'description': 'note', 'note': 'note', 'notes': 'note', 'remarks': 'note', 'comment': 'note',
}

const bare = (text: string) => text.trim().replace(/^[*_`|\s]+|[*_`|\s]+$/g, '')
const asKey = (text: string) => bare(text).toLowerCase().replace(/[#¯]|\s*\(.*\)$/g, '').trim()

/** Cells of each line: tabs, bars, semicolons, commas, or two blanks in a row. */
function cellsOf(text: string): string[][] {
  const lines = text.split(/\r?\n/).filter(line => line.trim() !== '' && !/^[\s|:+=-]+$/.test(line))
  if (lines.some(line => line.includes('|'))) {
    return lines.map(line => line.replace(/^\s*\|/, '').replace(/\|\s*$/, '').split('|').map(bare))
  }
  if (lines.some(line => /[\t;,]/.test(line))) {
    const { data } = Papa.parse<string[]>(lines.join('\n'), { delimitersToGuess: ['\t', ';', ','] })
    return data.map(row => row.map(bare))
  }
  return lines.map(line => line.trim().split(/\s{2,}|\s+[-–:]\s+|(?<=^\d+)\s+/).map(bare))
}

/** Role by label, or by what the row says of its function. */
function roleOf(label: string, said: string): Pick<PinRow, 'role' | 'direction' | 'unsure'> {
  const key = asKey(label)
  const found = BY_LABEL.find(([pattern]) => pattern.test(key))
  if (found) return { role: found[1], direction: found[2], unsure: false }
  // Two names for one pin, as on parts that speak two buses: I²C is what is mostly wired.
  const halves = key.split(/[/,]|\bor\b/).map(half =>
    BY_LABEL.find(([pattern]) => pattern.test(half.trim()))).filter(half => half !== undefined)
  const half = halves.find(([, role]) => role.startsWith('i2c')) ?? halves[0]
  if (half) return { role: half[1], direction: half[2], unsure: halves.length > 1 }
  const words = said.toLowerCase()
  const byWords = BY_LABEL.find(([pattern]) => words.split(/[^a-z0-9+/-]+/).some(word => pattern.test(word)))
  if (byWords) return { role: byWords[1], direction: byWords[2], unsure: true }
  return { role: 'line', direction: /\bout(put)?\b/.test(words) ? 'out' : 'in', unsure: true }
}

/**
 * Rows of a pasted table: one pin each. A line of headings is recognised and tells the columns; without one, a
 * column of numbers is left out, the first other is the label, the rest is what is said of it. Empty for a text
 * without any pin.
 */
export function readPinTable(text: string): PinRow[] {
  const rows = cellsOf(text).filter(row => row.some(cell => cell !== ''))
  const headings = rows[0]?.map(cell => HEADINGS[asKey(cell)])
  const hasHeadings = !!headings
    && headings.filter(heading => heading !== undefined).length >= Math.min(2, rows[0]!.length)
  const body = hasHeadings ? rows.slice(1) : rows
  return body.flatMap((row): PinRow[] => {
    const named = (what: 'label' | 'role' | 'note') => hasHeadings
      ? row.filter((cell, i) => headings[i] === what && !(what === 'label' && /^\d+$/.test(cell) && row.length > 1))
      : []
    const cells = row.filter((cell, i) => cell !== '' && !(i === 0 && /^\d+$/.test(cell) && row.length > 1))
    const label = named('label')[0] ?? cells[0] ?? ''
    if (label === '') return []
    const rest = hasHeadings ? [...named('role'), ...named('note')] : cells.filter(cell => cell !== label)
    const note = rest.filter(cell => cell !== '').join('; ')
    return [{ label, note, ...roleOf(label, note) }]
  })
}
