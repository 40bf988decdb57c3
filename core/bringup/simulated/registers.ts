/**
 * What a part has in its registers, so that a raw read shows what a real one would: who it is, its clock, its readings. By the part's
 * name in the catalogue; of the others nothing is known here and every register reads 0. From memory of the chips' data sheets; the clock's
 * registers are those of Linux 6.1, drivers/rtc/rtc-ds1307.c.
 */
import type { Quantity } from '../../catalogue/types'
import { trimmedRegister } from './trimmed'

export interface Reading {
  /** The quantity at the part. */
  of: (what: Quantity) => number
  /** Wall clock of the board. */
  now: Date
  /** What a program wrote there, if any did. */
  written: (register: number) => number | undefined
}

/** Width of one register, and its value. */
export interface Registers {
  width: 1 | 2
  at: (register: number, reading: Reading) => number
  /** Of a part that takes commands of two bytes and has no registers: what it answers to one. */
  answers?: (command: number, reading: Reading) => number[]
}

const bcd = (value: number) => (Math.floor(value / 10) << 4) | value % 10
const clockRegister = (register: number, now: Date): number | undefined => [
  bcd(now.getUTCSeconds()), bcd(now.getUTCMinutes()), bcd(now.getUTCHours()), now.getUTCDay() + 1, bcd(now.getUTCDate()),
  bcd(now.getUTCMonth() + 1), bcd(now.getUTCFullYear() % 100),
][register]
const word = (value: number, register: number, first: number): number => register === first ? value >> 8 & 0xFF : value & 0xFF

/** Full scale by the range that was chosen. memory */
const RANGES_V = [6.144, 4.096, 2.048, 1.024, 0.512, 0.256, 0.256, 0.256] as const

/** A byte at one register, 0 elsewhere. */
const identity = (register: number, value: number): Registers => ({ width: 1, at: at => at === register ? value : 0 })

/** The sum behind each word. Published: Sensirion, data sheet SCD4x, §3.11: x⁸ + x⁵ + x⁴ + 1, from 0xFF, most bit first. */
export function wordSum(bytes: readonly number[]): number {
  let sum = 0xFF
  for (const byte of bytes) {
    sum ^= byte
    for (let bit = 0; bit < 8; bit++) sum = (sum & 0x80 ? sum << 1 ^ 0x31 : sum << 1) & 0xFF
  }
  return sum
}
const withSums = (words: readonly number[]) => words.flatMap((value) => {
  const pair = [value >> 8 & 0xFF, value & 0xFF]
  return [...pair, wordSum(pair)]
})
/** A value of 16 bits at two registers, the lower one first. */
const little = (register: number, first: number, value: number) => value >> 8 * (register - first) & 0xFF
const air = (of: Reading['of']) => ({ celsius: of('temperature'), hectopascal: of('pressure'), humidity: of('humidity') })
const isMeasuring = (written: Reading['written']) => ((written(0xF4) ?? 0) & 3) !== 0

