<script setup lang="ts">
/** A header so small that one sees only who holds how much of it. */
defineProps<{
  /** Colour of each position's owner, position 1 first; `null` where it is free. */
  cells: readonly (string | null)[]
  label: string
}>()
</script>

<template>
  <svg
    class="mini"
    :viewBox="`0 0 ${Math.ceil(cells.length / 2) * 6} 12`"
    role="img"
    :aria-label="label"
  >
    <rect
      v-for="(colour, i) in cells"
      :key="i"
      :x="Math.floor(i / 2) * 6 + 0.5"
      :y="i % 2 ? 0.5 : 6.5"
      width="5"
      height="5"
      :rx="i === 0 ? 0 : 1.2"
      :style="{ fill: colour ?? 'var(--paper-3)' }"
    />
  </svg>
</template>

<style scoped>
.mini { height: 26px; display: block; max-width: 100%; }
</style>
