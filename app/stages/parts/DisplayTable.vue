<script setup lang="ts">
/** Displays side by side, for choosing one. */
import { displayTable } from '~~/core/signals/displays'
import type { Part } from '~~/core/catalogue/types'

const emit = defineEmits<{ close: [], add: [part: Part] }>()
const project = useProjectStore()
const { price } = useUnits()
const rows = computed(() => displayTable(project.catalogue.parts.values(), project.facts?.board ?? null))

type Row = typeof rows.value[number]
const COLUMNS = [
  { key: 'name', title: 'Display', value: (row: Row) => row.name },
  { key: 'size', title: 'Size', value: (row: Row) => row.sizeInch, num: true },
  { key: 'pixels', title: 'Pixels', value: (row: Row) => row.width * row.height, num: true },
  { key: 'touch', title: 'Touch', value: (row: Row) => row.touch },
  { key: 'picture', title: 'Picture by', value: (row: Row) => row.picture },
  { key: 'touchBy', title: 'Touch by', value: (row: Row) => row.touchBy },
  { key: 'positions', title: 'Positions', value: (row: Row) => row.positions, num: true },
  { key: 'backlight', title: 'Backlight', value: (row: Row) => row.backlight },
  { key: 'driver', title: 'Driver', value: (row: Row) => row.driver },
  { key: 'current', title: 'mA typ. / peak', value: (row: Row) => row.typicalMa, num: true },
  { key: 'frames', title: 'Pictures/s', value: (row: Row) => row.framesPerS, num: true },
  { key: 'price', title: 'Price', value: (row: Row) => row.price, num: true },
  { key: 'add', title: 'Add', value: () => '', unsorted: true, hidden: true },
]

function choose(id: string) {
  const part = project.catalogue.parts.get(id)
  if (part) emit('add', part)
  emit('close')
}
</script>

<template>
  <FrameDialog
    :width="1180"
    title="Displays side by side"
    test="display-table"
    @close="emit('close')"
  >
    <SortTable
      :rows="rows"
      :columns="COLUMNS"
      :row-key="row => row.partId"
      caption="Displays side by side"
    >
      <template #size="{ row }">
        {{ row.sizeInch }}″
      </template>
      <template #pixels="{ row }">
        {{ row.width }} × {{ row.height }}
      </template>
      <template #current="{ row }">
        {{ row.typicalMa }} / {{ row.peakMa }}
      </template>
      <template #frames="{ row }">
        {{ row.framesPerS === null ? '—' : row.framesPerS.toFixed(row.framesPerS < 10 ? 1 : 0) }}
      </template>
      <template #price="{ row }">
        {{ row.price === null ? '—' : price(row.price) }}
      </template>
      <template #add="{ row }">
        <v-btn
          size="x-small"
          variant="outlined"
          :aria-label="`Add ${row.name}`"
          @click="choose(row.partId)"
        >
          Add
        </v-btn>
      </template>
    </SortTable>
    <p class="small quiet">
      Pictures a second are the most that the bus carries on
      {{ project.facts?.board ? 'this board' : 'a board that runs it at its limit' }}, or the glass shows. A ready image brings a driver
      with it and takes the place of your own image; an overlay is one line in the boot file.
    </p>
  </FrameDialog>
</template>

<style scoped>
.v-table { font-size: 12.5px; }
.v-table :deep(td), .v-table :deep(th) { padding-right: 8px; }
.v-table :deep(td.num) { white-space: nowrap; }
.v-table :deep(td:first-child) { min-width: 170px; font-weight: 600; }
</style>
