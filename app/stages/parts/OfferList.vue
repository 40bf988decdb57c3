<script setup lang="ts">
/** Parts of a group, to be taken, looked at, or laid beside each other. */
import type { Traits } from '~~/core/catalogue/traits'
import type { Part } from '~~/core/catalogue/types'

defineProps<{
  list: readonly { part: Part, traits: Traits }[]
  compared: readonly Part[]
  canCompare: (part: Part) => boolean
  /** Type → how many lie free in the drawer. */
  free: ReadonlyMap<string, number>
}>()
const emit = defineEmits<{ add: [part: Part], look: [part: Part | null], compare: [part: Part] }>()
</script>

<template>
  <PartOffer
    v-for="{ part, traits } in list"
    :key="part.id"
    :part="part"
    :traits="traits"
    :is-compared="compared.includes(part)"
    :can-compare="canCompare(part)"
    :free="free.get(part.id) ?? 0"
    @add="emit('add', part)"
    @look="isLookedAt => emit('look', isLookedAt ? part : null)"
    @compare="emit('compare', part)"
  />
</template>
