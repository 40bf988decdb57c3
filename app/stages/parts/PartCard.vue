<script setup lang="ts">
/** One part of the plan: its name, its options, what hangs on its contacts, and its cautions. */
import { isOpenStop } from '~~/core/findings/set-aside'
import { cautionsOf } from '~~/core/catalogue/cautions'
import type { ContactLoad, PlanPart } from '~~/core/plan/types'

const { inPlan } = defineProps<{ inPlan: PlanPart }>()
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { go } = useStages()
const part = computed(() => project.catalogue.parts.get(inPlan.type) ?? null)
const resolved = computed(() => project.facts!.parts.find(entry => entry.id === inPlan.id) ?? null)
const stops = computed(() =>
  project.report!.findings.filter(finding => isOpenStop(finding) && finding.subjects.some(subject => subject.partId === inPlan.id)))
const loads = computed(() => inPlan.loads ?? [])

function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value
  project.edit({ edit: 'rename-part', id: inPlan.id, name }, 'Rename a part', `rename ${inPlan.id}`)
}

function setOption(option: string, event: Event) {
  const { value } = event.target as HTMLInputElement
  project.edit({ edit: 'set-option', id: inPlan.id, option, value }, `Set ${option} of ${inPlan.name}`, `option ${inPlan.id} ${option}`)
}

function remove() {
  project.edit({ edit: 'remove-part', id: inPlan.id }, `Remove ${inPlan.name}`)
  view.say(`${inPlan.name} and its wiring are out of the plan.`, { action: { label: 'Undo', run: project.undo } })
}

function setLoads(list: ContactLoad[]) {
  project.edit({ edit: 'set-loads', id: inPlan.id, loads: list }, `Loads of ${inPlan.name}`, `loads ${inPlan.id}`)
}

function changeLoad(index: number, field: keyof ContactLoad, event: Event) {
  const text = (event.target as HTMLInputElement).value
  const numeric = field !== 'what' && field !== 'kind'
  const value = numeric ? Number(text.replace(',', '.')) : text
  if (numeric && (!Number.isFinite(value) || (value as number) < 0)) {
    return view.say(`"${text}" is no figure. Type a number, e.g. 12 or 0.5.`, { tone: 'stop' })
  }
  setLoads(loads.value.map((load, i) => i === index ? { ...load, [field]: value } : load))
  // What was refused goes back to what is kept.
  void nextTick(() => (event.target as HTMLInputElement).value = String(loads.value[index]?.[field] ?? ''))
}

async function showWiring() {
  view.choosePart(inPlan.id)
  await go('wiring')
}
</script>

