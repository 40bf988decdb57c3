<script setup lang="ts">
/** Boot files: read as they are, explained, mended, written with what the plan needs, rehearsed, and taken away. */
import { bundleOf, bootFileName, zipOf } from '~~/core/boot/bundle'
import { DeviceTreeError } from '~~/core/devicetree/types'

const project = useProjectStore()
const view = useViewStore()
const { boot, files, mergedNow } = useBoot()
const { take } = useBootIntake()
const VIEWS = [
  ['files', 'Files'], ['rehearsal', 'Rehearsal'], ['overlays', 'Overlays for parts'], ['screen', 'Screen'], ['library', 'Library'],
  ['tree', 'Board tree'],
] as const
const shown = ref<typeof VIEWS[number][0]>('files')
const picker = useTemplateRef<HTMLInputElement>('picker')
const over = ref(false)
const path = computed(() => boot.value?.path ?? project.facts?.board?.bootPath ?? '/boot/firmware/config.txt')
const name = computed(() => bootFileName(project.facts!))

async function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  const list = [...input.files ?? []]
  input.value = ''
  await take(list)
}

async function dropped(event: DragEvent) {
  over.value = false
  if (event.dataTransfer?.files.length) await take([...event.dataTransfer.files])
}

function dragged(event: DragEvent) {
  if (event.dataTransfer?.types.includes('Files')) over.value = true
}

function takeFile() {
  download(name.value, encodeBoot(mergedNow(), boot.value?.encoding), 'text/plain')
}

function takeZip() {
  try {
    const bundle = bundleOf(project.facts!)
    download(fileName(project.plan!.name, '-boot.zip'), zipOf(bundle), 'application/zip')
    view.say(`${bundle.length} files: ${bundle.map(file => file.path).join(', ')}.`)
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    view.say(`The zip could not be made: ${error.message}. Take that overlay out, or drop its file again.`, { tone: 'stop' })
  }
}
</script>

<template>
  <div
    class="boot"
    :class="{ over }"
    @dragover.prevent="dragged"
    @dragleave.self="over = false"
    @drop.prevent="dropped"
  >
    <div class="stage-head">
      <h1>Boot files</h1>
      <span class="quiet figures small">{{ path }}</span>
      <span class="spacer" />
      <input
        ref="picker"
        type="file"
        multiple
        accept=".txt,.conf,.dts,.dtso,.dtsi,.h,.dtb,.dtbo,.zip,text/plain"
        hidden
        data-test="boot-file"
        @change="chosen"
      >
      <v-btn
        size="small"
        variant="outlined"
        title="Or drop them here: boot file, command line, overlays, a tree, or all of them in a zip"
        @click="picker?.click()"
      >
        Read files
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        data-test="download-boot"
        @click="takeFile"
      >
        Download {{ name }}
      </v-btn>
      <v-btn
        size="small"
        color="primary"
        data-test="download-zip"
        @click="takeZip"
      >
        Download all as a zip
      </v-btn>
    </div>
    <div
      class="switch"
      role="group"
      aria-label="View"
    >
      <button
        v-for="[id, label] in VIEWS"
        :key="id"
        :aria-pressed="shown === id"
        :data-test="`boot-${id}`"
        @click="shown = id"
      >
        {{ label }}
      </button>
    </div>
    <BootFiles
      v-if="shown === 'files'"
      @rehearse="shown = 'rehearsal'"
    />
    <LazyBootRehearsal v-else-if="shown === 'rehearsal'" />
    <LazyBootOverlays v-else-if="shown === 'overlays'" />
    <LazyBootScreen v-else-if="shown === 'screen'" />
    <LazyBootLibrary v-else-if="shown === 'library'" />
    <LazyBootTree v-else />
    <p
      v-if="over"
      class="drop-here"
      role="status"
    >
      Let go: the files sort themselves. The present ones are kept.
    </p>
    <span
      class="only-reader"
      data-test="boot-dialect"
    >{{ files.dialect }}</span>
  </div>
</template>

<style scoped>
.boot { position: relative; min-height: 100%; }
.stage-head { align-items: center; gap: 8px; margin-bottom: 8px; }
.switch { display: inline-flex; flex-wrap: wrap; border: 1px solid var(--rule); border-radius: 4px; overflow: hidden; margin-bottom: 10px; }
.switch button {
  background: var(--sheet);
  color: var(--ink);
  border: 0;
  border-right: 1px solid var(--rule);
  padding: 4px 12px;
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}
.switch button:last-child { border-right: 0; }
.switch button[aria-pressed='true'] { background: var(--bar); color: var(--bar-ink); font-weight: 650; }
.over { outline: 3px dashed var(--copper); outline-offset: 4px; }
.drop-here {
  position: absolute;
  inset: auto 0 12px;
  text-align: center;
  font-weight: 650;
  background: var(--copper-wash);
  padding: 10px;
  border-radius: 4px;
}
</style>
