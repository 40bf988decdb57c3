<script setup lang="ts">
/** What a position carries, readable without colour: our own marks, drawn here. */
export type Mark = 'supply' | 'return' | 'bus' | 'serial' | 'line' | 'pulse'
defineProps<{ mark: Mark }>()
</script>

<template>
  <svg
    class="mark"
    viewBox="0 0 10 10"
    aria-hidden="true"
  >
    <path
      v-if="mark === 'supply'"
      d="M5 .6 9.4 5 5 9.4.6 5z"
      fill="currentColor"
    />
    <path
      v-else-if="mark === 'return'"
      d="M5 1.2 8.8 5 5 8.8 1.2 5z"
      fill="none"
      stroke="currentColor"
      stroke-width="1.4"
    />
    <path
      v-else-if="mark === 'bus'"
      d="M1 3.2h8M1 6.8h8"
      stroke="currentColor"
      stroke-width="1.8"
    />
    <path
      v-else-if="mark === 'serial'"
      d="M1.2 1.5 4.6 5 1.2 8.5M5.4 1.5 8.8 5 5.4 8.5"
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
    />
    <path
      v-else-if="mark === 'pulse'"
      d="M.8 8V2.4h4V8h4.4"
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
    />
    <circle
      v-else
      cx="5"
      cy="5"
      r="2.4"
      fill="currentColor"
    />
  </svg>
</template>

<style scoped>
.mark { width: 10px; height: 10px; flex: none; }
</style>
