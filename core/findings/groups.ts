/**
 * Findings in groups, for people who look for what is behind them: by what causes them, or by what they are about.
 * Every finding is in exactly one group; the gravest group comes first, and within a group the gravest finding.
 */
import { CODES } from '../vocabulary/codes'
import { GRAVITY, type Finding, type Severity } from '../vocabulary/finding'

export interface FindingGroup {
  key: string
  title: string
  severity: Severity
  findings: Finding[]
}

/** What a name for a subject is looked up in. */
export interface GroupNames {
  part: (id: string) => string | undefined
  node: (id: string) => string | undefined
  bus: (id: string) => string | undefined
}

/** Grouped by rule: one curve, limit or line that makes many findings is one group. */
export function byCause(findings: readonly Finding[]): FindingGroup[] {
  return grouped(findings, finding => ({ key: finding.code, title: sentenceCase(CODES[finding.code]) }))
}

/** Grouped by what is in trouble: a part, else a node of the supply, a bus, a position, a file, else the whole plan. */
export function bySubject(findings: readonly Finding[], names: GroupNames): FindingGroup[] {
  return grouped(findings, finding => subjectOf(finding, names))
}

function subjectOf({ subjects }: Finding, names: GroupNames): { key: string, title: string } {
  const part = subjects.find(subject => subject.partId)?.partId
  if (part !== undefined) return { key: `part ${part}`, title: names.part(part) ?? part }
  const node = subjects.find(subject => subject.node)?.node
  if (node !== undefined) return { key: `node ${node}`, title: names.node(node) ?? node }
  const bus = subjects.find(subject => subject.busId)?.busId
  if (bus !== undefined) return { key: `bus ${bus}`, title: names.bus(bus) ?? bus }
  const position = subjects.find(subject => subject.position)?.position
  if (position !== undefined) return { key: `position ${position}`, title: `Position ${position}` }
  const file = subjects.find(subject => subject.text)?.text?.file
  if (file !== undefined) return { key: `file ${file}`, title: file === '' ? 'The boot file' : file }
  const rail = subjects.find(subject => subject.rail)?.rail
  return rail === undefined
    ? { key: 'plan', title: 'The whole plan' }
    : { key: `rail ${rail}`, title: `The ${rail} rail` }
}

function grouped(findings: readonly Finding[],
  keyOf: (finding: Finding) => { key: string, title: string }): FindingGroup[] {
  const groups = new Map<string, FindingGroup>()
  for (const finding of findings) {
    const { key, title } = keyOf(finding)
    const group = groups.get(key) ?? { key, title, severity: finding.severity, findings: [] }
    group.findings.push(finding)
    if (GRAVITY[finding.severity] < GRAVITY[group.severity]) group.severity = finding.severity
    groups.set(key, group)
  }
  const gravestFirst = <T extends { severity: Severity }>(list: T[]) =>
    list.sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity])
  for (const group of groups.values()) gravestFirst(group.findings)
  return gravestFirst([...groups.values()])
}

const sentenceCase = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
