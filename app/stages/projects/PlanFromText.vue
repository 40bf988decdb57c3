<script setup lang="ts">
/** A plan begun from a pasted program, configuration or table of connections. */
import { heldWorker } from '~/workers/start'
import type { PlacementService } from '~/workers/services/placement'
import { inWords } from '~/database/failures'
import { shippedCatalogue } from '~~/core/catalogue'
import type { Plan } from '~~/core/plan/types'
import type { Numbering } from '~~/core/programs/types'
import { watchDebounced } from '@vueuse/core'

/** Longer texts are no wiring of a board. */
const MAX = 400_000
type Begun = Awaited<ReturnType<PlacementService['begun']>>

const emit = defineEmits<{ make: [plan: Plan], close: [] }>()
const view = useViewStore()
const text = ref('')
const name = ref('')
const board = ref('forty-usb-c')
const numbering = ref<'' | Numbering>('')
const begun = shallowRef<Begun | null>(null)
const failure = ref<string | null>(null)
const boards = [...shippedCatalogue.boards.values()].map(entry => ({ value: entry.id, title: entry.name }))
const NUMBERINGS = [
  { value: '', title: 'told by evidence' }, { value: 'line', title: 'by line number' },
  { value: 'header', title: 'by header position' },
]
const reader = heldWorker('placement', 20_000, 'it was not read')
let run = 0

async function look() {
  const mine = ++run
  if (!text.value.trim()) return void (begun.value = null)
  try {
    const as = { name: name.value, ...numbering.value && { numbering: numbering.value } }
    const about = { name: name.value || 'Begun from a text', board: board.value, supply: null }
    const found = await reader.ask(service => service.begun(text.value, as, about))
    if (mine !== run) return
    begun.value = found
    failure.value = null
  }
  catch (error) {
    if (mine === run) failure.value = `The text was not read: ${(error as Error).message}.`
  }
}
watchDebounced([text, board, numbering, name], look, { debounce: 250 })
onScopeDispose(() => {
  run++
  reader.end()
})

async function take([file]: File[]) {
  if (!file) return
  try {
    const read = await file.text()
    if (read.length > MAX) return view.say(`${file.name} has ${read.length} characters; up to ${MAX} are read.`,
      { tone: 'stop' })
    text.value = read
    name.value = file.name
  }
  catch (error) {
    view.say(`${file.name} could not be read: ${inWords(error)}`, { tone: 'stop' })
  }
}

/** The text goes along, to be held against the plan as it grows. */
function make() {
  if (!begun.value) return
  const called = name.value || 'Begun from a text'
  emit('make', { ...begun.value.plan, name: called,
    programs: [{ id: 'begun', name: called.slice(0, 120), text: text.value }] })
}
</script>

<template>
  <FrameDialog
    title="Begin from a program or a table"
    :width="860"
    test="plan-from-text"
    @close="emit('close')"
  >
    <p>
      Paste an example, a header file, a configuration or a table of connections. Whatever stands in it becomes parts, each where the text
      has it; the rest is placed around them.
    </p>
    <div class="row">
      <v-select
        v-model="board"
        label="On this board"
        :items="boards"
        data-test="text-board"
      />
      <v-select
        v-model="numbering"
        label="Pins counted"
        :items="NUMBERINGS"
      />
      <FilePick
        label="Read a file"
        accept="text/plain,.py,.c,.h,.cpp,.js,.sh,.yaml,.yml,.json,.csv,.md,.txt"
        test="text-file"
        @files="take"
      />
    </div>
    <v-textarea
      v-model="text"
      class="figures"
      label="Text"
      rows="9"
      max-rows="14"
      :maxlength="MAX"
      data-test="begin-text"
    />
    <p
      v-if="failure"
      role="alert"
    >
      {{ failure }}
    </p>
    <div
      v-else-if="begun"
      data-test="begun"
      role="status"
    >
      <p v-if="begun.reading.problems.length">
        <b>{{ begun.reading.problems.join(' ') }}</b>
      </p>
      <p v-else-if="!begun.plan.parts.length && begun.left.length">
        <b>No part is told by it.</b> The plan begins with the board alone and goes along with the text: add the parts, and it is held
        against them.
      </p>
      <p v-else-if="!begun.plan.parts.length">
        <b>Nothing in it could be told.</b> Is there a pin, an address or a device in it?
      </p>
      <ul v-else>
        <li
          v-for="part in begun.plan.parts"
          :key="part.id"
        >
          <b>{{ part.name }}</b>: {{ shippedCatalogue.parts.get(part.type)?.name }}
        </li>
      </ul>
      <ul class="small left">
        <li
          v-for="(entry, i) in begun.left.slice(0, 12)"
          :key="i"
        >
          line {{ entry.line }}: <b class="figures">{{ entry.text }}</b> is left out: {{ entry.why }}
        </li>
      </ul>
    </div>
    <template #acts>
      <v-btn
        color="primary"
        variant="flat"
        :disabled="!begun?.plan.parts.length && !begun?.left.length"
        data-test="begin-make"
        @click="make"
      >
        Make the plan
      </v-btn>
    </template>
  </FrameDialog>
</template>

<style scoped>
.row { display: flex; gap: 8px; flex-wrap: wrap; align-items: center; margin: 14px 0 10px; }
.row > :deep(.v-input:not(.v-file-input)) { flex: 1 1 220px; }
.left { color: var(--ink-2); }
</style>
