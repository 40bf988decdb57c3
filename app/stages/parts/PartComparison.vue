<script setup lang="ts">
/** Two or three parts of a kind, side by side. */
import { compareParts } from '~~/core/catalogue/traits'
import type { Part } from '~~/core/catalogue/types'

const { parts } = defineProps<{ parts: Part[] }>()
const emit = defineEmits<{ close: [], add: [part: Part] }>()
const rows = computed(() => compareParts(parts))
function take(part: Part) {
  emit('add', part)
  emit('close')
}
</script>

<template>
  <FrameDialog
    :width="960"
    title="Parts side by side"
    test="part-comparison"
    @close="emit('close')"
  >
    <v-table>
      <thead>
        <tr>
          <th scope="col">
            <span class="only-reader">What</span>
          </th>
          <th
            v-for="part in parts"
            :key="part.id"
            scope="col"
          >
            <b>{{ part.name }}</b>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.label"
          :class="{ differs: row.differs }"
        >
          <th
            scope="row"
            class="quiet"
          >
            {{ row.label }}<span
              v-if="row.differs"
              class="only-reader"
            >, differs</span>
          </th>
          <td
            v-for="(value, i) in row.values"
            :key="i"
          >
            {{ value }}
          </td>
        </tr>
        <tr>
          <th scope="row">
            <span class="only-reader">Take one</span>
          </th>
          <td
            v-for="part in parts"
            :key="part.id"
          >
            <v-btn
              size="small"
              color="primary"
              :aria-label="`Add ${part.name}`"
              @click="take(part)"
            >
              Add
            </v-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
  </FrameDialog>
</template>

<style scoped>
th[scope=row] { text-align: start; font-weight: 400; white-space: nowrap; padding-right: 16px; vertical-align: top; }
.differs td { font-weight: 650; }
td { overflow-wrap: anywhere; }
</style>
