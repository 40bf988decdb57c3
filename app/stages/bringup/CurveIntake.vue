<script setup lang="ts">
/** Readings in a text, pasted or from a file, as the curves that they are. */
import { curvesIn } from '~~/core/curves/read'
import type { MeasuredCurve } from '~~/core/curves/types'
import { inWords } from '~/database/failures'
import { lasting } from './lasting'

const emit = defineEmits<{ keep: [curves: MeasuredCurve[]] }>()
const view = useViewStore()
/** So much text is read at once. */
const MAX = 5_000_000
const text = ref('')
const read = computed(() => text.value.trim() ? curvesIn(text.value) : null)
const said = computed(() => {
  const { times, stray } = read.value!
  const lines = stray ? ` ${stray} ${stray === 1 ? 'line says' : 'lines say'} nothing.` : ''
  return `${times.charAt(0).toUpperCase()}${times.slice(1)}.${lines}`
})
function rangeOf({ name, unit, values, seconds }: MeasuredCurve): string {
  let [min, max] = [Infinity, -Infinity]
  for (const value of values) [min, max] = [Math.min(min, value), Math.max(max, value)]
  return `${name}${unit ? ` in ${unit}` : ''}: ${values.length} readings, ${min} to ${max}, `
    + `over ${lasting(seconds.at(-1)!)}`
}
function keep(): void {
  emit('keep', read.value!.curves)
  text.value = ''
}
async function picked([first]: File[]): Promise<void> {
  if (!first) return
  if (first.size > MAX) {
    return view.say(`${first.name} has ${Math.round(first.size / 1e6)} MB; up to ${MAX / 1e6} are read.`,
      { tone: 'stop' })
  }
  try {
    text.value = await first.text()
  }
  catch (error) {
    view.say(`${first.name} could not be read: ${inWords(error)}`, { tone: 'stop' })
  }
}
</script>

<template>
  <section>
    <h2>Readings</h2>
    <v-textarea
      v-model="text"
      class="text-file"
      rows="3"
      auto-grow
      max-rows="10"
      spellcheck="false"
      aria-label="Readings"
      placeholder="A table (CSV), JSON, or lines with a figure in each: what a program printed or a meter stored."
      hide-details
      data-test="curve-text"
    />
    <FilePick
      label="Open a file"
      size="small"
      accept=".csv,.tsv,.txt,.json,.log"
      test="curve-file"
      @files="picked"
    />
    <div
      v-if="read"
      class="read"
      aria-live="polite"
      data-test="curve-read"
    >
      <p
        v-for="curve in read.curves"
        :key="curve.name"
        class="small"
      >
        {{ rangeOf(curve) }}
      </p>
      <p
        v-if="!read.curves.length"
        class="small"
      >
        No curve in it: at least three rows or lines with a figure are needed.
      </p>
      <p
        v-else
        class="small quiet"
      >
        {{ said }}
      </p>
      <v-btn
        v-if="read.curves.length"
        size="small"
        color="primary"
        data-test="curve-keep"
        @click="keep"
      >
        Keep {{ read.curves.length === 1 ? 'it' : `all ${read.curves.length}` }}
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
section { display: grid; gap: 6px; justify-items: start; padding-bottom: 14px; }
section > * { max-width: 100%; }
.text-file { width: 100%; }
h2 { margin: 0; }
.read { display: grid; gap: 4px; justify-items: start; padding: 6px 0 10px; }
</style>
