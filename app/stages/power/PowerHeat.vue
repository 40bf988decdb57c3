<script setup lang="ts">
/** The load test: cooler, case, fan and clock, and how warm the processor gets. */
import { COOLERS, ENCLOSURES, OTHER_COOLER } from '~~/core/power/heat/coolers'
import { chipKw } from '~~/core/power/heat/run'
import { heatSheet } from '~~/core/power/heat/sheet'
import { BOARD_FAN, heatWithFigure, USUAL_THRESHOLD } from '~~/core/facts/heat'
import type { ResolvedPart } from '~~/core/facts/types'
import { boardClocking, boardHeat, savedAtPeakMa } from '~~/core/facts/board'
import type { Cooler, Enclosure, FanControl, HeatPlan } from '~~/core/plan/power'
import type { Curve } from '~/shared/LineChart.vue'

const project = useProjectStore()
const view = useViewStore()
const { power, setPower } = usePower()
const { go } = useStages()
const { units, temperature } = useUnits()
const heat = computed(() => power.value.heat)
/** As it counts, and what the plan's own setting says where a thing of the plan counts in its place. */
const plan = computed(() => project.facts!.heat.set)
const setting = computed(() => project.plan!.power.heat)
const things = computed(() => project.facts!.heat)
const inPlan = (thing: ResolvedPart | null) => thing ? `${thing.name}, in the plan` : ''
const clock = computed(() => project.plan!.power.clock)
const board = computed(() => project.facts!.board)
const clocking = computed(() => board.value && boardClocking(board.value))
const saved = computed(() => board.value ? savedAtPeakMa(board.value, clock.value) : 0)
const set = (changes: Partial<HeatPlan>, label: string,
  key?: string) => setPower({ heat: { ...setting.value, ...changes } }, label, key)
const fans = computed((): { value: FanControl['mode'], title: string }[] => [
  { value: 'none', title: things.value.fan ? 'as the board runs it' : 'no fan' },
  { value: 'always', title: 'always on' },
  { value: 'threshold', title: 'from a temperature' }, { value: 'curve', title: 'speed by temperature' },
])
const coolers = Object.entries(COOLERS).map(([value, { label }]) => ({ value: value as Cooler, title: label }))
const enclosures = Object.entries(ENCLOSURES).map(([value, { label }]) => ({ value: value as Enclosure, title: label }))
type Regulator = typeof power.value.regulators[number]
const REGULATOR_COLUMNS = [
  { key: 'name', title: 'Regulator', value: (entry: Regulator) => entry.name },
  { key: 'loss', title: 'heat, W', value: (entry: Regulator) => Number(entry.lossW.toFixed(2)), num: true },
  { key: 'kw', title: 'K/W', value: (entry: Regulator) => Math.round(entry.kw), num: true },
  { key: 'gets', title: 'gets °C', value: (entry: Regulator) => Math.round(entry.temperatureC), num: true },
  { key: 'stands', title: 'stands °C', value: (entry: Regulator) => entry.hottestC, num: true },
]
const LOADS = (['idle', 'typical', 'peak'] as const).map(value => ({ value, title: value }))

function setFanMode(mode: FanControl['mode']) {
  const fan: FanControl = mode === 'threshold'
    ? { mode, ...USUAL_THRESHOLD }
    : mode === 'curve'
      ? BOARD_FAN
      : { mode }
  set({ fan }, 'Set the fan')
}
/** The cooler's own figure, from memory, in still air. */
const fanWords = computed(() => heat.value?.fanStarts
  ? `; the fan came on ${heat.value.fanStarts} ${heat.value.fanStarts === 1 ? 'time' : 'times'}`
  : '')
const usualKw = computed(() =>
  board.value ? chipKw(boardHeat(board.value), COOLERS[plan.value.cooler], 0).toFixed(1) : '')
const setKw = (value: number | null) => value === null
  ? set({ ...OTHER_COOLER }, 'The cooler\'s usual figure')
  : setPower({ heat: heatWithFigure(project.facts!, { coolerKw: value }) }, 'Set the cooler', 'cooler kw')
