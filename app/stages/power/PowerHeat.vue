<script setup lang="ts">
/** The load test: cooler, case, fan and clock, and how warm the processor gets. */
import { COOLERS, ENCLOSURES } from '~~/core/power/heat/coolers'
import { chipKw } from '~~/core/power/heat/run'
import { heatSheet } from '~~/core/power/heat/sheet'
import { boardClocking, boardHeat, savedAtPeakMa } from '~~/core/facts/board'
import type { Cooler, Enclosure, FanControl, HeatPlan } from '~~/core/plan/power'
import type { Curve } from '~/shared/LineChart.vue'

const project = useProjectStore()
const view = useViewStore()
const { power, setPower } = usePower()
const { go } = useStages()
const heat = computed(() => power.value.heat)
const plan = computed(() => project.plan!.power.heat)
const clock = computed(() => project.plan!.power.clock)
const board = computed(() => project.facts!.board)
const clocking = computed(() => board.value && boardClocking(board.value))
const saved = computed(() => board.value ? savedAtPeakMa(board.value, clock.value) : 0)
const set = (changes: Partial<HeatPlan>, label: string, key?: string) => setPower({ heat: { ...plan.value, ...changes } }, label, key)
const FANS: [FanControl['mode'], string][] = [
  ['none', 'no fan'], ['always', 'always on'], ['threshold', 'from a temperature'], ['curve', 'speed by temperature'],
]

function setFanMode(event: Event) {
  const mode = (event.target as HTMLSelectElement).value as FanControl['mode']
  const fan: FanControl = mode === 'threshold'
    ? { mode, onC: 60, hysteresisC: 10 }
    : mode === 'curve'
      ? {
          mode, hysteresisC: 5,
          points: [
            { temperatureC: 50, percent: 30 }, { temperatureC: 60, percent: 50 }, { temperatureC: 67, percent: 70 },
            { temperatureC: 75, percent: 100 },
          ],
        }
      : { mode }
  set({ fan }, 'Set the fan')
}
function number(event: Event, least: number, most: number, then: (value: number) => void) {
  const value = typedNumber(event, least, most)
  if (value === null) view.say(`A number from ${least} to ${most}.`, { tone: 'stop' })
  else then(value)
}
/** The cooler's own figure, from memory, in still air. */
const usualKw = computed(() => board.value ? chipKw(boardHeat(board.value), COOLERS[plan.value.cooler], 0).toFixed(1) : '')
function setKw(text: string) {
  const value = Number(text.trim().replace(',', '.'))
  if (text.trim() === '') return set({ coolerKw: undefined }, 'The cooler\'s usual figure')
  if (!Number.isFinite(value) || value <= 0 || value > 200) {
    return view.say(`"${text}" cannot be: K per W, above 0 and up to 200. Empty it to have the usual figure back.`, { tone: 'stop' })
  }
  set({ coolerKw: value }, 'Set the cooler', 'cooler kw')
}
const setFan = (fan: FanControl, key: string) => set({ fan }, 'Set the fan', key)
function setPoint(i: number, name: 'temperatureC' | 'percent', value: number) {
  const { fan } = plan.value
  if (fan.mode === 'curve') {
    setFan({ ...fan, points: fan.points.map((point, j) => j === i ? { ...point, [name]: value } : point) }, `point ${i} ${name}`)
  }
}
function setClock(event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  if (text === '') return setPower({ clock: { ...clock.value, coreMhz: null } }, 'The board\'s own clock')
  number(event, 1, 10_000, value => setPower({ clock: { ...clock.value, coreMhz: value } }, `Clock ${value} MHz`))
}
const bootLines = computed(() => project.report!.boot.needs.filter(need => /fan|arm_freq|over_voltage/.test(need.line)))
const clockText = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
const curves = computed<Curve[]>(() => {
  const run = heat.value
  if (!run) return []
  const { points } = run
  const end = points.at(-1)!.second / 60
  const over = (pick: (point: typeof points[number]) => number) => points.map(point => ({ x: point.second / 60, y: pick(point) }))
  return [
    { label: 'processor', unit: '°C', colour: '--copper', points: over(point => point.temperatureC) },
    { label: 'clocks fall', unit: '°C', colour: '--carmine', dashed: true, points: [{ x: 0, y: run.slowsC }, { x: end, y: run.slowsC }] },
    ...plan.value.fan.mode === 'none'
      ? []
      : [{ label: 'fan', unit: '%', colour: '--owner-0', right: true, stepped: true, fill: true, points: over(point => point.fanPercent) }],
    { label: 'clock', unit: '%', colour: '--moss', right: true, points: over(point => point.clockPercent) },
  ]
})
const rows = computed(() => heat.value?.points.filter((_, i, all) => i % Math.max(1, Math.round(all.length / 15)) === 0)
  .map(point => [
    clockText(point.second), `${point.temperatureC.toFixed(1)} °C`, `${Math.round(point.fanPercent)} %`,
    `${Math.round(point.clockPercent)} %`,
  ]) ?? [])
