<script setup lang="ts">
/** Rails and sources against what they give: bars in mA, and each load with its origin. */
import type { RailBudget, SourceBudget } from '~~/core/power/budget'

const { power } = usePower()
const { colourOf } = useOwners()
const NAMES = { '5V': '5 V', '3V3': '3V3', 'USB': 'USB sockets' } as const
const noteOf = (rail: RailBudget) => rail.availableMa === null ? 'no supply chosen' : `of ${milliamps(rail.availableMa)}, ${rail.origin}`
/** A source drawn as a rail: the same bar. */
const asRail = (source: SourceBudget): RailBudget => ({
  rail: '5V', loads: source.loads, idleMa: source.idleMa, typicalMa: source.typicalMa, peakMa: source.peakMa, peakV: 0,
  availableMa: source.availableMa, origin: source.origin, limitKey: '',
})
const others = computed(() => power.value.sources.filter(source => source.node !== '@supply'))
const blocks = computed(() => [
  ...power.value.rails.map(rail => ({ key: rail.rail as string, title: NAMES[rail.rail], rail, note: noteOf(rail) })),
  ...others.value.map(source => ({
    key: source.node, title: source.name, rail: asRail(source), note: `of ${milliamps(source.availableMa)}, ${source.origin}`,
  })),
])
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
      <v-table>
        <caption class="only-reader">
          Loads on {{ block.title }}
        </caption>
        <thead>
          <tr>
            <th scope="col">
              Load on {{ block.title }}
            </th><th scope="col">
              through
            </th><th
              scope="col"
              class="num"
            >
              idle mA
            </th><th
              scope="col"
              class="num"
            >
              typical mA
            </th><th
              scope="col"
              class="num"
            >
              peak mA
            </th><th scope="col">
              from
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="load in block.rail.loads"
            :key="load.node"
          >
            <td>
              <span
                class="owner-swatch"
                :style="{ '--owner': colourOf(load.partId) }"
              /> {{ load.name }}
            </td>
            <td>{{ load.through === 'usb' ? 'USB' : load.through === 'board' ? 'the board' : load.through }}</td>
            <td class="num">
              {{ Number(load.idleMa.toFixed(2)) }}
            </td><td class="num">
              {{ Number(load.typicalMa.toFixed(2)) }}
            </td><td class="num">
              {{ Number(load.peakMa.toFixed(2)) }}
            </td>
            <td class="quiet">
              {{ load.origin }}
            </td>
          </tr>
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
        </tbody>
      </v-table>
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
