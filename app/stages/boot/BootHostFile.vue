<script setup lang="ts">
/** One small file: line by line with what it does, where it goes, and what lies there now. */
import type { FileNow } from '~~/core/host/bundle'
import { compareLines } from '~~/core/boot/lines'
import { inWords } from '~/database/failures'

const { file } = defineProps<{ file: FileNow }>()
const view = useViewStore()
const { host, lies } = useHost()
const copyText = useCopy()
const there = computed(() => host.value.files[file.path])
const MAX = 200_000
const pasting = ref(false)
const pasted = ref('')
const says = computed(() => new Map(file.rows.map(([line, words]) => [line, words])))
const lines = computed(() =>
  file.text.replace(/\n$/, '').split('\n').map(line => ({ line, words: says.value.get(line) ?? '' })))
const difference = computed(() =>
  there.value ? compareLines(there.value.text, file.text).filter(({ kind }) => kind !== 'same') : [])
const AFTER = { 'first start': 'read at the very first start only', 'restart': 'read at a restart',
  'new login': 'counts from the next login' } as const
const after = computed(() => file.after.is === 'reload' ? '' : AFTER[file.after.is])

function written() {
  lies(file.path, { text: file.text, written: file.planned }, `Write ${file.what.toLowerCase()}`)
  view.say('Noted as written: lines that you change on the board from now on are told from the plan\'s.')
}

function take(text: string) {
  if (text.length > MAX) return view.say(`That has ${text.length} characters; small files have up to ${MAX}.`,
    { tone: 'stop' })
  lies(file.path, { text, ...there.value?.written !== undefined && { written: there.value.written } },
    'What lies on the board')
  pasting.value = false
  pasted.value = ''
}

async function picked([first]: File[]) {
  try {
    if (first) take(await first.text())
  }
  catch (error) {
    view.say(`${first!.name} could not be read: ${inWords(error)}`, { tone: 'stop' })
  }
}
</script>

<template>
  <article class="file">
    <p class="small where">
      <b class="figures">{{ file.path }}</b> · {{ file.owner }}, {{ file.mode }}<template v-if="after">
        · {{ after }}
      </template>
      <template v-if="file.after.is === 'reload'">
        · then <code class="figures">{{ file.after.command }}</code>
      </template>
    </p>
    <p
      v-if="file.secret"
      class="small caution"
    >
      {{ file.secret }}
    </p>
    <p
      v-if="file.needs"
      class="small"
    >
      {{ file.needs }}
    </p>
    <p
      v-if="file.collides"
      class="small caution"
      data-test="host-collides"
    >
      What lies there was changed where the plan would change it,
      or is not of Voltaris's writing: it is kept. Press Take the plan's to have the
      plan's text.
    </p>
    <div
      class="sheet lines"
      tabindex="0"
      role="region"
      :aria-label="file.path"
      data-test="host-text"
    >
      <template
        v-for="(row, i) in lines"
        :key="i"
      >
        <code class="figures">{{ row.line || ' ' }}</code><span class="small quiet">{{ row.words }}</span>
      </template>
    </div>
    <div class="acts">
      <v-btn
        size="x-small"
        variant="outlined"
        @click="copyText(file.text, file.what)"
      >
        Copy
      </v-btn>
      <v-btn
        size="x-small"
        variant="outlined"
        data-test="host-download"
        @click="download(file.path.split('/').at(-1)!, file.text, 'text/plain')"
      >
        Download
      </v-btn>
      <v-btn
        size="x-small"
        variant="outlined"
        data-test="host-written"
        @click="written"
      >
        It lies there now
      </v-btn>
      <v-btn
        size="x-small"
        variant="outlined"
        data-test="host-paste"
        @click="pasting = !pasting"
      >
        Something else lies there …
      </v-btn>
      <v-btn
        v-if="file.collides"
        size="x-small"
        color="primary"
        data-test="host-plans"
        @click="lies(file.path, undefined, 'Take the plan\'s')"
      >
        Take the plan's
      </v-btn>
      <span
        v-if="file.checkedBy"
        class="small quiet"
      >Check it there: <code class="figures">{{ file.checkedBy }}</code></span>
    </div>
    <div
      v-if="pasting"
      class="paste"
    >
      <v-textarea
        v-model="pasted"
        label="The file as it lies on the board"
        rows="5"
        class="figures"
        data-test="host-pasted"
      />
      <div class="acts">
        <v-btn
          size="small"
          color="primary"
          :disabled="!pasted"
          data-test="host-take"
          @click="take(pasted)"
        >
          Take it
        </v-btn>
        <FilePick
          label="Read the file"
          size="small"
          accept="text/plain,*"
          test="host-file"
          @files="picked"
        />
      </div>
    </div>
    <template v-if="there">
      <p class="small">
        {{ difference.length ? `${difference.length} lines differ from what lies there:` : 'It lies there as it should.' }}
      </p>
      <ol
        v-if="difference.length"
        class="difference figures sheet"
        tabindex="0"
        aria-label="Difference"
      >
        <li
          v-for="(line, i) in difference"
          :key="i"
          :class="line.kind"
        >
          {{ line.kind === 'added' ? '+' : '−' }} {{ line.text }}
        </li>
      </ol>
    </template>
  </article>
</template>

<style scoped>
.file { display: grid; gap: 6px; min-width: 0; }
.file p { margin: 0; }
.where { overflow-wrap: anywhere; }
.caution { color: var(--ochre); }
.lines { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 1px 12px; padding: 8px 10px; max-height: min(40vh,
  380px); overflow: auto; }
.lines code { white-space: pre-wrap; overflow-wrap: anywhere; font-size: 12.5px; }
.acts { display: flex; gap: 6px; flex-wrap: wrap; align-items: center; }
.paste { display: grid; gap: 6px; }
.difference { list-style: none; margin: 0; padding: 6px 10px; font-size: 12.5px; overflow: auto; max-height: 200px; white-space: pre; }
.added { background: var(--moss-wash); }
.removed { background: var(--carmine-wash); }
@media (max-width: 600px) { .lines { grid-template-columns: minmax(0, 1fr); } .lines span:not(:empty) { margin-bottom: 6px; } }
</style>
