<script setup lang="ts">
const view = useViewStore()
// Dialogs hang outside the layout: the palette belongs to the whole document.
watchEffect(() => document.documentElement.classList.toggle('night', view.dark))
</script>

<template>
  <v-app
    :theme="view.dark ? 'night' : 'paper'"
    :class="{ night: view.dark }"
  >
    <slot />
    <LazyNoticeBar v-if="view.notice" />
    <LazyKeysDialog v-if="view.keysOpen" />
    <LazySettingsDialog v-if="view.settingsOpen" />
    <LazyUpdateBar v-if="view.update" />
  </v-app>
</template>
