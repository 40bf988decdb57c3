<script setup lang="ts">
/** Sizes and places of every thing: what the files say, what was measured, and where the maker puts it. */
import { BOARD_KEY } from '~~/core/facts/measured'
import { thingKind } from '~~/core/catalogue/things'
import { length } from '~~/core/mechanics/solids'
import type { PlacedBody } from '~~/core/mechanics/bodies'
import type { Column } from '~/shared/SortTable.vue'
import { usePicture } from './usePicture'

const project = useProjectStore()
const { seen } = usePicture()
const picked = ref(BOARD_KEY)

const things = computed(() => [
  ...project.facts?.board ? [{ value: BOARD_KEY, title: project.facts.board.name }] : [],
  ...(project.facts?.parts ?? []).filter(({ part }) =>
    !['card', 'header', 'adapter', 'tool'].includes(thingKind(part) ?? ''))
    .map(({ id, name }) => ({ value: id, title: name })),
])
watchEffect(() => {
  if (!things.value.some(({ value }) => value === picked.value)) picked.value = things.value[0]?.value ?? BOARD_KEY
})
const owner = computed(() => project.facts?.parts.find(({ id }) => id === picked.value) ?? null)
const body = computed(() => (picked.value === BOARD_KEY ? project.facts?.board?.body : owner.value?.part.body) ?? null)
const sizes = computed(() => project.plan!.build.measured[picked.value] ?? {})
const isCase = computed(() => owner.value ? thingKind(owner.value.part) === 'case' : false)
const isCooler = computed(() => owner.value ? thingKind(owner.value.part) === 'cooler' : false)
const FIELDS = computed(() => isCase.value
  ? [{ name: 'lidMm' as const, label: 'From the board to the lid', now: owner.value!.part.thing?.lidMm }]
  : [
      { name: 'widthMm' as const, label: 'Wide', now: body.value?.widthMm }, { name: 'depthMm' as const, label: 'Deep',
        now: body.value?.depthMm },
      isCooler.value
        ? { name: 'aboveMm' as const, label: 'Stands over the board', now: owner.value!.part.thing?.heightMm }
        : { name: 'aboveMm' as const, label: 'High, over its own board', now: body.value?.aboveMm },
      { name: 'belowMm' as const, label: 'Lowest under it', now: body.value?.belowMm },
    ])
function measure(name: (typeof FIELDS.value)[number]['name'], value: number | null) {
  const { [name]: _, ...rest } = sizes.value
  const all = value === null ? rest : { ...rest, [name]: value }
  project.edit({ edit: 'measure', id: picked.value, sizes: Object.keys(all).length ? all : null }, 'Measured')
}

const place = computed(() => project.plan!.build.places[picked.value] ?? null)
type Place = NonNullable<typeof place.value>
const put = (to: Place | null) => project.edit({ edit: 'place-body', id: picked.value, place: to }, 'Put it there')
const sticks = computed(() => owner.value?.part.plugs?.some(({ socket }) => socket === 'usb') ?? false)
const sockets = computed(() => (project.facts?.board?.body?.standing ?? []).flatMap(entry =>
  entry.kind === 'socket' && entry.socket === 'usb' ? [{ value: entry.id, title: entry.what }] : []))
const movable = computed(() => owner.value !== null && !isCase.value && !isCooler.value && !owner.value.part.seat
  && !owner.value.part.plugs?.some(({ wide }) => wide))
const PLACES = computed(() => [
  { value: 'table', title: 'beside the board' }, { value: 'board', title: 'on the board' },
  ...seen.value?.inside?.lidMm ? [{ value: 'lid', title: 'under the lid' }] : [],
])
const now = computed(() => seen.value?.bodies.find(({ id }) => id === picked.value) ?? null)

const mm = (value: number) => Number(value.toFixed(1))
const COLUMNS: readonly Column<PlacedBody>[] = [
  { key: 'name', title: 'Body', value: ({ name }) => name },
  { key: 'size', title: 'Wide × deep', value: ({ solid }) => `${mm(length(solid.x))} × ${mm(length(solid.y))}` },
  { key: 'from', title: 'From', value: ({ solid }) => mm(solid.z[0]), num: true },
  { key: 'to', title: 'To', value: ({ solid }) => mm(solid.z[1]), num: true },
  { key: 'origin', title: 'Origin', value: ({ origin }) => origin },
]
const rows = computed(() => (seen.value?.bodies ?? []).filter(({ kind }) => kind !== 'wire'))
</script>

