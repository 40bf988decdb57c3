/**
 * i2cdetect, i2cget, i2cset and i2cdump, as i2c-tools print them. Published: i2c-tools 4.3, held against
 * Debian's own programs.
 */
import { busOf, valueAt, writeTo, type Chip } from '../buses'
import { registersOf } from '../../catalogue/chips'
import { optionsOf, type Command, type Given, type Printed } from './types'

const hex = (value: number, digits: number) => value.toString(16).padStart(digits, '0')
const FIRST = 0x08, LAST = 0x77

const noBus = (number: string): Printed => ({
  err: `Error: Could not open file \`/dev/i2c-${number}' or \`/dev/i2c/${number}': No such file or directory\n`,
  status: 1,
})

/** The grid of a scan. @param cell What stands at an address; null where it was not asked. */
export function gridText(cell: (address: number) => string | null): string {
  const rows = ['     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f']
  for (let row = 0; row < 128; row += 16) {
    let text = `${hex(row, 2)}: `
    for (let at = row; at < row + 16; at++) text += `${cell(at) ?? '  '} `
    rows.push(text)
  }
  return `${rows.join('\n')}\n`
}

export const i2cdetect: Command = (given) => {
  const { machine, args } = given
  const { flags, rest } = optionsOf(args)
  if (flags.has('V')) return { err: 'i2cdetect version 4.3\n' }
  if (flags.has('l')) {
    const found = machine.devices.flatMap(({ path }) => /^\/dev\/i2c-(\d+)$/.exec(path)?.[1] ?? [])
      .sort((a, b) => Number(a) - Number(b))
    return { out: found.map(number => `i2c-${number}\ti2c       \t${'i2c bus'.padEnd(32)}\tI2C adapter\n`).join('') }
  }
  const [number, first, last] = rest
  if (number === undefined) return { err: 'Error: No i2c-bus specified!\n', status: 1 }
  if (!/^\d+$/.test(number)) return { err: `Error: I2C bus name doesn't match any bus present!\n`, status: 1 }
  const bounds = [first, last].map(text => text === undefined ? undefined : Number(text))
  if (bounds.some(bound => bound !== undefined && (!Number.isInteger(bound) || bound < 0 || bound > 0x7F))) {
    return { err: 'Error: FIRST argument not a number!\n', status: 1 }
  }
  const found = busOf(given.machine, number)
  if (!found) return noBus(number)
  const all = flags.has('a')
  const [from, to] = [bounds[0] ?? (all ? 0 : FIRST), bounds[1] ?? (all ? 0x7F : LAST)]
  machine.pass(0.1)
  const range = `0x${hex(from, 2)}-0x${hex(to, 2)}`
  const warning = flags.has('y')
    ? {}
    : { err: 'WARNING! This program can confuse your I2C bus, cause data loss and worse!\n'
      + `I will probe file /dev/i2c-${number}.\nI will probe address range ${range}.\nContinue? [Y/n] Y\n` }
  return { ...warning, out: gridText((address) => {
    if (address < from || address > to) return null
    const chip = found.chips.get(address)
    if (chip?.isHeld) return 'UU'
    return chip || found.isStuck ? hex(address, 2) : '--'
  }) }
}

/** Number, address and register of a command; or what it says when they are none. */
function placeOf(given: Given, rest: readonly string[]): { chip: Chip, address: number, number: string } | Printed {
  const [number = '', addressText = ''] = rest
  const address = Number(addressText)
  if (rest.length < 2) return { err: 'Usage: i2cget [-f] [-y] [-a] I2CBUS CHIP-ADDRESS [DATA-ADDRESS [MODE [LENGTH]]]\n', status: 1 }
  const force = given.args.some(arg => /^-[a-z]*f/.test(arg))
  if (!Number.isInteger(address)) return { err: 'Error: Chip address is not a number!\n', status: 1 }
  if (address < FIRST || address > LAST) return { err: 'Error: Chip address out of range (0x08-0x77)!\n', status: 1 }
  const found = busOf(given.machine, number)
  if (!found) return noBus(number)
  const chip = found.chips.get(address)
  if (chip?.isHeld && !force) return { err: `Error: Could not set address to 0x${hex(address, 2)}: Device or resource busy\n`, status: 1 }
  return chip ? { chip, address, number } : { err: 'Error: Read failed\n', status: 2 }
}

