<script setup lang="ts">
/** A figure in the maker's own unit: temperatures, lengths and gauges are turned for the screen and back. */
import type { Measure } from '~/composables/useUnits'

const { measure, value, least = undefined, most = undefined } = defineProps<{
  measure: Measure
  value: number | null
  least?: number
  most?: number
}>()
const emit = defineEmits<{ set: [value: number | null] }>()
const { units } = useUnits()
const unit = computed(() => units.value[measure])
/** A thinner wire has a higher gauge: the ends of the range change places. */
const range = computed(() => {
  const ends = [least, most].map(end => end === undefined ? undefined : unit.value.show(end))
  return ends[0] !== undefined && ends[1] !== undefined && ends[0] > ends[1] ? [ends[1], ends[0]] : ends
})
</script>

<template>
  <NumberField
    :value="value === null ? null : unit.show(value)"
    :unit="unit.unit"
    :least="range[0]"
    :most="range[1]"
    @set="shown => emit('set', shown === null ? null : unit.keep(shown))"
  />
</template>