<template>
  <FoldPanel
    title="Sizes and places"
    data-test="room"
  >
    <div class="fields">
      <v-autocomplete
        v-model="picked"
        :items="things"
        label="Thing"
        hide-details
        data-test="room-thing"
      />
      <NumberField
        v-for="field in FIELDS"
        :key="`${picked} ${field.name}`"
        :label="`${field.label}${sizes[field.name] === undefined ? '' : ', measured'}`"
        unit="mm"
        :value="sizes[field.name] ?? null"
        may-be-empty
        :placeholder="field.now === undefined ? 'not known' : `${field.now}`"
        :min="field.name === 'aboveMm' || field.name === 'belowMm' ? 0 : 0.5"
        :max="3000"
        :data-test="`measure-${field.name}`"
        @set="value => measure(field.name, value)"
      />
    </div>
    <div
      v-if="movable || sticks || owner?.part.seat"
      class="fields"
    >
      <v-select
        v-if="movable"
        label="Where"
        :items="PLACES"
        :model-value="place?.on ?? (now?.kind === 'fan' && !now.laid ? 'lid' : 'table')"
        hide-details
        data-test="place-on"
        @update:model-value="on => put({ ...place, on })"
      />
      <template v-if="movable && now">
        <NumberField
          label="Its left edge, from the board's"
          unit="mm"
          :value="place?.xMm ?? null"
          may-be-empty
          :placeholder="`${mm(now.solid.x[0])}`"
          :min="-2000"
          :max="2000"
          data-test="place-x"
          @set="xMm => put({ on: 'table', ...place, xMm: xMm ?? undefined })"
        />
        <NumberField
          label="Its near edge, from the board's"
          unit="mm"
          :value="place?.yMm ?? null"
          may-be-empty
          :placeholder="`${mm(now.solid.y[0])}`"
          :min="-2000"
          :max="2000"
          data-test="place-y"
          @set="yMm => put({ on: 'table', ...place, yMm: yMm ?? undefined })"
        />
        <v-checkbox
          label="turned"
          :model-value="place?.turned ?? false"
          hide-details
          @update:model-value="turned => put({ on: 'table', ...place, turned: !!turned })"
        />
      </template>
      <v-select
        v-if="sticks && sockets.length"
        label="Socket"
        :items="[{ value: '', title: 'where it fits best' }, ...sockets]"
        :model-value="place?.socket ?? ''"
        hide-details
        data-test="place-socket"
        @update:model-value="socket => put(socket ? { ...place, on: 'socket', socket } : null)"
      />
      <NumberField
        v-if="owner?.part.seat"
        label="Riser under it"
        unit="mm"
        :value="place?.liftMm ?? null"
        may-be-empty
        placeholder="none"
        :min="1"
        :max="60"
        data-test="place-lift"
        @set="liftMm => put({ ...place, on: 'board', liftMm: liftMm ?? undefined })"
      />
      <v-checkbox
        v-if="owner?.part.seat"
        label="a film under it"
        :model-value="place?.film ?? false"
        hide-details
        data-test="place-film"
        @update:model-value="film => put({ ...place, on: 'board', film: film || undefined })"
      />
      <v-btn
        v-if="place"
        size="small"
        variant="text"
        @click="put(place?.clampedMm === undefined ? null : { on: 'table', clampedMm: place.clampedMm })"
      >
        Where it was
      </v-btn>
    </div>
    <p class="small quiet">
      Empty fields count as their file says, shown faint. What you measure stands in for it, here and in every check.
    </p>
    <SortTable
      :rows="rows"
      :columns="COLUMNS"
      :row-key="row => row.id"
      caption="Every body with its size and its heights over the board, in mm"
      :height="260"
    />
  </FoldPanel>
</template>

<style scoped>
.fields { display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); align-items: center; padding: 6px 0; }
</style>
