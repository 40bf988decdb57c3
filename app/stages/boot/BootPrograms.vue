<script setup lang="ts">
/** Example code and tables of connections: read, held against the plan, and put right. */
import { newId } from '~/database/id'
import { inWords } from '~/database/failures'
import { compareLines } from '~~/core/boot/lines'
import type { HeldProgram } from '~~/core/plan/types'
import type { Held, Verdict } from '~~/core/programs/judge'
import { LANGUAGE_NAMES } from '~~/core/programs/names'
import { useProgram } from './useProgram'

const MAX = 400_000
const project = useProjectStore()
const view = useViewStore()
const copyText = useCopy()
const programs = computed(() => project.plan!.programs)
const chosen = ref<string | null>(programs.value[0]?.id ?? null)
const program = computed(() => programs.value.find(({ id }) => id === chosen.value) ?? programs.value[0] ?? null)
const { read, failure, reading } = useProgram(program)
const editor = useTemplateRef<{ goTo: (line: number) => void }>('editor')
const panel = ref<'found' | 'right' | 'constants'>('found')
const PANELS = [{ id: 'found', name: 'Against the plan' }, { id: 'right', name: 'Put right' }, { id: 'constants',
  name: 'The plan as constants' }]

const LANGUAGES = [{ value: '', title: 'told from the text' },
  ...Object.entries(LANGUAGE_NAMES).map(([value, title]) => ({ value,
    title }))]
const NUMBERINGS = [
  { value: '', title: 'told by evidence' }, { value: 'line', title: 'by line number' },
  { value: 'header', title: 'by header position' },
  { value: 'own', title: 'by a library\'s own numbers' },
]
const NUMBERING_WORDS = { line: 'line numbers', header: 'header positions', own: 'a library\'s own numbers' } as const
const VERDICTS: Readonly<Record<Verdict, string>> = { contradicts: 'contradicts', unknown: 'not told',
  agrees: 'agrees' }
const ORDER: readonly Verdict[] = ['contradicts', 'unknown', 'agrees']

/** While a text is being typed, places of the one before are not those of this one. */
const isNow = computed(() => read.value !== null && read.value.text === program.value?.text)
const rows = computed(() => [...read.value?.held ?? []].sort((a, b) =>
  ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict) || a.sighting.line - b.sighting.line))
const difference = computed(() => read.value && program.value && panel.value === 'right'
  ? compareLines(program.value.text, read.value.corrected)
  : [])
const summary = computed(() => {
  if (!read.value) return ''
  const [problem] = read.value.reading.problems
  if (problem) return problem
  if (!read.value.held.length) return 'Nothing of pins, buses, addresses and devices was found in it.'
  const { agrees, contradicts, unknown } = read.value.counts
  return `${contradicts} contradict${contradicts === 1 ? 's' : ''} the plan, ${agrees} `
    + `agree${agrees === 1 ? 's' : ''}, ${unknown} not told`
})

function keep(next: HeldProgram, label: string, join?: string) {
  project.edit({ edit: 'keep-program', program: next }, label, join)
}

function change(fields: Partial<HeldProgram>, label: string, join?: string) {
  if (!program.value) return
  const next = { ...program.value, ...fields }
  // What is told by itself is not kept.
  if (!next.language) delete next.language
  if (!next.numbering) delete next.numbering
  keep(next, label, join)
}

function add(name = 'Example', text = '') {
  const names = new Set(programs.value.map(entry => entry.name))
  let own = name.slice(0, 110)
  for (let n = 2; names.has(own); n++) own = `${name.slice(0, 110)} ${n}`
  const made = { id: newId(), name: own, text }
  keep(made, text ? `Take ${own}` : 'A program to paste')
  chosen.value = made.id
}

async function take(files: File[]) {
  for (const file of files) {
    try {
      const text = await file.text()
      if (text.includes('\0')) view.say(`${file.name} is no text: give the source, not what was made of it.`,
        { tone: 'stop' })
      else if (text.length > MAX) view.say(
        `${file.name} has ${text.length} characters; up to ${MAX} are read. Give the part with the pins.`,
        { tone: 'stop' })
      else add(file.name, text)
    }
    catch (error) {
      view.say(`${file.name} could not be read: ${inWords(error)}`, { tone: 'stop' })
    }
  }
}

/** A text that is too long is not cut short: it is told, and what is kept stays. */
function typed(text: string) {
  if (text.length > MAX) return view.say(`A text of ${text.length} characters is not kept: up to ${MAX} are.`,
    { tone: 'stop' })
  change({ text }, 'Edit the program', `program ${program.value!.id}`)
}

function named(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 120)
  if (name) change({ name }, 'Name the program')
}

function drop() {
  if (!program.value) return
  const { id, name } = program.value
  project.edit({ edit: 'drop-program', id }, `Take ${name} out`)
  view.say(`${name} is taken out.`, { action: { label: 'Undo', run: project.undo } })
}

