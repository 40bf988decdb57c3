<script setup lang="ts">
/** A node of the power tree: its figures, where they come from, and what can be done with it. */
import { mdiClose } from '@mdi/js'
import MeasureField from '~/shared/MeasureField.vue'
import NumberField from '~/shared/NumberField.vue'
import { measureOf } from '~/composables/useUnits'
import { FIGURES, KINDS } from '~~/core/netlist/supply/kinds'
import { consumerOf } from '~~/core/power/flow'
import { measuredOhm } from '~~/core/netlist/copper'

const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { power, grouped, asItems, feedsFor, feedOf, nameOf, putIn, edit } = usePower()

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
const what = ref<string | null>(null)
const second = ref<string | null>(null)
const paths = computed(() => grouped(kind => KINDS[kind as keyof typeof KINDS].role === 'path'))
const sourceTypes = computed(() => [...project.catalogue.supplies.values()])

function setFigure(id: string, name: string, value: number | null) {
  const spec = FIGURES[name]!
  if (value === null) return edit({ edit: 'set-figure', node: id, figure: name, value }, `Usual ${spec.label}`)
  edit({ edit: 'set-figure', node: id, figure: name, value }, `${nameOf(id)}: ${spec.label} ${value} ${spec.unit}`)
}

const NOTHING = '(nothing)'
const USUAL = '(usual)'
const feeds = computed(() => [
  { value: NOTHING, title: 'nothing' }, ...changedFeed.value ? [{ value: USUAL, title: 'as usual' }] : [],
  ...feedsFor(consumer.value).map(entry => ({ value: entry.id, title: entry.name })),
])
function setFeed(value: string) {
  if (value === USUAL) return edit(
    { edit: 'feed', consumer: consumer.value, from: { usual: true } }, `Feed ${nameOf(consumer.value)} as usual`,
  )
  edit(
    { edit: 'feed', consumer: consumer.value, from: value === NOTHING ? null : value },
    value === NOTHING ? `Feed ${nameOf(consumer.value)} from nothing` : `Feed ${nameOf(consumer.value)} from ${nameOf(value)}`,
  )
}
function put() {
  if (what.value) putIn(what.value, consumer.value)
  what.value = null
}
const seconds = computed(() => feedsFor(consumer.value === '@5V' ? '@socket' : consumer.value)
  .filter(feeder => feeder.role === 'source' || feeder.own).map(({ id, name }) => ({ value: id, title: name })))
function plugIn() {
  if (second.value) edit(
    { edit: 'join', join: { from: second.value, into: consumer.value } },
    `Plug ${nameOf(second.value)} into ${nameOf(consumer.value)}`,
  )
  second.value = null
}

function chooseType(type: string | null) {
  if (type) edit({ edit: 'edit-node', id: own.value!.id, changes: { type, figures: {} } }, 'Choose another source')
}

function remove() {
  const id = own.value!.id
  edit({ edit: 'remove-node', id }, `Take ${nameOf(id)} out`)
  view.chooseNode(null)
}
/** A cable measured with a meter: its end without and with a load. */
const measured = reactive<{ without: number | null, with: number | null, ma: number | null }>({ without: null,
  with: null, ma: null })
const cable = computed(() =>
  node.value?.kind === 'cable' ? node.value : wire.value?.kind === 'cable' ? wire.value : null)
