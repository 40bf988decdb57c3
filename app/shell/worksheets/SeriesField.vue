<script setup lang="ts">
/** Which series of preferred values to choose from. */
import type { SeriesName } from '~~/core/signals/series'

const series = defineModel<SeriesName>({ required: true })
</script>

<template>
  <label class="series">
    <span>Series</span>
    <select v-model="series">
      <option value="E12">
        E12, ten per cent
      </option>
      <option value="E24">
        E24, five per cent
      </option>
      <option value="E96">
        E96, one per cent
      </option>
    </select>
  </label>
</template>

<style scoped>
.series { display: grid; grid-template-columns: minmax(130px, 1fr) 154px; gap: 6px; font-size: 13.5px; align-items: center; }
select { border: 1px solid var(--rule); border-radius: 3px; background: var(--sheet); color: inherit; padding: 3px 6px; }
</style>
