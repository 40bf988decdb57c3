<script setup lang="ts">
/** What is not needed at each moment, behind one button. */
const { narrow } = defineProps<{ narrow: boolean }>()
const project = useProjectStore()
const view = useViewStore()
</script>

<template>
  <v-list data-test="more-list">
    <v-list-item
      :title="view.dark ? 'Light (t)' : 'Dark (t)'"
      data-test="theme"
      @click="view.turnTheme"
    />
    <v-list-item
      title="Settings"
      data-test="open-settings"
      @click="view.settingsOpen = true"
    />
    <v-list-item
      title="Keys (?)"
      data-test="open-keys"
      @click="view.keysOpen = true"
    />
    <v-list-item
      title="Help on this stage (h)"
      @click="view.drawer = 'help'"
    />
    <v-list-item
      title="A short tour"
      data-test="open-tour"
      @click="view.tour = 0"
    />
    <template v-if="narrow">
      <v-list-item
        title="Earlier states"
        :disabled="!project.plan"
        @click="view.historyOpen = true"
      />
      <v-list-item
        title="Share"
        :disabled="!project.report"
        @click="view.shareOpen = true"
      />
    </template>
    <v-list-item
      title="Print this stage"
      data-test="print"
      @click="view.print"
    />
  </v-list>
</template>
