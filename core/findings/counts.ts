/** What a report counts, as it is said everywhere: "1 stop, 2 cautions, 1 note". */
export function countsInWords(stops: number, cautions: number, notes: number): string {
  const many = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`
  return `${many(stops, 'stop')}, ${many(cautions, 'caution')}, ${many(notes, 'note')}`
}
