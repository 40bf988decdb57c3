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
  <v-dialog
    :model-value="true"
    max-width="960"
    aria-label="Parts side by side"
    @update:model-value="emit('close')"
  >
    <v-card
      title="Parts side by side"
      data-test="part-comparison"
    >
      <v-card-text>
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
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">
          Close
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
th[scope=row] { text-align: start; font-weight: 400; white-space: nowrap; padding-right: 16px; vertical-align: top; }
.differs td { font-weight: 650; }
td { overflow-wrap: anywhere; }
</style>
