/**
 * How parts without a driver of the kernel are read over I²C, by their name in the catalogue. Formulas are written so that Python and C
 * read them alike: `d` is the block that was read, `k` what the part was trimmed to, and the functions are those of `helpers`. From
 * memory of the chips' data sheets but where a source is named; what the simulated board has in its registers is written from the other
 * end (`simulated/registers.ts`).
 */
import type { Quantity } from '../../catalogue/types'

/** `waitMs`: between what is written and what is read, of a part that thinks first: it answers nobody meanwhile. */
export interface Block { register: readonly number[], bytes: number, waitMs?: number }

export interface Wake { send: readonly number[], ms?: number }

export interface RecipeValue {
  label: string
  unit: string
  digits: number
  formula: string
  what?: Quantity
}

export interface Recipe {
  /** Bytes at a register that tell who it is. */
  who?: { register: number, value: number }
  /** Written once before all readings, each with the milliseconds that it takes. */
  wake?: readonly Wake[]
  /** Written before each reading, with the milliseconds until it is there. */
  ask?: readonly (readonly number[])[]
  askMs?: number
  /** Read once, one after the other into `k`. */
  trimmed?: readonly Block[]
  /** Read for each reading, one after the other into `d`. */
  blocks: readonly Block[]
  /** Steps between, each a name and its formula. */
  steps?: readonly (readonly [string, string])[]
  values: readonly RecipeValue[]
}

const value = (what: Quantity, label: string, unit: string, digits: number, formula: string): RecipeValue =>
  ({ label, unit, digits, formula, what })
const celsius = (formula: string) => value('temperature', 'temperature', '°C', 1, formula)

/**
 * Published: Bosch Sensortec, data sheet BMP280, BST-BMP280-DS001, §8.1, compensation in floating point; the humidity formula is that of
 * the sensor with humidity, appendix A of its sheet (memory).
 */
