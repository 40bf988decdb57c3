/** Words that boards and parts share. Units are in the names. An origin says where a figure comes from; it is shown beside every limit. */

/** `published: …` (the source follows), `practice`, `memory`, or `yours` (typed in by the maker). */
export type Origin = string

export interface Sourced {
  value: number
  origin: Origin
}

export type Rail = '5V' | '3V3'

/** Voltages that parts are fed with: the header's rails, and those that only a supply of its own gives. */
export type FeedRail = Rail | '12V' | '24V'

/** Nominal volts of a rail. */
export const RAIL_V: Readonly<Record<FeedRail, number>> = { '5V': 5, '3V3': 3.3, '12V': 12, '24V': 24 }

export const isHeaderRail = (rail: FeedRail): rail is Rail => rail === '5V' || rail === '3V3'

export type ControllerKind = 'i2c' | 'spi' | 'serial' | 'pwm' | 'i2s'

/** One line a boot file has to hold: a base parameter, an overlay with parameters, or a plain setting. */
export type BootNeed
  = | { kind: 'param', name: string, value: string }
    | { kind: 'overlay', name: string, params?: Record<string, string> }
    | { kind: 'setting', name: string, value: string }
