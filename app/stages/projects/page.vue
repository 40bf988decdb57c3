<script setup lang="ts">
/** The list of projects: new, open, found, chosen; its cards do the rest. */
import { answered, inWords } from '~/database/failures'
import { useSlots } from '~/database/slots'
import type { Head } from '~/database/projects'
import type { Problem } from '~~/core/documents/failure'
import { shippedCatalogue } from '~~/core/catalogue'
import { ORDERS, VERDICTS } from './useSieve'

const database = useDatabase()
const view = useViewStore()
const { importFiles, exportProjects, exportRecord, loadDemo } = useTransfer()
const projects = useProjects()
const backup = useBackup(projects)
const { heads, failure, chosen, all, binned } = projects
const { wanted, order, onBoard, verdict, found, shown, unchecked, glanceAt, showMore } = useSieve(heads)
const config = useRuntimeConfig()

const newName = ref('')
const refused = ref<{ file: string, problems: readonly Problem[] }[]>([])
/** The first-time page, also called by choice. */
const beginning = ref(false)
const fromText = ref(false)
const showsStock = ref(false)
const binOpen = ref(false)
const DEMO_LOADED = 'voltaris.demo-loaded'

const boards = computed(() => [...new Set((heads.value ?? []).filter(head => !head.deletedAt)
  .flatMap(head => head.board ?? []))]
  .map(id => ({ value: id, title: shippedCatalogue.boards.get(id)?.name ?? id }))
  .sort((a, b) => a.title.localeCompare(b.title)))

useHead({ title: 'Projects · Voltaris' })

onMounted(async () => {
  // What is there is shown first, whatever may be done to it.
  await projects.refresh()
  if (failure.value) return
  try {
    const slots = useSlots()
    if (config.public.demo && !slots.getItem(DEMO_LOADED)) {
      slots.setItem(DEMO_LOADED, 'yes')
      await loadDemo()
      await projects.refresh()
    }
    if (await answered(database.emptyOldBin())) await projects.refresh()
    await backup.look()
  }
  catch (error) {
    view.say(`The list is shown as it is, but nothing can be kept: ${inWords(error)}`, { tone: 'stop' })
  }
})

const exportOf = (ids: readonly string[]) => projects.attempt('Not exported', () => exportProjects(ids))

async function exportOne(head: Head) {
  if (!head.trouble) return exportOf([head.id])
  await projects.attempt('Not saved', async () => exportRecord(await answered(database.projects.get(head.id))))
}

async function take(files: readonly File[]) {
  const { names, refused: not, left } = await importFiles(files)
  refused.value = not
  const said = names.length === 1 ? `"${names[0]}" is imported.` : `${names.length} projects are imported.`
  if (names.length) view.say([said, ...left].join(' '), left.length ? { tone: 'stop' } : {})
  await projects.refresh()
}

async function bringBack(files: readonly File[]) {
  refused.value = []
  const message = await backup.bringBack(files)
  if (message) refused.value = [{ file: files.map(file => file.name).join(', '), problems: [{ path: '', message }] }]
}

/** What nothing was found for, in words. */
const none = computed(() => [
  ...onBoard.value ? ['is on that board'] : [],
  ...verdict.value
    ? [{ stops: 'has a stop', cautions: 'has cautions and no stop',
        clear: 'is clear' }[verdict.value]]
    : [],
  ...wanted.value ? [`has "${wanted.value}" in its name, its story or its board`] : [],
].join(' and '))
const allChosen = computed(() => found.value.length > 0 && found.value.every(head => chosen.value.has(head.id)))
const sendable = computed(() => [...chosen.value].filter(id => !heads.value?.find(head => head.id === id)?.trouble))
</script>

