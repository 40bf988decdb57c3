<script setup lang="ts">
/** What was done, measured and mended, with its time and stage. */
import { newId } from '~/database/id'
import { siftLog } from '~~/core/plan/logbook'
import type { LogEntry, PhotoRef } from '~~/core/plan/types'

const MAX_IN_ENTRY = 12

const project = useProjectStore()
const { current, stages } = useStages()
const text = ref('')
/** Everything, until somebody looks for something. */
const stage = ref<LogEntry['stage'] | null>(null)
const words = ref('')
const isMarked = ref(false)
const entries = computed(() =>
  siftLog(project.plan!.log, { stage: stage.value, words: words.value ?? '', isMarked: isMarked.value }))
const isSifted = computed(() => stage.value !== null || isMarked.value || !!words.value?.trim())
const choices = [{ id: null, name: 'every stage' }, ...stages.map(({ id, name }) => ({ id, name }))]
function all() {
  stage.value = null
  words.value = ''
  isMarked.value = false
}
const mark = (entry: LogEntry) => project.edit(
  { edit: 'log', entry: { ...entry, marked: entry.marked ? undefined : true } },
  entry.marked ? 'Take a mark off' : 'Mark a log entry',
)
/** Pictures for the entry that is being written. */
const pending = shallowRef<PhotoRef[]>([])
const { take, isTaking } = usePhotos()
async function addPhotos(files: readonly File[]) {
  pending.value = [...pending.value, ...await take(files)].slice(0, MAX_IN_ENTRY)
}
const keepEntry = (entry: LogEntry, label: string) => project.edit({ edit: 'log', entry }, label)
async function addTo(entry: LogEntry, files: readonly File[]) {
  const photos = [...entry.photos ?? [], ...await take(files)].slice(0, MAX_IN_ENTRY)
  if (photos.length) keepEntry({ ...entry, photos }, 'Add a photo')
}
function dropFrom(entry: LogEntry, id: string) {
  const photos = (entry.photos ?? []).filter(photo => photo.id !== id)
  keepEntry({ ...entry, photos: photos.length ? photos : undefined }, 'Take a photo off')
}
const stageName = (id: string) => stages.find(stage => stage.id === id)?.name ?? id

function add() {
  if (!text.value.trim() && !pending.value.length) return
  keepEntry({
    id: newId(), at: new Date().toISOString(), stage: current.value.id, text: text.value.trim() || 'Photo',
    ...pending.value.length && { photos: pending.value },
  }, 'Write into the logbook')
  text.value = ''
  pending.value = []
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
      <div
        v-if="pending.length"
        class="photos"
      >
        <PhotoThumb
          v-for="photo in pending"
          :key="photo.id"
          :photo="photo"
          :what="text.trim() || 'Photo'"
          @drop="pending = pending.filter(other => other !== photo)"
        />
      </div>
      <div class="acts">
        <v-btn
          size="small"
          color="primary"
          type="submit"
          :disabled="(!text.trim() && !pending.length) || isTaking"
        >
          Write it down
        </v-btn>
        <FilePick
          :label="isTaking ? 'Making it small …' : 'Add photos'"
          size="small"
          :disabled="isTaking"
          accept="image/*"
          multiple
          test="log-photos"
          @files="addPhotos"
        />
      </div>
    </v-form>
    <div
      v-if="project.plan!.log.length"
      class="sieve"
    >
      <v-text-field
        v-model="words"
        label="find in it"
        clearable
        hide-details
        data-test="log-words"
      />
      <v-select
        v-model="stage"
        :items="choices"
        item-value="id"
        item-title="name"
        aria-label="Stage of the entries"
        hide-details
        data-test="log-stage"
      />
      <v-checkbox
        v-model="isMarked"
        label="marked"
        hide-details
        data-test="log-marked"
      />
    </div>
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
          :aria-pressed="entry.marked === true"
          :aria-label="`${entry.marked ? 'Take the mark off' : 'Mark'} the entry of ${dayAndTime(entry.at)}`"
          data-test="log-mark"
          @click="mark(entry)"
        >
          {{ entry.marked ? '★ marked' : 'mark' }}
        </v-btn>
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
        <div
          v-if="entry.photos"
          class="photos"
        >
          <PhotoThumb
            v-for="photo in entry.photos"
            :key="photo.id"
            :photo="photo"
            :what="entry.text"
            @drop="dropFrom(entry, photo.id)"
          />
        </div>
        <FilePick
          label="add a photo"
          class="act more"
          variant="text"
          size="x-small"
          :disabled="isTaking"
          :aria-label="`Add a photo to the entry of ${dayAndTime(entry.at)}`"
          accept="image/*"
          multiple
          test="log-more-photos"
          @files="addTo(entry, $event)"
        />
      </li>
      <li
        v-if="!entries.length"
        class="quiet"
        data-test="log-none"
      >
        {{ isSifted ? `None of the ${project.plan!.log.length} entries.` : 'Nothing written yet.' }}
        <v-btn
          v-if="isSifted"
          class="act"
          variant="text"
          size="x-small"
          @click="all"
        >
          show all
        </v-btn>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.log { padding: 10px 12px 20px; }
form { display: grid; gap: 6px; justify-items: start; }
form .v-input { width: 100%; }
.sieve { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 6px; margin-top: 12px; align-items: center; }
.sieve > :last-child { grid-column: 1 / -1; }
ol { list-style: none; padding: 0; margin: 14px 0 0; }
li { border-top: 1px solid var(--rule); padding: 7px 0; }
li p { clear: both; white-space: pre-wrap; overflow-wrap: anywhere; }
.drop { float: right; }
.acts, .photos { display: flex; gap: 8px; flex-wrap: wrap; }
.photos { margin: 5px 0 2px; }
</style>
