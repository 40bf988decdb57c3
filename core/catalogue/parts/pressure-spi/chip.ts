/** What it answers over SPI: trimming words, and conversions of the air around it. */
import type { PartChip, SpiState } from '../../shapes/chip'

const CONVERTED = 'converted'
const threeBytes = (value: number) => [value >> 16 & 0xFF, value >> 8 & 0xFF, value & 0xFF]

function answer(sent: readonly number[], { of, kept }: SpiState): number[] | undefined {
  const [code = 0] = sent
  if (code >= 0xA0 && code <= 0xAE) {
    const trim = TRIMS[(code - 0xA0) / 2] ?? 0
    return [0, trim >> 8, trim & 0xFF]
  }
  const [pressure, temperature] = rawOf(of('temperature'), of('pressure'))
  if (code === 0x48) kept.set(CONVERTED, pressure)
  else if (code === 0x58) kept.set(CONVERTED, temperature)
  else if (code === 0 && sent.length === 4) return [0, ...threeBytes(kept.get(CONVERTED) ?? 0)]
  return undefined
}

/**
 * Published: data sheet MS5611-01BA03, figure 2, typical values of C1 to C6; the first and the last word
 * are the maker's.
 */
const TRIMS = [0, 40127, 36924, 23317, 23282, 33464, 28312, 0] as const

/**
 * Temperature in hundredths of °C and pressure in Pa that two raw figures come to. Published: the same, figures
 * 2 and 3.
 */
export function airOf(d1: number, d2: number): { centi: number, pascal: number } {
  const [, c1, c2, c3, c4, c5, c6] = TRIMS
  const step = d2 - c5 * 2 ** 8
  const first = 2000 + step * c6 / 2 ** 23
  const cold = Math.min(0, first - 2000)
  const offset = c2 * 2 ** 16 + c4 * step / 2 ** 7 - 5 * cold ** 2 / 2
  const sensitivity = c1 * 2 ** 15 + c3 * step / 2 ** 8 - 5 * cold ** 2 / 4
  return { centi: cold < 0 ? first - step ** 2 / 2 ** 31 : first,
    pascal: (d1 * sensitivity / 2 ** 21 - offset) / 2 ** 15 }
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

const chip: PartChip = { spi: answer }

export default chip