const PRESSURE_STEPS: NonNullable<Recipe['steps']> = [
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
const PRESSURE_VALUES = [celsius('fine / 5120.0'), value('pressure', 'pressure', 'hPa', 1, 'pascal / 100.0')]
const HUMIDITY_STEPS: NonNullable<Recipe['steps']> = [
  ['adc_h', '(d[6] << 8 | d[7])'],
  ['h4', '(s8(k, 28) * 16 + (k[29] & 15))'],
  ['h5', '(s8(k, 30) * 16 + (k[29] >> 4))'],
  ['h', 'fine - 76800.0'],
  ['h1', '(adc_h - (h4 * 64.0 + h5 / 16384.0 * h)) * (s16le(k, 25) / 65536.0)'],
  ['h2', 'h1 * (1.0 + s8(k, 31) / 67108864.0 * h * (1.0 + k[27] / 67108864.0 * h))'],
  ['h3', 'h2 * (1.0 - k[24] * h2 / 524288.0)'],
]

const RECIPES: Readonly<Record<string, Recipe>> = {
  'acceleration-i2c': {
    who: { register: 0x0F, value: 0x33 }, wake: [{ send: [0x20, 0x57] }, { send: [0x23, 0x08], ms: 20 }],
    blocks: [{ register: [0xA8], bytes: 6 }],
    values: ['x', 'y', 'z'].map((label, i) => ({ label, unit: 'g', digits: 2, formula: `s16le(d, ${i * 2}) / 16000.0` })),
  },
  'analog-4-i2c': {
    // One reading of the first input, up to 4.096 V.
    ask: [[0x01, 0xC3, 0x83]], askMs: 10, blocks: [{ register: [0x00], bytes: 2 }],
    values: [value('voltage', 'first input', 'V', 3, 's16be(d, 0) * 4.096 / 32768.0')],
  },
  'carbon-dioxide-i2c': {
    // Stopped first, where it measures already: it takes no second start.
    wake: [{ send: [0x3F, 0x86], ms: 500 }, { send: [0x21, 0xB1], ms: 5000 }], blocks: [{ register: [0xEC, 0x05], bytes: 9, waitMs: 2 }],
    values: [
      value('carbon-dioxide', 'carbon dioxide', 'ppm', 0, 'u16be(d, 0) * 1.0'),
      celsius('u16be(d, 3) * 175.0 / 65535.0 - 45.0'), value('humidity', 'humidity', '%', 1, 'u16be(d, 6) * 100.0 / 65535.0'),
    ],
  },
  'clock-add-on': clock(),
  'clock-plain-i2c': clock(),
  'clock-cell-i2c': { ...clock(), blocks: [{ register: [0x00], bytes: 7 }, { register: [0x11], bytes: 2 }], values: [
    ...clock().values, celsius('s8(d, 7) + (d[8] >> 6) * 0.25'),
  ] },
  'colour-i2c': {
    who: { register: 0x92, value: 0x44 }, wake: [{ send: [0x80, 0x01] }, { send: [0x80, 0x03] }, { send: [0x81, 0xF6], ms: 30 }],
    blocks: [{ register: [0x94], bytes: 8 }],
    values: ['clear', 'red', 'green', 'blue'].map((label, i) =>
      ({ label, unit: 'counts', digits: 0, formula: `u16le(d, ${i * 2}) * 1.0` })),
  },
  'current-meter-i2c': {
    blocks: [{ register: [0x02], bytes: 2 }, { register: [0x01], bytes: 2 }],
    values: [value('voltage', 'voltage', 'V', 3, '(u16be(d, 0) >> 3) * 0.004'),
      { label: 'across the shunt', unit: 'mV', digits: 2, formula: 's16be(d, 2) * 0.01' }],
  },
  'gesture-i2c': who(0x92, 0xAB),
  'distance-light-i2c': who(0xC0, 0xEE),
  'light-i2c': {
    who: { register: 0x8A, value: 0x50 }, wake: [{ send: [0x80, 0x03] }, { send: [0x81, 0x02], ms: 420 }],
    blocks: [{ register: [0xAC], bytes: 2 }, { register: [0xAE], bytes: 2 }],
    // Its light without much of the infrared; in other light the sheet's table of ratios is nearer.
    values: [value('light', 'light', 'lux', 0, '0.0304 * 16.0 * u16le(d, 0) - 0.062 * 16.0 * u16le(d, 2)')],
  },
  'magnetic-i2c': {
    who: { register: 0x0A, value: 0x48 }, wake: [{ send: [0x00, 0x70] }, { send: [0x01, 0x20] }, { send: [0x02, 0x00], ms: 70 }],
    blocks: [{ register: [0x03], bytes: 6 }],
    values: ['x', 'z', 'y'].map((label, i) => ({ label, unit: 'µT', digits: 1, formula: `s16be(d, ${i * 2}) / 10.9` })),
  },
  'motion-i2c': {
    who: { register: 0x75, value: 0x68 }, wake: [{ send: [0x6B, 0x00], ms: 100 }], blocks: [{ register: [0x3B], bytes: 14 }],
    values: [
      ...['x', 'y', 'z'].map((label, i) => ({ label, unit: 'g', digits: 2, formula: `s16be(d, ${i * 2}) / 16384.0` })),
      celsius('s16be(d, 6) / 340.0 + 36.53'),
    ],
  },
  'orientation-i2c': who(0x00, 0xA0),
  'power-add-on-battery': {
    blocks: [{ register: [0x02], bytes: 2 }, { register: [0x04], bytes: 2 }],
    values: [{ label: 'cell', unit: 'V', digits: 2, formula: 'u16be(d, 0) * 0.000078125' },
      { label: 'charge', unit: '%', digits: 0, formula: 'u16be(d, 2) / 256.0' }],
  },
  'pressure-humidity-i2c': {
    who: { register: 0xD0, value: 0x60 }, trimmed: [{ register: [0x88], bytes: 24 }, { register: [0xA1], bytes: 1 },
      { register: [0xE1], bytes: 7 }],
    ask: [[0xF2, 0x01], [0xF4, 0x25]], askMs: 12, blocks: [{ register: [0xF7], bytes: 8 }],
    steps: [...PRESSURE_STEPS, ...HUMIDITY_STEPS],
    values: [...PRESSURE_VALUES, value('humidity', 'humidity', '%', 1, 'h3')],
  },
  'sensor-add-on-10': {
    who: { register: 0xD0, value: 0x58 }, trimmed: [{ register: [0x88], bytes: 24 }], ask: [[0xF4, 0x25]], askMs: 10,
    blocks: [{ register: [0xF7], bytes: 6 }], steps: PRESSURE_STEPS, values: PRESSURE_VALUES,
  },
  'thermometer-distance-i2c': {
    blocks: [{ register: [0x06], bytes: 2 }, { register: [0x07], bytes: 2 }],
    values: [{ label: 'its own', unit: '°C', digits: 1, formula: 'u16le(d, 0) * 0.02 - 273.15' },
      value('temperature', 'what it looks at', '°C', 1, 'u16le(d, 2) * 0.02 - 273.15')],
  },
  'touch-12-i2c': {
    who: { register: 0x5C, value: 0x24 }, wake: [{ send: [0x5E, 0x8C], ms: 20 }], blocks: [{ register: [0x00], bytes: 2 }],
    values: [{ label: 'pads touched, as bits', unit: '', digits: 0, formula: '(u16le(d, 0) & 4095) * 1.0' }],
  },
}

function who(register: number, found: number): Recipe {
  return { who: { register, value: found }, blocks: [], values: [] }
}

/** Published: Linux 6.1, drivers/rtc/rtc-ds1307.c: seconds, minutes and hours in pairs of decimal digits. */
function clock(): Recipe {
  return {
    blocks: [{ register: [0x00], bytes: 7 }],
    values: [
      { label: 'hours', unit: '', digits: 0, formula: 'bcd(d[2] & 63) * 1.0' },
      { label: 'minutes', unit: '', digits: 0, formula: 'bcd(d[1] & 127) * 1.0' },
      { label: 'seconds', unit: '', digits: 0, formula: 'bcd(d[0] & 127) * 1.0' },
    ],
  }
}

export const recipeOf = (type: string): Recipe | null => RECIPES[type] ?? null
