<script setup lang="ts">
/** One file in the editor: its text, owners of its lines, findings in their place. */
import type { Grammar } from '~~/core/boot/dialects/tokens'
import { completeAt } from '~~/core/boot/complete'
import { explainAt } from '~~/core/boot/explain'
import { splitLines } from '~~/core/boot/dialects/lines'
import { restoreEndings } from '~~/core/boot/lines'
import { COMMAND_FILE } from '~~/core/boot/scope/effective'
import { makeEditor } from './useEditor'
import '~/assets/editor.css'

const { file, grammar, text } = defineProps<{ file: string, grammar: Grammar, text: string }>()
const project = useProjectStore()
const { files, board, findings, owned, place, setFile, applyFix } = useBoot()
const { colourOf, nameOf } = useOwners()
const element = useTemplateRef<HTMLElement>('element')
let editor: ReturnType<typeof makeEditor> | null = null

const STATES = { 'written': 'written by Voltaris', 'by-hand': 'changed by hand, and kept',
  'off': 'switched off' } as const
const owners = computed(() => file !== ''
  ? []
  : owned.value.map(entry => ({
      line: entry.line, state: entry.state, colour: colourOf(entry.partIds[0]),
      title: `${entry.partIds.map(nameOf).join(', ') || 'The board'}: ${STATES[entry.state]}`,
    })))

/** Findings of this file by line and column: the editor knows one line ending, the file may have two. */
const marked = computed(() => {
  const lines = splitLines(text)
  return findings.value.filter(finding => finding.file === file).map((finding) => {
    const start = lines[finding.line - 1]?.from ?? 0
    return {
      line: finding.line, from: Math.max(0, finding.from - start), to: Math.max(0, finding.to - start),
      severity: finding.severity,
      message: `${finding.title}. ${finding.sentence}`,
      fixes: finding.fixes.map(fix => ({ label: fix.label, run: () => applyFix(fix) })),
    }
  })
})

onMounted(() => {
  editor = makeEditor(element.value!, {
    onText: typed => setFile(file, restoreEndings(text, typed), 'Edit the boot files', `boot ${file}`),
    onLine: line => place.value = { file, line },
    explain(line, column) {
      if (file === '') {
        const said = explainAt(files.value, board.value, line, column)
        return said
          ? { ...said,
              ...(said.origin && said.origin !== 'memory' && { note: `from: ${said.origin}` }) }
          : null
      }
      if (file !== COMMAND_FILE) return null
      const words = wordAt(column)
      return words
    },
    undo: project.undo,
    redo: project.redo,
    complete: (typed, line, column) => completeAt(typed, grammar, line, column, board.value),
  }, { grammar, label: file === '' ? 'Boot file' : file, test: file === ''
    ? 'boot-text'
    : file === COMMAND_FILE
      ? 'command-line'
      : 'boot-extra' })
  editor.show(text)
  editor.setOwners(owners.value)
  editor.setFindings(marked.value)
})
onBeforeUnmount(() => editor?.destroy())

const { explained } = useBoot()
/** The word of the command line under the pointer. */
function wordAt(column: number) {
  let at = 0
  for (const match of text.matchAll(/(?:[^\s"]|"[^"]*")+/g)) {
    if (column >= match.index && column < match.index + match[0].length) {
      const entry = explained.value.filter(line => line.file === COMMAND_FILE)[at]
      return entry
        ? {
            from: match.index, to: match.index + match[0].length, words: entry.words,
            ...(entry.origin && entry.origin !== 'memory' && { note: `from: ${entry.origin}` }),
          }
        : null
    }
    at++
  }
  return null
}

watch(() => text, (next) => {
  editor?.show(next)
  editor?.setOwners(owners.value)
})
watch(marked, next => editor?.setFindings(next))
watch(owners, next => editor?.setOwners(next))
watch(() => grammar, next => editor?.setGrammar(next))

defineExpose({ goTo: (line: number) => editor?.goTo(line), focus: () => editor?.focus() })
</script>

<template>
  <div
    ref="element"
    class="text-editor sheet"
  />
</template>
