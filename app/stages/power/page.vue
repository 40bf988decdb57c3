<script setup lang="ts">
/** The supply: a flow from source to loads in every state, rails, a scenario, the battery, heat, and two ways side by side. */
import { useMediaQuery } from '@vueuse/core'
import { USUAL_WORKSHEETS } from '~~/core/worksheets'

const project = useProjectStore()
const view = useViewStore()
const { go } = useStages()
const { power, supplies, grouped, add } = usePower()

/** Narrow screens have the chosen node on the stage itself, wide ones in the drawer. */
const wide = useMediaQuery('(min-width: 1101px)')
const VIEWS = [
  ['flow', 'Flow'], ['rails', 'Rails'], ['scenario', 'Scenario'], ['battery', 'Battery'], ['heat', 'Heat'], ['compare', 'Compare'],
] as const
const shown = ref<typeof VIEWS[number][0]>('flow')
const stateId = ref('typical')
const state = computed(() => power.value.states.find(entry => entry.id === stateId.value) ?? power.value.states[1]!)
const supply = computed(() => project.facts!.supply)
const drawn = computed(() => power.value.sources.reduce((sum, source) => sum + state.value.nodes[source.node]!.powerMw, 0) / 1000)
const loads = computed(() => grouped(kind => kind === 'load'))
const adding = ref('')
/** How long the battery carries it, with the sun where there is a panel. */
const lasts = computed(() => {
  const { hours, hoursMeant: { sun, atLeast } } = power.value
  return hours === null ? '' : `${atLeast ? 'over ' : ''}${hoursInWords(hours)}${sun ? ' with sun' : ''}`
})

