<script setup lang="ts">
/** One part of the plan: its name, its options, what hangs on its contacts, and its cautions. */
import { isOpenStop } from '~~/core/findings/set-aside'
import { mdiClose } from '@mdi/js'
import { cautionsOf } from '~~/core/catalogue/cautions'
import type { Part } from '~~/core/catalogue/types'
import { wayOf } from '~~/core/catalogue/ways'
import type { ContactLoad, PlanPart } from '~~/core/plan/types'

const { inPlan } = defineProps<{ inPlan: PlanPart }>()
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { go } = useStages()
const part = computed(() => project.catalogue.parts.get(inPlan.type) ?? null)
const resolved = computed(() => project.facts!.parts.find(entry => entry.id === inPlan.id) ?? null)
const stops = computed(() =>
  project.report!.findings.filter(finding =>
    isOpenStop(finding) && finding.subjects.some(subject => subject.partId === inPlan.id)))
const loads = computed(() => inPlan.loads ?? [])

const rename = (name: string) =>
  project.edit({ edit: 'rename-part', id: inPlan.id, name }, 'Rename a part', `rename ${inPlan.id}`)

function setOption(option: string, value: string) {
  project.edit({ edit: 'set-option', id: inPlan.id, option, value }, `Set ${option} of ${inPlan.name}`,
    `option ${inPlan.id} ${option}`)
}

function remove() {
  project.edit({ edit: 'remove-part', id: inPlan.id }, `Remove ${inPlan.name}`)
  view.say(`${inPlan.name} and its wiring are out of the plan.`, { action: { label: 'Undo', run: project.undo } })
}

function setLoads(list: ContactLoad[]) {
  project.edit({ edit: 'set-loads', id: inPlan.id, loads: list }, `Loads of ${inPlan.name}`, `loads ${inPlan.id}`)
}

const changeLoad = (index: number, change: Partial<ContactLoad>) =>
  setLoads(loads.value.map((load, i) => i === index ? { ...load, ...change } : load))
const contactsTitle = ({ maxAcA, maxAcV, maxDcA, maxDcV, origin }: NonNullable<Part['contacts']>) =>
  `On its contacts (${maxAcA} A at ${maxAcV} V AC, ${maxDcA} A at ${maxDcV} V DC; ${origin})`
const contactsOpen = ref((inPlan.loads ?? []).length > 0)
const asItems = (values: readonly { value: string, label: string }[] = []) =>
  values.map(({ value, label }) => ({ value, title: label }))

