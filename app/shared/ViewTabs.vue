<script setup lang="ts">
/** The views of a stage, as tabs: by arrows, and by their names. */
defineProps<{
  views: readonly { id: string, name: string }[]
  /** Begins the names by which tests find the tabs. */
  test: string
  label: string
}>()
const shown = defineModel<string>({ required: true })
</script>

<template>
  <v-tabs
    v-model="shown"
    :aria-label="label"
    show-arrows
  >
    <v-tab
      v-for="view in views"
      :key="view.id"
      :value="view.id"
      :data-test="`${test}-${view.id}`"
    >
      {{ view.name }}
    </v-tab>
  </v-tabs>
</template>
