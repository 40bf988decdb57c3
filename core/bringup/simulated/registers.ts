/**
 * What a part has in its registers, so that a raw read shows what a real one would: who it is, its clock, its readings. By the part's
 * name in the catalogue; of the others nothing is known here and every register reads 0. From memory of the chips' data sheets; the clock's
 * registers are those of Linux 6.1, drivers/rtc/rtc-ds1307.c.
 */
import type { Quantity } from '../../catalogue/types'

export interface Reading {
  /** The quantity at the part. */
  of: (what: Quantity) => number
  /** Wall clock of the board. */
  now: Date
}

/** Width of one register, and its value. */
export interface Registers {
  width: 1 | 2
  at: (register: number, reading: Reading) => number
}

const bcd = (value: number) => (Math.floor(value / 10) << 4) | value % 10
const clockRegister = (register: number, now: Date): number | undefined => [
  bcd(now.getUTCSeconds()), bcd(now.getUTCMinutes()), bcd(now.getUTCHours()), now.getUTCDay() + 1, bcd(now.getUTCDate()),
  bcd(now.getUTCMonth() + 1), bcd(now.getUTCFullYear() % 100),
][register]
const word = (value: number, register: number, first: number): number => register === first ? value >> 8 & 0xFF : value & 0xFF

/** A byte at one register, 0 elsewhere. */
const identity = (register: number, value: number): Registers => ({ width: 1, at: at => at === register ? value : 0 })

const REGISTERS: Readonly<Record<string, Registers>> = {
  'acceleration-i2c': identity(0x0F, 0x33),
  'analog-4-i2c': { width: 2, at: (register, { of }) => register === 0
    // 4.096 V are 32767 steps at its usual range of 2.048 V: twice as many.
    ? Math.max(0, Math.min(0x7FFF, Math.round(of('voltage') / 2.048 * 0x8000)))
    : register === 1 ? 0x8583 : register === 2 ? 0x8000 : register === 3 ? 0x7FFF : 0 },
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
  'light-i2c': identity(0x8A, 0x50),
  'magnetic-i2c': { width: 1, at: register => ({ 0x0A: 0x48, 0x0B: 0x34, 0x0C: 0x33 })[register] ?? 0 },
  'memory-i2c': { width: 1, at: () => 0xFF },
  'motion-i2c': { width: 1, at: (register, { of }) => {
    const raw = Math.round((of('temperature') - 36.53) * 340) & 0xFFFF
    if (register === 0x75) return 0x68
    // At rest on a table: one g upwards.
    if (register === 0x3F || register === 0x40) return word(16384, register, 0x3F)
    return register === 0x41 || register === 0x42 ? word(raw, register, 0x41) : register === 0x6B ? 0x40 : 0
  } },
  'orientation-i2c': identity(0x00, 0xA0),
  'pressure-humidity-i2c': identity(0xD0, 0x60),
  'sensor-add-on-10': identity(0xD0, 0x58),
  'servo-16-i2c': { width: 1, at: register => ({ 0: 0x11, 1: 0x04, 0xFE: 0x1E })[register] ?? 0 },
  'thermometer-distance-i2c': { width: 2, at: (register, { of }) => register === 6 || register === 7
    ? Math.round((of('temperature') + 273.15) / 0.02)
    : 0 },
  'touch-12-i2c': identity(0x5C, 0x24),
}

export const registersOf = (type: string): Registers | null => REGISTERS[type] ?? null
