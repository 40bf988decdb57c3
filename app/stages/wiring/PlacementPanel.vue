<script setup lang="ts">
/** What the last placement cost and moved, the conflict if there was one with its ways out, and the weights. */
import { WEIGHT_NAMES, WEIGHT_TABLE, weightsOf, type WeightName } from '~~/core/placement/weights'

const project = useProjectStore()
const view = useViewStore()
const { last, running, place, take, forget } = usePlacement()
const { colourOf, nameOf } = useOwners()
const weights = computed(() => weightsOf(project.plan!))
const own = (name: WeightName) => project.plan!.weights[name] !== undefined

function setWeight(name: WeightName, event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  const value = Number(text.replace(',', '.'))
  if (text === '') return project.edit({ edit: 'set-weight', weight: name, value: null }, `Take back the weight "${name}"`)
  if (!Number.isFinite(value) || value < 0 || value > 1e5) {
    return view.say(`"${text}" is no weight. Type a number from 0 to 100 000, or nothing for the usual one.`, { tone: 'stop' })
  }
  project.edit(
    { edit: 'set-weight', weight: name, value: value === WEIGHT_TABLE[name].value ? null : value }, `Weigh "${name}" with ${value}`,
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
  return `${nameOf(partId)}, ${file.label.toLowerCase()}: ${file.values?.find(entry => entry.value === value)?.label ?? value}.`
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
      <button
        class="bare"
        aria-label="Close the placement panel"
        @click="forget"
      >
        ✕
      </button>
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
          <table class="plain-table sums">
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
          </table>
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
          <table class="plain-table">
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
          </table>
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
    <details class="weights">
      <summary>Weights: what placement prefers</summary>
      <div class="weight-grid">
        <label
          v-for="name in WEIGHT_NAMES"
          :key="name"
          :class="{ own: own(name) }"
        >
          <span>{{ WEIGHT_TABLE[name].meaning }}</span>
          <input
            :value="weights[name]"
            class="figures"
            inputmode="decimal"
            :data-test="`weight-${name}`"
            @change="setWeight(name, $event)"
          >
        </label>
      </div>
      <v-btn
        size="small"
        variant="outlined"
        :disabled="running !== null"
        @click="place('all')"
      >
        Place anew with these
      </v-btn>
    </details>
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
.ways :deep(.v-btn) { height: auto; min-height: 28px; max-width: 100%; }
.ways :deep(.v-btn__content) { white-space: normal; }
.weights summary { cursor: pointer; }
.weight-grid { display: grid; grid-template-columns: repeat(auto-fill, minmax(300px, 1fr)); gap: 4px 18px; margin: 6px 0 8px; }
.weight-grid label { display: grid; grid-template-columns: 1fr 72px; gap: 8px; align-items: center; font-size: 12.5px; }
.weight-grid input {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 2px 5px;
  text-align: right;
}
.own span { font-weight: 650; }
@media (max-width: 900px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
