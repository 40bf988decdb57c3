<script setup lang="ts">
/**
 * The supply: a flow from source to loads in every state, rails, a scenario, the battery, heat, and two ways
 * side by side.
 */
import { useMediaQuery } from '@vueuse/core'
import { USUAL_WORKSHEETS } from '~~/core/vocabulary/worksheets'

const project = useProjectStore()
const view = useViewStore()
const { go } = useStages()
const { power, supplies, grouped, asItems, add } = usePower()

/** Narrow screens have the chosen node on the stage itself, wide ones in the drawer. */
const wide = useMediaQuery('(min-width: 1101px)')
const VIEWS = [
  { id: 'flow', name: 'Flow' }, { id: 'rails', name: 'Rails' }, { id: 'scenario', name: 'Scenario' },
  { id: 'battery', name: 'Battery' },
  { id: 'heat', name: 'Heat' }, { id: 'compare', name: 'Compare' },
]
const shown = ref('flow')
const stateId = ref('typical')
const state = computed(() => power.value.states.find(entry => entry.id === stateId.value) ?? power.value.states[1]!)
const supply = computed(() => project.facts!.supply)
const drawn = computed(() =>
  power.value.sources.reduce((sum, source) => sum + state.value.nodes[source.node]!.powerMw, 0) / 1000)
const addable = computed(() => asItems([['Sources', supplies.value], ...grouped(kind => kind === 'load')]))
const adding = ref<string | null>(null)
/** How long the battery carries it, with the sun where there is a panel. */
const lasts = computed(() => {
  const { hours, hoursMeant: { sun, atLeast } } = power.value
  return hours === null ? '' : `${atLeast ? 'over ' : ''}${hoursInWords(hours)}${sun ? ' with sun' : ' without sun'}`
})

function ownSupply(currentMa: number | null) {
  const current = project.plan!.supply!
  if (currentMa === null) project.edit({ edit: 'choose-supply', supply: { type: current.type } },
    'Take the supply\'s own figure')
  else project.edit({ edit: 'choose-supply', supply: { ...current, currentMa } }, 'Set the supply\'s current')
}
function put() {
  if (!adding.value) return
  const isSource = project.catalogue.supplies.has(adding.value)
  add(adding.value, isSource ? null : project.facts!.board ? '@5V' : null)
  adding.value = null
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Power</h1>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        @click="view.worksheet = USUAL_WORKSHEETS.wire"
      >
        Worksheets
      </v-btn>
    </div>
    <div class="supply sheet">
      <template v-if="supply">
        <b>{{ supply.name }}</b>
        <NumberField
          class="gives"
          :value="project.facts!.supplyMa"
          name="Current the supply gives, in mA"
          :unit="`mA at ${supply.voltageV} V${supply.kind === 'transformer' ? ' AC' : ''}`"
          :min="1"
          :max="1e6"
          may-be-empty
          @set="ownSupply"
        />
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
    </div>
    <ViewTabs
      v-model="shown"
      :views="VIEWS"
      test="power"
      label="View of the supply"
    />
    <template v-if="shown === 'flow'">
      <div class="bar">
        <v-btn-toggle
          v-model="stateId"
          aria-label="State"
        >
          <v-btn
            v-for="entry in power.states"
            :key="entry.id"
            :value="entry.id"
            :class="{ off: !entry.ok }"
            :data-test="`state-${entry.id}`"
          >
            {{ entry.label }}
          </v-btn>
        </v-btn-toggle>
        <span
          class="small verdict"
          :class="{ off: !state.ok }"
        ><template v-if="state.ok"><b class="figures">{{ drawn.toFixed(2) }} W</b>
          drawn<template v-if="!power.assumed && state.nodes['@5V']">, <b class="figures">{{ state.nodes['@5V'].voltageV.toFixed(2) }} V</b>
            on
            the 5 V rail</template></template><template v-else>no operating point; {{ Math.round(state.carriedShare * 100) }} % of the load
          can be
          carried</template></span>
        <span class="spacer" />
        <v-autocomplete
          v-model="adding"
          class="adding"
          :items="addable"
          label="Add a source or a load"
          clearable
          data-test="add-what"
        />
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
      <FoldPanel title="The same as a table">
        <PowerTable :state="state" />
      </FoldPanel>
    </template>
    <PowerRails v-else-if="shown === 'rails'" />
    <LazyPowerSteps v-else-if="shown === 'scenario'" />
    <LazyPowerBattery v-else-if="shown === 'battery'" />
    <LazyPowerHeat v-else-if="shown === 'heat'" />
    <LazyPowerCompare v-else />
  </div>
</template>

<style scoped>
.stage-head { margin-bottom: 8px; }
.supply { display: flex; flex-wrap: wrap; gap: 4px 18px; align-items: center; padding: 6px 12px; margin-bottom: 6px; }
.gives { flex: 0 0 200px; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; flex-basis: 100%; order: 2; }
.bar { display: flex; flex-wrap: wrap; gap: 8px 12px; align-items: center; margin-bottom: 6px; }
.spacer { flex: 1; }
.adding { flex: 0 1 230px; min-width: 150px; }
.bar .off { color: var(--carmine); font-weight: 650; }
.empty { padding: 18px; border: 1px dashed var(--rule); border-radius: 4px; }
.hint { margin: 4px 0 8px; }
</style>
