<script setup lang="ts">
/** A program in the editor, with what contradicts the plan marked where it stands. */
import type { Held } from '~~/core/programs/judge'
import type { Language } from '~~/core/programs/types'
import { restoreEndings } from '~~/core/boot/lines'
import { makeEditor } from './useEditor'
import '~/assets/editor.css'

const { text, language, held } = defineProps<{ text: string, language: Language, held: readonly Held[] }>()
const emit = defineEmits<{ typed: [text: string], right: [held: Held] }>()
const project = useProjectStore()
const element = useTemplateRef<HTMLElement>('element')
let editor: ReturnType<typeof makeEditor> | null = null

const grammar = computed(() => language === 'c' || language === 'javascript'
  ? 'source' as const
  : language === 'boot'
    ? 'key-value' as const
    : 'plain' as const)
const SEVERITY = { agrees: 'note', contradicts: 'caution', unknown: 'note' } as const

/** Marks by line and column; the editor knows one line ending. */
const marks = computed(() => {
  const plain = text.replace(/\r\n|\r/g, '\n')
  // Offsets are those of the text as it is kept: with another ending they cannot be shown.
  if (plain.length !== text.length) return []
  return held.filter(entry => entry.sighting.to <= text.length).map((entry) => {
    const start = text.lastIndexOf('\n', entry.sighting.from - 1) + 1
    return {
      line: entry.sighting.line, from: entry.sighting.from - start, to: entry.sighting.to - start,
      severity: SEVERITY[entry.verdict],
      message: entry.says,
      fixes: entry.verdict === 'contradicts' && entry.should !== undefined
        ? [{ label: `Write ${entry.should}`, run: () => emit('right', entry) }]
        : [],
    }
  })
})

onMounted(() => {
  editor = makeEditor(element.value!, {
    onText: typed => emit('typed', restoreEndings(text, typed)), onLine: () => {}, explain: () => null,
    complete: () => null,
    undo: project.undo, redo: project.redo,
  }, { grammar: grammar.value, label: 'Program, configuration or table', test: 'program-text' })
  editor.show(text)
  editor.setFindings(marks.value)
})
onBeforeUnmount(() => editor?.destroy())
watch(() => text, next => editor?.show(next))
watch(marks, next => editor?.setFindings(next))
watch(grammar, next => editor?.setGrammar(next))
defineExpose({ goTo: (line: number) => editor?.goTo(line) })
</script>

<template>
  <div
    ref="element"
    class="text-editor sheet"
  />
</template>
