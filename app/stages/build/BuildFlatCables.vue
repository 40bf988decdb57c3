<script setup lang="ts">
/** Flat cables: how the two slots lie, and which cable joins them, or why none does. */
import { newId } from '~/database/id'
import { flatCablesOf, seatingOf } from '~~/core/mechanics/flat-cables'
import { usePicture } from './usePicture'
import { flatCableFor, type FlatConnector } from '~~/core/mechanics/flat-cable'

const project = useProjectStore()
const { seen } = usePicture()
/** Those of the plan's parts, where both slots stand in files. */
const planned = computed(() => project.facts ? flatCablesOf(project.facts, seen.value?.bodies ?? null) : [])
const cables = computed(() => project.plan!.build.flat)
const answers = computed(() => cables.value.map(({ one, two, apartMm }) => flatCableFor(one, two, apartMm)))
const USUAL: FlatConnector = { ways: 15, pitchMm: 1, contacts: 'bottom', opens: 'right', looks: 'up', first: 'near' }
const items = (words: Record<string, string>) => Object.entries(words).map(([value, title]) => ({ value, title }))
const OPENS = items({ left: 'to the left', right: 'to the right', near: 'towards you', far: 'away from you',
  up: 'up, away from its board' })
const FIRST = items({ left: 'on the left', right: 'on the right', near: 'on your side', far: 'on the far side' })
const CONTACTS = items({ top: 'on top', bottom: 'below' })
const UPRIGHT_CONTACTS = items({ left: 'on the left', right: 'on the right', near: 'on your side',
  far: 'on the far side' })
/** Slots that the board's file describes. */
const slots = computed(() => (project.facts?.board?.body?.standing ?? []).flatMap(entry =>
  entry.kind === 'socket' && entry.flat
    ? [{ value: entry.id, title: entry.what, slot: { ...entry.flat, opens: entry.opens,
        looks: 'up' as const } }]
    : []))
const isAsFile = (end: FlatConnector) => slots.value.find(({ slot }) =>
  (Object.keys(slot) as (keyof typeof slot)[]).every(name => slot[name] === end[name]))?.value ?? ''
/** The other way of opening has its contacts on other sides. */
const opened = (end: FlatConnector,
  opens: FlatConnector['opens']): Partial<FlatConnector> => (opens === 'up') === (end.opens === 'up')
  ? { opens }
  : opens === 'up'
    ? { opens, contacts: end.first === 'left' || end.first === 'right' ? 'near' : 'left' }
    : { opens, contacts: 'bottom' }
const LOOKS = items({ up: 'up, like the first', down: 'down, to the first' })
const PITCHES = [{ value: 0.5, title: '0.5 mm' }, { value: 1, title: '1 mm' }]
const ENDS = [{ end: 'one', title: 'First slot' }, { end: 'two', title: 'Second slot' }] as const

const keep = (flat: typeof cables.value, label: string) => project.edit({ edit: 'set-flat-cables', flat }, label)
const add = () => keep([...cables.value,
  { id: newId(), name: `Flat cable ${cables.value.length + 1}`, one: USUAL, two: { ...USUAL,
    opens: 'left' },
  apartMm: 80 }], 'A flat cable')
const change = (id: string, fields: Partial<typeof cables.value[number]>) =>
  keep(cables.value.map(entry => entry.id === id ? { ...entry, ...fields } : entry), 'A flat cable')
function changeEnd(id: string, end: 'one' | 'two', fields: Partial<FlatConnector>) {
  const cable = cables.value.find(entry => entry.id === id)!
  change(id, { [end]: { ...cable[end], ...fields } })
}
</script>

