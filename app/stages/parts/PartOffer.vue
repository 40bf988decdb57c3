<script setup lang="ts">
/** A part of the catalogue: what it is, what it takes, and the button that takes it in. */
import type { Traits } from '~~/core/catalogue/traits'
import type { Part } from '~~/core/catalogue/types'
import { mdiPlus, mdiScaleBalance } from '@mdi/js'

const { part, traits, isCompared, canCompare, free } = defineProps<{
  part: Part
  traits: Traits
  isCompared: boolean
  canCompare: boolean
  /** So many lie free in the drawer. */
  free: number
}>()
const emit = defineEmits<{ add: [], look: [isLookedAt: boolean], compare: [] }>()
const compareHint = computed(() => isCompared
  ? 'Take it out of the comparison'
  : canCompare ? 'Lay it beside another of its kind' : 'Up to five of one kind at a time')
const takes = computed(() => [
  traits.links.filter(link => link !== 'Lines' && link !== 'Nothing').join(' · '),
  traits.ownLines ? `${traits.ownLines} ${traits.ownLines === 1 ? 'line' : 'lines'}` : '',
  traits.peakMa ? `${traits.rails.join(' ')} ${milliamps(traits.peakMa)}${traits.perUnit ? ' each' : ''}` : '',
].filter(Boolean).join(' · '))
</script>

<template>
  <div
    class="offer"
    @mouseenter="emit('look', true)"
    @mouseleave="emit('look', false)"
    @focusin="emit('look', true)"
    @focusout="emit('look', false)"
  >
    <v-btn
      variant="text"
      class="take grows"
      :data-test="`add-${part.id}`"
      @click="emit('add')"
    >
      <template #prepend>
        <v-icon
          :icon="mdiPlus"
          color="primary"
        />
      </template>
      <span class="words"><b>{{ part.name }}</b><span class="small quiet">{{ part.summary }}</span>
        <span class="figures small takes">{{ takes }}<b
          v-if="free"
          class="free"
        >{{ takes ? ' · ' : '' }}{{ free }} in the drawer</b></span></span>
    </v-btn>
    <IconAct
      :name="`Compare ${part.name}`"
      :icon="mdiScaleBalance"
      :hint="compareHint"
      :aria-pressed="isCompared"
      :color="isCompared ? 'primary' : undefined"
      :disabled="!canCompare"
      :data-test="`compare-${part.id}`"
      @click="emit('compare')"
    />
  </div>
</template>

<style scoped>
.offer { display: flex; align-items: center; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.offer:hover, .offer:focus-within { background: var(--copper-wash); }
.take { flex: 1; justify-content: start; padding: 5px 4px; min-width: 0; font-weight: 400; }
.take :deep(.v-btn__content) { flex: 1; min-width: 0; }
.take :deep(.v-btn__prepend) { margin: 0 8px 0 0; }
.words { display: grid; min-width: 0; overflow-wrap: anywhere; line-height: 1.3; }
.takes { color: var(--ink-2); }
.free { color: var(--moss); }
</style>
