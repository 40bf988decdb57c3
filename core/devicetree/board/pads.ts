/**
 * Names of pads and lines behind registers and groups, for controllers whose trees have no more than those.
 * Published: headers and drivers of the Linux kernel whose version the table names; `scripts/pads.mjs` writes it.
 */
import data from './pads.json'

export interface PadTable {
  kernel: string
  /** By the controller's or the board's `compatible`: register → name of the pad, number of its line. */
  pads: Record<string, Record<string, [name: string, line: number | null]>>
  /**
   * By the controller's `compatible`: group → pins with their numbers on the chip; a name instead leads
   * to another controller's.
   */
  groups: Record<string, string | Record<string, [name: string, offset: number | null][]>>
}

export const PADS = data as unknown as PadTable