const REGISTERS: Readonly<Record<string, Registers>> = {
  // At rest on a table: one g upwards; its address counts on from bit 7.
  'acceleration-i2c': { width: 1, at: (register, { written }) => (register & 0x7F) === 0x0F
    ? 0x33
    : (register & 0x7F) >= 0x2C && (register & 0x7F) <= 0x2D && written(0x20) ? little(register & 0x7F, 0x2C, 16000) : 0 },
  'analog-4-i2c': { width: 2, at: (register, { of, written }) => register === 0
    ? Math.max(0, Math.min(0x7FFF, Math.round(of('voltage') / RANGES_V[(written(1) ?? 0x8583) >> 9 & 7]! * 0x8000)))
    : register === 1 ? 0x8583 : register === 2 ? 0x8000 : register === 3 ? 0x7FFF : 0 },
  'carbon-dioxide-i2c': { width: 1, at: () => 0, answers: (command, { of }) => command === 0xEC05
    ? withSums([of('carbon-dioxide'), (of('temperature') + 45) / 175 * 65535, of('humidity') / 100 * 65535].map(Math.round))
    : [] },
  'clock-cell-i2c': { width: 1, at: (register, { of, now }) => {
    const celsius = Math.round(of('temperature') * 4)
    return clockRegister(register, now) ?? (register === 0x11
      ? celsius >> 2 & 0xFF
      : register === 0x12
        ? (celsius & 3) << 6
        : register === 0x0E ? 0x1C : 0)
  } },
  'clock-add-on': { width: 1, at: (register, { now }) => clockRegister(register, now) ?? (register === 0x0E ? 0x1C : 0) },
  'clock-plain-i2c': { width: 1, at: (register, { now }) => clockRegister(register, now) ?? (register === 7 ? 0x03 : 0) },
  'colour-i2c': identity(0x92, 0x44),
  'current-meter-i2c': { width: 2, at: (register, { of }) => register === 0
    ? 0x399F
    : register === 2
      ? Math.round(of('voltage') / 0.004) << 3
      : 0 },
  'distance-light-i2c': identity(0xC0, 0xEE),
  'expander-16-i2c': { width: 1, at: register => register < 2 ? 0xFF : 0 },
  'expander-8-i2c': { width: 1, at: () => 0xFF },
  'gesture-i2c': identity(0x92, 0xAB),
  // Its first channel sees all light, its second none: there is no infrared in this room.
  'light-i2c': { width: 1, at: (register, { of, written }) => register === 0x8A
    ? 0x50
    : register >= 0xAC && register <= 0xAD && (written(0x80) ?? 0) & 3
      ? little(register, 0xAC, Math.min(0xFFFF, Math.round(of('light') / (0.0304 * 16))))
      : 0 },
  'magnetic-i2c': { width: 1, at: register => ({ 0x0A: 0x48, 0x0B: 0x34, 0x0C: 0x33 })[register] ?? 0 },
  'memory-i2c': { width: 1, at: () => 0xFF },
  'motion-i2c': { width: 1, at: (register, { of, written }) => {
    const raw = Math.round((of('temperature') - 36.53) * 340) & 0xFFFF
    if (register === 0x75) return 0x68
    // Asleep until it is told.
    if (written(0x6B) !== 0 && register < 0x6B) return 0
    // At rest on a table: one g upwards.
    if (register === 0x3F || register === 0x40) return word(16384, register, 0x3F)
    return register === 0x41 || register === 0x42 ? word(raw, register, 0x41) : register === 0x6B ? 0x40 : 0
  } },
  'orientation-i2c': identity(0x00, 0xA0),
  'power-add-on-battery': { width: 2, at: register => register === 2 ? Math.round(3.9 / 0.000078125) : register === 4 ? 80 << 8 : 0 },
  'pressure-humidity-i2c': { width: 1, at: (register, { of, written }) => register === 0xD0
    ? 0x60
    : trimmedRegister(register, air(of), isMeasuring(written), true) },
  'sensor-add-on-10': { width: 1, at: (register, { of, written }) => register === 0xD0
    ? 0x58
    : trimmedRegister(register, air(of), isMeasuring(written), false) },
  'servo-16-i2c': { width: 1, at: register => ({ 0: 0x11, 1: 0x04, 0xFE: 0x1E })[register] ?? 0 },
  // Words of the bus's own protocol: the lower byte first. Published: SMBus 3.1, §6.5.5.
  'thermometer-distance-i2c': { width: 2, at: (register, { of }) => {
    const raw = Math.round((of('temperature') + 273.15) / 0.02)
    return register === 6 || register === 7 ? raw >> 8 | (raw & 0xFF) << 8 : 0
  } },
  'touch-12-i2c': identity(0x5C, 0x24),
}

export const registersOf = (type: string): Registers | null => REGISTERS[type] ?? null
