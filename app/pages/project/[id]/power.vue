<script setup lang="ts">
/** Loads on each rail against what there is: sums with their origin, and how long a pack lasts. */
import type { RailBudget } from '~~/core/power/budget'

const project = useProjectStore()
const { colourOf } = useOwners()
const { go } = useStages()
const power = computed(() => project.report!.power)
const supply = computed(() => project.facts!.supply)
const NAMES = { '5V': '5 V', '3V3': '3V3', 'USB': 'USB sockets' } as const
const noteOf = (rail: RailBudget) => rail.availableMa === null ? 'no supply chosen' : `of ${milliamps(rail.availableMa)}, ${rail.origin}`

function ownSupply(event: Event) {
  const text = (event.target as HTMLInputElement).value.trim().replace(',', '.')
  const current = project.plan!.supply!
  const value = Number(text)
  if (text === '') project.edit({ edit: 'choose-supply', supply: { type: current.type } }, 'Take the supply\'s own figure')
  else if (Number.isFinite(value) && value > 0) project.edit({ edit: 'choose-supply', supply: { ...current, currentMa: value } }, 'Set the supply\'s current')
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Power</h1>
      <span class="quiet">what is drawn of what there is</span>
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
          > mA at {{ supply.voltageV }} V</label>
        <span
          v-if="power.hours !== null"
          class="small"
        >lasts <b class="figures">{{ power.hours.toFixed(1) }} h</b> at the typical draw ({{ supply.capacityMah }} mAh × {{ supply.cellV }} V × {{ supply.efficiency }} ÷ {{ (supply.voltageV * power.rails[0]!.typicalMa / 1000).toFixed(2) }} W)</span>
        <span
          v-for="caution in supply.cautions ?? []"
          :key="caution"
          class="caution small"
        >{{ caution }}</span>
      </template>
      <template v-else>
        <b>No supply yet.</b> <span>Choose one on the Board stage, then the rails are judged.</span>
        <v-btn
          size="small"
          color="primary"
          @click="go('board')"
        >
          To the Board stage
        </v-btn>
      </template>
    </div>
    <section
      v-for="rail in power.rails"
      :key="rail.rail"
      class="rail"
    >
      <SupplyLane
        :rail="rail"
        :note="noteOf(rail)"
      />
      <table class="plain-table">
        <caption class="only-reader">
          Loads on {{ NAMES[rail.rail] }}
        </caption>
        <thead>
          <tr>
            <th scope="col">
              Load on {{ NAMES[rail.rail] }}
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
            v-for="(load, i) in rail.loads"
            :key="i"
          >
            <td>
              <span
                class="owner-swatch"
                :style="{ '--owner': colourOf(load.partId) }"
              /> {{ load.name }}
            </td>
            <td>{{ load.through === 'usb' ? 'USB' : load.through === 'board' ? 'the board' : rail.rail === '5V' && rail.loads.length && power.rails[1]!.loads.includes(load) ? '3V3 regulator' : 'header' }}</td>
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
          <tr v-if="!rail.loads.length">
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
              {{ Number(rail.idleMa.toFixed(1)) }}
            </td><td class="num">
              {{ Number(rail.typicalMa.toFixed(1)) }}
            </td><td class="num">
              {{ Number(rail.peakMa.toFixed(1)) }}
            </td><td>{{ rail.availableMa === null ? '' : `of ${milliamps(rail.availableMa)}` }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <p class="small quiet">
      Everything on 3V3 comes out of 5 V through the board's regulator and is counted there ampere for ampere, on the safe side. Feeding the board through the header leaves out its input fuse and reverse protection; both ways are used, never both at once.
    </p>
  </div>
</template>

<style scoped>
.supply { display: flex; flex-wrap: wrap; gap: 6px 18px; align-items: center; padding: 9px 12px; margin-bottom: 12px; }
.supply input { width: 84px; border: 1px solid var(--rule); border-radius: 3px; background: var(--sheet); color: inherit; padding: 2px 5px; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; flex-basis: 100%; }
.rail { margin-bottom: 20px; }
.sum td { font-weight: 700; border-bottom: 0; }
</style>
