<script setup lang="ts">
/** A store of energy: how long it lasts over the day, a week with a panel, and what saves most. */
import { mdiClose } from '@mdi/js'
import type { DayPart, StorePlan } from '~~/core/plan/power'
import { dayOf } from '~~/core/power/store/hours'
import { USUAL_POWER_WORKSHEETS } from '~~/core/power/worksheets'
import type { Curve } from '~/shared/LineChart.vue'

const project = useProjectStore()
const view = useViewStore()
const { power, setPower, add } = usePower()
const store = computed(() => power.value.stores[0] ?? null)
const asked = computed(() => project.plan!.power.store)
const day = computed(() => project.plan!.power.day)
const parts = computed<DayPart[]>(() => day.value.length ? day.value : dayOf([]))
const week = computed(() => power.value.week)
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

const set = (changes: Partial<StorePlan>, label: string,
  key?: string) => setPower({ store: { ...asked.value, ...changes } }, label, key)
function setNumber(name: 'hoursAsked' | 'temperatureC' | 'startShare' | 'panelW' | 'dayLengthH', value: number | null,
  scale = 1) {
  if (value === null) return set({ hoursAsked: null }, 'Ask for no hours')
  set({ [name]: value / scale }, 'Set the battery', `store ${name}`)
}
const setWeather = (i: number, percent: number) =>
  set({ weather: asked.value.weather.map((old, j) => j === i ? percent / 100 : old) }, 'Set the weather',
    `weather ${i}`)
const setDay = (next: DayPart[], label: string) => setPower({ day: next }, label)
function setPart(i: number, changes: Partial<DayPart>) {
  setDay(parts.value.map((part, j) => j === i ? { ...part, ...changes } : part), 'Change the day')
}
function addPart() {
  setDay([...parts.value, { fromH: 22, toH: 6, step: 'idle' }], 'Add a part of the day')
}
function workOut() {
  const entry = store.value
  view.worksheet = entry
    ? {
        kind: 'battery', node: entry.node, capacityMah: entry.capacityMah,
        cellV: project.catalogue.supplies.get(project.plan!.supply?.type ?? '')?.cellV ?? 3.7,
        efficiency: entry.efficiency,
        powerW: Number(entry.meanW.toFixed(3)), temperatureC: asked.value.temperatureC,
        chemistry: entry.kind === 'lead' || entry.kind === 'solar-battery' ? 'lead' : 'lithium',
        leftShare: Number(entry.capacity.leftShare.toFixed(3)), hoursAsked: asked.value.hoursAsked ?? 10,
      }
    : USUAL_POWER_WORKSHEETS.battery
}
const emptyOn = (hour: number | null) => hour === null ? 'never empty' : `empty on day ${Math.floor(hour / 24) + 1}`
const curves = computed<Curve[]>(() => week.value
  ? [
      {
        label: 'in the store', unit: '%', colour: '--copper', fill: true,
        points: week.value.points.map(point => ({ x: point.hour / 24, y: point.share * 100 })),
      },
      {
        label: 'sun', unit: 'W', colour: '--ochre', right: true,
        points: week.value.points.map(point => ({ x: point.hour / 24, y: point.sunW })),
      },
      {
        label: 'drawn', unit: 'W', colour: '--owner-0', right: true, stepped: true,
        points: week.value.points.map(point => ({ x: point.hour / 24, y: point.loadW })),
      },
    ]
  : [])
const rows = computed(() => week.value?.points.filter(point => point.hour % 6 === 0)
  .map(point => [
    `day ${Math.floor(point.hour / 24) + 1}, ${String(point.hour % 24).padStart(2, '0')}:00`,
    `${Math.round(point.share * 100)} %`,
    `${point.sunW.toFixed(1)} W`, `${point.loadW.toFixed(1)} W`,
  ]) ?? [])
const lastsText = computed(() =>
  `${power.value.hoursMeant.atLeast ? 'over ' : ''}${hoursInWords(power.value.hours!)}`)
