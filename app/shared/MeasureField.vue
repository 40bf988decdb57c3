<script setup lang="ts">
/** A figure in the maker's own unit: temperatures, lengths and gauges are turned for the screen and back. */
import type { Measure } from '~/composables/useUnits'

const { measure, value, min = undefined, max = undefined } = defineProps<{
  measure: Measure
  /** The core's own unit: here the maker's is shown. */
  unit?: string
  value: number | null
  min?: number
  max?: number
}>()
const emit = defineEmits<{ set: [value: number | null], typing: [value: number] }>()
const { units } = useUnits()
const shown = computed(() => units.value[measure])
/** A thinner wire has a higher gauge: the ends of the range change places. */
const range = computed(() => {
  const ends = [min, max].map(end => end === undefined ? undefined : shown.value.show(end))
  return shown.value.show(1) > shown.value.show(2) ? [ends[1], ends[0]] : ends
})
</script>

<template>
  <NumberField
    :value="value === null ? null : shown.show(value)"
    :unit="shown.unit"
    :min="range[0]"
    :max="range[1]"
    @typing="typed => emit('typing', shown.keep(typed))"
    @set="typed => emit('set', typed === null ? null : shown.keep(typed))"
  />
</template>
