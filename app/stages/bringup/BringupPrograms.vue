<script setup lang="ts">
/** Small programs for each part: what they do, their text in each language, how they start, what must be seen. */
import type { ProgramLanguage, SmallProgram } from '~~/core/first-programs/types'
import { zipOf } from '~~/core/documents/zip'
import { useSmallPrograms, type AskBringup } from './useSmallPrograms'

const { ask } = defineProps<{ ask: AskBringup }>()
const project = useProjectStore()
const { colourOf } = useOwners()
const copyText = useCopy()
const { made, failure } = useSmallPrograms(ask)

const NAMES: Readonly<Record<ProgramLanguage, string>> = {
  python: 'Python', c: 'C', shell: 'Shell', cpp: 'C++, its own', micropython: 'MicroPython, its own',
}
const TYPES: Readonly<Record<ProgramLanguage, string>> = {
  python: 'text/x-python', c: 'text/x-csrc', shell: 'text/x-shellscript', cpp: 'text/x-c++src',
  micropython: 'text/x-python',
}
interface Row { key: string, partId: string | null, name: string, title: string, programs: SmallProgram[] }
const nameOf = (partId: string | null) => project.plan?.parts.find(({ id }) => id === partId)?.name ?? 'The whole plan'
const rows = computed(() => {
  const found = new Map<string, Row>()
  for (const program of made.value?.programs ?? []) {
    const { partId, aim, title } = program
    const key = `${partId} ${aim}`
    const row = found.get(key) ?? { key, partId, name: nameOf(partId), title, programs: [] }
    row.programs.push(program)
    found.set(key, row)
  }
  return [...found.values()]
})
const chosen = ref<string | null>(null)
const language = ref<ProgramLanguage>('python')
const row = computed(() => rows.value.find(({ key }) => key === chosen.value) ?? rows.value[0])
const program = computed(() =>
  row.value?.programs.find(entry => entry.language === language.value) ?? row.value?.programs[0])

const copy = () => copyText(program.value!.text, 'The program', save)
const save = () => download(program.value!.file, program.value!.text, TYPES[program.value!.language])
function saveAll(): void {
  const files = made.value!.programs.map(({ file, text }) => ({ path: file, bytes: new TextEncoder().encode(text) }))
  download(fileName(project.plan!.name, '-programs.zip'), zipOf(files), 'application/zip')
}
</script>

<template>
  <p
    v-if="failure"
    class="problem"
    role="alert"
  >
    {{ failure }}
  </p>
  <p
    v-else-if="!made"
    class="quiet"
    aria-live="polite"
  >
    Programs are being written …
  </p>
  <p
    v-else-if="!rows.length"
    class="quiet"
    data-test="programs-empty"
  >
    No program yet: choose a board, and give your parts their places.
    <template v-if="made.without.length">
      {{ made.without.map(({ name, why }) => `${name}: ${why}`).join(' ') }}
    </template>
  </p>
  <div
    v-else
    class="columns"
  >
    <section>
      <div class="row">
        <p class="small quiet grows">
          They try one part each, with this plan's lines, addresses and ports. Python needs nothing beside itself, C the image's compiler,
          shell the tools that it names.
        </p>
        <v-btn
          size="small"
          variant="outlined"
          data-test="programs-all"
          @click="saveAll"
        >
          Save all
        </v-btn>
      </div>
      <ul
        class="sheet list"
        data-test="programs-list"
      >
        <li
          v-for="entry in rows"
          :key="entry.key"
          :class="{ chosen: entry.key === row?.key }"
          :style="{ '--owner': entry.partId ? colourOf(entry.partId) : 'transparent' }"
        >
          <v-btn
            variant="text"
            class="grows shows"
            :aria-pressed="entry.key === row?.key"
            :data-test="`program-${entry.programs[0]!.file}`"
            @click="chosen = entry.key"
          >
            <span class="words">
              <span class="owner-swatch" /> <b>{{ entry.name }}</b>
              <span class="small quiet block">{{ entry.title }} · {{ entry.programs.map(one => NAMES[one.language]).join(', ') }}</span>
            </span>
          </v-btn>
        </li>
      </ul>
      <section
        v-if="made.without.length"
        class="small quiet"
      >
        <h2>Without a program</h2>
        <p
          v-for="entry in made.without"
          :key="entry.partId"
        >
          <b>{{ entry.name }}</b>: {{ entry.why }}
        </p>
      </section>
    </section>
    <section v-if="row && program">
      <div class="row">
        <h2>{{ row.name }}: {{ row.title.toLowerCase() }}</h2>
        <span class="spacer" />
        <v-btn-toggle
          v-if="row.programs.length > 1"
          :model-value="program.language"
          mandatory
          aria-label="Language"
          @update:model-value="(value: ProgramLanguage) => language = value"
        >
          <v-btn
            v-for="one in row.programs"
            :key="one.language"
            :value="one.language"
            :data-test="`language-${one.language}`"
          >
            {{ NAMES[one.language] }}
          </v-btn>
        </v-btn-toggle>
      </div>
      <p
        v-for="caution in program.cautions"
        :key="caution"
        class="small caution"
      >
        {{ caution }}
      </p>
      <p class="small">
        Start: <template
          v-for="(line, i) in program.start"
          :key="line"
        >
          <template v-if="i">
            , then
          </template><code class="figures">{{ line }}</code>
        </template>
      </p>
      <ul class="small see">
        <li
          v-for="line in program.see"
          :key="line"
        >
          {{ line }}
        </li>
      </ul>
      <div class="row">
        <span class="small quiet figures grows">{{ program.file }}</span>
        <v-btn
          size="small"
          variant="text"
          data-test="program-copy"
          @click="copy"
        >
          Copy
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          data-test="program-save"
          @click="save"
        >
          Save
        </v-btn>
      </div>
      <pre
        class="sheet source figures"
        tabindex="0"
        role="region"
        :aria-label="program.file"
        data-test="program-text"
      >{{ program.text }}</pre>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; gap: 14px; grid-template-columns: minmax(0, 3fr) minmax(0, 6fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.list { list-style: none; margin: 6px 0 10px; padding: 0; max-height: 62vh; overflow: auto; }
.list li { padding: 6px 10px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.chosen { background: color-mix(in srgb, var(--copper) 10%, transparent); }
.block { display: block; overflow-wrap: anywhere; white-space: normal; }
.shows { justify-content: start; font-weight: 400; padding: 0; width: 100%; height: auto; }
.words { text-align: start; }
.row { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.grows { flex: 1; }
.spacer { flex: 1; }
.caution { color: var(--ochre); }
.see { margin: 4px 0 8px; padding-inline-start: 18px; }
.source { margin: 6px 0 0; padding: 10px 12px; font-size: 12.5px; line-height: 1.5; overflow: auto; max-height: 56vh; tab-size: 4; }
.problem { color: var(--carmine); font-weight: 600; }
</style>
