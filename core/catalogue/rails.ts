/** Volts of the rails. */
import type { FeedRail, Rail } from './types'

/** Nominal volts of a rail. */
export const RAIL_V: Readonly<Record<FeedRail, number>> = { '5V': 5, '3V3': 3.3, '12V': 12, '24V': 24 }

export const isHeaderRail = (rail: FeedRail): rail is Rail => rail === '5V' || rail === '3V3'
