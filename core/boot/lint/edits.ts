/** Findings on files as findings on a plan: each fix becomes an edit of the plan's boot files. */
import type { Finding } from '../../findings/types'
import type { Edit } from '../../plan/edits'
import type { BootFile, Plan } from '../../plan/types'
import { COMMAND_FILE } from '../scope/effective'
import { applyChanges, type LintFinding, type TextFix } from './types'

/** The plan's boot files with a fix made. */
export function fixedFiles(boot: BootFile | null, fix: TextFix): BootFile {
  const files = { text: '', ...boot }
  if (fix.file === '') return { ...files, text: applyChanges(files.text, fix.changes) }
  if (fix.file === COMMAND_FILE) return { ...files, commandLine: applyChanges(files.commandLine ?? '', fix.changes) }
  return { ...files, includes: { ...files.includes, [fix.file]: applyChanges(files.includes?.[fix.file] ?? '', fix.changes) } }
}

export const editOf = (plan: Pick<Plan, 'boot'>, fix: TextFix): Edit => ({ edit: 'set-boot', boot: fixedFiles(plan.boot, fix) })

/** The finding as the drawer shows it. */
export function asFinding(finding: LintFinding, plan: Pick<Plan, 'boot'>): Finding {
  return {
    code: finding.code, id: `${finding.code} ${finding.file}:${finding.from}`, severity: finding.severity, stages: ['boot'],
    title: finding.title, sentence: `${finding.file || 'Boot file'}, line ${finding.line}. ${finding.sentence}`, figures: finding.figures,
    subjects: [...finding.partIds.map(partId => ({ partId })), ...finding.file === '' ? [{ bootLine: finding.line }] : []],
    fixes: finding.fixes.map(fix => ({ label: fix.label, edits: [editOf(plan, fix)] })),
  }
}
