<script setup lang="ts">
/** The overlay library: parameters, what each takes, what appears; a line of it can be written into the file. */
import { appearsOf, OVERLAYS, resolveOverlay } from '~~/core/overlays/library'
import { claimWords } from '~~/core/boot/explain'
import { CONFIRMED_BY, confirmedOf } from '~~/core/overlays/library/confirmed'

const project = useProjectStore()
const view = useViewStore()
const { board, files, setFile } = useBoot()
const search = ref('')
const name = ref<string | null>(null)
const shown = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean)
  return [...OVERLAYS.values()].filter(spec => words.every(
    word => `${spec.name} ${spec.what} ${spec.group} ${Object.keys(spec.choices ?? {}).join(' ')}`
      .toLowerCase()
      .includes(word),
  ))
})
const spec = computed(() => OVERLAYS.get(name.value ?? '') ?? shown.value[0] ?? null)
const confirmed = computed(() => spec.value ? confirmedOf(spec.value) : [])
/** Names by the file that has them. */
const byFile = computed(() => [...new Set(confirmed.value.map(entry => entry.file))]
  .map(file => ({ file, names: confirmed.value.filter(entry => entry.file === file).map(entry => entry.compatible) })))
const resolved = computed(() => spec.value
  ? resolveOverlay(spec.value, Object.keys(spec.value.choices ?? {}).slice(0, 1).map(choice => ({ name: choice, value: '' })))
  : null)

function write() {
  const { text } = files.value
  const newline = text.includes('\r\n') ? '\r\n' : '\n'
  const line = `dtoverlay=${spec.value!.name}${spec.value!.choices ? `,${Object.keys(spec.value!.choices)[0]}` : ''}`
  setFile('', `${text}${text && !text.endsWith('\n') ? newline : ''}${line}${newline}`, `Write ${line}`)
  view.say(`Written at the end: ${line}`, { action: { label: 'Undo', run: project.undo } })
}
</script>

<template>
  <div class="columns">
    <section>
      <label class="find"><span class="only-reader">Find an overlay</span><input
        v-model="search"
        type="search"
        placeholder="Find: clock, screen, can, ds3231 …"
        data-test="library-search"
      ></label>
      <ul
        class="sheet list"
        data-test="library-list"
        tabindex="0"
        aria-label="Overlays"
      >
        <li
          v-for="entry in shown"
          :key="entry.name"
        >
          <button
            class="bare"
            :aria-pressed="spec?.name === entry.name"
            @click="name = entry.name"
          >
            <b class="figures">{{ entry.name }}</b> <span class="quiet small">{{ entry.what }}</span>
          </button>
        </li>
        <li
          v-if="!shown.length"
          class="quiet"
        >
          None of the {{ OVERLAYS.size }} overlays has these words. Drop the overlay's own file, and it is read.
        </li>
      </ul>
      <p class="quiet small">
        {{ shown.length }} of {{ OVERLAYS.size }}. The library is from memory: the README of your image's overlays has the last word. What
        a binding of {{ CONFIRMED_BY }} confirms says so.
      </p>
    </section>
    <section v-if="spec && resolved">
      <div class="row">
        <h2 class="figures">
          {{ spec.name }}
        </h2>
        <span class="spacer" />
        <v-btn
          v-if="files.dialect === 'key-value'"
          size="x-small"
          color="primary"
          data-test="library-write"
          @click="write"
        >
          Write it into the file
        </v-btn>
      </div>
      <p>{{ spec.what.charAt(0).toUpperCase() + spec.what.slice(1) }}. {{ claimWords(resolved, board) }}</p>
      <p
        v-if="spec.caution"
        class="caution small"
      >
        {{ spec.caution }}
      </p>
      <p class="small quiet">
        <template v-if="spec.origin !== 'memory'">
          From: {{ spec.origin }}.
        </template>
        <template v-if="confirmed.length">
          <b class="confirmed">✓ {{ CONFIRMED_BY }}</b> knows its
          {{ confirmed.length === 1 ? 'part' : `${confirmed.length} kinds of part` }}:
          <span
            v-for="(entry, i) in byFile"
            :key="entry.file"
          >{{ i ? '; ' : '' }}<span class="figures">{{ entry.names.slice(0, 4).join(' ') }}{{ entry.names.length > 4 ? ' …' : '' }}</span>
            ({{ entry.file }})</span>.
        </template>
        <template v-if="spec.excludes?.length">
          Not together with {{ spec.excludes.join(', ') }}.
        </template>
      </p>
      <v-table class="sheet pad">
        <thead>
          <tr>
            <th scope="col">
              Parameter
            </th><th scope="col">
              What
            </th><th scope="col">
              Usual
            </th><th scope="col">
              Range
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="param in spec.params"
            :key="param.name"
          >
            <td class="figures">
              {{ param.name }}
            </td><td>{{ param.what }}</td><td class="figures">
              {{ param.default ?? '' }}
            </td><td class="small">
              {{ param.values ? param.values.join(', ') : param.kind === 'flag' ? 'on, off' : param.min !== undefined
                ? `${param.min} to ${param.max}` : '' }}
            </td>
          </tr>
          <tr v-if="!spec.params.length">
            <td
              colspan="4"
              class="quiet"
            >
              It has no parameters.
            </td>
          </tr>
        </tbody>
      </v-table>
      <p
        v-for="entry in appearsOf(resolved)"
        :key="entry.path"
        class="small"
      >
        Appears: <b class="figures">{{ entry.path }}</b>, {{ entry.what }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; gap: 14px; grid-template-columns: minmax(0, 2fr) minmax(0, 3fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.find input {
  width: 100%;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: 4px;
  padding: 6px 10px;
  font: inherit;
  margin-bottom: 8px;
}
.list { list-style: none; margin: 0 0 8px; padding: 0; max-height: 60vh; overflow: auto; }
.list li { border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); padding: 0; }
.list button { display: block; width: 100%; padding: 5px 10px; overflow-wrap: anywhere; }
.list button[aria-pressed='true'] {
  background: color-mix(in srgb, var(--copper) 12%, transparent);
  box-shadow: inset 3px 0 0 var(--copper);
}
.list .quiet:only-child { padding: 10px; }
.row { display: flex; gap: 8px; align-items: center; margin-bottom: 4px; }
.spacer { flex: 1; }
.pad { margin: 8px 0; }
.pad td:first-child, .pad th:first-child { padding-left: 10px; }
.caution { color: var(--ochre); }
.confirmed { color: var(--moss, var(--ink)); }
</style>
