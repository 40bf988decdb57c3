<script setup lang="ts">
/** What was done, measured and mended, with its time and stage. */
import { newId } from '~/database/id'

const project = useProjectStore()
const view = useViewStore()
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
  <aside
    class="log"
    aria-label="Logbook"
    data-test="logbook"
  >
    <div class="head">
      <h2>Logbook</h2><button
        class="bare"
        aria-label="Close the logbook"
        @click="view.logOpen = false"
      >
        ✕
      </button>
    </div>
    <form @submit.prevent="add">
      <textarea
        v-model="text"
        rows="3"
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
    </form>
    <ol>
      <li
        v-for="entry in entries"
        :key="entry.id"
      >
        <span class="small quiet">{{ dayAndTime(entry.at) }} · {{ stageName(entry.stage) }}</span>
        <button
          class="bare small drop"
          :aria-label="`Remove the entry of ${dayAndTime(entry.at)}`"
          @click="project.edit({ edit: 'unlog', id: entry.id }, 'Remove a log entry')"
        >
          remove
        </button>
        <p>{{ entry.text }}</p>
      </li>
      <li
        v-if="!entries.length"
        class="quiet"
      >
        Nothing written yet.
      </li>
    </ol>
  </aside>
</template>

<style scoped>
.log {
  position: fixed;
  right: 0;
  top: 44px;
  bottom: 58px;
  width: 340px;
  z-index: 18;
  background: var(--sheet);
  border-left: 1px solid var(--rule);
  box-shadow: -8px 0 24px rgb(0 0 0 / 18%);
  padding: 12px 14px;
  overflow-y: auto;
}
.head { display: flex; justify-content: space-between; margin-bottom: 8px; }
form { display: grid; gap: 6px; justify-items: start; }
textarea {
  width: 100%;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  padding: 6px 8px;
  resize: vertical;
}
ol { list-style: none; padding: 0; margin: 14px 0 0; }
li { border-top: 1px solid var(--rule); padding: 7px 0; }
li p { white-space: pre-wrap; overflow-wrap: anywhere; }
.drop { float: right; text-decoration: underline; color: var(--ink-2); }
</style>
