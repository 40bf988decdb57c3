<script setup lang="ts">
/** A part's figures that can be replaced: what its file says, and what stands in its place. */
import { partFigures, type PartFigure } from '~~/core/facts/part-figures'
import { resolvePart } from '~~/core/facts/gather'
import type { PlanPart } from '~~/core/plan/types'

const { inPlan } = defineProps<{ inPlan: PlanPart }>()
const project = useProjectStore()
const figures = computed<PartFigure[]>(() => {
  const file = resolvePart(inPlan, 0, project.catalogue)
  return file && project.plan ? partFigures(file, project.plan) : []
})
/** Fields are drawn when they are looked at: thirty parts have some hundred of them. */
const open = ref(false)
const replaced = computed(() => figures.value.filter(figure => figure.own !== null).length)

function set({ key, label, own }: PartFigure, value: number | null) {
  if (value !== null) return project.edit({ edit: 'set-limit', key, value }, `Set ${label} of ${inPlan.name}`,
    `limit ${key}`)
  if (own !== null) project.edit({ edit: 'set-limit', key, value: null }, `Put back: ${label}`)
}
</script>

<template>
  <FoldPanel
    v-if="figures.length"
    v-model:open="open"
    :title="`Its figures${replaced ? ` (${replaced} of yours)` : ''}`"
    :data-test="`figures-${inPlan.id}`"
  >
    <div
      v-for="figure in figures"
      :key="figure.key"
      class="row"
    >
      <NumberField
        :label="figure.label"
        :value="figure.own"
        :placeholder="figure.file === null ? 'not known' : String(figure.file)"
        :unit="figure.unit"
        :min="figure.min"
        :max="figure.max"
        may-be-empty
        persistent-placeholder
        @set="value => set(figure, value)"
      />
      <span class="quiet origin">{{ figure.own === null ? figure.origin : 'yours' }}</span>
      <v-btn
        v-if="figure.own !== null"
        size="x-small"
        variant="outlined"
        @click="set(figure, null)"
      >
        Put back {{ figure.file ?? '' }}
      </v-btn>
    </div>
  </FoldPanel>
</template>

<style scoped>
.row { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; gap: 6px; align-items: center; padding-block: 4px 2px; }
.origin { font-size: 11.5px; max-width: 90px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
