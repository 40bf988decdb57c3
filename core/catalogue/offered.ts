/** What of the catalogue findings offer as fixes: entries whose files say so under `inFixes`. */
import type { Catalogue, FixUse, PowerItem, SupplyUnit } from './types'

/** The power item that is offered for something; undefined where the catalogue has none. */
export const offeredItem = ({ powerItems }: Pick<Catalogue, 'powerItems'>, use: FixUse): PowerItem | undefined =>
  [...powerItems.values()].find(item => item.inFixes === use)

/** The supply that is offered for something; undefined where the catalogue has none. */
export const offeredSupply = ({ supplies }: Pick<Catalogue, 'supplies'>, use: FixUse): SupplyUnit | undefined =>
  [...supplies.values()].find(unit => unit.inFixes === use)

/** The smallest offered fuse whose rating in mA is at least this. */
export const offeredFuse = ({ powerItems }: Pick<Catalogue, 'powerItems'>, minRatedMa: number): PowerItem | undefined =>
  [...powerItems.values()].filter(item => item.inFixes === 'fuse' && (item.figures.ratedMa ?? 0) >= minRatedMa)
    .sort((a, b) => a.figures.ratedMa! - b.figures.ratedMa!)[0]
