<script setup lang="ts">
/** The list of projects: new, open, rename, duplicate, delete with undo, import, export. */
import type { ProjectRecord } from '~/database/projects'
import type { Problem } from '~~/core/failure'
import { emptyPlan } from '~~/core/plan/create'

const database = useDatabase()
const view = useViewStore()
const { importFile, exportPlan, loadDemo } = useTransfer()
const config = useRuntimeConfig()

// Shallow: what goes back to the database has to be plain data.
const records = shallowRef<ProjectRecord[] | null>(null)
const failure = ref<string | null>(null)
const newName = ref('')
const renaming = ref<string | null>(null)
const refused = ref<{ file: string, problems: Problem[] } | null>(null)
const picker = ref<HTMLInputElement | null>(null)
const DEMO_LOADED = 'voltaris.demo-loaded'

useHead({ title: 'Projects · Voltaris' })

onMounted(async () => {
  try {
    await database.emptyOldBin()
    if (config.public.demo && !localStorage.getItem(DEMO_LOADED)) {
      localStorage.setItem(DEMO_LOADED, 'yes')
      await loadDemo()
    }
    await refresh()
  }
  catch (error) {
    failure.value = `This browser does not let Voltaris keep projects: ${(error as Error).message}. `
      + 'Private windows and full disks are the usual reasons.'
  }
})

async function refresh() {
  records.value = await database.list()
}

async function create() {
  const record = await database.create(emptyPlan(newName.value.trim() || 'New project'))
  await navigateTo(`/project/${record.id}/board`)
}

async function rename(record: ProjectRecord, event: Event) {
  const name = (event.target as HTMLInputElement).value.trim()
  renaming.value = null
  if (!name || name === record.plan.name) return
  try {
    await database.save(record.id, { ...record.plan, name }, record.revision)
  }
  catch (error) {
    view.say(`Not renamed: ${(error as Error).message} The list now shows what is stored.`, { tone: 'stop' })
  }
  await refresh()
}

async function duplicate(record: ProjectRecord) {
  await database.create({ ...record.plan, name: `${record.plan.name} (copy)` })
  await refresh()
}

async function remove(record: ProjectRecord) {
  await database.putInBin(record.id)
  await refresh()
  view.say(
    `"${record.plan.name}" is in the bin for thirty days.`,
    { action: { label: 'Undo', run: () => void database.takeFromBin(record.id).then(refresh) } },
  )
}

async function take(event: Event) {
  const input = event.target as HTMLInputElement
  refused.value = null
  for (const file of input.files ?? []) {
    const result = await importFile(file)
    if (!result.ok) refused.value = { file: result.file, problems: result.problems }
    else view.say(`"${result.record.plan.name}" is imported.`)
  }
  input.value = ''
  await refresh()
}

async function demo() {
  await loadDemo()
  await refresh()
}
</script>

