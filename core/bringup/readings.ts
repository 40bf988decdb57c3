/**
 * Files under /sys that give a part's readings, with their units. The simulated board writes them, the small
 * programs read them.
 */
import type { Quantity } from '../catalogue/types'

export interface ReadingFile {
  name: string
  /** What the file says is the quantity, in its own unit, times this. */
  per: number
  /** What the file says for a quantity of 0. */
  zero?: number
  digits?: number
  /** A raw figure is multiplied by what stands here: `mV` for voltages. */
  scaleFile?: string
  /** True for a raw figure whose zero and step each thing has of its own. */
  isRaw?: boolean
}

/** Units. Published: Linux, Documentation/ABI/testing/sysfs-bus-iio: m°C, m%, kPa, lux; raw times scale is mV. */
export const IIO: Readonly<Partial<Record<Quantity, ReadingFile>>> = {
  'temperature': { name: 'in_temp_input', per: 1000 },
  'humidity': { name: 'in_humidityrelative_input', per: 1000 },
  'pressure': { name: 'in_pressure_input', per: 0.1, digits: 6 },
  'light': { name: 'in_illuminance_input', per: 1 },
  'carbon-dioxide': { name: 'in_concentration_co2_raw', per: 1 },
  'distance': { name: 'in_distance_raw', per: 1 },
  'weight': { name: 'in_voltage0_raw', per: 420, zero: 8_388_608, isRaw: true },
  'voltage': { name: 'in_voltage0_raw', per: 1000, scaleFile: 'in_voltage_scale' },
}

/** Published: Linux, Documentation/hwmon/sysfs-interface: m°C, m%, mV. */
export const HWMON: Readonly<Partial<Record<Quantity, ReadingFile>>> = {
  temperature: { name: 'temp1_input', per: 1000 }, humidity: { name: 'humidity1_input', per: 1000 },
  voltage: { name: 'in1_input', per: 1000 },
}

export const fileText = ({ per, zero = 0, digits = 0 }: ReadingFile,
  value: number): string => (value * per + zero).toFixed(digits)

/** Quantities in words, with the unit that the model, the programs and the papers give them in. */
export const QUANTITIES: Readonly<Record<Quantity, { name: string, unit: string, digits: number }>> = {
  'temperature': { name: 'temperature', unit: '°C', digits: 1 }, 'humidity': { name: 'humidity', unit: '%', digits: 1 },
  'pressure': { name: 'pressure', unit: 'hPa', digits: 1 }, 'light': { name: 'light', unit: 'lux', digits: 0 },
  'carbon-dioxide': { name: 'carbon dioxide', unit: 'ppm', digits: 0 },
  'distance': { name: 'distance', unit: 'mm', digits: 0 },
  'weight': { name: 'weight', unit: 'g', digits: 0 }, 'voltage': { name: 'voltage', unit: 'V', digits: 3 },
}

/** What one does to see it move, and how it moves. Common practice, no source. */
export const STIMULI: Readonly<Record<Quantity, string>> = {
  'temperature': 'Touch or warm it: the temperature rises within a minute, and falls again.',
  'humidity': 'Breathe on it: the humidity rises within seconds.',
  'pressure': 'Carry it down a floor, 3 m: the pressure rises by about 0.36 hPa.',
  'light': 'Cover it with a hand: the light falls to nearly nothing.',
  'carbon-dioxide': 'Breathe beside it: it rises by hundreds within half a minute.',
  'distance': 'Hold a hand before it and move it: the distance follows.',
  'weight': 'Put something known on it: the figure changes by that much.',
  'voltage': 'Change what its input measures: the voltage follows; 0 V at ground.',
}
