<script setup lang="ts">
/**
 * The files themselves: an editor for each, and beside it what every line does, what the plan would change, whose lines
 * are whose, and earlier files.
 */
import type { Grammar } from '~~/core/boot/dialects/tokens'
import { COMMAND_FILE } from '~~/core/boot/scope/effective'

defineEmits<{ rehearse: [] }>()
const project = useProjectStore()
const { colourOf, nameOf } = useOwners()
const { boot, files, findings, explained, replaceFiles, mergedNow, setBoot } = useBoot()
const after = computed(() => project.report!.boot)
const file = ref('')
const SIDES = [
  { id: 'lines', name: 'Line by line' }, { id: 'difference', name: 'Difference' }, { id: 'owners', name: 'Owners' },
  { id: 'earlier', name: 'Earlier' },
]
const side = ref('lines')
const editor = useTemplateRef<{ goTo: (line: number) => void, focus: () => void }>('editor')
const view = useViewStore()

const tabs = computed(() => [
  {
    id: '', name: (boot.value?.path ?? project.facts?.board?.bootPath ?? 'config.txt').split('/').at(-1)!,
    grammar: files.value.dialect as Grammar, text: files.value.text,
  },
  ...files.value.dialect === 'key-value'
    ? [{ id: COMMAND_FILE, name: COMMAND_FILE, grammar: 'command-line' as Grammar,
        text: files.value.commandLine ?? '' }]
    : [],
  ...Object.entries(files.value.includes ?? {})
    .map(([id, text]) => ({ id, name: id, grammar: 'key-value' as Grammar, text })),
  ...(files.value.overlays ?? [])
    .filter(overlay => overlay.kind === 'source')
    .map(({ name, content }) => ({ id: name, name: `${name}.dts`, grammar: 'source' as Grammar, text: content })),
])
const tab = computed(() => tabs.value.find(entry => entry.id === file.value) ?? tabs.value[0]!)
const blobs = computed(() => (files.value.overlays ?? []).filter(overlay => overlay.kind === 'blob'))
/** Parts that lines of the file in view belong to. */
const lineOwners = computed(() =>
  [...new Set(explained.value.filter(line => line.file === tab.value.id).flatMap(line => line.partIds))])
const troubles = (id: string) =>
  findings.value.filter(finding => finding.file === id && finding.severity !== 'note').length

function write() {
  replaceFiles({ text: mergedNow() }, 'Write the plan\'s lines into the boot file')
  view.say('Written. The file before is kept under "Earlier".', { action: { label: 'Undo', run: project.undo } })
}

async function show(id: string, line: number) {
  file.value = id
  await nextTick()
  editor.value?.goTo(line)
}

function drop(name: string) {
  setBoot({ overlays: boot.value!.overlays!.filter(overlay => overlay.name !== name) }, `Take ${name} out`)
}

/** A finding chosen in the drawer leads to its line. */
watch(() => view.marked, (subjects) => {
  const text = subjects.find(subject => subject.text)?.text
  if (text) void show(text.file, text.line)
})
</script>

<template>
  <div>
    <p
      class="lead"
      role="status"
    >
      <template v-if="project.isReading">
        The file is long: it is being read beside the page. What is wrong with it, and what the plan wants of it, comes in a moment.
      </template>
      <template v-else-if="after.changes.length">
        The plan asks for <b>{{ after.changes.length }}</b> {{ after.changes.length === 1 ? 'change' : 'changes' }}; every other byte stays
        as it is. All of it is read at the start: restart once.
        <v-btn
          size="x-small"
          color="primary"
          class="inline"
          data-test="write-boot"
          @click="write"
        >
          Write the lines in
        </v-btn>
        <v-btn
          size="x-small"
          variant="outlined"
          class="inline"
          data-test="show-difference"
          @click="side = 'difference'"
        >
          Show the difference
        </v-btn>
      </template>
      <template v-else-if="after.needs.length">
        The file has all that the plan needs.
        <v-btn
          size="x-small"
          variant="outlined"
          class="inline"
          data-test="to-rehearsal"
          @click="$emit('rehearse')"
        >
          Rehearse the start
        </v-btn>
      </template>
      <template v-else>
        The plan needs nothing of the boot file yet. Paste yours, or drop it here, and it is read and explained all the same.
      </template>
    </p>
    <div class="columns">
      <section class="left">
        <v-tabs
          :model-value="tab.id"
          class="files"
          aria-label="Files"
          show-arrows
          @update:model-value="id => file = String(id)"
        >
          <v-tab
            v-for="entry in tabs"
            :key="entry.id"
            :value="entry.id"
            :data-test="`file-${entry.name}`"
          >
            {{ entry.name }}<span
              v-if="troubles(entry.id)"
              class="count figures"
            >{{ troubles(entry.id) }}<span class="only-reader"> to mend</span></span>
          </v-tab>
        </v-tabs>
        <div
          v-if="blobs.length"
          class="blobs"
        >
          <v-chip
            v-for="blob in blobs"
            :key="blob.name"
            closable
            :close-label="`Take ${blob.name} out`"
            @click:close="drop(blob.name)"
          >
            {{ blob.name }}.dtbo
          </v-chip>
        </div>
        <BootEditor
          :key="tab.id"
          ref="editor"
          class="editor-box"
          :file="tab.id"
          :grammar="tab.grammar"
          :text="tab.text"
        />
        <p
          v-if="lineOwners.length"
          class="owners small quiet"
        >
          A mark before a line says whose it is:
          <span
            v-for="id in lineOwners"
            :key="id"
            :style="{ '--owner': colourOf(id) }"
          ><span class="owner-swatch" /> {{ nameOf(id) }}</span>
        </p>
      </section>
      <section class="right">
        <ViewTabs
          v-model="side"
          :views="SIDES"
          test="side"
          label="Beside the file"
        />
        <BootExplained
          v-if="side === 'lines'"
          :file="tab.id"
          @go="show"
        />
        <BootDifference v-else-if="side === 'difference'" />
        <BootOwners v-else-if="side === 'owners'" />
        <BootEarlier v-else />
      </section>
    </div>
  </div>
</template>

<style scoped>
.lead { margin-bottom: 8px; max-width: 110ch; }
.inline { margin-left: 6px; vertical-align: baseline; }
.columns { display: grid; gap: 12px; grid-template-columns: minmax(0, 11fr) minmax(0, 9fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.files { margin-bottom: 0; }
.count { background: var(--ochre); color: var(--sheet); border-radius: 8px; padding: 0 6px; margin-left: 6px; font-size: 11.5px; }
.blobs { display: flex; flex-wrap: wrap; gap: 6px; padding: 6px 0; }
.owners { display: flex; flex-wrap: wrap; gap: 2px 12px; margin-top: 4px; }
.right :deep(.v-tabs) { margin-bottom: 0; }
.editor-box { height: min(58vh, 560px); border-top-left-radius: 0; }
.right > :last-child { height: min(58vh, 560px); overflow: auto; }
</style>
