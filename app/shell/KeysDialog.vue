<script setup lang="ts">
/** The list of shortcuts. */
const view = useViewStore()
const rows = [
  { keys: '1 … 7', does: 'Go to a stage' },
  ...SHORTCUTS,
  { keys: 'Space, ← →', does: 'In focus mode: done and next, back and forth' },
]
</script>

<template>
  <FrameDialog
    v-model="view.keysOpen"
    title="Keys"
    test="keys"
  >
    <div class="keys">
      <template
        v-for="{ keys, does } in rows"
        :key="keys"
      >
        <span class="figures">{{ keys }}</span><span>{{ does }}</span>
      </template>
    </div>
  </FrameDialog>
</template>

<style scoped>
.keys { display: grid; grid-template-columns: 110px 1fr; gap: 4px 12px; }
</style>
