<script setup lang="ts">
/** A board as one recognises it, with what it draws. */
import type { Board } from '~~/core/catalogue/types'

defineProps<{ board: Board }>()
</script>

<template>
  <div class="face">
    <b>{{ board.name }}</b>
    <span class="small">{{ board.summary }}</span>
    <span class="small seen">{{ board.seen.join(' · ') }}</span>
    <span class="small quiet">draws <span class="figures">{{ milliamps(board.draw.typicalMa) }}</span> typically,
      <span class="figures">{{ milliamps(board.draw.peakMa) }}</span> at peak ({{ board.draw.origin }}) · supply advised
      <span class="figures">{{ milliamps(board.advisedSupplyMa.value) }}</span> ({{ board.advisedSupplyMa.origin }})</span>
  </div>
</template>

<style scoped>
.face { display: grid; gap: 3px; align-content: start; min-width: 0; flex: 1 1 300px; }
</style>