const setFan = (fan: FanControl, key: string) => set({ fan }, 'Set the fan', key)
function setPoint(i: number, name: 'temperatureC' | 'percent', value: number) {
  const { fan } = setting.value
  if (fan.mode === 'curve') {
    setFan({ ...fan, points: fan.points.map((point, j) => j === i ? { ...point, [name]: value } : point) },
      `point ${i} ${name}`)
  }
}
const setClock = (coreMhz: number | null) =>
  setPower({ clock: { ...clock.value, coreMhz } }, coreMhz === null ? 'The board\'s own clock' : `Clock ${coreMhz} MHz`)
const bootLines = computed(() => project.report!.boot.needs.filter(need => /fan|arm_freq|over_voltage/.test(need.line)))
const clockText = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
const curves = computed<Curve[]>(() => {
  const run = heat.value
  if (!run) return []
  const { points } = run
  const end = points.at(-1)!.second / 60
  const over = (pick: (point: typeof points[number]) => number) =>
    points.map(point => ({ x: point.second / 60, y: pick(point) }))
  const { unit, show } = units.value.temperature
  const limit = show(run.slowsC)
  return [
    { label: 'processor', unit, colour: '--copper', points: over(point => show(point.temperatureC)) },
    { label: 'clocks fall', unit, colour: '--carmine', dashed: true,
      points: [{ x: 0, y: limit }, { x: end, y: limit }] },
    ...plan.value.fan.mode === 'none'
      ? []
      : [{ label: 'fan', unit: '%', colour: '--owner-0', right: true, stepped: true, fill: true,
          points: over(point => point.fanPercent) }],
    { label: 'clock', unit: '%', colour: '--moss', right: true, points: over(point => point.clockPercent) },
  ]
})
const rows = computed(() => heat.value?.points.filter((_, i, all) => i % Math.max(1, Math.round(all.length / 15)) === 0)
  .map(point => [
    clockText(point.second), temperature(point.temperatureC, 1), `${Math.round(point.fanPercent)} %`,
    `${Math.round(point.clockPercent)} %`,
  ]) ?? [])
function workOut() {
  view.worksheet = heatSheet(board.value, heat.value?.boardW ?? 0, plan.value)
}
</script>

