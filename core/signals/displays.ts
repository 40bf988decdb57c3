/** Displays side by side: what each shows, how it is touched, what it takes, what it draws. */
import { spiClock, framesPerSecond } from './rates'
import type { Board, Part } from '../catalogue/types'

export interface DisplayRow {
  partId: string
  name: string
  sizeInch: number
  width: number
  height: number
  touch: string
  picture: string
  touchBy: string
  /** Header positions that its terminals take: signals, supplies and returns. */
  positions: number
  backlight: string
  driver: string
  typicalMa: number
  peakMa: number
  /** Most pictures a second: what the bus carries on this board, or the glass. */
  framesPerS: number | null
  price: number | null
}

/**
 * One row for each display of the catalogue, the smallest first. Without a board the bus runs at the part's own limit.
 */
export function displayTable(parts: Iterable<Part>, board: Board | null): DisplayRow[] {
  return [...parts].flatMap((part): DisplayRow[] => {
    const { display } = part
    if (!display) return []
    const clock = board?.controllers.find(controller => controller.kind === 'spi' && controller.isDefault)?.clock
    let busHz: number | null
    if (display.picture === 'SPI'
      && part.spi) busHz = clock ? spiClock(clock, part.spi.maxClockHz).rateHz : part.spi.maxClockHz
    else busHz = display.picture === 'I²C' && part.i2c?.maxClockHz ? part.i2c.maxClockHz * 8 / 9 : null
    const carried = busHz === null ? null : framesPerSecond(busHz, display.width, display.height, display.bitsPerPixel)
    const sum = (of: 'typicalMa' | 'peakMa') => part.supplies.reduce((all, supply) => all + supply[of], 0)
    return [{
      partId: part.id, name: part.name, sizeInch: display.sizeInch, width: display.width, height: display.height,
      touch: { none: 'none', resistive: 'resistive: any stylus, gloves',
        capacitive: 'capacitive: fingers' }[display.touch],
      picture: display.picture, touchBy: display.touchBy,
      positions: part.signals.length + part.supplies.filter(supply => supply.from === 'header').length
        + part.grounds.length,
      backlight: display.backlight, driver: display.driver, typicalMa: sum('typicalMa'), peakMa: sum('peakMa'),
      framesPerS: carried === null ? display.maxHz ?? null : Math.min(carried, display.maxHz ?? Infinity),
      price: part.price ?? null,
    }]
  }).sort((a, b) => a.sizeInch - b.sizeInch)
}
