/**
 * Figures in the maker's units. Plans, files and rules keep °C, metres and AWG; these turn them for the
 * screen and back.
 */
import { areaMm2, diameterMm } from '../netlist/copper'

/** °C to °F, by definition: the fixed points lie 180 degrees apart, from 32. */
export const fahrenheitOf = (celsius: number): number => celsius * 9 / 5 + 32
export const toCelsius = (fahrenheit: number): number => (fahrenheit - 32) * 5 / 9

/** Millimetres in an inch, exact. published: international yard and pound agreement, 1959 */
export const MM_PER_INCH = 25.4
const INCHES_PER_FOOT = 12

export const inchesOf = (mm: number): number => mm / MM_PER_INCH
export const feetOf = (metres: number): number => metres * 1000 / (MM_PER_INCH * INCHES_PER_FOOT)
export const metresOf = (feet: number): number => feet * MM_PER_INCH * INCHES_PER_FOOT / 1000

export { areaMm2 as squareMmOf } from '../netlist/copper'

/** The gauge of a cross-section, not rounded: metric wires lie between gauges. */
export const gaugeOf = (squareMm: number): number =>
  36 - Math.log(Math.sqrt(squareMm * 4 / Math.PI) / diameterMm(36)) * 39 / Math.log(92)

export interface UnitChoice { temperature: 'C' | 'F', gauge: 'awg' | 'mm2' }

/**
 * Figures inside a worksheet's results in the maker's units: temperatures as they are written there ("74 °C", never
 * differences, which are in K) and gauges ("24 AWG"). Everything else of the text stays.
 */
export function figuresIn(text: string, { temperature, gauge }: UnitChoice): string {
  const warm = (_: string, value: string) => {
    const digits = value.includes('.') ? 1 : 0
    return `${fahrenheitOf(Number(value)).toFixed(digits)} °F`
  }
  const thick = (_: string, value: string) => `${Number(areaMm2(Number(value)).toPrecision(3))} mm²`
  const turned = temperature === 'F' ? text.replace(/(-?\d+(?:\.\d+)?) °C/g, warm) : text
  return gauge === 'mm2' ? turned.replace(/(\d+(?:\.\d+)?) AWG/g, thick) : turned
}