<template>
  <section data-test="heat">
    <template v-if="heat">
      <div class="settings level">
        <v-select
          label="cooler"
          :items="coolers"
          :model-value="plan.cooler"
          :readonly="things.cooler !== null"
          :menu-icon="things.cooler ? '' : undefined"
          :hint="inPlan(things.cooler)"
          :persistent-hint="things.cooler !== null"
          data-test="cooler"
          @update:model-value="cooler => set({ cooler, ...OTHER_COOLER }, 'Choose the cooler')"
        />
        <NumberField
          :label="`processor to air, ${plan.coolerKw !== undefined ? 'yours' : plan.measured ? 'measured' : 'from memory'}`"
          :value="plan.coolerKw ?? plan.measured?.coolerKw ?? null"
          :placeholder="usualKw"
          persistent-placeholder
          unit="K/W"
          :min="0.01"
          :max="200"
          may-be-empty
          data-test="cooler-kw"
          @set="setKw"
        />
        <v-select
          label="it stands"
          :items="enclosures"
          :model-value="plan.enclosure"
          :readonly="things.enclosure !== null"
          :menu-icon="things.enclosure ? '' : undefined"
          :hint="inPlan(things.enclosure)"
          :persistent-hint="things.enclosure !== null"
          data-test="enclosure"
          @update:model-value="enclosure => set({ enclosure }, 'Choose the case')"
        />
        <MeasureField
          measure="temperature"
          label="room"
          :value="plan.ambientC"
          :min="-60"
          :max="150"
          @set="value => set({ ambientC: value! }, 'Room temperature', 'ambient')"
        />
        <v-select
          label="load"
          :items="LOADS"
          :model-value="plan.load"
          @update:model-value="load => set({ load }, 'Load of the test')"
        />
        <NumberField
          label="for"
          unit="min"
          :value="plan.minutes"
          :min="1"
          :max="600"
          @set="value => set({ minutes: Math.round(value!) }, 'Length of the test', 'minutes')"
        />
        <v-select
          label="fan"
          :items="fans"
          :model-value="setting.fan.mode"
          :hint="inPlan(things.fan)"
          :persistent-hint="things.fan !== null"
          data-test="fan-mode"
          @update:model-value="setFanMode"
        />
        <MeasureField
          v-if="setting.fan.mode === 'threshold'"
          measure="temperature"
          label="on at"
          :value="setting.fan.onC"
          :min="0"
          :max="120"
          @set="onC => setting.fan.mode === 'threshold' && setFan({ ...setting.fan, onC: onC! }, 'on')"
        />
        <MeasureField
          v-if="setting.fan.mode === 'threshold' || setting.fan.mode === 'curve'"
          measure="kelvin"
          label="hysteresis"
          :value="setting.fan.hysteresisC"
          :min="0"
          :max="50"
          @set="hysteresisC => 'hysteresisC' in setting.fan && setFan({ ...setting.fan, hysteresisC: hysteresisC! }, 'hysteresis')"
        />
        <v-btn
          size="small"
          variant="outlined"
          @click="workOut"
        >
          Worksheet
        </v-btn>
      </div>
      <div
        v-if="setting.fan.mode === 'curve'"
        class="settings points"
      >
        <b class="small">Speed</b>
        <span
          v-for="(point, i) in setting.fan.points"
          :key="i"
          class="point"
        ><MeasureField
          measure="temperature"
          label="from"
          :value="point.temperatureC"
          :min="0"
          :max="120"
          @set="value => setPoint(i, 'temperatureC', value!)"
        /><NumberField
          :name="`Speed ${i + 1} in percent`"
          unit="%"
          :value="point.percent"
          :min="0"
          :max="100"
          @set="value => setPoint(i, 'percent', value!)"
        /></span>
      </div>
      <div class="verdict">
        <span class="figures big">{{ temperature(heat.hottestC) }}</span>
        <span class="small">{{ heat.slowsAtS === null ? `Clocks hold for ${plan.minutes} min.`
                              : `Clocks fall after ${clockText(heat.slowsAtS)} (min:s); at the end ${Math.round(heat.endClockPercent)} %
                              remain.` }}
          {{ heat.boardW.toFixed(1) }} W at the board; without any limit it would settle at
          {{ temperature(heat.steadyC) }}{{ fanWords }}.</span>
      </div>
      <ChartWithTable
        :curves="curves"
        x-label="minutes"
        :label="`Processor over the load test: ${temperature(heat.hottestC)} at most`"
        :columns="['min:s', 'processor', 'fan', 'clock']"
        :rows="rows"
        :min="units.temperature.show(plan.ambientC)"
        :max="units.temperature.show(85)"
      />
      <div class="settings">
        <b class="small">Clock</b>
        <NumberField
          label="processor"
          unit="MHz"
          :value="clock.coreMhz"
          :placeholder="String(clocking?.coreMhz)"
          persistent-placeholder
          :min="1"
          :max="10000"
          may-be-empty
          data-test="clock-mhz"
          @set="setClock"
        />
        <NumberField
          label="core voltage, in steps of 25 mV"
          :value="clock.voltageSteps"
          :min="-16"
          :max="16"
          @set="value => setPower({ clock: { ...clock, voltageSteps: Math.round(value!) } }, 'Core voltage')"
        />
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
        <v-btn
          class="act"
          variant="text"
          size="x-small"
          @click="go('boot')"
        >
          To the boot files
        </v-btn>
      </div>
      <SortTable
        v-if="power.regulators.length"
        :rows="power.regulators"
        :columns="REGULATOR_COLUMNS"
        :row-key="entry => entry.node"
        :row-class="entry => ({ off: entry.temperatureC > entry.hottestC })"
        caption="Regulators and their heat"
      />
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
section { display: grid; gap: 12px; min-width: 0; }
.settings { display: flex; flex-wrap: wrap; gap: 10px; align-items: center; padding-top: 4px; }
/* Those with a word below stand beside those without. */
.level { align-items: flex-start; }
.settings > .v-input { flex: 0 0 168px; }
.point { display: grid; grid-template-columns: 96px 76px; gap: 4px; }
.verdict { display: flex; gap: 12px; align-items: center; }
.big { font-size: 26px; font-weight: 650; white-space: nowrap; }
.lines { display: flex; flex-wrap: wrap; gap: 4px 10px; align-items: center; }
.lines code { background: var(--paper-2); padding: 1px 6px; border-radius: 3px; }
:deep(tr.off td) { color: var(--carmine); font-weight: 700; }
.empty { padding: 18px; border: 1px dashed var(--rule); border-radius: 4px; }
</style>
