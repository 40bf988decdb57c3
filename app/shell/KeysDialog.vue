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
  <v-dialog v-model="view.keysOpen">
    <v-card
      title="Keys"
      data-test="keys"
    >
      <v-card-text>
        <div class="keys">
          <template
            v-for="{ keys, does } in rows"
            :key="keys"
          >
            <span class="figures">{{ keys }}</span><span>{{ does }}</span>
          </template>
        </div>
      </v-card-text>
      <v-card-actions>
        <v-btn
          color="primary"
          @click="view.keysOpen = false"
        >
          Close
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.keys { display: grid; grid-template-columns: 110px 1fr; gap: 4px 12px; }
</style>