function workOut() {
  view.worksheet = heatSheet(board.value, heat.value?.boardW ?? 0, plan.value)
}
</script>

<template>
  <section data-test="heat">
    <template v-if="heat">
      <div class="settings">
        <label>cooler <select
          :value="plan.cooler"
          data-test="cooler"
          @change="set({ cooler: ($event.target as HTMLSelectElement).value as Cooler }, 'Choose the cooler')"
        ><option
          v-for="(entry, id) in COOLERS"
          :key="id"
          :value="id"
        >{{ entry.label }}</option></select></label>
        <v-text-field
          :key="String(plan.coolerKw)"
          class="kw"
          label="processor to air"
          :model-value="plan.coolerKw ?? ''"
          :placeholder="usualKw"
          persistent-placeholder
          suffix="K/W"
          inputmode="decimal"
          data-test="cooler-kw"
          @change="setKw(($event.target as HTMLInputElement).value)"
        />
        <span class="quiet small">{{ plan.coolerKw === undefined ? 'from memory' : 'yours' }}</span>
        <label>it stands <select
          :value="plan.enclosure"
          data-test="enclosure"
          @change="set({ enclosure: ($event.target as HTMLSelectElement).value as Enclosure }, 'Choose the case')"
        ><option
          v-for="(entry, id) in ENCLOSURES"
          :key="id"
          :value="id"
        >{{ entry.label }}</option></select></label>
        <label>room <input
          class="figures"
          inputmode="decimal"
          :value="plan.ambientC"
          @change="number($event, -60, 150, value => set({ ambientC: value }, 'Room temperature', 'ambient'))"
        > °C</label>
        <label>load <select
          :value="plan.load"
          @change="set({ load: ($event.target as HTMLSelectElement).value as HeatPlan['load'] }, 'Load of the test')"
        ><option value="idle">idle</option><option value="typical">typical</option><option value="peak">peak</option></select></label>
        <label>for <input
          class="figures"
          inputmode="numeric"
          :value="plan.minutes"
          @change="number($event, 1, 600, value => set({ minutes: Math.round(value) }, 'Length of the test', 'minutes'))"
        > min</label>
        <label>fan <select
          :value="plan.fan.mode"
          data-test="fan-mode"
          @change="setFanMode"
        ><option
          v-for="[mode, label] in FANS"
          :key="mode"
          :value="mode"
        >{{ label }}</option></select></label>
        <template v-if="plan.fan.mode === 'threshold'">
          <label>on at <input
            class="figures"
            inputmode="decimal"
            :value="plan.fan.onC"
            @change="number($event, 0, 120, value => plan.fan.mode === 'threshold' && setFan({ ...plan.fan, onC: value }, 'on'))"
          > °C</label>
        </template>
        <label v-if="plan.fan.mode === 'threshold' || plan.fan.mode === 'curve'">hysteresis <input
          class="figures"
          inputmode="decimal"
          :value="plan.fan.hysteresisC"
          @change="number($event, 0, 50, value => 'hysteresisC' in plan.fan && setFan({ ...plan.fan, hysteresisC: value }, 'hysteresis'))"
        > K</label>
        <v-btn
          size="small"
          variant="outlined"
          @click="workOut"
        >
          Worksheet
        </v-btn>
      </div>
      <div
        v-if="plan.fan.mode === 'curve'"
        class="settings"
      >
        <b class="small">Speed</b>
        <label
          v-for="(point, i) in plan.fan.points"
          :key="i"
        >from <input
          class="figures"
          inputmode="decimal"
          :value="point.temperatureC"
          @change="number($event, 0, 120, value => setPoint(i, 'temperatureC', value))"
        > °C <input
          class="figures"
          inputmode="decimal"
          :value="point.percent"
          :aria-label="`Speed ${i + 1} in percent`"
          @change="number($event, 0, 100, value => setPoint(i, 'percent', value))"
        > %</label>
      </div>
      <div class="verdict">
        <span class="figures big">{{ heat.hottestC.toFixed(0) }} °C</span>
        <span class="small">{{ heat.slowsAtS === null ? `Clocks hold for ${plan.minutes} min.`
                              : `Clocks fall after ${clockText(heat.slowsAtS)} (min:s); at the end ${Math.round(heat.endClockPercent)} %
                              remain.` }}
          {{ heat.boardW.toFixed(1) }} W at the board; without any limit it would settle at {{ heat.steadyC.toFixed(0) }}
          °C{{ heat.fanStarts ? `; the fan came on ${heat.fanStarts} ${heat.fanStarts === 1 ? 'time' : 'times'}` : '' }}.</span>
      </div>
      <ChartWithTable
        :curves="curves"
        x-label="minutes"
        :label="`Processor over the load test: ${heat.hottestC.toFixed(0)} °C at most`"
        :columns="['min:s', 'processor', 'fan', 'clock']"
        :rows="rows"
        :least="plan.ambientC"
        :most="85"
      />
      <div class="settings">
        <b class="small">Clock</b>
        <label>processor <input
          class="figures"
          inputmode="numeric"
          :value="clock.coreMhz ?? ''"
          :placeholder="String(clocking?.coreMhz)"
          data-test="clock-mhz"
          @change="setClock"
        > MHz</label>
        <label>core voltage <input
          class="figures"
          inputmode="numeric"
          :value="clock.voltageSteps"
          @change="number($event, -16, 16, value => setPower({ clock: { ...clock, voltageSteps: Math.round(value) } }, 'Core voltage'))"
        > steps of 25 mV</label>
        <span class="small quiet">{{ saved > 0.5 ? `saves ${Math.round(saved)} mA at peak` : saved < -0.5
          ? `takes ${Math.round(-saved)} mA more at peak` : 'the board\'s own' }}</span>
      </div>
      <div
        v-if="bootLines.length"
        class="lines small"
      >
        <b>In the boot file:</b> <code
          v-for="need in bootLines"
          :key="need.line"
          class="figures"
        >{{ need.line }}</code>
        <button
          class="bare act"
          @click="go('boot')"
        >
          To the boot files
        </button>
      </div>
      <v-table
        v-if="power.regulators.length"
      >
        <caption class="only-reader">
          Regulators and their heat
        </caption>
        <thead>
          <tr>
            <th scope="col">
              Regulator
            </th><th
              scope="col"
              class="num"
            >
              heat, W
            </th><th
              scope="col"
              class="num"
            >
              K/W
            </th><th
              scope="col"
              class="num"
            >
              gets °C
            </th><th
              scope="col"
              class="num"
            >
              stands °C
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="entry in power.regulators"
            :key="entry.node"
            :class="{ off: entry.temperatureC > entry.hottestC }"
          >
            <td>{{ entry.name }}</td><td class="num">
              {{ entry.lossW.toFixed(2) }}
            </td><td class="num">
              {{ entry.kw.toFixed(0) }}
            </td><td class="num">
              {{ entry.temperatureC.toFixed(0) }}
            </td><td class="num">
              {{ entry.hottestC }}
            </td>
          </tr>
        </tbody>
      </v-table>
      <p class="small quiet">
        Coolers, cases and fans are typical figures from memory. Heat sinks burn fingers; keep fingers and cables out of fan blades, small
        ones as well.
      </p>
    </template>
    <p
      v-else
      class="empty"
    >
      Choose a board first: its draw and its heat are what the test runs on.
    </p>
  </section>
</template>

<style scoped>
.kw { flex: 0 0 150px; }
section { display: grid; gap: 12px; min-width: 0; }
.settings { display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: center; font-size: 13px; }
input, select {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 2px 5px;
  font: inherit;
}
input { width: 58px; text-align: right; font-family: var(--figure-family); }
.verdict { display: flex; gap: 12px; align-items: center; }
.big { font-size: 26px; font-weight: 650; white-space: nowrap; }
.lines { display: flex; flex-wrap: wrap; gap: 4px 10px; align-items: center; }
.lines code { background: var(--paper-2); padding: 1px 6px; border-radius: 3px; }
.act { text-decoration: underline; color: var(--copper); }
.off td { color: var(--carmine); font-weight: 700; }
.empty { padding: 18px; border: 1px dashed var(--rule); border-radius: 4px; }
</style>