<template>
  <article
    class="part"
    :class="{ marked: view.markedParts.has(inPlan.id) }"
    :style="{ '--owner': colourOf(inPlan.id) }"
    :data-test="`part-${inPlan.id}`"
  >
    <div class="head">
      <input
        class="name"
        :value="inPlan.name"
        aria-label="Name of the part"
        maxlength="300"
        @input="rename"
      >
      <span
        v-if="stops.length"
        class="stop"
      >{{ stops.length }} {{ stops.length === 1 ? 'stop' : 'stops' }}</span>
    </div>
    <p class="small quiet">
      {{ part?.name ?? `Unknown part "${inPlan.type}"` }}
    </p>
    <label
      v-for="option in part?.options ?? []"
      :key="option.id"
      class="option small"
    >
      <span>{{ option.label }}</span>
      <select
        v-if="option.kind === 'choice'"
        class="figures"
        :value="resolved?.options[option.id]"
        :data-test="`option-${inPlan.id}-${option.id}`"
        @change="setOption(option.id, $event)"
      >
        <option
          v-for="value in option.values"
          :key="value.value"
          :value="value.value"
        >{{ value.label }}</option>
      </select>
      <input
        v-else
        type="number"
        class="figures"
        :min="option.min"
        :max="option.max"
        :value="resolved?.options[option.id]"
        @input="setOption(option.id, $event)"
      >
    </label>
    <details
      v-if="part?.contacts"
      class="small"
      :open="loads.length > 0"
    >
      <summary>
        On its contacts ({{ part.contacts.maxAcA }} A at {{ part.contacts.maxAcV }} V AC, {{ part.contacts.maxDcA }} A at
        {{ part.contacts.maxDcV }} V DC; {{ part.contacts.origin }})
      </summary>
      <div
        v-for="(load, i) in loads"
        :key="i"
        class="load"
      >
        <input
          :value="load.contact"
          aria-label="Contact"
          class="tiny"
          @change="changeLoad(i, 'contact', $event)"
        >
        <input
          :value="load.what"
          aria-label="What hangs on it"
          placeholder="what"
          @input="changeLoad(i, 'what', $event)"
        >
        <input
          :value="load.voltageV"
          aria-label="Volts"
          class="tiny"
          @change="changeLoad(i, 'voltageV', $event)"
        >V
        <select
          :value="load.kind"
          aria-label="AC or DC"
          @change="changeLoad(i, 'kind', $event)"
        >
          <option>AC</option><option>DC</option>
        </select>
        <input
          :value="load.currentA"
          aria-label="Amperes"
          class="tiny"
          @change="changeLoad(i, 'currentA', $event)"
        >A
        <button
          class="bare"
          aria-label="Remove this load"
          @click="setLoads(loads.filter((_, at) => at !== i))"
        >
          ✕
        </button>
        <span class="break" />
        <v-checkbox
          :model-value="load.inductive ?? false"
          label="coil or motor"
          density="compact"
          hide-details
          @update:model-value="setLoads(loads.map((other, at) => at === i ? { ...other, inductive: $event === true } : other))"
        />
        <v-checkbox
          v-if="load.inductive"
          :model-value="load.suppressed ?? false"
          label="diode or snubber across it"
          density="compact"
          hide-details
          @update:model-value="setLoads(loads.map((other, at) => at === i ? { ...other, suppressed: $event === true } : other))"
        />
      </div>
      <button
        class="bare link"
        @click="setLoads([...loads, { contact: loads.length + 1, what: '', kind: 'DC', voltageV: 12, currentA: 0.5 }])"
      >
        add a load
      </button>
    </details>
    <LazyPartFigures :in-plan="inPlan" />
    <p
      v-for="caution in part ? cautionsOf(part) : []"
      :key="caution"
      class="small caution"
    >
      {{ caution }}
    </p>
    <div class="acts">
      <button
        class="bare link small"
        @click="showWiring"
      >
        its wiring
      </button>
      <button
        class="bare link small"
        :aria-label="`Remove ${inPlan.name}`"
        @click="remove"
      >
        remove
      </button>
    </div>
  </article>
</template>

<style scoped>
.part {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 6px solid var(--owner);
  border-radius: 4px;
  padding: 7px 10px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  align-content: start;
  min-width: 0;
}
.marked { outline: 2px solid var(--copper); }
.head { display: flex; gap: 8px; align-items: center; }
.name {
  flex: 1;
  min-width: 0;
  font: 650 14.5px var(--text-family);
  color: inherit;
  background: transparent;
  border: 1px solid transparent;
  border-radius: 3px;
  margin-left: -5px;
  padding: 1px 4px;
  text-overflow: ellipsis;
}
.name:hover, .name:focus { border-color: var(--rule); }
.stop {
  background: var(--carmine);
  color: var(--sheet);
  font-weight: 700;
  font-size: 11.5px;
  border-radius: 3px;
  padding: 1px 6px;
  white-space: nowrap;
}
.option { display: flex; gap: 8px; align-items: center; }
.option span { flex: 1; }
.option select, .option input, .load input, .load select {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  font-size: 12.5px;
  padding: 2px 4px;
  min-width: 0;
  max-width: 190px;
}
.option input { width: 84px; }
.load { display: flex; flex-wrap: wrap; gap: 4px; align-items: center; margin: 5px 0; }
.load .v-checkbox { flex: 0 0 auto; margin: -8px 10px -4px 0; }
/* The two questions of a load stand below its figures. */
.load .break { flex: 1 0 100%; height: 0; }
.load input { flex: 1 1 60px; width: 0; }
.load .tiny { flex: 0 0 42px; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; }
.acts { display: flex; gap: 14px; }
.link { color: var(--copper); text-decoration: underline; }
</style>
