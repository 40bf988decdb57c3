<script setup lang="ts">
/** Any worksheet: its fields, and beside them what they come to, as the core has them. */
import MeasureField from '~/shared/MeasureField.vue'
import NumberField from '~/shared/NumberField.vue'
import { fieldsOf, filledSheet, offersOf, sectionsOf } from '~~/core/findings/worksheets'
import type { SheetContext } from '~~/core/signals/sheets'
import type { Worksheet } from '~~/core/vocabulary/worksheets'

const { given, context } = defineProps<{ given: Worksheet, context: SheetContext }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const figures = ref<Record<string, unknown>>({ ...filledSheet(given) })
const sheet = computed(() => figures.value as unknown as Worksheet)
const fields = computed(() => fieldsOf(given).filter(field => !field.when || figures.value[field.when] === true))
const sections = computed(() => sectionsOf(sheet.value, context))
watch(sheet, next => emit('change', next))

const set = (name: string, value: unknown) => figures.value = { ...figures.value, [name]: value }
const numberOf = (name: string) => figures.value[name] as number
const listOf = (name: string) => (figures.value[name] as number[]).join(' ')
const readList = (text: string) => text.split(/[\s;∥|]+/).map(word => Number(word.replace(',', '.')))
  .filter(value => Number.isFinite(value) && value > 0)
/** The least value that the field takes: the next above its limit where that itself is not allowed. */
const MIN_ABOVE = 1e-12
</script>

<template>
  <div class="body">
    <div class="inputs">
      <template
        v-for="field in fields"
        :key="field.name"
      >
        <component
          :is="measureOf(field.unit) ? MeasureField : NumberField"
          v-if="field.is === 'number'"
          :measure="measureOf(field.unit) ?? undefined"
          :label="field.label"
          :unit="field.unit"
          :value="numberOf(field.name)"
          :min="field.orEqual ? field.min : field.min + MIN_ABOVE"
          @set="(value: number | null) => set(field.name, value)"
          @typing="(value: number) => set(field.name, value)"
        />
        <v-select
          v-else-if="field.is === 'choice'"
          :label="field.label"
          :items="field.choices"
          :model-value="figures[field.name]"
          @update:model-value="value => set(field.name, value)"
        />
        <v-checkbox
          v-else-if="field.is === 'flag'"
          :label="field.label"
          :model-value="figures[field.name] === true"
          @update:model-value="value => set(field.name, value === true)"
        />
        <v-text-field
          v-else
          class="figures"
          :label="field.label"
          :suffix="field.unit"
          :model-value="listOf(field.name)"
          placeholder="1800 10000"
          @change="set(field.name, readList(($event.target as HTMLInputElement).value))"
        />
      </template>
      <v-btn
        v-for="offer in offersOf(sheet)"
        :key="offer.label"
        size="small"
        variant="outlined"
        @click="figures = { ...offer.sheet }"
      >
        {{ offer.label }}
      </v-btn>
    </div>
    <div class="results">
      <template
        v-for="section in sections"
        :key="section.title"
      >
        <h3 v-if="section.title">
          {{ section.title }}
        </h3>
        <ResultRows :rows="section.rows" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.body { display: grid; grid-template-columns: minmax(240px, 290px) minmax(0, 1fr); gap: 22px; align-items: start; }
.inputs { display: grid; gap: 10px; }
h3:not(:first-child) { margin-top: 10px; }
@media (max-width: 760px) { .body { grid-template-columns: minmax(0, 1fr); } }
</style>
