/** Findings on files as findings on a plan: places in files are subjects, changes of text are edits like any other. */
import type { Edit } from '../../plan/edits'
import { anchored, textOfFile } from '../../plan/text'
import type { Plan } from '../../plan/types'
import type { Finding } from '../../vocabulary/finding'
import type { LintFinding, TextFix } from './types'

/** A fix as an edit of the plan. */
export function editOf({ boot }: Pick<Plan, 'boot'>, { file, changes }: TextFix): Edit {
  const text = textOfFile(boot, file)
  return { edit: 'edit-text', file, changes: changes.map(change => anchored(text, change)) }
}

const fileWords = (file: string) => file === '' ? 'Boot file' : file

/** The finding as every list of findings shows it. A stop on a part also holds its bring-up back. */
export function asFinding(finding: LintFinding, plan: Pick<Plan, 'boot'>): Finding {
  const { file, line, from, to } = finding
  return {
    code: finding.code, id: `${finding.code} ${file}:${from}`, severity: finding.severity,
    stages: finding.severity === 'stop' && finding.partIds.length ? ['boot', 'bringup'] : ['boot'],
    title: finding.title, sentence: `${fileWords(file)}, line ${line}. ${finding.sentence}`, figures: finding.figures,
    subjects: [...finding.partIds.map(partId => ({ partId })), { text: { file, line, from, to } }],
    fixes: finding.fixes.map(fix => ({ label: fix.label, edits: [editOf(plan, fix)] })),
  }
}
