<script setup lang="ts">
/** What goes with the board: case, cooler, card, pins, adapters, image. Heat, room and files are judged on it. */
import { misfitOf, thingKind, THING_WORDS, type ThingKind } from '~~/core/catalogue/things'
import type { Part } from '~~/core/catalogue/types'
import { freePartId } from '~~/core/plan/create'
import { thingEdits } from '~~/core/plan/things'

const project = useProjectStore()
const { go } = useStages()
const { price } = useUnits()
const { free, freeInWords } = useDrawer()
const plan = computed(() => project.plan!)
const board = computed(() => project.facts!.board)
const things = computed(() => [...project.catalogue.parts.values()].filter(part => thingKind(part) !== null))

/** What of a kind is in the plan. */
const held = (kind: ThingKind) => plan.value.parts.filter(({ type }) => {
  const part = project.catalogue.parts.get(type)
  return part !== undefined && thingKind(part) === kind
})

const lies = (part: Part) => Number((free.value.get(part.id) ?? 0) > 0)
/** Those that go with the board first, of them what lies in the drawer, then by price; the others say why not. */
const choicesOf = (kind: ThingKind) => things.value.filter(part => thingKind(part) === kind)
  .map(part => ({ part, why: misfitOf(part, board.value) }))
  .sort((a, b) => Number(a.why !== null) - Number(b.why !== null) || lies(b.part) - lies(a.part)
    || (a.part.price ?? 0) - (b.part.price ?? 0))
  .map(({ part, why }) => ({
    value: part.id, title: part.name,
    props: {
      subtitle: why ?? [
        part.summary, ...part.price === undefined ? [] : [`About ${price(part.price)}.`], ...lies(part)
          ? [`${freeInWords(part.id)}.`]
          : [],
      ].join(' '),
      disabled: why !== null,
    },
  }))

const SINGLE: readonly { kind: ThingKind, none: string }[] = [
  { kind: 'case', none: 'In the open' }, { kind: 'cooler', none: 'None' }, { kind: 'card', none: 'Not chosen yet' },
  { kind: 'header', none: 'None' },
]
/** Pins are asked for where there are holes. */
const single = computed(() => SINGLE.filter(({ kind }) =>
  kind !== 'header' || board.value?.headerUnpopulated || held('header').length)
  .map(({ kind, none }) => {
    const there = held(kind)[0]?.type ?? null
    return { kind, there, items: [{ value: '', title: none, props: {} }, ...choicesOf(kind)] }
  }))

const partOf = (id: string): Part | null => project.catalogue.parts.get(id) ?? null
function choose(kind: ThingKind, id: string) {
  project.edit({ edit: 'all', edits: thingEdits(plan.value, kind, id ? partOf(id) : null, project.catalogue) },
    `Choose the ${THING_WORDS[kind].toLowerCase()}`)
}

/** What there may be several of. */
const MORE: readonly ThingKind[] = ['adapter', 'fan', 'breadboard', 'terminals', 'tool']
const more = computed(() => MORE.flatMap(kind => choicesOf(kind)).filter(({ props }) => !props.disabled))
const several = computed(() => MORE.flatMap(held))
const picked = ref<string | null>(null)
function add(id: string | null) {
  const part = id && partOf(id)
  if (!part) return
  project.edit({ edit: 'add-part', part: { id: freePartId(plan.value, part.id), type: part.id, name: part.name } },
    `Add ${part.name}`)
  nextTick(() => picked.value = null)
}
const drop = (id: string, name: string) => project.edit({ edit: 'remove-part', id }, `Take ${name} out`)

const IMAGES = [
  { value: 'newer', title: 'Current: its files lie in /boot/firmware' },
  { value: 'older', title: 'Older: its files lie in /boot' },
]
function setImage(image: 'older' | 'newer') {
  const { boot } = plan.value
  if (boot) project.edit({ edit: 'set-boot', boot: { ...boot, image } }, 'Choose the image')
}
</script>

<template>
  <section>
    <h2>What goes with it</h2>
    <div class="with">
      <v-select
        v-for="{ kind, there, items } in single"
        :key="kind"
        :model-value="there ?? ''"
        :items="items"
        :label="THING_WORDS[kind]"
        :data-test="`board-${kind}`"
        @update:model-value="id => choose(kind, id)"
      />
      <v-select
        :model-value="plan.boot?.image"
        :items="IMAGES"
        label="Image on the card"
        :disabled="!plan.boot"
        :hint="plan.boot ? undefined : 'Read its boot file in first.'"
        :persistent-hint="!plan.boot"
        data-test="board-image"
        @update:model-value="value => setImage(value as 'older' | 'newer')"
      />
      <v-autocomplete
        v-model="picked"
        :items="more"
        label="Adapters, fans, tools and more"
        data-test="board-more"
        @update:model-value="add"
      />
    </div>
    <div
      v-if="several.length"
      class="several"
      data-test="board-several"
    >
      <v-chip
        v-for="thing in several"
        :key="thing.id"
        closable
        :close-label="`Take ${thing.name} out`"
        @click:close="drop(thing.id, thing.name)"
      >
        {{ thing.name }}
      </v-chip>
    </div>
    <p class="small quiet">
      They stand in the parts list with their prices, which are made up.
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        @click="go('power')"
      >
        How warm it gets
      </v-btn>
    </p>
  </section>
</template>

<style scoped>
h2 { margin: 12px 0 8px; }
.with { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(min(100%, 230px), 1fr)); align-items: start; }
.several { display: flex; flex-wrap: wrap; gap: 6px; margin-top: 8px; }
</style>
