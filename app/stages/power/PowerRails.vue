<script setup lang="ts">
/** Rails and sources against what they give: bars in mA, and each load with its origin. */
import type { RailBudget, SourceBudget } from '~~/core/power/budget'

const { power } = usePower()
const { colourOf } = useOwners()
const NAMES = { '5V': '5 V', '3V3': '3V3', 'USB': 'USB sockets' } as const
const noteOf = (rail: RailBudget) =>
  rail.availableMa === null ? 'no supply chosen' : `of ${milliamps(rail.availableMa)}, ${rail.origin}`
/** A source drawn as a rail: the same bar. */
const asRail = (source: SourceBudget): RailBudget => ({
  rail: '5V', loads: source.loads, idleMa: source.idleMa, typicalMa: source.typicalMa, peakMa: source.peakMa, peakV: 0,
  availableMa: source.availableMa, origin: source.origin, limitKey: '',
})
const others = computed(() => power.value.sources.filter(source => source.node !== '@supply'))
const blocks = computed(() => [
  ...power.value.rails.map(rail => ({ key: rail.rail as string, title: NAMES[rail.rail], rail, note: noteOf(rail) })),
  ...others.value.map(source => ({
    key: source.node, title: source.name, rail: asRail(source),
    note: `of ${milliamps(source.availableMa)}, ${source.origin}`,
  })),
])
type Load = RailBudget['loads'][number]
const throughOf = (load: Load) => load.through === 'usb' ? 'USB' : load.through === 'board' ? 'the board' : load.through
const rounded = (milliampere: number) => Number(milliampere.toFixed(2))
const columnsOf = (title: string) => [
  { key: 'load', title: `Load on ${title}`, value: (load: Load) => load.name },
  { key: 'through', title: 'through', value: throughOf },
  { key: 'idle', title: 'idle mA', value: (load: Load) => rounded(load.idleMa), num: true },
  { key: 'typical', title: 'typical mA', value: (load: Load) => rounded(load.typicalMa), num: true },
  { key: 'peak', title: 'peak mA', value: (load: Load) => rounded(load.peakMa), num: true },
  { key: 'origin', title: 'from', value: (load: Load) => load.origin },
]
</script>

<template>
  <div>
    <section
      v-for="block in blocks"
      :key="block.key"
      class="rail"
    >
      <SupplyLane
        :rail="block.rail"
        :note="block.note"
        :name="block.title"
      />
      <SortTable
        :rows="block.rail.loads"
        :columns="columnsOf(block.title)"
        :row-key="load => load.node"
        :caption="`Loads on ${block.title}`"
      >
        <template #load="{ row }">
          <span
            class="owner-swatch"
            :style="{ '--owner': colourOf(row.partId) }"
          /> {{ row.name }}
        </template>
        <template #origin="{ row }">
          <span class="quiet">{{ row.origin }}</span>
        </template>
        <template #after>
          <tr v-if="!block.rail.loads.length">
            <td
              colspan="6"
              class="quiet"
            >
              Nothing draws from this rail.
            </td>
          </tr>
          <tr
            v-else
            class="sum"
          >
            <td colspan="2">
              together
            </td><td class="num">
              {{ Number(block.rail.idleMa.toFixed(1)) }}
            </td><td class="num">
              {{ Number(block.rail.typicalMa.toFixed(1)) }}
            </td><td class="num">
              {{ Number(block.rail.peakMa.toFixed(1)) }}
            </td><td>{{ block.rail.availableMa === null ? '' : `of ${milliamps(block.rail.availableMa)}` }}</td>
          </tr>
        </template>
      </SortTable>
    </section>
    <p class="small quiet">
      Solved as a circuit: a converter draws more when its input sags, and everything on 3V3 counts on 5 V through the board's regulator
      with its efficiency.
    </p>
  </div>
</template>

<style scoped>
.rail { margin-bottom: 20px; }
.sum td { font-weight: 700; border-bottom: 0; }
</style>
