import { createSharedComposable } from '@vueuse/core'
import { keepBefore } from '~~/core/boot/before'
import { explainFiles } from '~~/core/boot/explain'
import { filesOf } from '~~/core/boot/files'
import { lintBoot, planSide } from '~~/core/boot/lint'
import { editOf } from '~~/core/boot/lint/edits'
import type { LintFinding, TextFix } from '~~/core/boot/lint/types'
import { mergedFile } from '~~/core/boot/own/file'
import { readOwned } from '~~/core/boot/own/block'
import { COMMAND_FILE, effectiveOf } from '~~/core/boot/scope/effective'
import { needsOf } from '~~/core/overlays/asks/needs'
import type { BootFile } from '~~/core/plan/types'

/**
 * The boot files of the open plan: what they say, what is wrong with them, and their edits. Worked out once for all
 * that show it.
 */
export const useBoot = createSharedComposable(() => {
  const project = useProjectStore()
  const boot = computed(() => project.plan?.boot ?? null)
  const board = computed(() => project.facts?.board ?? null)
  const files = computed(() => filesOf(project.plan!, board.value))
  const side = computed(() => planSide(project.facts!))
  const findings = computed(() => {
    if (project.isLate) return project.judgement?.findings ?? []
    return project.plan
      ? lintBoot({ files: files.value, board: board.value, plan: side.value,
          ...(boot.value?.image && { image: boot.value.image }) })
      : []
  })
  const explained = computed(() =>
    project.isLate ? project.explainedWindow?.lines ?? [] : explainFiles(files.value, board.value))
  const owned = computed(() => readOwned(files.value.text, files.value.dialect))
  const effective = computed(() => effectiveOf(files.value, board.value))
  /** Line and file that are looked at; the editor and the lists follow each other. */
  const place = ref<{ file: string, line: number } | null>(null)

  function setBoot(next: Partial<BootFile>, label: string, join?: string): void {
    project.edit({ edit: 'set-boot', boot: { text: '', ...boot.value, ...next } }, label, join)
  }

  /** Writes one of the files: `''` is the boot file. */
  function setFile(file: string, text: string, label: string, join?: string): void {
    if (file === '') setBoot({ text }, label, join)
    else if (file === COMMAND_FILE) setBoot({ commandLine: text }, label, join)
    else if (boot.value?.overlays?.some(overlay => overlay.name === file)) setBoot(
      { overlays: boot.value.overlays.map(overlay =>
        overlay.name === file ? { ...overlay, content: text } : overlay) }, label, join,
    )
    else setBoot({ includes: { ...boot.value?.includes, [file]: text } }, label, join)
  }

  /** Replaces the files and keeps the present ones. */
  function replaceFiles(next: Partial<BootFile>, label: string): void {
    const after = keepBefore(boot.value, { text: '', ...boot.value, ...next }, new Date().toISOString())
    project.edit({ edit: 'set-boot', boot: after }, label)
  }

  /** The boot file with the plan's lines, from the text as it stands now: a report may still be of an earlier one. */
  const mergedNow = () => mergedFile(project.facts!, needsOf(project.facts!)).text

  function applyFix(fix: TextFix): void {
    project.edit(editOf(project.plan!, fix), fix.label)
  }

  /**
   * Every finding that has a fix, each by its first one, as one step. Fixes can bring other findings to light; those
   * are left for the maker.
   */
  const byLine = computed(() => {
    const found = new Map<string, LintFinding[]>()
    for (const finding of findings.value) {
      const key = `${finding.file} ${finding.line}`
      found.set(key, [...found.get(key) ?? [], finding])
    }
    return found
  })
  const findingsAt = (file: string, line: number): LintFinding[] => byLine.value.get(`${file} ${line}`) ?? []

  // The worker explains what is looked at.
  watch(place, now => now && project.isLate && project.lookAt(now.file, now.line))

  return {
    boot, board, files, findings, explained, owned, effective, place, setBoot, setFile, replaceFiles, mergedNow,
    applyFix, findingsAt,
  }
})
