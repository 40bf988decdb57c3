<script setup lang="ts">
/** What can be done about backups. */
import type { BackupNews } from '~/database/backup'

defineProps<{ news: BackupNews | null, busy: boolean }>()
const emit = defineEmits<{ make: [since?: string], bringBack: [files: File[]] }>()
const picker = useTemplateRef<{ open: () => void }>('picker')
</script>

<template>
  <FilePick
    ref="picker"
    accept=".zip,application/zip"
    multiple
    test="restore-file"
    @files="files => emit('bringBack', files)"
  />
  <v-menu>
    <template #activator="{ props: menu }">
      <v-btn
        variant="outlined"
        data-test="backup-menu"
        :loading="busy"
        v-bind="menu"
      >
        Backup
      </v-btn>
    </template>
    <v-list density="compact">
      <v-list-item
        title="Back up everything"
        subtitle="Plans, earlier states, logbooks, files and settings in one zip"
        data-test="backup-all"
        @click="emit('make')"
      />
      <v-list-item
        v-if="news?.last"
        title="Back up what has changed"
        :subtitle="`${news.changed} since ${dayAndTime(news.last)}`"
        :disabled="!news.changed"
        @click="emit('make', news.last)"
      />
      <v-list-item
        title="Bring backups back"
        subtitle="Several at once, if changes were backed up by themselves"
        @click="picker?.open()"
      />
    </v-list>
  </v-menu>
</template>
