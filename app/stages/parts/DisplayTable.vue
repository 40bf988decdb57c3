<script setup lang="ts">
/** Displays side by side, for choosing one. */
import { displayTable } from '~~/core/signals/displays'
import type { Part } from '~~/core/catalogue/types'

const emit = defineEmits<{ close: [], add: [part: Part] }>()
const project = useProjectStore()
const rows = computed(() => displayTable(project.catalogue.parts.values(), project.facts?.board ?? null))

function choose(id: string) {
  const part = project.catalogue.parts.get(id)
  if (part) emit('add', part)
  emit('close')
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="1180"
    aria-label="Displays side by side"
    @update:model-value="emit('close')"
  >
    <v-card
      class="displays"
      data-test="display-table"
    >
      <div class="head">
        <h2>Displays side by side</h2>
        <v-btn
          size="small"
          variant="outlined"
          @click="emit('close')"
        >
          Close
        </v-btn>
      </div>
      <div
        class="scroll"
        tabindex="0"
      >
        <v-table>
          <thead>
            <tr>
              <th>Display</th><th class="num">
                Size
              </th><th class="num">
                Pixels
              </th><th>Touch</th><th>Picture by</th><th>Touch by</th><th class="num">
                Positions
              </th><th>Backlight</th><th>Driver</th><th class="num">
                mA typ. / peak
              </th><th class="num">
                Pictures/s
              </th><th class="num">
                Price
              </th><th><span class="only-reader">Add</span></th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="row in rows"
              :key="row.partId"
            >
              <td>{{ row.name }}</td>
              <td class="num">
                {{ row.sizeInch }}″
              </td>
              <td class="num">
                {{ row.width }} × {{ row.height }}
              </td>
              <td>{{ row.touch }}</td>
              <td>{{ row.picture }}</td>
              <td>{{ row.touchBy }}</td>
              <td class="num">
                {{ row.positions }}
              </td>
              <td>{{ row.backlight }}</td>
              <td>{{ row.driver }}</td>
              <td class="num">
                {{ row.typicalMa }} / {{ row.peakMa }}
              </td>
              <td class="num">
                {{ row.framesPerS === null ? '—' : row.framesPerS.toFixed(row.framesPerS < 10 ? 1 : 0) }}
              </td>
              <td class="num">
                {{ row.price ?? '—' }}
              </td>
              <td>
                <v-btn
                  size="x-small"
                  variant="outlined"
                  :aria-label="`Add ${row.name}`"
                  @click="choose(row.partId)"
                >
                  Add
                </v-btn>
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p class="small quiet">
        Pictures a second are the most that the bus carries on
        {{ project.facts?.board ? 'this board' : 'a board that runs it at its limit' }}, or the glass shows. A ready image brings a driver
        with it and takes the place of your own image; an overlay is one line in the boot file.
      </p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.displays { padding: 14px 18px; display: grid; gap: 10px; background: var(--paper); color: var(--ink); }
.head { display: flex; justify-content: space-between; align-items: center; }
.scroll { overflow: auto; max-height: 60vh; }
.v-table { font-size: 12.5px; }
.v-table td, .v-table th { white-space: nowrap; }
.v-table td:first-child { white-space: normal; min-width: 190px; font-weight: 600; }
</style>
