/** What was heard of a maker's words, in lines of text for the command. */
import type { SaidMark } from './clause'
import type { Said } from './read'

/** Marks that count without a question; of two at one test the last. */
export const marksHeard = (said: readonly Said[]): SaidMark[] => {
  const heard = said.flatMap(entry => entry.kind === 'seen' ? [entry.mark] : [])
  return [...new Map(heard.map(mark => [mark.probe, mark])).values()]
}

/** What the logbook keeps of it: the maker's words, and what they were taken for. */
export const notesOfSaid = (clause: string, { words, value }: SaidMark): string =>
  `Said: "${clause}". Taken as: ${words}${value === undefined ? '' : ` (${value})`}.`

export function saidInLines(said: readonly Said[]): string[] {
  return said.flatMap((entry) => {
    const start = `"${entry.clause}"`
    switch (entry.kind) {
      case 'seen': return [`${start}: ${entry.mark.words}`]
      case 'told': return [`${start}: ${entry.words}`]
      case 'which': return [
        `${start} may be one of these; say which with --seen:`, ...entry.marks.map(({ probe, outcome,
          words }) => `  ${words}   ${probe}="${outcome}"`),
      ]
      case 'unknown': return [`${start}: says nothing here. Name the part and what it does, or what a meter `
        + 'shows and where.']
    }
  })
}