<template>
  <FoldPanel
    title="Which flat cable?"
    data-test="flat-cables"
    :open="cables.length > 0 || planned.length > 0"
  >
    <article
      v-for="cable in planned"
      :key="cable.partId"
      data-test="flat-planned"
    >
      <p :class="{ bad: !cable.answer.fits }">
        <b>{{ cable.name }}.</b> {{ cable.answer.reasons.join(' ') }}
        <template v-if="cable.answer.fits">
          {{ seatingOf(cable) }}
        </template>
      </p>
    </article>
    <article
      v-for="(cable, i) in cables"
      :key="cable.id"
      class="cable"
    >
      <div class="fields">
        <LineField
          label="Called"
          :value="cable.name"
          :max="80"
          @set="name => change(cable.id, { name: name ?? '' })"
        />
        <NumberField
          label="Slots apart"
          unit="mm"
          :value="cable.apartMm"
          :min="1"
          :max="2000"
          data-test="flat-apart"
          @set="apartMm => change(cable.id, { apartMm: apartMm! })"
        />
        <v-btn
          size="small"
          variant="text"
          @click="keep(cables.filter(entry => entry.id !== cable.id), 'Take the flat cable out')"
        >
          Take out
        </v-btn>
      </div>
      <div
        v-for="{ end, title } in ENDS"
        :key="end"
        class="fields"
        role="group"
        :aria-label="title"
      >
        <b>{{ title }}</b>
        <v-select
          v-if="slots.length && end === 'one'"
          label="Of the board"
          :items="isAsFile(cable[end]) ? slots : [{ value: '', title: 'described by you' }, ...slots]"
          :model-value="isAsFile(cable[end])"
          hide-details
          data-test="flat-slot"
          @update:model-value="id => changeEnd(cable.id, end, slots.find(({ value }) => value === id)?.slot ?? {})"
        />
        <NumberField
          label="Ways"
          :value="cable[end].ways"
          :min="2"
          :max="80"
          :data-test="`flat-ways-${end}`"
          @set="ways => changeEnd(cable.id, end, { ways: ways! })"
        />
        <v-select
          label="Apart"
          :items="PITCHES"
          :model-value="cable[end].pitchMm"
          hide-details
          @update:model-value="pitchMm => changeEnd(cable.id, end, { pitchMm })"
        />
        <v-select
          label="Contacts"
          :items="cable[end].opens === 'up' ? UPRIGHT_CONTACTS : CONTACTS"
          :model-value="cable[end].contacts"
          hide-details
          :data-test="`flat-contacts-${end}`"
          @update:model-value="contacts => changeEnd(cable.id, end, { contacts })"
        />
        <v-select
          label="Opens"
          :items="OPENS"
          :model-value="cable[end].opens"
          hide-details
          :data-test="`flat-opens-${end}`"
          @update:model-value="opens => changeEnd(cable.id, end, opened(cable[end], opens))"
        />
        <v-select
          label="Way 1"
          :items="FIRST"
          :model-value="cable[end].first"
          hide-details
          @update:model-value="first => changeEnd(cable.id, end, { first })"
        />
        <v-select
          v-if="end === 'two'"
          label="Its board looks"
          :items="LOOKS"
          :model-value="cable[end].looks"
          hide-details
          @update:model-value="looks => changeEnd(cable.id, end, { looks })"
        />
      </div>
      <p
        data-test="flat-answer"
        :class="{ none: !answers[i]!.fits }"
        role="status"
      >
        <b>{{ answers[i]!.fits ? 'This one:' : 'None does:' }}</b> {{ answers[i]!.reasons.join(' ') }}
      </p>
    </article>
    <v-btn
      size="small"
      variant="outlined"
      data-test="flat-add"
      @click="add"
    >
      Add a flat cable
    </v-btn>
    <p class="small quiet notes">
      Seen from above the first board. Seated, the marked line is covered, or the same length of bare end is left at both corners; the
      stiffener's colour faces the latch. Never creased.
    </p>
  </FoldPanel>
</template>

<style scoped>
.cable { border-bottom: 1px solid var(--rule); padding-bottom: 8px; margin-bottom: 8px; }
.fields { display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(128px, 1fr)); align-items: center; padding: 5px 0; }
.none { color: var(--carmine); }
.notes { margin-top: 8px; }
</style>
