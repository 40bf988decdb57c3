<script setup lang="ts">
/** From nothing to a placed plan in three choices. */
import { inWords } from '~/database/failures'
import { engine, loadEngine } from '~/stores/engine'
import { shippedCatalogue, shippedStarters } from '~~/core/catalogue'
import { emptyPlan } from '~~/core/plan/create'
import type { Plan } from '~~/core/plan/types'
import type { SupplyChoice } from '~~/core/choose/supplies'

const emit = defineEmits<{ make: [plan: Plan] }>()
const view = useViewStore()
const board = ref<string | null>(null)
const starter = ref<string | null>(null)
const supply = ref<string | null>(null)
const checks = shallowRef(engine.value)
const boards = [...shippedCatalogue.boards.values()]
const starters = computed(() => checks.value ? shippedStarters : [])
const choices = shallowRef<SupplyChoice[]>([])

onMounted(async () => {
  try {
    checks.value ??= await loadEngine()
  }
  catch (error) {
    view.say(`The first plans could not be loaded: ${inWords(error)}`, { tone: 'stop' })
  }
})

watch([board, starter, checks], () => {
  const chosen = starters.value.find(entry => entry.id === starter.value)
  if (!checks.value || !board.value || !chosen) return
  const { firstPlan, trySupply, supplyChoices } = checks.value
  const plan = firstPlan({ name: 'x', board: board.value, supply: null, starter: chosen }, shippedCatalogue)
  choices.value = supplyChoices([...shippedCatalogue.supplies.values()].map(unit =>
    trySupply(plan, unit, shippedCatalogue)))
    .filter(choice => choice.fit === 'fits').slice(0, 4)
  if (!choices.value.some(choice => choice.supply.id === supply.value)) supply.value = null
})
const supplies = computed(() => choices.value.map(choice => ({ ...choice, id: choice.supply.id })))

function make() {
  const chosen = starters.value.find(entry => entry.id === starter.value)
  if (!checks.value || !board.value || !chosen || !supply.value) return
  emit('make', checks.value.firstPlan({ name: chosen.title, board: board.value, supply: supply.value,
    starter: chosen }, shippedCatalogue))
}
const blank = () => emit('make', { ...emptyPlan('New project'), board: board.value })
</script>

<template>
  <section
    class="first"
    data-test="first-plan"
  >
    <div class="step">
      <h2 id="first-board">
        <span class="figures">1</span> Which board lies before you?
      </h2>
      <ChoiceList
        :items="boards"
        :chosen="board"
        labelled-by="first-board"
        test="first-board"
        @choose="id => board = id"
      >
        <template #default="{ item }">
          <b>{{ item.name }}</b><br><span class="small quiet">{{ item.seen.slice(0, 2).join(' · ') }}</span>
        </template>
      </ChoiceList>
    </div>
    <div
      class="step"
      :class="{ later: !board }"
    >
      <h2 id="first-thing">
        <span class="figures">2</span> What shall it do?
      </h2>
      <ChoiceList
        :items="starters"
        :chosen="starter"
        labelled-by="first-thing"
        test="first-thing"
        @choose="id => starter = id"
      >
        <template #default="{ item }">
          <b>{{ item.title }}</b><br><span class="small quiet">{{ item.says }}</span>
        </template>
      </ChoiceList>
      <p
        v-if="!starters.length"
        class="quiet"
        role="status"
      >
        Coming …
      </p>
    </div>
    <div
      class="step"
      :class="{ later: !starter || !board }"
    >
      <h2 id="first-supply">
        <span class="figures">3</span> What feeds it?
      </h2>
      <ChoiceList
        :items="supplies"
        :chosen="supply"
        labelled-by="first-supply"
        test="first-supply"
        @choose="id => supply = id"
      >
        <template #default="{ item }">
          <b>{{ item.supply.name }}</b><br><span class="small quiet figures">{{ item.supply.voltageV }} V ·
            {{ milliamps(item.supply.currentMa) }}</span>
        </template>
      </ChoiceList>
      <p
        v-if="!supplies.length"
        class="quiet small"
      >
        What suits comes here once board and purpose are chosen.
      </p>
    </div>
    <div class="acts">
      <v-btn
        color="primary"
        :disabled="!board || !starter || !supply"
        data-test="first-make"
        @click="make"
      >
        Make the plan
      </v-btn>
      <v-btn
        variant="text"
        @click="blank"
      >
        Begin with nothing instead
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
.first { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 16px; margin-top: 6px; }
.step { display: grid; gap: 6px; align-content: start; min-width: 0; overflow-wrap: anywhere; }
.step :deep([role=radiogroup]) { display: grid; gap: 6px; }
.step h2 .figures { color: var(--copper); }
.later h2, .later h2 .figures { color: var(--ink-2); font-weight: 500; }
.acts { grid-column: 1 / -1; display: flex; flex-wrap: wrap; gap: 10px; }
@media (max-width: 860px) { .first { grid-template-columns: minmax(0, 1fr); } }
</style>
