<script setup lang="ts">
import { mdiChevronDown, mdiChevronUp, mdiDragVertical } from '@mdi/js'
import { useSortable } from '@vueuse/integrations/useSortable'
/** Add-on boards on top of each other: the order, what each sits on and passes through. */
import { coverOf, passesThrough } from '~~/core/facts/seats'

const project = useProjectStore()
const { colourOf } = useOwners()
const stack = computed(() => project.facts!.stack)

const list = useTemplateRef<HTMLElement>('list')
/** Drawn from the top down; kept from the lowest up. */
const shown = computed(() => [...stack.value].reverse())
useSortable(list, shown, {
  handle: '.handle', animation: 120,
  onUpdate: ({ oldIndex, newIndex }) => {
    if (oldIndex === undefined || newIndex === undefined) return
    const ids = shown.value.map(owner => owner.id)
    const [moved] = ids.splice(oldIndex, 1)
    ids.splice(newIndex, 0, moved!)
    project.edit({ edit: 'set-stack', stack: ids.reverse() }, 'Change the order of the stack')
  },
})

function lift(id: string, by: 1 | -1) {
  const ids = stack.value.map(owner => owner.id)
  const at = ids.indexOf(id)
  const to = at + by
  if (to < 0 || to >= ids.length) return
  ids.splice(at, 1)
  ids.splice(to, 0, id)
  project.edit({ edit: 'set-stack', stack: ids }, 'Change the order of the stack')
}
const seatOf = (owner: (typeof stack.value)[number]) => {
  const cover = coverOf(owner)
  return cover
    ? `sits on positions ${cover.from}–${cover.to}, `
    + `${passesThrough(owner) ? 'passes the header through' : 'passes nothing through'}`
    : 'its seat is not known'
}
</script>

<template>
  <section
    v-if="stack.length > 1"
    class="stack"
    aria-label="Stack of add-on boards"
    data-test="stack"
  >
    <h2>Stack, from the top down</h2>
    <ol
      ref="list"
      reversed
    >
      <li
        v-for="(owner, i) in shown"
        :key="owner.id"
        :style="{ '--owner': colourOf(owner.id) }"
      >
        <v-icon
          class="handle"
          size="18"
          :icon="mdiDragVertical"
          aria-hidden="true"
        /><span class="owner-swatch" /> <b>{{ owner.name }}</b> <span class="small quiet">{{ seatOf(owner) }}</span>
        <IconAct
          :disabled="i === 0"
          :name="`${owner.name} one up`"
          :icon="mdiChevronUp"
          @click="lift(owner.id, 1)"
        />
        <IconAct
          :disabled="i === shown.length - 1"
          :name="`${owner.name} one down`"
          :icon="mdiChevronDown"
          @click="lift(owner.id, -1)"
        />
      </li>
    </ol>
  </section>
</template>

<style scoped>
.stack { border-left: 4px solid var(--rule); padding: 2px 12px; margin-bottom: 12px; }
ol { margin: 4px 0; padding-left: 24px; display: grid; gap: 3px; font-size: 13.5px; }
.handle { cursor: grab; }
</style>
