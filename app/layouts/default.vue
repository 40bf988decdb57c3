<script setup lang="ts">
const view = useViewStore()
</script>

<template>
  <v-app
    :theme="view.dark ? 'night' : 'paper'"
    :class="{ night: view.dark }"
  >
    <slot />
    <NoticeBar />
    <KeysDialog />
  </v-app>
</template>
