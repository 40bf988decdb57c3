<script setup lang="ts">
/** A node of the power tree: its figures, where they come from, and what can be done with it. */
import { FIGURES, KINDS } from '~~/core/netlist/supply/kinds'
import { consumerOf } from '~~/core/power/flow'
import { measuredOhm } from '~~/core/netlist/copper'

const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { power, grouped, feedsFor, feedOf, nameOf, putIn, edit } = usePower()

const node = computed(() => power.value.nodes.find(entry => entry.id === view.node) ?? null)
const own = computed(() => project.plan!.power.nodes.find(entry => entry.id === view.node))
const states = computed(() => power.value.states.map(state => ({ state, at: state.nodes[view.node!]! })))
const wire = computed(() => power.value.nodes.find(entry => entry.id === `${view.node}@wire`) ?? null)
const consumer = computed(() => node.value ? consumerOf(node.value.id) : '')
const canBeFed = computed(() =>
  !!node.value && node.value.role !== 'source'
  && (node.value.own || node.value.kind === 'part' || node.value.id === '@socket' || node.value.id === '@header'
    || node.value.kind === 'contact'))
const feed = computed(() => canBeFed.value ? feedOf(consumer.value) : null)
const changedFeed = computed(() => Object.hasOwn(project.plan!.power.feeds, consumer.value))
const joins = computed(() => project.plan!.power.joins.filter(join => join.into === consumer.value))
const canJoin = computed(() => node.value?.kind === 'part' || node.value?.id === '@5V')
const what = ref('')
const second = ref('')
const paths = computed(() => grouped(kind => KINDS[kind as keyof typeof KINDS].role === 'path'))
const sourceTypes = computed(() => [...project.catalogue.supplies.values()])

function setFigure(id: string, name: string, event: Event) {
  const spec = FIGURES[name]!
  const input = event.target as HTMLInputElement
  if (input.value.trim() === '') return void edit({ edit: 'set-figure', node: id, figure: name, value: null }, `Usual ${spec.label}`)
  const value = typedNumber(event, spec.least, spec.most)
  if (value === null) {
    view.say(`${spec.label}: a number from ${spec.least} to ${spec.most} ${spec.unit}.`, { tone: 'stop' })
    input.value = String(power.value.nodes.find(entry => entry.id === id)?.figures[name]?.value ?? '')
    return
  }
  edit({ edit: 'set-figure', node: id, figure: name, value }, `${nameOf(id)}: ${spec.label} ${value} ${spec.unit}`)
}
function setFeed(event: Event) {
  const value = (event.target as HTMLSelectElement).value
  if (value === '(usual)') edit(
    { edit: 'feed', consumer: consumer.value, from: { usual: true } }, `Feed ${nameOf(consumer.value)} as usual`,
  )
  else edit(
    { edit: 'feed', consumer: consumer.value, from: value === '' ? null : value },
    value ? `Feed ${nameOf(consumer.value)} from ${nameOf(value)}` : `Feed ${nameOf(consumer.value)} from nothing`,
  )
}
function remove() {
  const id = own.value!.id
  edit({ edit: 'remove-node', id }, `Take ${nameOf(id)} out`)
  view.chooseNode(null)
}
/** A cable measured with a meter: its end without and with a load. */
const measured = reactive({ without: '', with: '', ma: '' })
const cable = computed(() => node.value?.kind === 'cable' ? node.value : wire.value?.kind === 'cable' ? wire.value : null)
function takeMeasured() {
  const [without, loaded, ma] = [measured.without, measured.with, measured.ma].map(text => Number(text.trim().replace(',', '.')))
  const ohm = measuredOhm(without!, loaded!, ma!)
  if (ohm === null || !Number.isFinite(ohm)) {
    return view.say(
      'Three numbers are wanted: volts at the far end without a load, volts with one, and its milliamperes. With a load there cannot be '
      + 'more volts than without.',
      { tone: 'stop' },
    )
  }
  edit(
    { edit: 'set-figure', node: cable.value!.id, figure: 'measuredOhm', value: Number(ohm.toPrecision(4)) },
    `${cable.value!.name}: ${(ohm * 1000).toFixed(0)} mΩ measured`,
  )
}
const round = (value: number) => Number(value.toPrecision(5))
const sheets = computed(() => [node.value!, ...wire.value ? [wire.value] : []])
</script>

