<script setup lang="ts">
/** Every supply with its volts, grouped by how it suits the plan and by what it is; those that do not suit say why. */
import type { Fit, SupplyChoice } from '~~/core/choose/supplies'

const project = useProjectStore()
const view = useViewStore()
const { choices, isTried } = useBoard()
const { freeInWords } = useDrawer()
const GROUPS: readonly { fit: Fit, title: string, says: string }[] = [
  { fit: 'fits', title: 'Suits this plan', says: '' },
  { fit: 'care', title: 'Runs, with something to see to', says: '' },
  {
    fit: 'converter', title: 'Another voltage',
    says: 'A converter has to make 5 V of it first, on the Power stage: straight into the board it destroys it, or '
      + 'does not start it.',
  },
  { fit: 'no', title: 'Does not carry it', says: '' },
]
const groups = computed(() => GROUPS.map(group => ({ ...group,
  list: choices.value.filter(choice => choice.fit === group.fit) }))
  .filter(group => group.list.length))
const PLUGS: Readonly<Record<string, string>> = {
  'micro-usb': 'micro-USB plug', 'usb-c': 'USB-C plug', 'round': 'round plug', 'screw': 'bare wires',
}
const chosen = computed(() => project.plan!.supply?.type ?? null)
const chosenChoice = computed(() => choices.value.find(choice => choice.supply.id === chosen.value))
/** Groups that are open: what suits, and where the chosen one stands. */
const open = ref<Fit[]>(['fits'])
watch(chosenChoice, (choice) => {
  if (choice && !open.value.includes(choice.fit)) open.value = [...open.value, choice.fit]
}, { immediate: true })

/** The reasons, without the name that stands beside them already. */
const whyOf = ({ supply: { name }, why }: SupplyChoice) => why.slice(0, 2)
  .map(reason => reason.replace(`${name} `, 'It ').replace(`${name}: `, '').replace(name, 'it'))
  .join('; ')
const volts = ({ supply }: SupplyChoice) => `${supply.voltageV} V${supply.kind === 'transformer' ? ' AC' : ''}`
function choose(id: string) {
  project.edit({ edit: 'choose-supply', supply: { type: id } }, 'Choose the supply')
}
function look(id: string | null) {
  const report = id && project.preview({ edit: 'choose-supply', supply: { type: id } })
  view.ghost = report ? { label: project.catalogue.supplies.get(id)!.name, report } : null
}
/** The first of each kind carries its name. */
const asItems = (list: readonly SupplyChoice[]) =>
  list.map((choice, i) => ({ ...choice, id: choice.supply.id, first: choice.kind !== list[i - 1]?.kind }))
</script>

<template>
  <section>
    <h2 id="supplies">
      Which supply?
      <span
        class="quiet small state"
        role="status"
      >{{ isTried ? '' : 'trying them on this plan …' }}</span>
    </h2>
    <v-expansion-panels
      v-model="open"
      multiple
      class="plain"
    >
      <v-expansion-panel
        v-for="group in groups"
        :key="group.fit"
        :value="group.fit"
        eager
      >
        <v-expansion-panel-title :data-test="`supplies-${group.fit}`">
          <span :id="`supplies-${group.fit}`">{{ isTried ? group.title : 'All supplies' }}
            <span class="quiet figures">{{ group.list.length }}</span></span>
        </v-expansion-panel-title>
        <v-expansion-panel-text>
          <p
            v-if="isTried && group.says"
            class="small says"
          >
            {{ group.says }}
          </p>
          <ChoiceList
            class="supplies"
            :items="asItems(group.list)"
            :chosen="chosen"
            :labelled-by="`supplies-${group.fit}`"
            test="supply"
            @choose="choose"
            @look="look"
          >
            <template #default="{ item }">
              <div class="supply">
                <span
                  v-if="item.first"
                  class="kind small quiet"
                >{{ item.kind }}</span>
                <span><b>{{ item.supply.name }}</b> <span class="small drawer">{{ freeInWords(item.supply.id) }}</span></span>
                <span class="figures small">{{ volts(item) }} · {{ milliamps(item.supply.currentMa) }}</span>
                <span class="small quiet">{{ item.supply.cable ? PLUGS[item.supply.cable.plug] : '' }}</span>
                <span
                  v-if="item.why.length"
                  class="small why"
                  :class="item.fit"
                >{{ whyOf(item) }}</span>
                <span
                  v-else
                  class="small quiet why"
                >{{ item.supply.summary }}</span>
              </div>
            </template>
          </ChoiceList>
        </v-expansion-panel-text>
      </v-expansion-panel>
    </v-expansion-panels>
    <v-alert
      v-for="caution in chosenChoice?.supply.cautions ?? []"
      :key="caution"
      color="warning"
      class="caution"
    >
      {{ caution }}
    </v-alert>
  </section>
</template>

<style scoped>
h2 { margin: 12px 0 4px; }
.state { font-weight: 400; }
.says { margin-bottom: 6px; }
.supplies { display: grid; gap: 4px; }
.supply { display: grid; gap: 0 14px; grid-template-columns: minmax(230px, 1.5fr) 122px 108px minmax(170px, 1.4fr); align-items: baseline; }
.supply .figures { white-space: nowrap; }
.drawer { color: var(--moss); }
.kind { grid-column: 1 / -1; }
.why.care { color: var(--ochre); }
.why.no, .why.converter { color: var(--carmine); }
.caution { margin-top: 6px; padding-block: 6px; }
@media (max-width: 900px) {
  .supply { grid-template-columns: minmax(0, 1fr) auto; }
  .why { grid-column: 1 / -1; }
}
</style>
