<script setup lang="ts">
/**
 * Earlier states of the project: by day, by mark, and before something replaced much. What changed since, in words; and
 * the way back.
 */
import { answered, inWords } from '~/database/failures'
import { copyPhotos } from '~/database/photos'
import type { PastState } from '~/database/projects'
import { shippedCatalogue } from '~~/core/catalogue'
import { completed } from '~~/core/plan/create'
import { differences } from '~~/core/plan/differences'
import { editsBetween } from '~~/core/plan/edits-between'
import { catalogueOf } from '~~/core/facts/gather'

const project = useProjectStore()
const view = useViewStore()
const database = useDatabase()

const states = shallowRef<PastState[] | null>(null)
const failure = ref<string | null>(null)
const open = ref<number | null>(null)
const mark = ref('')

const KINDS: Readonly<Record<PastState['kind'], string>> = { day: 'last of its day', mark: 'marked',
  before: 'kept by itself' }
/** Changes shown of one state. */
const MAX = 40

onMounted(read)

async function read() {
  try {
    states.value = await answered(database.statesOf(project.id!))
    failure.value = null
  }
  catch (error) {
    failure.value = inWords(error)
  }
}

const NOW = 'now'
/** The state that others are held against: now, or one of them by its key. */
const until = ref<string | number>(NOW)
const nameOf = (state: PastState) => state.label ?? dayAndTime(state.at)
const choices = computed(() => [
  { value: NOW, title: 'now' }, ...(states.value ?? []).map(state => ({ value: state.key!, title: nameOf(state) })),
])
const untilPlan = computed(() => {
  const state = states.value?.find(({ key }) => key === until.value)
  return state ? completed(state.plan) : project.plan
})
const opened = computed(() => states.value?.find(entry => entry.key === open.value) ?? null)
const said = computed(() => opened.value && untilPlan.value
  ? differences(completed(opened.value.plan), untilPlan.value, catalogueOf(untilPlan.value, shippedCatalogue))
  : [])
/** The way from one to the other as a list of edits. */
function saveEdits() {
  const edits = editsBetween(completed(opened.value!.plan), untilPlan.value!)
  download(fileName(project.plan!.name, '-edits.json'), `${JSON.stringify(edits, null, 2)}\n`, 'application/json')
}

async function attempt(notDone: string, work: () => Promise<unknown>) {
  try {
    await work()
    return true
  }
  catch (error) {
    view.say(`${notDone}: ${inWords(error)}`, { tone: 'stop' })
    return false
  }
}

async function markNow() {
  const label = mark.value.trim()
  if (!label || !project.plan) return
  const done = await attempt('Not marked',
    () => answered(database.keepState(project.id!, { kind: 'mark', label, plan: project.plan! })))
  if (done) mark.value = ''
  await read()
}

async function takeBack(state: PastState) {
  const when = nameOf(state)
  if (!await attempt('Not taken back', () => project.takeState(state.plan, when))) return
  view.historyOpen = false
  view.say(`The project is as it was: ${when}.`, { action: { label: 'Undo', run: project.undo } })
}

async function asProject(state: PastState) {
  const plan = { ...state.plan, name: `${state.plan.name} (${nameOf(state)})` }
  const done = await attempt('No project was made', async () => {
    const record = await answered(database.create(plan))
    await answered(copyPhotos(database, project.id!, record.id))
  })
  if (done) view.say(`"${plan.name}" is a project of its own now.`)
}
</script>

<template>
  <FrameDialog
    v-model="view.historyOpen"
    :width="900"
    title="Earlier states"
    test="history"
  >
    <v-form
      class="mark"
      @submit.prevent="markNow"
    >
      <v-text-field
        v-model="mark"
        label="Mark how it is now, e.g. before the move to the new case"
        maxlength="200"
      />
      <v-btn
        type="submit"
        color="primary"
        height="36"
        :disabled="!mark.trim()"
      >
        Mark
      </v-btn>
    </v-form>
    <p
      v-if="failure"
      role="alert"
    >
      {{ failure }}
    </p>
    <p
      v-else-if="!states"
      class="quiet"
    >
      Reading …
    </p>
    <p
      v-else-if="!states.length"
      class="quiet"
    >
      None yet. The last state of each day on which the project was changed is kept for sixty such days; what you mark stays.
    </p>
    <v-select
      v-if="states?.length"
      v-model="until"
      class="until"
      :items="choices"
      label="held against"
      hide-details
      data-test="history-until"
    />
    <ul v-if="!failure && states?.length">
      <li
        v-for="state in states"
        :key="state.key"
      >
        <div class="row">
          <b>{{ nameOf(state) }}</b>
          <span class="quiet small">{{ KINDS[state.kind] }}<template v-if="state.label"> · {{ dayAndTime(state.at) }}</template>
            · {{ state.plan.parts.length }} {{ state.plan.parts.length === 1 ? 'part' : 'parts' }}</span>
          <span class="spacer" />
          <v-btn
            size="small"
            variant="text"
            :aria-expanded="open === state.key"
            @click="open = open === state.key ? null : state.key!"
          >
            {{ until === NOW ? 'What changed since' : 'What differs' }}
          </v-btn>
          <v-btn
            size="small"
            variant="text"
            @click="asProject(state)"
          >
            As a project
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            color="primary"
            @click="takeBack(state)"
          >
            Take back
          </v-btn>
        </div>
        <ul
          v-if="open === state.key"
          class="changes"
          data-test="changes"
        >
          <li v-if="!said.length">
            Nothing: the two are the same.
          </li>
          <li
            v-for="sentence in said.slice(0, MAX)"
            :key="sentence"
          >
            {{ sentence }}
          </li>
          <li v-if="said.length > MAX">
            and {{ said.length - MAX }} more.
          </li>
          <li v-if="said.length">
            <v-btn
              size="small"
              variant="text"
              data-test="history-edits"
              @click="saveEdits"
            >
              Save as a list of edits
            </v-btn>
          </li>
        </ul>
      </li>
    </ul>
  </FrameDialog>
</template>

<style scoped>
.mark { display: flex; gap: 10px; align-items: flex-start; margin-bottom: 12px; }
ul { list-style: none; margin: 0; padding: 0; }
li { border-bottom: 1px solid var(--rule); padding: 4px 0; }
.row { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
.until { max-width: 360px; margin-bottom: 8px; }
.spacer { flex: 1; }
.changes { padding: 4px 0 8px 14px; }
.changes li { border: 0; padding: 1px 0; overflow-wrap: anywhere; }
</style>
