/**
 * Findings that the maker judged acceptable. One is set aside for what it said: when it becomes graver, or other
 * figures stand in it, it counts again, and tells that it was set aside before.
 *
 * Laws: no finding goes; each counts, or is set aside, never both; a plan that sets nothing aside keeps its report.
 */
import type { SetAside } from '../plan/types'
import { GRAVITY, type Finding } from '../vocabulary/finding'

/**
 * What was judged: the figures with their limits, as text. Names are not in it, so that a part may be called otherwise.
 */
export const judgedFigures = (finding: Finding): string =>
  finding.figures.map(({ label, value, unit = '', limit }) => [label, value, unit, limit ?? ''].join(' ').trim())
    .join('; ').slice(0, 2000)

/** An entry that sets a finding aside. `at` is an ISO 8601 time. */
export const asideOf = (finding: Finding, reason: string, at: string): SetAside => ({
  id: finding.id, severity: finding.severity, figures: judgedFigures(finding), reason, at,
})

/** The findings with what the maker said of them; those set aside come last. */
export function withSetAside(findings: readonly Finding[], entries: readonly SetAside[]): Finding[] {
  if (!entries.length) return [...findings]
  const byId = new Map(entries.map(entry => [entry.id, entry]))
  const told = findings.map((finding): Finding => {
    const entry = byId.get(finding.id)
    if (!entry) return finding
    const { reason, at } = entry
    if (GRAVITY[finding.severity] < GRAVITY[entry.severity]) return { ...finding,
      lapsed: { reason, at, because: 'graver' } }
    return judgedFigures(finding) === entry.figures
      ? { ...finding, aside: { reason, at } }
      : { ...finding, lapsed: { reason, at, because: 'figures' } }
  })
  return [...told.filter(isOpen), ...told.filter(finding => !isOpen(finding))]
}

/** True for a finding that counts. */
export const isOpen = (finding: Finding): boolean => finding.aside === undefined

/** True for a stop that counts. */
export const isOpenStop = (finding: Finding): boolean => finding.severity === 'stop' && isOpen(finding)
