import { toCelsius, fahrenheitOf, feetOf, figuresIn, gaugeOf, inchesOf, metresOf, MM_PER_INCH,
  squareMmOf } from '~~/core/vocabulary/units'

export interface UnitOf {
  unit: string
  /** From what the plan keeps to what is shown, rounded as it is shown. */
  show: (kept: number) => number
  /** Back. */
  keep: (shown: number) => number
}

const rounded = (digits: number) => (value: number) => Number(value.toFixed(digits))
/** From here on nobody counts the pennies of a made-up price. */
const WHOLE_FROM = 20
const SAME = { show: (value: number) => value, keep: (value: number) => value }

/** What a figure is, so that it can be shown in the maker's unit. */
export type Measure = 'temperature' | 'kelvin' | 'metre' | 'centimetre' | 'gauge'

/** Units as the maker has chosen them in the settings. */
export function useUnits() {
  const view = useViewStore()
  const units = computed<Record<Measure, UnitOf>>(() => {
    const isF = view.temperatureUnit === 'F'
    const isInch = view.lengthUnit === 'inch'
    return {
      temperature: isF
        ? {
            unit: '°F', show: c => rounded(1)(fahrenheitOf(c)), keep: f => rounded(3)(toCelsius(f)),
          }
        : { unit: '°C', ...SAME },
      kelvin: isF
        ? { unit: '°F', show: k => rounded(1)(k * 9 / 5), keep: f => rounded(3)(f * 5 / 9) }
        : { unit: 'K',
            ...SAME },
      metre: isInch
        ? { unit: 'ft', show: m => rounded(2)(feetOf(m)),
            keep: ft => rounded(4)(metresOf(ft)) }
        : { unit: 'm', ...SAME },
      centimetre: isInch
        ? { unit: 'in', show: cm => rounded(1)(inchesOf(cm * 10)), keep: inch => rounded(2)(inch * MM_PER_INCH / 10) }
        : { unit: 'cm', ...SAME },
      gauge: view.gaugeUnit === 'mm2'
        ? { unit: 'mm²', show: awg => Number(squareMmOf(awg).toPrecision(3)), keep: mm2 => rounded(2)(gaugeOf(mm2)) }
        : { unit: 'AWG', ...SAME },
    }
  })
  const temperature = (c: number, digits = 0) => {
    const { show, unit } = units.value.temperature
    return `${show(c).toFixed(digits)} ${unit}`
  }
  /** A worksheet's result in the maker's units. */
  const result = (text: string) => figuresIn(text, { temperature: view.temperatureUnit, gauge: view.gaugeUnit })
  /** A made-up price in the maker's currency, whole where it is large; a bare number while none is chosen. */
  const price = (amount: number) => {
    const digits = amount >= WHOLE_FROM || Number.isInteger(amount) ? 0 : 2
    const figures = { minimumFractionDigits: digits, maximumFractionDigits: digits }
    return view.currency
      ? new Intl.NumberFormat(undefined, { style: 'currency', currency: view.currency, ...figures }).format(amount)
      : amount.toFixed(digits)
  }
  return { units, temperature, result, price }
}

/** Which measure a figure of the supply is, by its unit in the core; null for those that everybody writes alike. */
export const measureOf = (unit: string): Measure | null => ({
  '°C': 'temperature' as const, 'm': 'metre' as const, 'AWG': 'gauge' as const,
})[unit] ?? null
