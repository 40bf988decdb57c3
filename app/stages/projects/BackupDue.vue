<script setup lang="ts">
/** Asks for a backup when the last one is old. */
import type { BackupNews } from '~/database/backup'

defineProps<{ news: BackupNews }>()
const emit = defineEmits<{ make: [since?: string], putOff: [] }>()
</script>

<template>
  <v-alert
    type="info"
    class="asked"
    data-test="backup-due"
  >
    {{ news.changed }} {{ news.changed === 1 ? 'project has' : 'projects have' }} changed since
    {{ news.last ? `the last backup of ${dayAndTime(news.last)}` : 'they were begun, and there is no backup yet' }}. What lies in this
    browser goes with it.
    <template #append>
      <v-btn
        v-if="news.last"
        size="small"
        variant="outlined"
        @click="emit('make', news.last)"
      >
        Back up the changes
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        @click="emit('make')"
      >
        Back up everything
      </v-btn>
      <v-btn
        size="small"
        variant="text"
        @click="emit('putOff')"
      >
        In a week
      </v-btn>
    </template>
  </v-alert>
</template>

<style scoped>
.asked { margin-bottom: 14px; }
</style>
