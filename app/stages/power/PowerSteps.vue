<script setup lang="ts">
/** A scenario: what is on in each step, for how long, and what the rail does meanwhile. */
import { mdiChevronLeft, mdiChevronRight, mdiClose } from '@mdi/js'
import type { BaseState, LoadState, PowerStep } from '~~/core/plan/power'
import type { Curve } from '~/shared/LineChart.vue'

const project = useProjectStore()
const { power, setPower } = usePower()
const { colourOf } = useOwners()
const steps = computed(() => project.plan!.power.steps)
const loads = computed(() => power.value.nodes.filter(node => node.role === 'load'))
const switches = computed(() =>
  power.value.nodes.filter(node => node.own && (node.kind === 'switch' || node.kind === 'latch')))
const sign = computed(() => power.value.nodes.find(node => node.id === '@board')?.figures.signV)
const BASES: { value: BaseState, title: string }[] = [
  { value: 'idle', title: 'idle' }, { value: 'typical', title: 'typical' }, { value: 'peak', title: 'peak' },
  { value: 'start', title: 'start-up' },
]
const STATES: { value: LoadState | '', title: string }[] = [
  { value: '', title: '·' }, { value: 'off', title: 'off' }, { value: 'idle', title: 'idle' },
  { value: 'typical', title: 'typ.' },
  { value: 'peak', title: 'peak' }, { value: 'surge', title: 'surge' },
]

const change = (label: string, next: PowerStep[], key?: string) => setPower({ steps: next }, label, key)
const changed = (id: string,
  to: Partial<PowerStep>) => steps.value.map(step => step.id === id ? { ...step, ...to } : step)

function add() {
  const taken = new Set(steps.value.map(step => step.id))
  let n = steps.value.length + 1
  while (taken.has(`step-${n}`)) n++
  change('Add a step',
    [...steps.value, { id: `step-${n}`, name: `Step ${n}`, base: 'typical', loads: {}, open: [], seconds: 10 }])
}
function setLoad(step: PowerStep, node: string, value: LoadState | '') {
  const { [node]: _, ...others } = step.loads
  change(`${step.name}: change a load`, changed(step.id, { loads: value ? { ...others, [node]: value } : others }))
}
function move(index: number, by: number) {
  const next = [...steps.value]
  const [step] = next.splice(index, 1)
  next.splice(index + by, 0, step!)
  change('Move a step', next)
}
function remove(step: PowerStep) {
  change(`Drop ${step.name}`, steps.value.filter(other => other.id !== step.id))
}

const run = computed(() => {
  let at = 0
  return steps.value.flatMap((step) => {
    const state = power.value.states.find(entry => entry.id === step.id)
    if (!state) return []
    const from = at
    at += Math.max(0.1, step.seconds)
    const current = power.value.sources.reduce((sum, source) => sum + state.nodes[source.node]!.currentMa, 0)
    return [{ step, state, from, to: at, railV: state.nodes['@5V']?.voltageV ?? 0, currentMa: current }]
  })
})
const curves = computed<Curve[]>(() => {
  const end = run.value.at(-1)?.to ?? 1
  const over = (pick: (entry: typeof run.value[number]) => number) => run.value.flatMap(entry => [
    { x: entry.from, y: pick(entry) }, { x: entry.to, y: pick(entry) },
  ])
  return [
    { label: '5 V rail', unit: 'V', colour: '--copper', points: over(entry => entry.railV) },
    ...sign.value
      ? [{
          label: 'under-voltage sign', unit: 'V', colour: '--carmine', dashed: true,
          points: [{ x: 0, y: sign.value.value }, { x: end, y: sign.value.value }],
        }]
      : [],
    { label: 'from all sources', unit: 'A', colour: '--owner-0', right: true, fill: true,
      points: over(entry => entry.currentMa / 1000) },
  ]
})
const rows = computed(() => run.value.map(entry => [entry.step.name, entry.state.ok
  ? `${entry.railV.toFixed(2)} V`
  : 'breaks down', milliamps(entry.currentMa)]))
</script>