function right(only?: Held) {
  if (!program.value || !read.value || !isNow.value) return
  const { text } = program.value
  const { from, to } = only?.sighting ?? { from: 0, to: 0 }
  const next = only ? text.slice(0, from) + only.should! + text.slice(to) : read.value.corrected
  change({ text: next }, only ? `Write ${only.should} in line ${only.sighting.line}` : 'Put the program right')
  view.say(only ? `Line ${only.sighting.line} now has ${only.should}.` : `${read.value.corrections.length} places put right.`, {
    action: { label: 'Undo', run: project.undo },
  })
}

function dropped(event: DragEvent) {
  if (event.dataTransfer?.files.length) void take([...event.dataTransfer.files])
}
</script>

<template>
  <div
    class="programs"
    @dragover.prevent.stop
    @drop.prevent.stop="dropped"
  >
    <div class="bar">
      <v-select
        v-if="programs.length"
        class="which"
        label="Text"
        :items="programs.map(({ id, name }) => ({ value: id, title: name }))"
        :model-value="program?.id"
        data-test="program-choice"
        @update:model-value="id => chosen = id"
      />
      <v-text-field
        v-if="program"
        class="name"
        label="Name"
        :model-value="program.name"
        data-test="program-name"
        @change="named"
      />
      <v-select
        v-if="program"
        class="says"
        label="Written in"
        :items="LANGUAGES"
        :model-value="program.language ?? ''"
        @update:model-value="value => change({ language: (value || undefined) as HeldProgram['language'] }, 'Say what it is written in')"
      />
      <v-select
        v-if="program"
        class="says"
        label="Pins counted"
        :items="NUMBERINGS"
        :model-value="program.numbering ?? ''"
        data-test="program-numbering"
        @update:model-value="value => change({ numbering: (value || undefined) as HeldProgram['numbering'] }, 'Say how it counts pins')"
      />
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        data-test="program-new"
        @click="add()"
      >
        Paste another
      </v-btn>
      <FilePick
        label="Read a file"
        size="small"
        accept=".py,.c,.h,.cpp,.hpp,.ino,.js,.mjs,.ts,.sh,.yaml,.yml,.json,.csv,.md,.txt,text/plain"
        multiple
        test="program-file"
        @files="take"
      />
      <v-btn
        v-if="program"
        size="small"
        variant="text"
        data-test="program-drop"
        @click="drop"
      >
        Take out
      </v-btn>
    </div>
    <div
      v-if="!program"
      class="empty"
    >
      <p>
        Have an example from somewhere? Paste or drop it here: a program, a header file,
        a configuration or a table of connections. Every pin,
        bus, address and device in it is found and held against your plan.
      </p>
      <v-btn
        size="small"
        color="primary"
        data-test="program-first"
        @click="add()"
      >
        Paste a text
      </v-btn>
    </div>
    <div
      v-else
      class="columns"
    >
      <BootProgramEditor
        ref="editor"
        :key="program.id"
        class="code"
        :text="program.text"
        :language="read?.reading.language ?? program.language ?? 'python'"
        :held="isNow ? read!.held : []"
        @typed="typed"
        @right="right"
      />
      <section class="against">
        <p
          class="summary"
          role="status"
          data-test="program-summary"
        >
          <b v-if="failure">{{ failure }}</b>
          <template v-else-if="read">
            <b>{{ summary }}</b><br><span class="small quiet">Read as {{ LANGUAGE_NAMES[read.reading.language] }}, pins by
              {{ NUMBERING_WORDS[read.reading.numbering] }}{{ read.reading.isUnsure ? ' (not sure: say how above)' : '' }}.</span>
          </template>
          <template v-else-if="reading">
            Reading …
          </template>
          <template v-else>
            Paste the text on the left.
          </template>
        </p>
        <ViewTabs
          v-model="panel"
          :views="PANELS"
          test="program"
          label="What to see of it"
        />
        <template v-if="read && panel === 'found'">
          <ul
            v-if="rows.length"
            class="rows"
            data-test="program-rows"
            tabindex="0"
            aria-label="What was found"
          >
            <li
              v-for="row in rows"
              :key="`${row.sighting.kind} ${row.sighting.from}`"
              :class="row.verdict"
            >
              <v-btn
                size="x-small"
                variant="text"
                class="line figures"
                @click="editor?.goTo(row.sighting.line)"
              >
                {{ row.sighting.line }}
              </v-btn>
              <span class="what"><span class="verdict">{{ VERDICTS[row.verdict] }}</span>
                <b class="figures">{{ row.sighting.name ? `${row.sighting.name} ` : '' }}{{ row.sighting.text }}</b>
                {{ row.says }}</span>
              <v-btn
                v-if="row.verdict === 'contradicts' && row.should !== undefined"
                size="x-small"
                color="primary"
                @click="right(row)"
              >
                Write {{ row.should }}
              </v-btn>
            </li>
          </ul>
          <p
            v-else
            class="quiet"
          >
            No pin, bus, address, rate or device was found in it.
          </p>
          <p
            v-for="problem in read.reading.problems"
            :key="problem"
            class="hand small"
          >
            {{ problem }}
          </p>
          <FoldPanel
            v-if="read.reading.evidence.length"
            title="How the pins are counted: the evidence"
          >
            <ul class="small evidence">
              <li
                v-for="(entry, i) in read.reading.evidence.slice(0, 12)"
                :key="i"
              >
                <span
                  v-if="entry.line"
                  class="figures quiet"
                >line {{ entry.line }}: </span>{{ entry.says }} → {{ NUMBERING_WORDS[entry.for] }}
              </li>
            </ul>
          </FoldPanel>
          <FoldPanel
            v-if="read.reading.passedOver.length"
            :title="`Passed over: ${read.reading.passedOver.length}`"
          >
            <ul class="small evidence">
              <li
                v-for="entry in read.reading.passedOver"
                :key="entry.from"
              >
                <span class="figures quiet">line {{ entry.line }}: </span><b class="figures">{{ entry.text }}</b>, {{ entry.why }}
              </li>
            </ul>
          </FoldPanel>
        </template>
        <template v-else-if="read && panel === 'right'">
          <div class="acts">
            <v-btn
              size="small"
              color="primary"
              :disabled="!read.corrections.length || !isNow"
              data-test="program-mend"
              @click="right()"
            >
              Put all {{ read.corrections.length }} right here
            </v-btn>
            <v-btn
              size="small"
              variant="outlined"
              @click="copyText(read.corrected, 'The text put right')"
            >
              Copy
            </v-btn>
            <v-btn
              size="small"
              variant="outlined"
              @click="download(program.name, read.corrected, 'text/plain')"
            >
              Download
            </v-btn>
          </div>
          <p
            v-if="!read.corrections.length"
            class="quiet"
          >
            Nothing in it has to be written otherwise.
          </p>
          <ol
            v-else
            class="difference figures sheet"
            tabindex="0"
            aria-label="Difference"
            data-test="program-difference"
          >
            <li
              v-for="(line, i) in difference"
              :key="i"
              :class="line.kind"
            >
              <span class="sign">{{ line.kind === 'added' ? '+' : line.kind === 'removed' ? '−' : ' ' }}</span>{{ line.text || ' ' }}
            </li>
          </ol>
        </template>
        <template v-else-if="read">
          <div class="acts">
            <v-btn
              size="small"
              variant="outlined"
              :disabled="!read.constants"
              @click="copyText(read.constants, 'The constants')"
            >
              Copy
            </v-btn>
          </div>
          <pre
            class="sheet figures constants"
            tabindex="0"
            data-test="constants-text"
          >{{ read.constants || 'Nothing has a place yet.' }}</pre>
        </template>
      </section>
    </div>
  </div>