<template>
  <section
    v-if="node"
    class="card"
    :style="{ '--owner': node.partId ? colourOf(node.partId) : 'var(--copper)' }"
    data-test="power-node"
  >
    <div class="head">
      <h2>{{ node.name }}</h2>
      <button
        class="bare"
        aria-label="Let go of it"
        @click="view.chooseNode(null)"
      >
        ✕
      </button>
    </div>
    <p class="small quiet">
      {{ KINDS[node.kind].label }}{{ node.origin ? ` · ${node.origin}` : '' }}
    </p>
    <label
      v-if="own"
      class="line small"
    ><span>Name</span><input
      :value="own.name"
      maxlength="120"
      @change="edit({ edit: 'edit-node', id: own!.id, changes: { name: ($event.target as HTMLInputElement).value.trim() || node!.name } },
                    'Name it')"
    ></label>
    <v-table class="states">
      <caption class="only-reader">
        Figures by state
      </caption>
      <thead>
        <tr>
          <th scope="col">
            state
          </th><th
            scope="col"
            class="num"
          >
            V
          </th><th
            scope="col"
            class="num"
          >
            mA
          </th><th
            scope="col"
            class="num"
          >
            {{ node.role === 'path' ? 'W lost' : 'W' }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="{ state, at } in states"
          :key="state.id"
          :class="{ off: !state.ok }"
        >
          <td>{{ state.label }}</td><td class="num">
            {{ at.voltageV.toFixed(2) }}
          </td><td class="num">
            {{ at.currentMa >= 100 ? Math.round(at.currentMa) : Number(at.currentMa.toFixed(2)) }}
          </td><td class="num">
            {{ (at.powerMw / 1000).toFixed(2) }}
          </td>
        </tr>
      </tbody>
    </v-table>
    <template v-if="canBeFed">
      <label class="line small wide"><span>Fed from</span><select
        :value="feed ?? ''"
        data-test="feed"
        @change="setFeed"
      >
        <option value="">nothing</option>
        <option
          v-if="changedFeed"
          value="(usual)"
        >as usual</option>
        <option
          v-for="entry in feedsFor(consumer)"
          :key="entry.id"
          :value="entry.id"
        >{{ entry.name }}{{ entry.own ? '' : ` (${entry.id})` }}</option>
      </select></label>
      <div
        class="insert"
        :class="{ now: view.inserting }"
      >
        <select
          v-model="what"
          aria-label="What to put in before it"
          data-test="insert-what"
        >
          <option value="">
            put in before it …
          </option>
          <optgroup
            v-for="[label, list] in paths"
            :key="label"
            :label="label"
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
          :disabled="!what"
          data-test="insert"
          @click="putIn(what, consumer); what = ''"
        >
          Put in
        </v-btn>
      </div>
    </template>
    <template
      v-for="entry in sheets"
      :key="entry.id"
    >
      <h3 v-if="entry !== node">
        Its {{ entry.kind === 'cable' ? 'wires' : 'plug' }}
      </h3>
      <label
        v-for="(figure, name) in entry.figures"
        :key="name"
        class="line small"
      >
        <span>{{ FIGURES[name]?.label ?? name }}</span>
        <input
          :value="round(figure.value)"
          class="figures num"
          inputmode="decimal"
          :data-test="`figure-${name}`"
          :aria-label="`${entry.name}: ${FIGURES[name]?.label ?? name} in ${FIGURES[name]?.unit ?? ''}`"
          @change="setFigure(entry.id, String(name), $event)"
        >
        <span class="quiet unit">{{ FIGURES[name]?.unit }}</span>
        <span
          class="origin quiet"
          :title="figure.origin"
        >{{ figure.origin }}</span>
      </label>
    </template>
    <details
      v-if="cable"
      class="small"
    >
      <summary>By a measured drop</summary>
      <div class="measure">
        <label>without load <input
          v-model="measured.without"
          class="num"
          inputmode="decimal"
          data-test="measured-without"
        > V</label>
        <label>with load <input
          v-model="measured.with"
          class="num"
          inputmode="decimal"
          data-test="measured-with"
        > V</label>
        <label>load <input
          v-model="measured.ma"
          class="num"
          inputmode="decimal"
          data-test="measured-ma"
        > mA</label>
        <v-btn
          size="small"
          variant="outlined"
          data-test="take-measured"
          @click="takeMeasured"
        >
          Take it
        </v-btn>
      </div>
    </details>
    <div
      v-if="canJoin"
      class="insert"
    >
      <select
        v-model="second"
        aria-label="A second plug into it"
      >
        <option value="">
          also plug in …
        </option>
        <option
          v-for="entry in feedsFor(consumer === '@5V' ? '@socket' : consumer).filter(feeder => feeder.role === 'source' || feeder.own)"
          :key="entry.id"
          :value="entry.id"
        >
          {{ entry.name }}
        </option>
      </select>
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!second"
        @click="edit({ edit: 'join', join: { from: second, into: consumer } },
                     `Plug ${nameOf(second)} into ${nameOf(consumer)}`); second = ''"
      >
        Plug in
      </v-btn>
    </div>
    <p
      v-for="join in joins"
      :key="join.from"
      class="small"
    >
      {{ nameOf(join.from) }} is plugged in here as well.
      <button
        class="bare act"
        @click="edit({ edit: 'unjoin', join }, `Pull ${nameOf(join.from)} out`)"
      >
        Pull it out
      </button>
    </p>
    <label
      v-if="own && node.kind === 'hub'"
      class="line small wide"
    ><span>Its data plug</span><select
      :value="own.upstream ?? ''"
      @change="edit({ edit: 'edit-node', id: own!.id, changes: { upstream: ($event.target as HTMLSelectElement).value || null } },
                    'Plug the hub in')"
    ><option value="">nowhere</option><option value="@usb">the board's USB socket</option></select></label>
    <label
      v-if="own && sourceTypes.some(unit => unit.id === own!.type)"
      class="line small wide"
    ><span>Which</span><select
      :value="own.type"
      @change="edit({ edit: 'edit-node', id: own!.id, changes: { type: ($event.target as HTMLSelectElement).value, figures: {} } },
                    'Choose another source')"
    ><option
      v-for="unit in sourceTypes"
      :key="unit.id"
      :value="unit.id"
    >{{ unit.name }}</option></select></label>
    <div class="acts">
      <v-btn
        v-if="own && (node.kind === 'switch' || node.kind === 'latch' || node.kind.startsWith('fuse'))"
        size="small"
        variant="outlined"
        @click="edit({ edit: 'edit-node', id: own!.id, changes: { open: !own!.open } }, own!.open ? `Close ${node!.name}`
          : `Open ${node!.name}`)"
      >
        {{ own.open ? 'Close it' : 'Open it' }}
      </v-btn>
      <v-btn
        v-if="own"
        size="small"
        variant="outlined"
        data-test="remove-node"
        @click="remove"
      >
        Take it out
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
.card {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 6px solid var(--owner);
  border-radius: 4px;
  padding: 9px 12px;
  display: grid;
  gap: 6px;
  margin-bottom: 10px;
  min-width: 0;
}
.head { display: flex; justify-content: space-between; gap: 8px; }
.line { display: grid; grid-template-columns: minmax(0, 1fr) 74px 34px 62px; gap: 5px; align-items: center; }
.line:has(> input:nth-child(2):last-child), .wide { grid-template-columns: 74px minmax(0, 1fr); }
input, select {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 2px 5px;
  min-width: 0;
  font: inherit;
}
input.num { text-align: right; font-family: var(--figure-family); }
.origin { overflow: hidden; white-space: nowrap; text-overflow: ellipsis; font-size: 11.5px; }
.insert { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 6px; }
.insert.now select { border-color: var(--copper); box-shadow: 0 0 0 2px var(--copper-wash); }
.states td, .states th { padding: 2px 6px 2px 0; font-size: 12.5px; }
.off td { color: var(--carmine); }
.measure { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; }
.measure input { width: 58px; }
.acts { display: flex; gap: 6px; }
.act { text-decoration: underline; color: var(--copper); }
</style>
