<script setup lang="ts">
/** A button with a picture: its name is what a reader hears, its hint what pointing at it or coming to it shows. */
const { name, hint = undefined } = defineProps<{ name: string, icon: string, hint?: string }>()
const said = computed(() => hint ?? name)
</script>

<template>
  <v-btn
    icon
    variant="text"
    density="compact"
    :aria-label="name"
  >
    <v-icon :icon="icon" />
    <HoverHint :text="said" />
  </v-btn>
</template>
