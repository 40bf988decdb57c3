<script setup lang="ts">
/** What else the board must be told: said on the left, the files that follow from it on the right. */
import { nameInBundle } from '~~/core/host/bundle'
import { matrixSize } from '~~/core/host/matrix'
import { zipOf } from '~~/core/documents/zip'

const project = useProjectStore()
const view = useViewStore()
const { made } = useHost()
const chosen = ref<string | null>(null)
const file = computed(() => made.value.files.find(({ path }) => path === chosen.value) ?? made.value.files[0] ?? null)
const matrices = computed(() => project.facts!.parts.filter(owner => matrixSize(owner) !== null))

function takeAll() {
  const bytes = (text: string) => new TextEncoder().encode(text)
  const files = made.value.files.map(entry => ({ path: nameInBundle(entry), bytes: bytes(entry.text) }))
  const bundle = made.value.script ? [...files, { path: 'apply.sh', bytes: bytes(made.value.script) }] : files
  download(fileName(project.plan!.name, '-files.zip'), zipOf(bundle), 'application/zip')
  view.say(`${bundle.length} files: ${bundle.map(({ path }) => path).join(', ')}.`)
}
</script>

<template>
  <div class="columns">
    <section class="said">
      <BootHostBoard />
      <BootHostNetwork />
      <BootHostRuns />
      <BootHostNames />
      <BootKeyMatrix
        v-for="owner in matrices"
        :key="owner.id"
        :part-id="owner.id"
      />
      <BootHostKeeps />
      <BootHostRecord />
    </section>
    <section class="made">
      <div class="row">
        <h2>Files that follow</h2>
        <span class="spacer" />
        <v-btn
          v-if="made.files.length"
          size="small"
          color="primary"
          data-test="host-zip"
          @click="takeAll"
        >
          Download all{{ made.script ? ', with a script' : '' }}
        </v-btn>
      </div>
      <p
        v-if="!made.files.length"
        class="quiet"
        data-test="host-none"
      >
        Nothing is said yet. Name the board, give it an address, or say which program starts by itself: the files come here,
        line by line with
        what each line does.
      </p>
      <template v-else>
        <div
          class="list sheet"
          role="group"
          aria-label="Files"
          data-test="host-files"
        >
          <v-list-item
            v-for="entry in made.files"
            :key="entry.path"
            density="compact"
            :active="entry === file"
            color="primary"
            :aria-current="entry === file ? 'true' : undefined"
            @click="chosen = entry.path"
          >
            <v-list-item-title>{{ entry.what }}</v-list-item-title>
            <v-list-item-subtitle class="figures">
              {{ entry.path }}{{ entry.collides ? ' · kept as it lies there' : '' }}
            </v-list-item-subtitle>
          </v-list-item>
        </div>
        <BootHostFile
          v-if="file"
          :key="file.path"
          :file="file"
        />
      </template>
      <template v-if="made.switchedOn.length">
        <h2>What is switched on, and what it opens</h2>
        <ul
          class="opens"
          data-test="host-opens"
        >
          <li
            v-for="entry in made.switchedOn"
            :key="entry.what"
          >
            <b>{{ entry.what }}</b>, by {{ entry.by }}. {{ entry.opens }}
          </li>
        </ul>
      </template>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 4fr) minmax(0, 5fr); gap: 16px; margin-top: 6px; }
.said { display: grid; gap: 4px; align-content: start; }
.made { min-width: 0; display: grid; gap: 8px; align-content: start; }
.row { display: flex; gap: 8px; align-items: center; }
.spacer { flex: 1; }
.list { padding: 0; max-height: 190px; overflow: auto; }
.opens { margin: 0; padding-left: 18px; }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
