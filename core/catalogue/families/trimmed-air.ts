/**
 * A pressure and humidity sensor from within: what it was trimmed to, and the raw figures that its formulas turn into
 * the air around it. Trimming values of temperature and pressure. Published: Bosch Sensortec, data sheet BMP280,
 * BST-BMP280-DS001, §3.12, worked example; of humidity: memory of a usual one.
 */
import type { Registers } from '../shapes/chip'

const T = [27504, 26435, -1000] as const
const P = [36477, -10685, 3024, 2855, 140, -7, 15500, -14600, 6000] as const
const H = [75, 362, 0, 315, 50, 30] as const

/** Temperature as the formulas carry it on, 5120 for each degree. */
const fineOf = (raw: number): number => {
  const step = raw / 131072 - T[0] / 8192
  return (raw / 16384 - T[0] / 1024) * T[1] + step * step * T[2]
}
export const celsiusOf = (raw: number): number => fineOf(raw) / 5120

/** Pressure in hPa. */
export function hectopascalOf(raw: number, rawTemperature: number): number {
  const [p1, p2, p3, p4, p5, p6, p7, p8, p9] = P
  const offset = fineOf(rawTemperature) / 2 - 64000
  const square = (offset * offset * p6 / 32768 + offset * p5 * 2) / 4 + p4 * 65536
  const sensitivity = (1 + (p3 * offset * offset / 524288 + p2 * offset) / 524288 / 32768) * p1
  const plain = (1048576 - raw - square / 4096) * 6250 / sensitivity
  return (plain + (p9 * plain * plain / 2147483648 + plain * p8 / 32768 + p7) / 16) / 100
}

/** Relative humidity in percent. */
export function humidityOf(raw: number, rawTemperature: number): number {
  const [h1, h2, h3, h4, h5, h6] = H
  const warm = fineOf(rawTemperature) - 76800
  const plain = (raw - (h4 * 64 + h5 / 16384 * warm)) * (h2 / 65536 * (1
    + h6 / 67108864 * warm * (1 + h3 / 67108864 * warm)))
  return plain * (1 - h1 * plain / 524288)
}

/** The raw figure of so many bits whose value comes next to the one wanted; the value rises or falls all along. */
function rawFor(wanted: number, bits: number, of: (raw: number) => number): number {
  let [low, high] = [0, 2 ** bits - 1]
  const rises = of(high) > of(low)
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((of(middle) < wanted) === rises) low = middle
    else high = middle
  }
  return Math.abs(of(low) - wanted) <= Math.abs(of(high) - wanted) ? low : high
}

const word = (value: number) => [value & 0xFF, value >> 8 & 0xFF]
const FIRST_TRIM = 0x88, DATA = 0xF7
const FIRST_BLOCK = [...T, ...P].flatMap(word)
const SECOND_BLOCK = [...word(H[1]), H[2], H[3] >> 4 & 0xFF, (H[3] & 15) | (H[4] & 15) << 4, H[4] >> 4 & 0xFF, H[5]]

/** What stands at a register. Before it was told to measure it has the figure of its reset: 0x80000. */
export function trimmedRegister(register: number, air: { celsius: number, hectopascal: number, humidity: number },
  isAwake: boolean,
  hasHumidity: boolean): number {
  const trim = FIRST_BLOCK[register - FIRST_TRIM]
  if (register >= FIRST_TRIM && trim !== undefined) return trim
  if (hasHumidity && register === 0xA1) return H[0]
  const second = SECOND_BLOCK[register - 0xE1]
  if (hasHumidity && register >= 0xE1 && second !== undefined) return second
  if (register < DATA || register > 0xFE) return 0
  const heat = rawFor(air.celsius, 20, celsiusOf)
  const three = (raw: number) => [raw >> 12 & 0xFF, raw >> 4 & 0xFF, (raw & 15) << 4]
  const moist = isAwake ? rawFor(air.humidity, 16, raw => humidityOf(raw, heat)) : 0x8000
  const bytes = [
    ...three(isAwake ? rawFor(air.hectopascal, 20, raw => hectopascalOf(raw, heat)) : 0x80000),
    ...three(isAwake ? heat : 0x80000),
    ...hasHumidity ? [moist >> 8, moist & 0xFF] : [],
  ]
  return bytes[register - DATA] ?? 0
}

/** Registers of such a chip that names itself by `identity` at 0xD0; it measures once a program has told it to. */
export const trimmedAir = (identity: number, hasHumidity: boolean): Registers => ({
  width: 1,
  at: (register, { of, written }) => register === 0xD0
    ? identity
    : trimmedRegister(
        register, { celsius: of('temperature'), hectopascal: of('pressure'), humidity: of('humidity') },
        ((written(0xF4) ?? 0) & 3) !== 0, hasHumidity,
      ),
})