<template>
  <div class="page">
    <header class="bar">
      <span class="brand">Voltaris</span>
      <span>from a drawer of parts to a thing that runs</span>
      <span class="spacer" />
      <button
        class="bare"
        @click="view.dark = !view.dark"
      >
        {{ view.dark ? 'Light' : 'Dark' }}
      </button>
    </header>
    <main class="content">
      <div class="stage-head">
        <h1>Projects</h1>
        <span class="spacer" />
        <input
          ref="picker"
          type="file"
          accept=".json,application/json"
          multiple
          hidden
          data-test="import-file"
          @change="take"
        >
        <v-btn
          variant="outlined"
          @click="picker?.click()"
        >
          Import a file
        </v-btn>
        <v-btn
          variant="outlined"
          data-test="load-demo"
          @click="demo"
        >
          Load the demo projects
        </v-btn>
      </div>
      <form
        class="new"
        @submit.prevent="create"
      >
        <v-text-field
          v-model="newName"
          label="Name of a new project"
          maxlength="300"
        />
        <v-btn
          type="submit"
          color="primary"
          height="40"
        >
          New project
        </v-btn>
      </form>

      <section
        v-if="refused"
        class="refused"
        role="alert"
        data-test="refused"
      >
        <h2>"{{ refused.file }}" was not imported; nothing changed</h2>
        <ul>
          <li
            v-for="problem in refused.problems.slice(0, 12)"
            :key="problem.path + problem.message"
          >
            <code
              v-if="problem.path"
              class="figures"
            >{{ problem.path }}</code> {{ problem.message }}
          </li>
        </ul>
        <p v-if="refused.problems.length > 12">
          and {{ refused.problems.length - 12 }} more.
        </p>
        <v-btn
          size="small"
          variant="outlined"
          @click="refused = null"
        >
          Close
        </v-btn>
      </section>

      <p
        v-if="failure"
        role="alert"
        class="refused"
      >
        {{ failure }}
      </p>
      <p
        v-else-if="!records"
        class="quiet"
      >
        Reading …
      </p>
      <div
        v-else-if="!records.length"
        class="empty"
      >
        <p>
          Nothing here yet. Type a name above and press New project, or look at one of the three demo projects first: a beehive monitor, a
          model-railway signal box that is broken on purpose, and a tool-library kiosk.
        </p>
      </div>
      <ul
        v-else
        class="list"
        data-test="projects"
      >
        <li
          v-for="record in records"
          :key="record.id"
          class="row"
        >
          <div class="main">
            <input
              v-if="renaming === record.id"
              :value="record.plan.name"
              aria-label="New name"
              maxlength="300"
              autofocus
              class="rename"
              @change="rename(record, $event)"
              @keydown.enter="($event.target as HTMLElement).blur()"
              @keydown.esc="renaming = null"
            >
            <NuxtLink
              v-else
              :to="`/project/${record.id}/${record.plan.board ? 'wiring' : 'board'}`"
              class="name"
            >
              {{ record.plan.name }}
            </NuxtLink>
            <p class="quiet small">
              {{ record.plan.parts.length }} {{ record.plan.parts.length === 1 ? 'part' : 'parts' }} · changed
              {{ dayAndTime(record.updatedAt) }}
            </p>
            <p
              v-if="record.plan.story"
              class="story"
            >
              {{ record.plan.story }}
            </p>
          </div>
          <div class="acts">
            <v-btn
              size="small"
              variant="text"
              @click="renaming = record.id"
            >
              Rename
            </v-btn>
            <v-btn
              size="small"
              variant="text"
              @click="duplicate(record)"
            >
              Duplicate
            </v-btn>
            <v-btn
              size="small"
              variant="text"
              @click="exportPlan(record.plan)"
            >
              Export
            </v-btn>
            <v-btn
              size="small"
              variant="text"
              color="error"
              @click="remove(record)"
            >
              Delete
            </v-btn>
          </div>
        </li>
      </ul>
    </main>
  </div>
</template>

<style scoped>
.page { min-height: 100vh; background: var(--paper); }
.bar {
  background: var(--bar);
  color: var(--bar-ink);
  display: flex;
  gap: 16px;
  align-items: center;
  min-height: 44px;
  padding: 0 20px;
  font-size: 13px;
}
.brand { color: var(--bar-act); font-weight: 700; font-size: 15px; }
.spacer { flex: 1; }
.content { max-width: 980px; margin: 0 auto; padding: 20px; }
.new { display: flex; gap: 10px; align-items: flex-start; margin-bottom: 18px; max-width: 560px; }
.list { list-style: none; margin: 0; padding: 0; border-top: 1px solid var(--rule); }
.row { display: flex; gap: 16px; padding: 12px 0; border-bottom: 1px solid var(--rule); align-items: flex-start; }
.main { flex: 1; min-width: 0; }
.name {
  font-size: 16.5px;
  font-weight: 650;
  color: var(--ink);
  text-decoration-color: var(--copper);
  text-underline-offset: 3px;
  overflow-wrap: anywhere;
}
.rename {
  font: 650 16.5px var(--text-family);
  width: 100%;
  border: 1px solid var(--copper);
  border-radius: 3px;
  padding: 2px 6px;
  background: var(--sheet);
  color: inherit;
}
.story { margin-top: 4px; max-width: 70ch; }
.acts { display: flex; flex-wrap: wrap; justify-content: flex-end; }
.refused {
  border: 1px solid var(--carmine);
  border-left-width: 6px;
  background: var(--carmine-wash);
  border-radius: 4px;
  padding: 10px 14px;
  margin-bottom: 16px;
  display: grid;
  gap: 6px;
  justify-items: start;
}
.refused ul { margin: 0; padding-left: 18px; }
.empty { max-width: 60ch; padding: 20px 0; }
@media (max-width: 700px) { .row { flex-direction: column; } .acts { justify-content: flex-start; } }
</style>
