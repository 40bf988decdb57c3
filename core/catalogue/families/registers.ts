/** What the register files of several chips have in common. */
import type { Registers } from '../shapes/chip'

/** Two decimal digits in a byte. */
export const bcd = (value: number): number => (Math.floor(value / 10) << 4) | value % 10

/** A value of 16 bits at two registers of a byte, the higher byte first. */
export const bigByte = (register: number, first: number,
  value: number): number => register === first ? value >> 8 & 0xFF : value & 0xFF
/** A value of 16 bits at two registers of a byte, the lower byte first. */
export const littleByte = (register: number, first: number,
  value: number): number => value >> 8 * (register - first) & 0xFF

/** Fixed bytes at some registers, 0 elsewhere. */
export const fixedRegisters = (bytes: Readonly<Record<number, number>>): Registers => ({ width: 1,
  at: register => bytes[register] ?? 0 })

/**
 * The sum behind each word. Published: Sensirion, data sheet SCD4x, §3.11: x⁸ + x⁵ + x⁴ + 1, from 0xFF, most bit first.
 */
export function wordSum(bytes: readonly number[]): number {
  let sum = 0xFF
  for (const byte of bytes) {
    sum ^= byte
    for (let bit = 0; bit < 8; bit++) sum = (sum & 0x80 ? sum << 1 ^ 0x31 : sum << 1) & 0xFF
  }
  return sum
}

/** Words of 16 bits, each followed by its sum. */
export const withSums = (words: readonly number[]): number[] => words.flatMap((value) => {
  const pair = [value >> 8 & 0xFF, value & 0xFF]
  return [...pair, wordSum(pair)]
})
