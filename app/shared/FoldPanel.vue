<script setup lang="ts">
/** Something to be opened: a heading, and what is under it. What is never opened is never drawn. */
defineProps<{ title: string }>()
const open = defineModel<boolean>('open', { default: false })
const at = computed({ get: () => open.value ? 'in' : undefined, set: value => open.value = value === 'in' })
</script>

<template>
  <v-expansion-panels
    v-model="at"
    class="plain fold"
  >
    <v-expansion-panel value="in">
      <v-expansion-panel-title>
        <slot name="title">
          {{ title }}
        </slot>
      </v-expansion-panel-title>
      <v-expansion-panel-text>
        <slot />
      </v-expansion-panel-text>
    </v-expansion-panel>
  </v-expansion-panels>
</template>