/** It can be had by loose wires and as an add-on board. */
const hasWays = computed(() => wayOf(inPlan.type, project.catalogue) !== null)
const comparesWays = ref(false)

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
      <v-text-field
        class="name"
        variant="plain"
        :model-value="inPlan.name"
        aria-label="Name of the part"
        maxlength="300"
        hide-details
        @update:model-value="rename"
      />
      <span
        v-if="stops.length"
        class="stop"
      >{{ stops.length }} {{ stops.length === 1 ? 'stop' : 'stops' }}</span>
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        @click="showWiring"
      >
        its wiring
      </v-btn>
      <v-btn
        v-if="hasWays"
        class="act"
        variant="text"
        size="x-small"
        :data-test="`ways-${inPlan.id}`"
        @click="comparesWays = true"
      >
        loose or add-on
      </v-btn>
      <LazyWayComparison
        v-if="comparesWays"
        :part-id="inPlan.id"
        @close="comparesWays = false"
      />
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        :aria-label="`Remove ${inPlan.name}`"
        @click="remove"
      >
        remove
      </v-btn>
    </div>
    <p class="small quiet">
      {{ part?.name ?? `Unknown part "${inPlan.type}"` }}
    </p>
    <div
      v-if="part?.options?.length"
      class="options"
    >
      <template
        v-for="option in part.options"
        :key="option.id"
      >
        <v-select
          v-if="option.kind === 'choice'"
          :label="option.label"
          :items="asItems(option.values)"
          :model-value="resolved?.options[option.id]"
          :data-test="`option-${inPlan.id}-${option.id}`"
          @update:model-value="value => setOption(option.id, value)"
        />
        <NumberField
          v-else
          :label="option.label"
          :min="option.min"
          :max="option.max"
          :value="Number(resolved?.options[option.id])"
          @set="value => setOption(option.id, String(value))"
        />
      </template>
    </div>
    <FoldPanel
      v-if="part?.contacts"
      v-model:open="contactsOpen"
      :title="contactsTitle(part.contacts)"
    >
      <div
        v-for="(load, i) in loads"
        :key="i"
        class="load"
      >
        <NumberField
          label="Contact"
          :value="load.contact"
          :min="1"
          :max="64"
          @set="value => changeLoad(i, { contact: value! })"
        />
        <v-text-field
          class="what"
          label="What hangs on it"
          :model-value="load.what"
          maxlength="200"
          @update:model-value="value => changeLoad(i, { what: value })"
        />
        <NumberField
          name="Volts"
          unit="V"
          :value="load.voltageV"
          :min="0"
          :max="1000"
          @set="value => changeLoad(i, { voltageV: value! })"
        />
        <v-select
          :items="['AC', 'DC']"
          aria-label="AC or DC"
          :model-value="load.kind"
          @update:model-value="value => changeLoad(i, { kind: value })"
        />
        <NumberField
          name="Amperes"
          unit="A"
          :value="load.currentA"
          :min="0"
          :max="1000"
          @set="value => changeLoad(i, { currentA: value! })"
        />
        <IconAct
          name="Remove this load"
          :icon="mdiClose"
          @click="setLoads(loads.filter((_, at) => at !== i))"
        />
        <v-checkbox
          class="whole"
          :model-value="load.inductive ?? false"
          label="coil or motor"
          @update:model-value="value => changeLoad(i, { inductive: value === true })"
        />
        <v-checkbox
          v-if="load.inductive"
          class="whole"
          :model-value="load.suppressed ?? false"
          label="diode or snubber across it"
          @update:model-value="value => changeLoad(i, { suppressed: value === true })"
        />
      </div>
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        @click="setLoads([...loads, { contact: loads.length + 1, what: '', kind: 'DC', voltageV: 12, currentA: 0.5 }])"
      >
        add a load
      </v-btn>
    </FoldPanel>
    <LazyPartFigures :in-plan="inPlan" />
    <p
      v-for="caution in part ? cautionsOf(part) : []"
      :key="caution"
      class="small caution"
    >
      {{ caution }}
    </p>
  </article>
</template>

<style scoped>
.part {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 6px solid var(--owner);
  border-radius: 4px;
  padding: 4px 10px 7px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  align-content: start;
  min-width: 0;
}
.marked { outline: 2px solid var(--copper); }
.head { display: flex; flex-wrap: wrap; gap: 4px; align-items: center; }
.name { flex: 1 1 130px; min-width: 0; }
.name :deep(.v-field__input) { min-height: 28px; padding-block: 2px; }
.name :deep(input) { font-weight: 650; font-size: 14.5px; text-overflow: ellipsis; }
.name :deep(.v-field) { background: none; }
.stop {
  background: var(--carmine);
  color: var(--sheet);
  font-weight: 700;
  font-size: 11.5px;
  border-radius: 2px;
  padding: 0 6px;
  white-space: nowrap;
}
.options { display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); padding-top: 6px; }
.load { display: grid; gap: 6px; grid-template-columns: 72px minmax(0, 1fr) 84px 76px 84px auto; align-items: start; padding: 6px 0; }
.whole { grid-column: span 3; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; }
@container (max-width: 420px) { .load { grid-template-columns: repeat(3, minmax(0, 1fr)); } }
@media (max-width: 1300px) { .load { grid-template-columns: 72px minmax(0, 1fr) auto; } .load > :nth-child(n+3) { grid-column: auto; } }
</style>
