/** Figures in the maker's units. Plans, files and rules keep °C, metres and AWG; these turn them for the screen and back. */
import { diameterMm } from './netlist/copper'

/** °C to °F, by definition: the fixed points lie 180 degrees apart, from 32. */
export const fahrenheitOf = (celsius: number): number => celsius * 9 / 5 + 32
export const celsiusOf = (fahrenheit: number): number => (fahrenheit - 32) * 5 / 9

/** Millimetres in an inch, exact. published: international yard and pound agreement, 1959 */
export const MM_PER_INCH = 25.4
const INCHES_PER_FOOT = 12

export const inchesOf = (mm: number): number => mm / MM_PER_INCH
export const feetOf = (metres: number): number => metres * 1000 / (MM_PER_INCH * INCHES_PER_FOOT)
export const metresOf = (feet: number): number => feet * MM_PER_INCH * INCHES_PER_FOOT / 1000

export { areaMm2 as squareMmOf } from './netlist/copper'

/** The gauge of a cross-section, not rounded: metric wires lie between gauges. */
export const gaugeOf = (squareMm: number): number => 36 - Math.log(Math.sqrt(squareMm * 4 / Math.PI) / diameterMm(36)) * 39 / Math.log(92)
