<script setup lang="ts">
/** Add-on boards on top of each other: the order, what each sits on and passes through. */
import { coverOf, passesThrough } from '~~/core/facts/seats'

const project = useProjectStore()
const { colourOf } = useOwners()
const stack = computed(() => project.facts!.stack)

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
    ? `sits on positions ${cover.from}–${cover.to}, ${passesThrough(owner) ? 'passes the header through' : 'passes nothing through'}`
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
    <ol reversed>
      <li
        v-for="(owner, i) in [...stack].reverse()"
        :key="owner.id"
        :style="{ '--owner': colourOf(owner.id) }"
      >
        <span class="owner-swatch" /> <b>{{ owner.name }}</b> <span class="small quiet">{{ seatOf(owner) }}</span>
        <button
          class="bare tool"
          :disabled="i === 0"
          :aria-label="`${owner.name} one up`"
          @click="lift(owner.id, 1)"
        >
          ▲
        </button>
        <button
          class="bare tool"
          :disabled="i === stack.length - 1"
          :aria-label="`${owner.name} one down`"
          @click="lift(owner.id, -1)"
        >
          ▼
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.stack { border-left: 4px solid var(--rule); padding: 2px 12px; margin-bottom: 12px; }
ol { margin: 4px 0; padding-left: 24px; display: grid; gap: 3px; font-size: 13.5px; }
.tool { padding: 0 6px; color: var(--ink-2); }
.tool:disabled { opacity: .3; cursor: default; }
</style>
