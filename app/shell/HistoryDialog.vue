<script setup lang="ts">
/** Earlier states of the project: by day, by mark, and before something replaced much. What changed since, in words; and the way back. */
import { answered, inWords } from '~/database/failures'
import type { PastState } from '~/database/projects'
import { shippedCatalogue } from '~~/core/catalogue'
import { completed } from '~~/core/plan/create'
import { differences } from '~~/core/plan/differences'
import { catalogueOf } from '~~/core/facts/gather'

const project = useProjectStore()
const view = useViewStore()
const database = useDatabase()

const states = shallowRef<PastState[] | null>(null)
const failure = ref<string | null>(null)
const open = ref<number | null>(null)
const mark = ref('')

const KINDS: Readonly<Record<PastState['kind'], string>> = { day: 'last of its day', mark: 'marked', before: 'kept by itself' }
/** Changes shown of one state. */
const MOST = 40

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

const said = computed(() => {
  const state = states.value?.find(entry => entry.key === open.value)
  return state && project.plan ? differences(completed(state.plan), project.plan, catalogueOf(project.plan, shippedCatalogue)) : []
})

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
  const done = await attempt('Not marked', () => answered(database.keepState(project.id!, { kind: 'mark', label, plan: project.plan! })))
  if (done) mark.value = ''
  await read()
}

async function takeBack(state: PastState) {
  const when = state.label ?? dayAndTime(state.at)
  if (!await attempt('Not taken back', () => project.takeState(state.plan, when))) return
  view.historyOpen = false
  view.say(`The project is as it was: ${when}.`, { action: { label: 'Undo', run: project.undo } })
}

async function asProject(state: PastState) {
  const plan = { ...state.plan, name: `${state.plan.name} (${state.label ?? dayAndTime(state.at)})` }
  if (await attempt('No project was made', () => answered(database.create(plan)))) view.say(`"${plan.name}" is a project of its own now.`)
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
    <ul v-else>
      <li
        v-for="state in states"
        :key="state.key"
      >
        <div class="row">
          <b>{{ state.label ?? dayAndTime(state.at) }}</b>
          <span class="quiet small">{{ KINDS[state.kind] }}<template v-if="state.label"> · {{ dayAndTime(state.at) }}</template>
            · {{ state.plan.parts.length }} {{ state.plan.parts.length === 1 ? 'part' : 'parts' }}</span>
          <span class="spacer" />
          <v-btn
            size="small"
            variant="text"
            :aria-expanded="open === state.key"
            @click="open = open === state.key ? null : state.key!"
          >
            What changed since
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
            Nothing: it is as it is now.
          </li>
          <li
            v-for="sentence in said.slice(0, MOST)"
            :key="sentence"
          >
            {{ sentence }}
          </li>
          <li v-if="said.length > MOST">
            and {{ said.length - MOST }} more.
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
.spacer { flex: 1; }
.changes { padding: 4px 0 8px 14px; }
.changes li { border: 0; padding: 1px 0; overflow-wrap: anywhere; }
</style>
