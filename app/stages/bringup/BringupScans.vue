<script setup lang="ts">
/** Addresses, nodes and voltages that should be there once it runs, and scans that are kept. */
import { newId } from '~/database/id'
import { compareScan, hexAddress, readGrid } from '~~/core/bringup/grid'

const project = useProjectStore()
const view = useViewStore()
const expected = computed(() => project.report!.expected)
const direct = computed(() => expected.value.addresses.filter(entry => !entry.throughHub))
const bus = ref<string | null>(null)
const text = ref('')
const busId = computed(() => bus.value || expected.value.scans[0]?.busId || 'i2c1')
const busLabel = (id: string) => project.report!.buses.find(entry => entry.id === id)?.label ?? id

const verdictOf = (id: string, grid: string) => {
  const read = readGrid(grid)
  if (!read.ok) return { problem: read.message }
  return { verdict: compareScan(read.answers, read.tested,
    expected.value.addresses.filter(entry => entry.busId === id)) }
}
const shown = computed(() => text.value.trim() ? verdictOf(busId.value, text.value) : null)
const scans = computed(() => [...project.plan!.scans].reverse())

function keep() {
  const scan = { id: newId(), bus: busId.value, text: text.value, takenAt: new Date().toISOString() }
  project.edit({ edit: 'keep-scan', scan }, 'Keep the scan')
  text.value = ''
  view.say('The scan is kept with the project.', { action: { label: 'Undo', run: project.undo } })
}

const copyText = useCopy()
const copy = (command: string) => copyText(command, `"${command}"`)
</script>

<template>
  <div>
    <div class="columns">
      <section>
        <h2>Addresses on I²C</h2>
        <v-table
          data-test="expected-addresses"
        >
          <thead>
            <tr>
              <th scope="col">
                Bus
              </th><th scope="col">
                Address
              </th><th scope="col">
                Part
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="entry in expected.addresses"
              :key="entry.busId + entry.address"
            >
              <td class="whole keeps">
                {{ busLabel(entry.busId) }}
              </td>
              <td class="figures">
                {{ hexAddress(entry.address) }}
              </td>
              <td>
                {{ entry.names.join(' and ') }} <span
                  v-if="entry.throughHub"
                  class="quiet"
                >· seen while the channel is open</span> <span
                  v-if="entry.optional"
                  class="quiet"
                >· may be silent</span>
              </td>
            </tr>
            <tr v-if="!expected.addresses.length">
              <td
                colspan="3"
                class="quiet"
              >
                No part on I²C has a place yet.
              </td>
            </tr>
          </tbody>
        </v-table>
        <h2>Device nodes</h2>
        <v-table>
          <tbody>
            <tr
              v-for="node in expected.nodes"
              :key="node.path + node.what"
            >
              <td class="figures">
                {{ node.path }}
              </td><td>{{ node.what }}</td>
            </tr>
            <tr v-if="!expected.nodes.length">
              <td class="quiet">
                Nothing yet: place some parts first.
              </td>
            </tr>
          </tbody>
        </v-table>
        <p class="small quiet after">
          Compare <span class="figures">ls /dev</span> before and after plugging a USB part: what is new is the part.
        </p>
        <template v-if="expected.voltages.length">
          <h2>Voltages to measure</h2>
          <v-table
            data-test="expected-voltages"
          >
            <tbody>
              <tr
                v-for="voltage in expected.voltages"
                :key="voltage.node"
              >
                <td class="figures">
                  {{ voltage.volts.toFixed(2) }} V
                </td><td>{{ voltage.where }}</td>
              </tr>
            </tbody>
          </v-table>
          <p class="small quiet after">
            With everything running as usual. Meter set to DC volts, black lead on a ground position; a slipped tip shorts two positions.
          </p>
        </template>
      </section>
      <section>
        <h2>Scan the bus</h2>
        <p
          v-for="scan in expected.scans"
          :key="scan.busId"
          class="command"
        >
          <code class="figures">{{ scan.command }}</code>
          <v-btn
            size="small"
            variant="outlined"
            @click="copy(scan.command)"
          >
            Copy
          </v-btn> <span class="quiet small">{{ scan.label }}</span>
        </p>
        <v-select
          v-if="expected.scans.length > 1"
          v-model="bus"
          class="from"
          label="pasted from"
          :items="expected.scans.map(scan => ({ value: scan.busId, title: scan.label }))"
          :placeholder="expected.scans[0]!.label"
          persistent-placeholder
        />
        <v-textarea
          v-model="text"
          class="text-file"
          rows="10"
          spellcheck="false"
          aria-label="Output of the scan"
          placeholder="Paste the grid that the command prints."
          data-test="scan-text"
        />
        <div
          v-if="shown"
          data-test="scan-verdict"
          aria-live="polite"
        >
          <p
            v-if="shown.problem"
            class="problem"
          >
            {{ shown.problem }}
          </p>
          <template v-else>
            <ScanVerdict :verdict="shown.verdict!" />
            <v-btn
              size="small"
              color="primary"
              data-test="keep-scan"
              @click="keep"
            >
              Keep this scan
            </v-btn>
          </template>
        </div>
        <template v-if="scans.length">
          <h2>Kept scans</h2>
          <div
            v-for="scan in scans"
            :key="scan.id"
            class="kept"
          >
            <p class="small">
              <b>{{ busLabel(scan.bus) }}</b>, {{ dayAndTime(scan.takenAt) }}
              <v-btn
                variant="text"
                size="x-small"
                class="act"
                :aria-label="`Drop the scan of ${dayAndTime(scan.takenAt)}`"
                @click="project.edit({ edit: 'drop-scan', id: scan.id }, 'Drop a scan')"
              >
                drop
              </v-btn>
            </p>
            <ScanVerdict
              v-if="verdictOf(scan.bus, scan.text).verdict"
              :verdict="verdictOf(scan.bus, scan.text).verdict!"
            />
            <FoldPanel title="as it was pasted">
              <pre class="figures">{{ scan.text }}</pre>
            </FoldPanel>
          </div>
        </template>
        <p
          v-else-if="!direct.length"
          class="quiet small"
        >
          A scan says which parts answer; there is nothing to compare it with yet.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns > section { min-width: 0; overflow-wrap: anywhere; }
.command { flex-wrap: wrap; }
.columns { display: grid; gap: 24px; grid-template-columns: repeat(auto-fit, minmax(min(100%, 330px), 1fr)); }
.keeps, th { white-space: nowrap; overflow-wrap: normal; }
h2 { margin: 12px 0 5px; }
section > h2:first-child { margin-top: 0; }
.command { display: flex; gap: 10px; align-items: center; margin-bottom: 6px; }
.after { margin-top: 6px; }
.problem { color: var(--carmine); font-weight: 600; margin: 6px 0; }
.kept { border-top: 1px solid var(--rule); padding: 6px 0; }
.kept pre { overflow-x: auto; font-size: 12px; }
.from { max-width: 260px; margin: 8px 0; }
</style>
