/**
 * Sightings and diagnoses in sentences, for the logbook and the command. Needs no model: what was worked
 * out is handed in.
 */
import type { Diagnosis } from './diagnose'
import type { RunRow } from './sheet'

/**
 * What the logbook says of a sighting by itself: what was measured, what was odd, and what is in order again. Null for
 * what is neither: a logbook is read later, and a tick is on the sheet.
 */
export function noteOf({ probe, planned, seen }: RunRow, outcome: string | null, value?: number): string | null {
  if (outcome === null) return null
  const isOdd = outcome !== planned
  if (value !== undefined) return `Measured: ${probe.title}: ${value} `
    + `${probe.reading?.unit ?? ''}${isOdd ? `, ${outcome}` : ''}.`
  if (isOdd) return `Seen: ${probe.title}: ${outcome}.`
  return seen && !seen.isPlanned ? `In order again: ${probe.title}: ${outcome}.` : null
}

const PERCENT = 100
const percent = (share: number) => `${Math.max(1, Math.round(share * PERCENT))} %`

/** The diagnosis in lines of text. */
export function diagnosisInWords({ odd, candidates, next, pairs, pairsCut, doubtful }: Diagnosis,
  rows: readonly RunRow[]): string[] {
  if (!odd.length) return ['Nothing odd was seen.']
  const titleOf = (id: string) => rows.find(({ probe }) => probe.id === id)?.probe.title ?? id
  const lines = ['Seen and not planned:', ...odd.map(({ probe, outcome }) => `  ${titleOf(probe)}: ${outcome}`)]
  if (candidates.length) {
    lines.push('', candidates.length === 1 ? 'It is:' : 'It may be:')
    for (const { faults, share } of candidates.slice(0, SHOWN)) {
      lines.push('  '
        + `${candidates.length > 1 ? `${percent(share)}  ` : ''}${faults.map(({ title }) => title).join('; or ')}`)
    }
    if (candidates.length > SHOWN) lines.push(`  … and ${candidates.length - SHOWN} more`)
    if (candidates.length === 1) lines.push('', ...candidates[0]!.faults.map(({ mend }) => `To mend it: ${mend}`))
  }
  else if (pairs.length) {
    lines.push('', 'No single fault shows all of it. Two at once may:')
    for (const { faults, share } of pairs.slice(0, SHOWN)) lines.push(
      `  ${percent(share)}  ${faults.map(({ title }) => title).join('; and ')}`)
  }
  else {
    const cut = pairsCut ? ', as far as pairs were tried' : ''
    lines.push('', `Nothing that the model knows shows all of it${cut}: look at the readings once more.`)
  }
  if (doubtful.length) {
    lines.push('', 'Or one of these is old or misread; without it a single fault does, or none:',
      ...doubtful.map(({ probe, outcome }) =>
        `  ${titleOf(probe)}: ${outcome}`))
  }
  const [best] = next
  if (best) {
    const { title, minutes, how, command } = best.probe
    lines.push('', `Try next: ${title} (${minutes} min)`, `  ${how}${command ? ` ${command}` : ''}`)
  }
  return lines
}
const SHOWN = 8
