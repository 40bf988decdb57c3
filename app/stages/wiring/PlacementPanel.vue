<script setup lang="ts">
/** What the last placement cost and moved, the conflict if there was one with its ways out, and the weights. */
import { mdiClose } from '@mdi/js'
import { WEIGHT_NAMES, WEIGHT_TABLE, weightsOf, type WeightName } from '~~/core/placement/weights'

const project = useProjectStore()
const { last, running, place, take, forget } = usePlacement()
const { colourOf, nameOf } = useOwners()
const weights = computed(() => weightsOf(project.plan!))
const own = (name: WeightName) => project.plan!.weights[name] !== undefined

function setWeight(name: WeightName, value: number | null) {
  if (value === null) return project.edit({ edit: 'set-weight', weight: name, value }, `Take back the weight "${name}"`)
  project.edit(
    { edit: 'set-weight', weight: name, value: value === WEIGHT_TABLE[name].value ? null : value },
    `Weigh "${name}" with ${value}`,
  )
}
const labelOf = (terminal: string) => {
  const found = project.facts!.byKey.get(terminal)
  return found ? `${found.owner.name} ${found.label}` : terminal
}

/** Straps are of several kinds: an address, an option of the seat. The option's own words say which. */
function strapInWords({ partId, option, value }: { partId: string, option: string, value: string }): string {
  const file = project.facts!.parts.find(owner => owner.id === partId)?.part.options?.find(entry => entry.id === option)
  if (!file || file.meaning === 'i2c-address') return `Strap ${nameOf(partId)} to ${value}.`
  return `${nameOf(partId)}, ${file.label.toLowerCase()}: `
    + `${file.values?.find(entry => entry.value === value)?.label ?? value}.`
}
</script>

<template>
  <section
    class="panel"
    aria-label="Placement"
    data-test="placement-panel"
  >
    <div class="head">
      <h2>Placement</h2>
      <IconAct
        name="Close the placement panel"
        :icon="mdiClose"
        @click="forget"
      />
    </div>
    <p
      v-if="!last"
      class="small quiet"
    >
      Nothing was placed in this sitting. The weights below are what the next placement goes by.
    </p>
    <template v-else-if="last.ok">
      <div class="columns">
        <div>
          <h3>Cost</h3>
          <v-table class="sums">
            <thead>
              <tr>
                <th><span class="only-reader">Of</span></th><th class="num">
                  before
                </th><th class="num">
                  now
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>signals</td><td class="num">
                  {{ last.before ? last.before.cost.toFixed(2) : '—' }}
                </td><td class="num">
                  {{ last.cost.toFixed(2) }}
                </td>
              </tr>
              <tr>
                <td>supplies and returns</td><td class="num">
                  {{ last.before ? last.before.powerCost.toFixed(2) : '—' }}
                </td><td class="num">
                  {{ last.powerCost.toFixed(2) }}
                </td>
              </tr>
            </tbody>
          </v-table>
          <p
            v-if="!last.before"
            class="small quiet"
          >
            Before, it could not stand as it was, or nothing had a place.
          </p>
          <p class="small quiet">
            {{ last.provedBest ? 'Proved least: no placement costs less under these weights.'
              : 'The best found; the search was cut short.' }} {{ last.nodes }} branches.
          </p>
          <v-table>
            <tbody>
              <tr
                v-for="row in last.costs.slice(0, 8)"
                :key="row.what"
              >
                <td>{{ row.what }}</td><td class="num">
                  {{ row.cost.toFixed(2) }}
                </td>
              </tr>
            </tbody>
          </v-table>
        </div>
        <div>
          <h3>Moved</h3>
          <p
            v-if="!last.moved.length"
            class="small quiet"
          >
            Nothing that had a place left it.
          </p>
          <ul
            v-else
            class="moves small"
          >
            <li
              v-for="move in last.moved.slice(0, 12)"
              :key="move.terminal"
              :style="{ '--owner': colourOf(move.terminal.split('.')[0]) }"
            >
              <span class="owner-swatch" /> {{ labelOf(move.terminal) }}: {{ move.from }} → <b>{{ move.to }}</b>
            </li>
            <li v-if="last.moved.length > 12">
              and {{ last.moved.length - 12 }} more
            </li>
          </ul>
          <p
            v-for="strap in last.straps"
            :key="strap.partId"
            class="small"
          >
            {{ strapInWords(strap) }}
          </p>
          <p
            v-if="last.splitAt.length"
            class="small"
          >
            Split outside the header: {{ last.splitAt.map(entry => `${entry.position} (${entry.wires} wires)`).join(', ') }}.
          </p>
        </div>
      </div>
    </template>
    <template v-else>
      <p class="stop-text">
        {{ last.sentence }}
      </p>
      <ul class="conflict">
        <li
          v-for="entry in last.conflict"
          :key="entry.label"
          :style="{ '--owner': colourOf(entry.terminals[0]?.split('.')[0]) }"
        >
          <span class="owner-swatch" /> {{ entry.label }}
        </li>
      </ul>
      <div
        v-if="last.waysOut.length"
        class="ways"
      >
        <span class="small">Ways out, tried, the cheapest first:</span>
        <v-btn
          v-for="(way, i) in last.waysOut"
          :key="way.label"
          size="small"
          class="grows"
          :color="i === 0 ? 'primary' : undefined"
          :variant="i === 0 ? 'flat' : 'outlined'"
          data-test="way-out"
          :disabled="running !== null"
          @click="take(way)"
        >
          {{ way.label }}
        </v-btn>
      </div>
      <p
        v-else
        class="small"
      >
        No single change makes it fit. Drop one of the parts above, or take a larger board.
      </p>
    </template>
    <FoldPanel title="Weights: what placement prefers">
      <div class="weight-grid">
        <div
          v-for="name in WEIGHT_NAMES"
          :key="name"
          class="weight"
          :class="{ own: own(name) }"
        >
          <span :id="`weight-${name}`">{{ WEIGHT_TABLE[name].meaning }}</span>
          <NumberField
            :value="weights[name]"
            :min="0"
            :max="1e5"
            may-be-empty
            :name="WEIGHT_TABLE[name].meaning"
            :data-test="`weight-${name}`"
            @set="value => setWeight(name, value)"
          />
        </div>
      </div>
      <v-btn
        size="small"
        variant="outlined"
        :disabled="running !== null"
        @click="place('all')"
      >
        Place anew with these
      </v-btn>
    </FoldPanel>
  </section>
</template>

<style scoped>
.panel {
  border: 1px solid var(--rule);
  border-left: 6px solid var(--copper);
  border-radius: 4px;
  background: var(--sheet);
  padding: 9px 12px;
  margin-top: 10px;
  display: grid;
  gap: 8px;
  font-size: 13.5px;
}
.head { display: flex; justify-content: space-between; }
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 18px; }
.sums td { font-weight: 650; }
.moves, .conflict { list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; }
.stop-text { color: var(--carmine); font-weight: 600; }
.ways { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.weight-grid { display: grid; grid-template-columns: repeat(auto-fill, minmax(300px, 1fr)); gap: 4px 18px; margin: 6px 0 8px; }
.weight { display: grid; grid-template-columns: 1fr 96px; gap: 8px; align-items: center; font-size: 12.5px; }
.own span { font-weight: 650; }
@media (max-width: 900px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