<template>
  <section data-test="scenario">
    <ChartWithTable
      v-if="steps.length"
      :curves="curves"
      x-label="seconds"
      :label="`5 V rail over ${steps.length} steps`"
      :columns="['step', '5 V rail', 'drawn']"
      :rows="rows"
      :min="4.5"
      :max="5.2"
    />
    <p
      v-else
      class="empty"
    >
      No steps yet. A scenario tells what is on one after the other, say "screen on, modem sends, fan starts"; each step is solved as its
      own state.
    </p>
    <div class="scroll">
      <v-table
        v-if="steps.length"
        class="steps"
      >
        <caption class="only-reader">
          Steps, and how each load stands in them
        </caption>
        <thead>
          <tr>
            <th scope="col">
              Step
            </th>
            <th
              v-for="(step, i) in steps"
              :key="step.id"
              scope="col"
            >
              <v-text-field
                class="step-name"
                :model-value="step.name"
                :aria-label="`Name of step ${i + 1}`"
                maxlength="60"
                @change="change('Name a step', changed(step.id, { name: ($event.target as HTMLInputElement).value.trim() || step.name }))"
              />
              <span class="tools">
                <IconAct
                  :disabled="i === 0"
                  :name="`${step.name} earlier`"
                  :icon="mdiChevronLeft"
                  @click="move(i, -1)"
                />
                <IconAct
                  :disabled="i === steps.length - 1"
                  :name="`${step.name} later`"
                  :icon="mdiChevronRight"
                  @click="move(i, 1)"
                />
                <IconAct
                  :name="`Drop ${step.name}`"
                  :icon="mdiClose"
                  @click="remove(step)"
                />
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">
              all stand at
            </th>
            <td
              v-for="step in steps"
              :key="step.id"
            >
              <PickCell
                :value="step.base"
                :choices="BASES"
                :name="`${step.name}: all stand at`"
                @pick="base => change(`${step.name}: base`, changed(step.id, { base }))"
              />
            </td>
          </tr>
          <tr>
            <th scope="row">
              lasts
            </th>
            <td
              v-for="step in steps"
              :key="step.id"
            >
              <NumberField
                class="seconds"
                :value="step.seconds"
                :min="0"
                :max="1e6"
                unit="s"
                :name="`${step.name}: seconds`"
                @set="seconds => change(`${step.name}: seconds`, changed(step.id, { seconds: seconds! }), `seconds ${step.id}`)"
              />
            </td>
          </tr>
          <tr
            v-for="load in loads"
            :key="load.id"
          >
            <th scope="row">
              <span
                class="owner-swatch"
                :style="{ '--owner': colourOf(load.partId) }"
              /> {{ load.kind === 'board' ? 'Board' : load.name }}
            </th>
            <td
              v-for="step in steps"
              :key="step.id"
            >
              <PickCell
                :value="step.loads[load.id] ?? ''"
                :choices="STATES"
                :is-set="!!step.loads[load.id]"
                :name="`${step.name}: ${load.name}`"
                @pick="value => setLoad(step, load.id, value)"
              />
            </td>
          </tr>
          <tr
            v-for="node in switches"
            :key="node.id"
          >
            <th scope="row">
              {{ node.name }}
            </th>
            <td
              v-for="step in steps"
              :key="step.id"
            >
              <v-checkbox-btn
                label="open"
                :model-value="step.open.includes(node.id)"
                :aria-label="`${step.name}: ${node.name} open`"
                @update:model-value="isOpen => change(`${step.name}: ${node.name}`, changed(step.id, {
                  open: isOpen ? [...step.open, node.id] : step.open.filter(id => id !== node.id) }))"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <v-btn
      size="small"
      variant="outlined"
      data-test="add-step"
      @click="add"
    >
      Add a step
    </v-btn>
  </section>
</template>

<style scoped>
section { display: grid; gap: 12px; min-width: 0; justify-items: start; }
section > * { width: 100%; }
section > .v-btn { width: auto; }
.empty { padding: 18px; border: 1px dashed var(--rule); border-radius: 4px; }
.scroll { overflow-x: auto; }
.steps th, .steps td { white-space: nowrap; padding: 3px 8px 3px 0; }
.steps th[scope=row] { color: var(--ink); font-weight: 500; }
.step-name { width: 128px; }
.seconds { width: 96px; }
.tools { display: inline-flex; }
</style>