<template>
  <div class="page">
    <header class="bar">
      <span class="brand">Voltaris</span>
      <span>from a drawer of parts to a thing that runs</span>
      <span class="spacer" />
      <v-btn
        variant="text"
        size="small"
        color="inherit"
        @click="view.settingsOpen = true"
      >
        Settings
      </v-btn>
      <v-btn
        variant="text"
        size="small"
        color="inherit"
        @click="view.turnTheme"
      >
        {{ view.dark ? 'Light' : 'Dark' }}
      </v-btn>
    </header>
    <main class="content">
      <div class="stage-head">
        <h1>Projects</h1>
        <span class="spacer" />
        <FilePick
          label="Import files"
          accept=".json,.html,.zip,application/json,text/html,application/zip"
          multiple
          test="import-file"
          @files="take"
        />
        <v-btn
          variant="outlined"
          data-test="load-demo"
          @click="projects.attempt('The demo projects were not loaded', loadDemo)"
        >
          Load the demo projects
        </v-btn>
        <v-btn
          variant="outlined"
          data-test="projects-stock"
          @click="showsStock = true"
        >
          Drawer
        </v-btn>
        <BackupMenu
          :news="backup.news.value"
          :busy="backup.busy.value"
          @make="backup.make"
          @bring-back="bringBack"
        />
      </div>
      <v-form
        class="new"
        @submit.prevent="projects.create(newName)"
      >
        <v-text-field
          v-model="newName"
          label="Name of a new project"
          maxlength="300"
        />
        <v-btn
          type="submit"
          color="primary"
          height="36"
        >
          New project
        </v-btn>
        <v-btn
          v-if="all"
          variant="text"
          height="36"
          :aria-expanded="beginning"
          data-test="begin"
          @click="beginning = !beginning"
        >
          {{ beginning ? 'Leave it' : 'In three choices' }}
        </v-btn>
        <v-btn
          variant="text"
          height="36"
          data-test="from-text"
          @click="fromText = true"
        >
          From a program or table
        </v-btn>
      </v-form>
      <LazyStockDialog
        v-if="showsStock"
        @close="showsStock = false"
      />
      <LazyPlanFromText
        v-if="fromText"
        @make="plan => projects.createFrom(plan)"
        @close="fromText = false"
      />
      <LazyFirstPlan
        v-if="beginning && all"
        class="beginning"
        @make="plan => projects.createFrom(plan)"
      />

      <BackupDue
        v-if="backup.news.value?.isDue"
        :news="backup.news.value"
        @make="backup.make"
        @put-off="backup.putOff"
      />

      <RefusedFile
        v-for="(entry, i) in refused"
        :key="i"
        :file="entry.file"
        :problems="entry.problems"
        @close="refused = refused.filter(other => other !== entry)"
      />

      <div
        v-if="failure"
        role="alert"
        class="refused"
        data-test="storage-failure"
      >
        <p>{{ failure }}</p>
        <v-btn
          size="small"
          variant="outlined"
          @click="projects.refresh"
        >
          Try again
        </v-btn>
      </div>
      <v-skeleton-loader
        v-else-if="!heads"
        type="list-item-two-line@3"
        aria-label="Reading the projects"
        role="status"
      />
      <div
        v-else-if="!all"
        class="empty"
      >
        <p>
          Nothing here yet. Make a first plan in three choices, type a name above and press New project, or look at the three demo projects:
          a beehive monitor, a model-railway signal box that is broken on purpose, and a tool-library kiosk.
        </p>
        <LazyFirstPlan @make="plan => projects.createFrom(plan)" />
      </div>
      <template v-else>
        <div class="sieve">
          <v-checkbox-btn
            :model-value="allChosen"
            :indeterminate="chosen.size > 0 && !allChosen"
            aria-label="Choose all that are shown"
            density="compact"
            class="box"
            @update:model-value="value => projects.chooseAll(value ? found : [])"
          />
          <v-text-field
            v-model="wanted"
            label="Find a project"
            clearable
            class="find"
            data-test="find-project"
          />
          <v-select
            v-model="order"
            :items="ORDERS"
            label="Order"
            class="order"
            data-test="order-projects"
          />
          <v-select
            v-if="boards.length > 1"
            v-model="onBoard"
            :items="boards"
            label="Board"
            clearable
            class="order"
            data-test="filter-board"
          />
          <v-select
            v-model="verdict"
            :items="VERDICTS"
            label="Checks say"
            clearable
            class="order"
            data-test="filter-verdict"
          />
        </div>
        <div
          v-if="chosen.size"
          class="chosen"
          data-test="chosen"
        >
          <b>{{ chosen.size }} chosen</b>
          <v-btn
            size="small"
            variant="outlined"
            :disabled="!sendable.length"
            @click="exportOf(sendable)"
          >
            Export
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            :disabled="!sendable.length"
            @click="projects.duplicate(sendable)"
          >
            Duplicate
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            color="error"
            @click="projects.remove([...chosen])"
          >
            Delete
          </v-btn>
          <v-btn
            size="small"
            variant="text"
            @click="projects.chooseAll([])"
          >
            Choose none
          </v-btn>
        </div>
        <p
          v-if="unchecked"
          class="quiet"
          role="status"
        >
          {{ unchecked }} {{ unchecked === 1 ? 'plan is' : 'plans are' }} still being checked …
        </p>
        <p
          v-else-if="!found.length"
          class="quiet"
        >
          No project {{ none }}.
        </p>
        <ul
          class="list"
          data-test="projects"
        >
          <ProjectRow
            v-for="head in shown"
            :key="head.id"
            :head="head"
            :glance="glanceAt(head)"
            :chosen="chosen.has(head.id)"
            @choose="value => projects.choose(head.id, value)"
            @rename="name => projects.rename(head, name)"
            @duplicate="projects.duplicate([head.id])"
            @export="exportOne(head)"
            @remove="projects.remove([head.id])"
          />
        </ul>
        <v-btn
          v-if="shown.length < found.length"
          v-intersect="(isThere: boolean) => { if (isThere) showMore() }"
          variant="text"
          @click="showMore"
        >
          {{ found.length - shown.length }} more
        </v-btn>
      </template>
      <v-btn
        v-if="binned.length"
        variant="text"
        size="small"
        class="to-bin"
        :aria-expanded="binOpen"
        data-test="open-bin"
        @click="binOpen = !binOpen"
      >
        {{ binOpen ? 'Close the bin' : `Bin: ${binned.length} deleted` }}
      </v-btn>
      <LazyProjectBin
        v-if="binOpen"
        :heads="binned"
        @take-back="projects.takeBack"
        @remove-for-good="projects.removeForGood"
      />
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
.content { max-width: 1120px; margin: 0 auto; padding: 20px; }
.new { display: flex; gap: 10px; align-items: flex-start; margin-bottom: 18px; max-width: 760px; }
.sieve { display: flex; gap: 10px; align-items: center; margin-bottom: 8px; }
.box { flex: none; }
.find { flex: 1 1 260px; }
.order { flex: 0 1 230px; }
.chosen { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; padding: 6px 0; }
.list { list-style: none; margin: 0; padding: 0; border-top: 1px solid var(--rule); }
.to-bin { margin-top: 16px; }
.empty { padding: 8px 0 20px; display: grid; gap: 10px; }
.empty > p { max-width: 78ch; }
.beginning { margin-bottom: 22px; }
.content .stage-head { flex-wrap: wrap; }
@media (max-width: 700px) {
  .sieve, .new, .bar { flex-wrap: wrap; }
  .content { padding: 12px; }
  .new .v-input { flex: 1 1 100%; }
}
</style>