function takeMeasured() {
  const { without, with: loaded, ma } = measured
  const ohm = without === null || loaded === null || ma === null ? null : measuredOhm(without, loaded, ma)
  if (ohm === null || !Number.isFinite(ohm)) {
    return view.say(
      'Three numbers are wanted: volts at the far end without a load, volts with one, and its milliamperes. With a '
      + 'load there cannot be more volts than without.',
      { tone: 'stop' },
    )
  }
  edit(
    { edit: 'set-figure', node: cable.value!.id, figure: 'measuredOhm', value: Number(ohm.toPrecision(4)) },
    `${cable.value!.name}: ${(ohm * 1000).toFixed(0)} mΩ measured`,
  )
}
const MEASURED = [['without', 'without load', 'V', 'without'], ['with', 'with load', 'V', 'with'],
  ['ma', 'load', 'mA', 'ma']] as const
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
      <IconAct
        name="Let go of it"
        :icon="mdiClose"
        @click="view.chooseNode(null)"
      />
    </div>
    <p class="small quiet">
      {{ KINDS[node.kind].label }}{{ node.origin ? ` · ${node.origin}` : '' }}
    </p>
    <v-text-field
      v-if="own"
      label="Name"
      :model-value="own.name"
      maxlength="120"
      @change="edit({ edit: 'edit-node', id: own!.id, changes: { name: ($event.target as HTMLInputElement).value.trim() || node!.name } },
                    'Name it')"
    />
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
      <v-select
        label="Fed from"
        :items="feeds"
        :model-value="feed ?? NOTHING"
        data-test="feed"
        @update:model-value="setFeed"
      />
      <div
        class="insert"
        :class="{ now: view.inserting }"
      >
        <v-autocomplete
          v-model="what"
          label="Put in before it"
          :items="asItems(paths)"
          clearable
          data-test="insert-what"
        />
        <v-btn
          size="small"
          variant="outlined"
          :disabled="!what"
          data-test="insert"
          @click="put"
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
      <div
        v-for="(figure, name) in entry.figures"
        :key="name"
        class="line"
      >
        <component
          :is="measureOf(FIGURES[name]?.unit ?? '') ? MeasureField : NumberField"
          :measure="measureOf(FIGURES[name]?.unit ?? '') ?? undefined"
          :label="FIGURES[name]?.label ?? String(name)"
          :value="round(figure.value)"
          :unit="FIGURES[name]?.unit"
          :min="FIGURES[name]?.min"
          :max="FIGURES[name]?.max"
          may-be-empty
          :data-test="`figure-${name}`"
          @set="(value: number | null) => setFigure(entry.id, String(name), value)"
        />
        <HintText
          class="origin quiet"
          :hint="`from: ${figure.origin}`"
        >
          {{ figure.origin }}
        </HintText>
      </div>
    </template>
    <FoldPanel
      v-if="cable"
      title="By a measured drop"
    >
      <div class="measure">
        <NumberField
          v-for="[key, label, unit, test] in MEASURED"
          :key="key"
          :label="label"
          :unit="unit"
          :value="measured[key]"
          may-be-empty
          :data-test="`measured-${test}`"
          @set="value => measured[key] = value"
        />
        <v-btn
          size="small"
          variant="outlined"
          data-test="take-measured"
          @click="takeMeasured"
        >
          Take it
        </v-btn>
      </div>
    </FoldPanel>
    <div
      v-if="canJoin"
      class="insert"
    >
      <v-select
        v-model="second"
        label="A second plug into it"
        :items="seconds"
        clearable
        data-test="second-plug"
      />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!second"
        @click="plugIn"
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
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        @click="edit({ edit: 'unjoin', join }, `Pull ${nameOf(join.from)} out`)"
      >
        Pull it out
      </v-btn>
    </p>
    <v-select
      v-if="own && node.kind === 'hub'"
      label="Its data plug"
      :items="[{ value: '', title: 'nowhere' }, { value: '@usb', title: 'the board\'s USB socket' }]"
      :model-value="own.upstream ?? ''"
      @update:model-value="value => edit({ edit: 'edit-node', id: own!.id, changes: { upstream: value || null } }, 'Plug the hub in')"
    />
    <v-autocomplete
      v-if="own && sourceTypes.some(unit => unit.id === own!.type)"
      label="Which"
      :items="sourceTypes"
      item-title="name"
      item-value="id"
      :model-value="own.type"
      @update:model-value="chooseType"
    />
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
  padding: 7px 12px;
  display: grid;
  gap: 8px;
  margin-bottom: 10px;
  min-width: 0;
}
.head { display: flex; justify-content: space-between; gap: 8px; }
.line { display: grid; grid-template-columns: minmax(0, 1fr) 74px; gap: 6px; align-items: center; }
.origin { overflow: hidden; white-space: nowrap; text-overflow: ellipsis; font-size: 11.5px; display: block; }
.insert { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 6px; align-items: center; }
.insert.now :deep(.v-field) { box-shadow: 0 0 0 2px var(--copper); }
.states td, .states th { font-size: 12.5px; }
.off td { color: var(--carmine); }
.measure { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; align-items: center; padding-top: 6px; }
.acts { display: flex; gap: 6px; }
</style>
