<script setup lang="ts">
/** A word with more to say: the hint comes when it is pointed at, touched, or reached by keyboard. */
defineProps<{ hint: string }>()
</script>

<template>
  <span
    class="hinted"
    tabindex="0"
    role="note"
  ><slot /><v-tooltip
    activator="parent"
    open-on-click
    :text="hint"
    :aria-label="hint"
  /></span>
</template>

<style scoped>
.hinted { text-decoration: underline dotted; text-underline-offset: 3px; cursor: help; }
</style>
