/** Lines that an expander offers, by their number in it. */
import type { ResolvedPart } from './types'

/** What it offers, in the order of the chip's own lines. */
export const linesOffered = ({ part }: Pick<ResolvedPart, 'part'>) =>
  (part.offers ?? []).filter(({ kind }) => kind === 'line')

/** Which of an expander's lines a terminal of it is; undefined for none. */
export const offsetOfTerminal = (owner: Pick<ResolvedPart, 'part'>, terminal: string): number | undefined => {
  const at = linesOffered(owner).findIndex(offer => Object.values(offer.terminals).includes(terminal))
  return at < 0 ? undefined : at
}
