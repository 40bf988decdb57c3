<script setup lang="ts">
/** What was done, measured and mended, with its time and stage. */
import { newId } from '~/database/id'

const project = useProjectStore()
const { current, stages } = useStages()
const text = ref('')
const entries = computed(() => [...project.plan!.log].sort((a, b) => b.at.localeCompare(a.at)))
const stageName = (id: string) => stages.find(stage => stage.id === id)?.name ?? id

function add() {
  if (!text.value.trim()) return
  project.edit(
    { edit: 'log', entry: { id: newId(), at: new Date().toISOString(), stage: current.value.id, text: text.value.trim() } },
    'Write into the logbook',
  )
  text.value = ''
}
</script>

<template>
  <div
    class="log"
    data-test="logbook"
  >
    <v-form @submit.prevent="add">
      <v-textarea
        v-model="text"
        rows="3"
        auto-grow
        max-rows="12"
        aria-label="New entry"
        :placeholder="`What you did or measured (${current.name})`"
        @keydown.ctrl.enter="add"
      />
      <v-btn
        size="small"
        color="primary"
        type="submit"
        :disabled="!text.trim()"
      >
        Write it down
      </v-btn>
    </v-form>
    <ol>
      <li
        v-for="entry in entries"
        :key="entry.id"
      >
        <span class="small quiet">{{ dayAndTime(entry.at) }} · {{ stageName(entry.stage) }}</span>
        <v-btn
          class="act drop"
          variant="text"
          size="x-small"
          :aria-label="`Remove the entry of ${dayAndTime(entry.at)}`"
          @click="project.edit({ edit: 'unlog', id: entry.id }, 'Remove a log entry')"
        >
          remove
        </v-btn>
        <p>{{ entry.text }}</p>
      </li>
      <li
        v-if="!entries.length"
        class="quiet"
      >
        Nothing written yet.
      </li>
    </ol>
  </div>
</template>

<style scoped>
.log { padding: 10px 12px 20px; }
form { display: grid; gap: 6px; justify-items: start; }
form .v-input { width: 100%; }
ol { list-style: none; padding: 0; margin: 14px 0 0; }
li { border-top: 1px solid var(--rule); padding: 7px 0; }
li p { white-space: pre-wrap; overflow-wrap: anywhere; }
.drop { float: right; }
</style>
