<script setup lang="ts">
/** Any worksheet of the supply: its fields and what they come to, as the core has them. */
import { SHEET_FIELDS, sheetRows } from '~~/core/power/sheets'
import type { PowerWorksheet } from '~~/core/power/worksheets'

const { given } = defineProps<{ given: PowerWorksheet }>()
const emit = defineEmits<{ change: [sheet: PowerWorksheet] }>()
const figures = reactive<Record<string, unknown>>({ ...given })
const sheet = computed(() => ({ ...figures }) as unknown as PowerWorksheet)
const rows = computed(() => sheetRows(sheet.value))
watch(sheet, next => emit('change', next))
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-for="field in SHEET_FIELDS[given.kind]"
        :key="field.name"
        :model-value="figures[field.name] as number"
        :label="field.label"
        :unit="field.unit"
        :least="field.least"
        :open="!field.orEqual"
        @update:model-value="figures[field.name] = $event"
      />
      <label
        v-if="given.kind === 'battery'"
        class="text"
      ><span>Cells</span><select v-model="figures.chemistry"><option value="lithium">lithium</option><option
        value="lead"
      >lead</option></select></label>
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>
