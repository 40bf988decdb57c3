<script setup lang="ts">
/** A part's figures that can be replaced: what its file says, and what stands in its place. */
import { partFigures, type PartFigure } from '~~/core/facts/part-figures'
import { resolvePart } from '~~/core/facts/gather'
import type { PlanPart } from '~~/core/plan/types'

const { inPlan } = defineProps<{ inPlan: PlanPart }>()
const project = useProjectStore()
const view = useViewStore()
const figures = computed<PartFigure[]>(() => {
  const file = resolvePart(inPlan, 0, project.catalogue)
  return file && project.plan ? partFigures(file, project.plan) : []
})
/** Fields are drawn when they are looked at: thirty parts have some hundred of them. */
const open = ref(false)
const replaced = computed(() => figures.value.filter(figure => figure.own !== null).length)

function set({ key, label, unit, least, most, own }: PartFigure, text: string) {
  const value = Number(text.trim().replace(',', '.'))
  if (text.trim() === '') {
    if (own !== null) project.edit({ edit: 'set-limit', key, value: null }, `Put back: ${label}`)
    return
  }
  if (!Number.isFinite(value) || value < least || value > most) {
    return view.say(`"${text}" cannot be: ${label} goes from ${least} to ${most} ${unit}. Empty it to have the file's figure back.`, {
      tone: 'stop',
    })
  }
  project.edit({ edit: 'set-limit', key, value }, `Set ${label} of ${inPlan.name}`, `limit ${key}`)
}
</script>

<template>
  <details
    v-if="figures.length"
    class="small"
    :data-test="`figures-${inPlan.id}`"
    @toggle="open = ($event.target as HTMLDetailsElement).open"
  >
    <summary>Its figures{{ replaced ? ` (${replaced} of yours)` : '' }}</summary>
    <div
      v-for="figure in open ? figures : []"
      :key="figure.key"
      class="row"
    >
      <v-text-field
        :key="`${figure.key} ${figure.own}`"
        :label="figure.label"
        :model-value="figure.own ?? ''"
        :placeholder="figure.file === null ? 'not known' : String(figure.file)"
        :suffix="figure.unit"
        persistent-placeholder
        density="compact"
        variant="outlined"
        inputmode="decimal"
        hide-details
        @change="set(figure, ($event.target as HTMLInputElement).value)"
      />
      <span class="quiet origin">{{ figure.own === null ? figure.origin : 'yours' }}</span>
      <v-btn
        v-if="figure.own !== null"
        size="x-small"
        variant="outlined"
        @click="set(figure, '')"
      >
        Put back {{ figure.file ?? '' }}
      </v-btn>
    </div>
  </details>
</template>

<style scoped>
.row { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; gap: 6px; align-items: center; padding-block: 4px 2px; }
.origin { font-size: 11.5px; max-width: 90px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
