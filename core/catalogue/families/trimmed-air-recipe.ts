/** Air pressure chips with trimming values, and the one of them with humidity: how they are read. */
import { celsius, value, type Recipe } from '../shapes/program'

/**
 * Published: Bosch Sensortec, data sheet BMP280, BST-BMP280-DS001, §8.1, compensation in floating point; the humidity
 * formula is that of the sensor with humidity, appendix A of its sheet (memory).
 */
export const PRESSURE_STEPS: NonNullable<Recipe['steps']> = [
  ['adc_p', '(d[0] << 12 | d[1] << 4 | d[2] >> 4)'],
  ['adc_t', '(d[3] << 12 | d[4] << 4 | d[5] >> 4)'],
  ['t1', '(adc_t / 16384.0 - u16le(k, 0) / 1024.0) * s16le(k, 2)'],
  ['t2', '(adc_t / 131072.0 - u16le(k, 0) / 8192.0)'],
  ['fine', 't1 + t2 * t2 * s16le(k, 4)'],
  ['p1', 'fine / 2.0 - 64000.0'],
  ['p2', 'p1 * p1 * s16le(k, 16) / 32768.0 + p1 * s16le(k, 14) * 2.0'],
  ['p3', 'p2 / 4.0 + s16le(k, 12) * 65536.0'],
  ['p4', '(1.0 + (s16le(k, 10) * p1 * p1 / 524288.0 + s16le(k, 8) * p1) / 524288.0 / 32768.0) * u16le(k, 6)'],
  ['p5', '(1048576.0 - adc_p - p3 / 4096.0) * 6250.0 / p4'],
  ['pascal', 'p5 + (s16le(k, 22) * p5 * p5 / 2147483648.0 + p5 * s16le(k, 20) / 32768.0 + s16le(k, 18)) / 16.0'],
]
export const PRESSURE_VALUES = [celsius('fine / 5120.0'), value('pressure', 'pressure', 'hPa', 1, 'pascal / 100.0')]
export const HUMIDITY_STEPS: NonNullable<Recipe['steps']> = [
  ['adc_h', '(d[6] << 8 | d[7])'],
  ['h4', '(s8(k, 28) * 16 + (k[29] & 15))'],
  ['h5', '(s8(k, 30) * 16 + (k[29] >> 4))'],
  ['h', 'fine - 76800.0'],
  ['h1', '(adc_h - (h4 * 64.0 + h5 / 16384.0 * h)) * (s16le(k, 25) / 65536.0)'],
  ['h2', 'h1 * (1.0 + s8(k, 31) / 67108864.0 * h * (1.0 + k[27] / 67108864.0 * h))'],
  ['h3', 'h2 * (1.0 - k[24] * h2 / 524288.0)'],
]
