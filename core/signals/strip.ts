/** Addressable light strips: time, current, and who can make their signal. */

export interface StripTask {
  pixels: number
  bitsPerPixel: number
  bitUs: number
  pauseUs: number
}

/**
 * One picture: pixels × bits × bit time, then the pause that shows it. Memory: 24 bits × 1.25 µs, pause 50 to 280 µs.
 */
export function frameTimeS({ pixels, bitsPerPixel, bitUs, pauseUs }: StripTask): number {
  return (pixels * bitsPerPixel * bitUs + pauseUs) * 1e-6
}

/**
 * SPI clock at which three SPI bits make one strip bit: 3 ÷ bit time; the made one may be off by a
 * fifth. Common practice.
 */
export const SPI_BITS_PER_BIT = 3
export const MAX_BIT_ERROR = 0.2

export function spiClockForStrip(bitUs: number): number {
  return SPI_BITS_PER_BIT / (bitUs * 1e-6)
}
