/** First programs that parts bring in their folders, by part. */
import { tableOf } from '../collections/table'
import { PROGRAMS } from './generated/programs'
import type { Recipe, SpiProgram } from './shapes/program'

const TABLE = tableOf(PROGRAMS)

/** How a part is read over I²C without a driver; null where nobody wrote it down. */
export const recipeOf = (type: string): Recipe | null => TABLE[type]?.i2c ?? null
/** How a part is spoken to over SPI; null where its way of speaking is not known. */
export const spiProgramOf = (type: string): SpiProgram | null => TABLE[type]?.spi ?? null