const nameOf = (id: string) => power.value.nodes.find(node => node.id === id)?.name ?? id
/** What the figure counts, and what ends it. */
const words = computed(() => {
  const { name, usableWh, capacity, meanW, selfUseW, efficiency, discharge } = store.value!
  const ends = discharge?.stops
    ? `${nameOf(discharge.stops)} stops first: ${discharge.points.at(-1)!.loadedV.toFixed(2)} V under load, `
    + `${Math.round(capacity.leftShare * 100)} % left.`
    : `${Math.round(capacity.leftShare * 100)} % stay in it.`
  return `${name}: ${usableWh.toFixed(1)} Wh usable of ${capacity.printedWh.toFixed(1)} Wh printed, `
    + `${meanW.toFixed(2)} W drawn over the `
    + `day${selfUseW ? ` (${(selfUseW * 1000).toFixed(0)} mW of it for itself)` : ''}. ${ends} The temperature leaves `
    + `${Math.round(capacity.temperatureShare * 100)} % (from `
    + `memory)${efficiency < 1 ? `, its converter passes ${Math.round(efficiency * 100)} % on` : ''}.`
})
/** The week in words: how low, when, and whether it comes back. */
const weekWords = computed(() => {
  if (!week.value) return ''
  const { minShare, minAtH, emptyAtH, endShare, points } = week.value
  const at = (h: number) => `${DAYS[Math.floor(h / 24) % 7]} ${String(Math.floor(h % 24)).padStart(2, '0')}:00`
  const ends = Math.round((endShare - points[0]!.share) * 100)
  if (emptyAtH !== null) return `It is empty for the first time on ${at(emptyAtH)}.`
  return `It is lowest on ${at(minAtH)}, with ${Math.round(minShare * 100)} %. `
    + (points.slice(-24).some(point => point.share > 0.995)
      ? 'The last day fills it again.'
      : ends >= -1
        ? 'The week brings back what it takes.'
        : `The week ends ${-ends} % lower than it began: it `
          + 'goes on falling.')
})
const packs = computed(() => [...project.catalogue.supplies.values()].filter(unit => unit.capacityMah))
const chosen = ref<string | null>(null)
function addChosen() {
  if (chosen.value) add(chosen.value, null)
  chosen.value = null
}
</script>