/** Told where a real part would have something else. */
export const NOT_KNOWN = '(what is in its registers is not known here: what nobody wrote reads 0)\n'
const remark = ({ machine }: Given, { owner }: Chip, register?: number): string =>
  registersOf(owner.part.id) || (register !== undefined && machine.written.has(`${owner.id} ${register}`))
    ? ''
    : NOT_KNOWN

export const i2cget: Command = (given) => {
  const { rest } = optionsOf(given.args)
  const place = placeOf(given, rest)
  if (!('chip' in place)) return place
  const register = rest[2] === undefined ? 0 : Number(rest[2])
  if (!Number.isInteger(register) || register < 0
    || register > 0xFF) return { err: 'Error: Data address invalid!\n', status: 1 }
  const mode = rest[3] ?? 'b'
  if (!/^[bcw]p?$/.test(mode)) return { err: 'Error: Invalid mode!\n', status: 1 }
  const { value, width } = valueAt(given.machine, place.chip.owner, register)
  given.machine.pass(0.02)
  const err = remark(given, place.chip, register)
  if (!mode.startsWith('w')) return { out: `0x${hex(width === 2 ? value >> 8 & 0xFF : value, 2)}\n`, err }
  // Two bytes, the first of them taken as the lower one: SMBus, §6.5.5.
  const next = width === 2 ? value & 0xFF : valueAt(given.machine, place.chip.owner, (register + 1) & 0xFF).value
  return { out: `0x${hex((width === 2 ? value >> 8 & 0xFF : value) | next << 8, 4)}\n`, err }
}

export const i2cset: Command = (given) => {
  const { rest } = optionsOf(given.args)
  const place = placeOf(given, rest)
  if (!('chip' in place)) return place.status === 2 ? { err: 'Error: Write failed\n', status: 1 } : place
  const [register, value] = [Number(rest[2]), Number(rest[3] ?? rest[2])]
  if (!Number.isInteger(register) || register < 0
    || register > 0xFF) return { err: 'Error: Data address invalid!\n', status: 1 }
  if (!Number.isInteger(value) || value < 0 || value > 0xFFFF) return { err: 'Error: Data value invalid!\n', status: 1 }
  const { machine } = given
  const isWord = rest[4] === 'w' && registersOf(place.chip.owner.part.id)?.width === 2
  // A word goes out with its lower byte first: SMBus, §6.5.4.
  writeTo(machine, place.chip.owner, register, isWord ? (value & 0xFF) << 8 | value >> 8 : value)
  given.machine.pass(0.02)
  return {}
}

export const i2cdump: Command = (given) => {
  const { rest } = optionsOf(given.args)
  const place = placeOf(given, rest)
  const said = rest[2] === undefined ? 'No size specified (using byte-data access)\n' : ''
  if (rest[2] !== undefined
    && rest[2] !== 'b') return { err: 'Error: Only mode b is simulated: i2cdump -y BUS ADDRESS b\n', status: 1 }
  const isAbsent = !('chip' in place)
  if (isAbsent && place.status !== 2) return { ...place,
    err: place.err?.includes('busy') ? said + place.err : place.err }
  const rows = ['     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f    0123456789abcdef']
  for (let row = 0; row < 256; row += 16) {
    const values = Array.from({ length: 16 },
      (_, i) => isAbsent ? null : valueAt(given.machine, place.chip.owner, row + i))
      .map(found => found && (found.width === 2 ? found.value >> 8 & 0xFF : found.value))
    const signs = values.map((value) => {
      if (value === null) return 'X'
      if (value === 0 || value === 0xFF) return '.'
      return value < 32 || value >= 127 ? '?' : String.fromCharCode(value)
    })
    rows.push(`${hex(row, 2)}: `
      + `${values.map(value => value === null ? 'XX' : hex(value, 2)).join(' ')}    `
      + `${signs.join('')}`)
  }
  given.machine.pass(0.3)
  return { out: `${rows.join('\n')}\n`, err: said + (isAbsent ? '' : remark(given, place.chip)) }
}
