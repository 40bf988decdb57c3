/** How parts answer on the simulated board, as they bring it in their folders, by part. */
import { tableOf } from '../collections/table'
import { CHIPS } from './generated/chips'
import type { Registers, SpiChip, Talker } from './shapes/chip'

const TABLE = tableOf(CHIPS)
const SILENT: Talker = {}

/** What a part has in its registers; null where nothing is known: every register reads 0 then. */
export const registersOf = (type: string): Registers | null => TABLE[type]?.registers ?? null
/** What a part on SPI answers; null for one that answers nothing. */
export const spiChipOf = (type: string): SpiChip | null => TABLE[type]?.spi ?? null
/** What a part says on a serial port; nothing where nobody wrote it down. */
export const talkerOf = (type: string): Talker => TABLE[type]?.talker ?? SILENT