</template>

<style scoped>
.bar { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; margin: 4px 0 8px; }
.which, .name, .says { flex: 1 1 130px; min-width: 120px; max-width: 190px; }
.spacer { flex: 1; }
.empty { display: grid; gap: 10px; justify-items: start; max-width: 560px; padding: 16px 0; }
.columns { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 4fr); gap: 12px; }
.code { height: min(66vh, 620px); }
.against { min-width: 0; display: grid; gap: 8px; align-content: start; }
.summary { margin: 0; }
.rows { list-style: none; margin: 0; padding: 0; max-height: min(46vh, 430px); overflow: auto; }
.rows li { display: flex; gap: 6px; align-items: baseline; padding: 5px 2px 5px 6px; border-left: 4px solid var(--rule);
  margin-bottom: 3px; }
.rows li.contradicts { border-left: 4px dashed var(--ochre); background: var(--ochre-wash, var(--paper-2)); }
.rows li.agrees { border-left-color: var(--moss); }
.rows .line { min-width: 30px; padding: 0 4px; }
.what { flex: 1; min-width: 0; overflow-wrap: anywhere; }
.verdict { font-size: 11.5px; font-weight: 650; margin-right: 4px; }
.contradicts .verdict { color: var(--ochre); }
.agrees .verdict { color: var(--moss); }
.evidence { margin: 0; padding-left: 18px; }
.acts { display: flex; gap: 6px; flex-wrap: wrap; }
.difference, .constants { list-style: none; margin: 0; padding: 8px 0; font-size: 12.5px; max-height: min(52vh, 480px); overflow: auto;
  white-space: pre; }
.constants { padding: 8px 10px; }
.difference li { padding: 0 10px; min-width: max-content; }
.sign { display: inline-block; width: 16px; color: var(--ink-2); }
.added { background: var(--moss-wash); font-weight: 650; }
.removed { background: var(--carmine-wash); text-decoration: line-through; }
.hand { color: var(--ochre); }
@media (max-width: 1000px) {
  .columns { grid-template-columns: minmax(0, 1fr); }
  .code { height: 300px; }
}
@media (max-width: 600px) { .which, .name, .says { max-width: none; flex: 1 1 44%; } }
</style>