function ownSupply(event: Event) {
  const current = project.plan!.supply!
  const text = (event.target as HTMLInputElement).value.trim()
  const value = typedNumber(event, 1, 1e6)
  if (text === '') project.edit({ edit: 'choose-supply', supply: { type: current.type } }, 'Take the supply\'s own figure')
  else if (value !== null) project.edit({ edit: 'choose-supply', supply: { ...current, currentMa: value } }, 'Set the supply\'s current')
}
function put() {
  const isSource = project.catalogue.supplies.has(adding.value)
  add(adding.value, isSource ? null : project.facts!.board ? '@5V' : null)
  adding.value = ''
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Power</h1>
      <span
        class="small verdict"
        :class="{ off: !state.ok }"
      >{{ state.label }}: <template v-if="state.ok"><b class="figures">{{ drawn.toFixed(2) }} W</b>
        drawn<template v-if="!power.assumed && state.nodes['@5V']">, <b class="figures">{{ state.nodes['@5V'].voltageV.toFixed(2) }} V</b>
          on
          the 5 V rail</template></template><template v-else>no operating point; {{ Math.round(state.carriedShare * 100) }} % of the load
        can be
        carried</template></span>
      <span class="spacer" />
      <div
        class="switch"
        role="group"
        aria-label="View"
      >
        <button
          v-for="[id, label] in VIEWS"
          :key="id"
          :aria-pressed="shown === id"
          :data-test="`power-${id}`"
          @click="shown = id"
        >
          {{ label }}
        </button>
      </div>
    </div>
    <div class="supply sheet">
      <template v-if="supply">
        <b>{{ supply.name }}</b>
        <label class="small">gives
          <input
            type="number"
            min="1"
            class="figures"
            :value="project.facts!.supplyMa"
            aria-label="Current the supply gives, in mA"
            @change="ownSupply"
          > mA at {{ supply.voltageV }} V{{ supply.kind === 'transformer' ? ' AC' : '' }}</label>
        <span
          v-if="power.hours !== null"
          class="small"
        >lasts <b class="figures">{{ lasts }}</b></span>
        <span
          v-for="caution in supply.cautions ?? []"
          :key="caution"
          class="caution small"
        >{{ caution }}</span>
      </template>
      <template v-else-if="power.assumed || !power.sources.length">
        <b>No supply yet.</b> <span>{{ power.assumed ? '5.0 V are assumed on the board\'s rail so that the loads can be added. '
          : '' }}Choose a supply on the Board stage, or add a source.</span>
        <v-btn
          size="small"
          color="primary"
          @click="go('board')"
        >
          To the Board stage
        </v-btn>
      </template>
      <template v-else>
        <b>Fed from the tree.</b> <span>The board has no supply of its own; what stands in the tree feeds it.</span>
      </template>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        @click="view.worksheet = USUAL_WORKSHEETS.wire"
      >
        Worksheets
      </v-btn>
    </div>
    <template v-if="shown === 'flow'">
      <div class="bar">
        <div
          class="switch"
          role="group"
          aria-label="State"
        >
          <button
            v-for="entry in power.states"
            :key="entry.id"
            :aria-pressed="entry.id === state.id"
            :class="{ off: !entry.ok }"
            :data-test="`state-${entry.id}`"
            @click="stateId = entry.id"
          >
            {{ entry.label }}
          </button>
        </div>
        <span class="spacer" />
        <select
          v-model="adding"
          aria-label="Source or load to add"
          data-test="add-what"
        >
          <option value="">
            add a source or a load …
          </option>
          <optgroup label="Sources">
            <option
              v-for="unit in supplies"
              :key="unit.id"
              :value="unit.id"
            >
              {{ unit.name }}
            </option>
          </optgroup>
          <optgroup
            v-for="[label, list] in loads"
            :key="label"
            label="Loads"
          >
            <option
              v-for="item in list"
              :key="item.id"
              :value="item.id"
            >
              {{ item.name }}
            </option>
          </optgroup>
        </select>
        <v-btn
          size="small"
          variant="outlined"
          :disabled="!adding"
          data-test="add-node"
          @click="put"
        >
          Add
        </v-btn>
      </div>
      <PowerNodeCard v-if="!wide && view.node" />
      <PowerFlow :state="state" />
      <p
        v-if="!power.nodes.length"
        class="empty"
      >
        Nothing is fed yet. Choose a board and a supply, or add a source above.
      </p>
      <p class="small quiet hint">
        Press a node for its figures; press a band to put a cable, a fuse or a converter in; drag a load to another rail. Solid marks stop,
        dashed ones caution. Feeding the board through its header goes past its input fuse and protection: both ways are used, never both at
        once.
      </p>
      <details>
        <summary>The same as a table</summary>
        <PowerTable :state="state" />
      </details>
    </template>
    <PowerRails v-else-if="shown === 'rails'" />
    <PowerSteps v-else-if="shown === 'scenario'" />
    <PowerBattery v-else-if="shown === 'battery'" />
    <PowerHeat v-else-if="shown === 'heat'" />
    <PowerCompare v-else />
  </div>
</template>

<style scoped>
.supply { display: flex; flex-wrap: wrap; gap: 4px 18px; align-items: center; padding: 7px 12px; margin-bottom: 10px; }
.supply input {
  width: 84px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 2px 5px;
}
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; flex-basis: 100%; order: 2; }
.bar { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-bottom: 4px; }
.spacer { flex: 1; }
.bar select {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 3px 6px;
  font: inherit;
  font-size: 13px;
  width: 172px;
}
.switch { display: inline-flex; flex-wrap: wrap; border: 1px solid var(--rule); border-radius: 4px; overflow: hidden; }
.switch button {
  border: 0;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  font-size: 13px;
  padding: 3px 11px;
  cursor: pointer;
  border-right: 1px solid var(--rule);
  max-width: 160px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.switch button:last-child { border-right: 0; }
.switch button[aria-pressed=true] { background: var(--copper-wash); box-shadow: inset 0 -3px var(--copper); font-weight: 650; }
.switch .off { color: var(--carmine); font-weight: 650; }
.verdict.off { color: var(--carmine); font-weight: 650; }
.empty { padding: 18px; border: 1px dashed var(--rule); border-radius: 4px; }
.hint { margin: 4px 0 8px; }
summary { cursor: pointer; font-size: 13px; }
</style>
