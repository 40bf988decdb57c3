<script setup lang="ts">
/** Boards and parts of the maker's own: made from any in the catalogue, by import, by export; checked on entry. */
import { ownCopyOf } from '~~/core/catalogue/own'
import type { Board, Part } from '~~/core/catalogue/types'
import type { Problem } from '~~/core/documents/failure'

const { kind } = defineProps<{ kind: 'board' | 'part' }>()
const project = useProjectStore()
const view = useViewStore()
const list = computed<(Board | Part)[]>(() => kind === 'board' ? project.plan!.own.boards : project.plan!.own.parts)
const sources = computed<(Board | Part)[]>(() =>
  [...(kind === 'board' ? project.catalogue.boards : project.catalogue.parts).values()])
const source = ref<string | null>(null)
const text = ref<string | null>(null)
const problems = ref<Problem[]>([])
const inForm = ref(false)
const opened = ref(false)
const isOpen = computed({
  get: () => opened.value || list.value.length > 0 || text.value !== null || inForm.value,
  set: open => opened.value = open,
})

function start() {
  const found = sources.value.find(entry => entry.id === source.value)
  if (!found) return view.say(`Choose the ${kind} to start from.`, { tone: 'stop' })
  const taken = new Set(sources.value.map(entry => entry.id))
  text.value = JSON.stringify(ownCopyOf(found as Part, taken), null, 2)
  problems.value = []
}

async function keep(content: string): Promise<boolean> {
  // The check brings its schema library, which is fetched when it is first needed.
  const { readOwn } = await import('~~/core/catalogue/own-read')
  const read = readOwn(content)
  if (!read.ok) {
    problems.value = read.problems
    return false
  }
  problems.value = []
  project.edit(read.kind === 'board'
    ? { edit: 'keep-own-board', board: read.entry }
    : { edit: 'keep-own-part', part: read.entry }, `Keep ${read.entry.name}`)
  view.say(`${read.entry.name} is kept in this project and stands in the list.`,
    { action: { label: 'Undo', run: project.undo } })
  return true
}

async function save() {
  if (text.value !== null && await keep(text.value)) text.value = null
}

async function importFile(picked: File | File[] | null) {
  const file = Array.isArray(picked) ? picked[0] : picked
  if (!file) return
  const content = await file.text()
  if (!await keep(content)) text.value = content
}

function remove(entry: Board | Part) {
  const used = kind === 'board'
    ? project.plan!.board === entry.id
    : project.plan!.parts.some(part => part.type === entry.id)
  if (used) return view.say(`${entry.name} is in use in this plan. Choose another ${kind} first.`, { tone: 'stop' })
  project.edit({ edit: 'drop-own', kind: kind === 'board' ? 'boards' : 'parts', id: entry.id }, `Drop ${entry.name}`)
  view.say(`${entry.name} is gone.`, { action: { label: 'Undo', run: project.undo } })
}
</script>

<template>
  <FoldPanel
    v-model:open="isOpen"
    class="own"
    :title="`${kind === 'board' ? 'A board' : 'Parts'} of your own`"
    :data-test="`own-${kind}`"
  >
    <ul v-if="list.length">
      <li
        v-for="entry in list"
        :key="entry.id"
      >
        <b>{{ entry.name }}</b> <span class="figures small quiet">{{ entry.id }}</span>
        <v-btn
          class="act"
          variant="text"
          size="x-small"
          @click="text = JSON.stringify(entry, null, 2); problems = []"
        >
          edit
        </v-btn>
        <v-btn
          class="act"
          variant="text"
          size="x-small"
          @click="download(fileName(entry.id, '.json'), JSON.stringify(entry, null, 2) + '\n', 'application/json')"
        >
          export
        </v-btn>
        <v-btn
          class="act"
          variant="text"
          size="x-small"
          @click="remove(entry)"
        >
          remove
        </v-btn>
      </li>
    </ul>
    <LazyOwnPartForm
      v-if="inForm"
      :save="keep"
      @done="inForm = false"
      @text="inForm = false; text = $event"
    />
    <div
      v-else
      class="row"
    >
      <v-btn
        v-if="kind === 'part'"
        size="small"
        color="primary"
        data-test="own-part-form-open"
        @click="inForm = true; text = null"
      >
        Make one in a form
      </v-btn>
      <v-autocomplete
        v-model="source"
        class="from"
        :items="sources"
        item-title="name"
        item-value="id"
        :label="`${kind === 'board' ? 'Board' : 'Part'} to start from`"
        clearable
        :data-test="`own-${kind}-source`"
      />
      <v-btn
        size="small"
        variant="outlined"
        :data-test="`own-${kind}-start`"
        @click="start"
      >
        Make one from it
      </v-btn>
      <v-file-input
        class="from"
        label="or import a file"
        accept=".json,application/json"
        :model-value="null"
        prepend-icon=""
        :data-test="`own-${kind}-import`"
        @update:model-value="importFile"
      />
    </div>
    <template v-if="text !== null">
      <v-textarea
        v-model="text"
        class="text-file"
        rows="16"
        spellcheck="false"
        :aria-label="`The ${kind} as text`"
        :data-test="`own-${kind}-text`"
      />
      <ul
        v-if="problems.length"
        class="problems"
        role="alert"
      >
        <li
          v-for="problem in problems.slice(0, 12)"
          :key="problem.path + problem.message"
        >
          <span class="figures">{{ problem.path || 'the whole' }}</span>: {{ problem.message }}
        </li>
        <li v-if="problems.length > 12">
          and {{ problems.length - 12 }} more
        </li>
      </ul>
      <div class="row">
        <v-btn
          size="small"
          color="primary"
          :data-test="`own-${kind}-save`"
          @click="save"
        >
          Check and keep
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          @click="text = null; problems = []"
        >
          Leave it
        </v-btn>
      </div>
    </template>
  </FoldPanel>
</template>

<style scoped>
.own { margin: 12px 0; border-top: 1px solid var(--rule); }
ul { margin: 6px 0; padding-left: 18px; font-size: 13.5px; }
.row { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin: 8px 0; }
.from { flex: 1 1 200px; max-width: 300px; }
.problems { color: var(--carmine); }
</style>