<template>
  <section data-test="battery">
    <template v-if="store">
      <div class="top">
        <div class="lasts">
          <span class="figures big">{{ power.hours === null ? store.hours === null ? '—' : hoursInWords(store.hours) : lastsText }}
            <span
              v-if="power.hoursMeant.sun"
              class="small"
            >with this sun; {{ store.hours === null ? '—' : hoursInWords(store.hours) }} without</span></span>
          <span
            class="small"
            data-test="battery-words"
          >{{ words }}</span>
          <v-btn
            size="small"
            variant="outlined"
            @click="workOut"
          >
            Worksheet
          </v-btn>
        </div>
        <div class="settings">
          <NumberField
            label="asked"
            unit="h"
            :value="asked.hoursAsked"
            :min="0.1"
            :max="100000"
            may-be-empty
            data-test="hours-asked"
            @set="value => setNumber('hoursAsked', value)"
          />
          <MeasureField
            measure="temperature"
            label="at"
            :value="asked.temperatureC"
            :min="-60"
            :max="150"
            @set="value => setNumber('temperatureC', value!)"
          />
          <NumberField
            label="full at the start"
            unit="%"
            :value="Math.round(asked.startShare * 100)"
            :min="0"
            :max="100"
            @set="value => setNumber('startShare', value!, 100)"
          />
          <NumberField
            label="panel"
            unit="W"
            :value="asked.panelW"
            :min="0"
            :max="100000"
            data-test="panel-w"
            @set="value => setNumber('panelW', value!)"
          />
          <NumberField
            label="day of"
            unit="h"
            :value="asked.dayLengthH"
            :min="0"
            :max="24"
            @set="value => setNumber('dayLengthH', value!)"
          />
        </div>
      </div>
      <div class="columns">
        <div>
          <h3>The day</h3>
          <v-table>
            <thead>
              <tr>
                <th scope="col">
                  from
                </th><th scope="col">
                  to
                </th><th scope="col">
                  it is
                </th><th><span class="only-reader">drop</span></th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="(part, i) in parts"
                :key="i"
              >
                <td>
                  <NumberField
                    class="hour"
                    :value="part.fromH"
                    :min="0"
                    :max="24"
                    :name="`Part ${i + 1} from hour`"
                    @set="fromH => setPart(i, { fromH: fromH! })"
                  />
                </td>
                <td>
                  <NumberField
                    class="hour"
                    :value="part.toH"
                    :min="0"
                    :max="24"
                    :name="`Part ${i + 1} to hour`"
                    @set="toH => setPart(i, { toH: toH! })"
                  />
                </td>
                <td>
                  <v-select
                    :items="power.states.map(({ id, label }) => ({ value: id, title: label }))"
                    :model-value="part.step"
                    :aria-label="`Part ${i + 1}: state`"
                    @update:model-value="step => setPart(i, { step })"
                  />
                </td>
                <td>
                  <IconAct
                    v-if="day.length"
                    :name="`Drop part ${i + 1} of the day`"
                    :icon="mdiClose"
                    @click="setDay(parts.filter((_, j) => j !== i), 'Drop a part of the day')"
                  />
                </td>
              </tr>
            </tbody>
          </v-table>
          <p class="small quiet">
            Hours no part covers are idle; where two overlap the later row holds; one that ends before it begins runs over midnight.
          </p>
          <v-btn
            size="small"
            variant="outlined"
            data-test="add-day-part"
            @click="addPart"
          >
            Add a part
          </v-btn>
        </div>
        <div>
          <h3>What saves most</h3>
          <v-table
            data-test="savings"
          >
            <tbody>
              <tr
                v-for="saving in store.savings"
                :key="`${saving.node} ${saving.how}`"
              >
                <td>{{ saving.name }}, {{ saving.how }}</td>
                <td class="num">
                  {{ hoursInWords(saving.hours) }}
                </td>
                <td class="num">
                  +{{ hoursInWords(saving.gainedHours) }}
                </td>
              </tr>
              <tr v-if="!store.savings.length">
                <td class="quiet">
                  Nothing stands above idle.
                </td>
              </tr>
            </tbody>
          </v-table>
        </div>
      </div>
      <div class="weather small">
        <b>Sky</b>
        <NumberField
          v-for="(sky, i) in asked.weather"
          :key="i"
          :label="DAYS[i]"
          unit="%"
          :value="Math.round(sky * 100)"
          :min="0"
          :max="120"
          @set="value => setWeather(i, value!)"
        />
      </div>
      <p
        v-if="week"
        class="small"
        data-test="week-words"
      >
        {{ weekWords }}
      </p>
      <ChartWithTable
        v-if="week"
        :curves="curves"
        x-label="day"
        :x-every="1"
        :min="0"
        :max="100"
        :label="`Store over a week: least ${Math.round(week.minShare * 100)} %, ${emptyOn(week.emptyAtH)}`"
        :columns="['when', 'store', 'sun', 'drawn']"
        :rows="rows"
      />
    </template>
    <div
      v-else
      class="empty"
    >
      <p>No battery feeds this plan. Choose one as the board's supply on the Board stage, or put one into the tree:</p>
      <v-autocomplete
        v-model="chosen"
        class="pack"
        label="Battery"
        :items="packs"
        item-title="name"
        item-value="id"
        clearable
      />
      <v-btn
        size="small"
        color="primary"
        :disabled="!chosen"
        @click="addChosen"
      >
        Add it
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        @click="workOut"
      >
        Battery worksheet
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
section { display: grid; gap: 12px; min-width: 0; }
.top { display: grid; gap: 6px; }
.lasts { display: flex; gap: 12px; align-items: center; }
.big .small { display: block; font-size: 12.5px; font-weight: 500; }
.big { font-size: 26px; font-weight: 650; white-space: nowrap; }
.settings, .weather { display: flex; flex-wrap: wrap; gap: 10px; align-items: center; padding-top: 4px; }
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 22px; }
.columns td { padding-block: 3px; }
.settings > *, .weather > .v-input { flex: 0 0 118px; }
.weather > .v-input { flex-basis: 84px; }
.hour { width: 72px; }
.pack { flex: 0 1 320px; }
.empty {
  padding: 18px;
  border: 1px dashed var(--rule);
  border-radius: 4px;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
@media (max-width: 900px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
