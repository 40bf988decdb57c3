<script setup lang="ts">
/** The overlay library: parameters, what each takes, what appears; a line of it can be written into the file. */
import { appearsOf, OVERLAYS, resolveOverlay } from '~~/core/overlays/library'
import { claimWords } from '~~/core/boot/explain'
import { CONFIRMED_BY, confirmedOf } from '~~/core/overlays/library/confirmed'

const project = useProjectStore()
const view = useViewStore()
const { board, files, setFile } = useBoot()
const search = ref<string | null>('')
const name = ref<string | null>(null)
const shown = computed(() => {
  const words = (search.value ?? '').toLowerCase().split(/\s+/).filter(Boolean)
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
  ? resolveOverlay(spec.value,
      Object.keys(spec.value.choices ?? {}).slice(0, 1).map(choice => ({ name: choice, value: '' })))
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
      <v-text-field
        v-model="search"
        class="find"
        type="search"
        label="Find an overlay"
        placeholder="clock, screen, can, ds3231 …"
        clearable
        data-test="library-search"
      />
      <div
        class="sheet list"
        data-test="library-list"
        role="group"
        aria-label="Overlays"
      >
        <v-virtual-scroll
          :items="shown"
          :item-height="46"
          height="min(56vh, 520px)"
          tabindex="0"
        >
          <template #default="{ item: entry }">
            <v-list-item
              :active="spec?.name === entry.name"
              color="primary"
              lines="two"
              :aria-current="spec?.name === entry.name ? 'true' : undefined"
              @click="name = entry.name"
            >
              <v-list-item-title class="figures">
                {{ entry.name }}
              </v-list-item-title>
              <v-list-item-subtitle>{{ entry.what }}</v-list-item-subtitle>
            </v-list-item>
          </template>
        </v-virtual-scroll>
        <p
          v-if="!shown.length"
          class="quiet none"
        >
          None of the {{ OVERLAYS.size }} overlays has these words. Drop the overlay's own file, and it is read.
        </p>
      </div>
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
.find { margin-bottom: 8px; }
.list { padding: 0; margin-bottom: 8px; }
.none { padding: 10px; }
.row { display: flex; gap: 8px; align-items: center; margin-bottom: 4px; }
.spacer { flex: 1; }
.pad { margin: 8px 0; }
.pad td:first-child, .pad th:first-child { padding-left: 10px; }
.caution { color: var(--ochre); }
.confirmed { color: var(--moss, var(--ink)); }
</style>
