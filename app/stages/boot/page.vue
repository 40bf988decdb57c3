<script setup lang="ts">
/** Boot files: read as they are, explained, mended, written with what the plan needs, rehearsed, and taken away. */
import { bundleOf, bootFileName, zipOf } from '~~/core/boot/bundle'
import { DeviceTreeError } from '~~/core/devicetree/types'

const project = useProjectStore()
const view = useViewStore()
const { boot, files, mergedNow } = useBoot()
const { take } = useBootIntake()
const VIEWS = [
  { id: 'files', name: 'Files' }, { id: 'rehearsal', name: 'Rehearsal' },
  { id: 'overlays', name: 'Overlays for parts' },
  { id: 'screen', name: 'Screen' }, { id: 'library', name: 'Library' }, { id: 'tree', name: 'Board tree' },
  { id: 'host', name: 'Other files' }, { id: 'programs', name: 'Example code' },
]
const shown = ref('files')
const over = ref(false)
const path = computed(() => boot.value?.path ?? project.facts?.board?.bootPath ?? '/boot/firmware/config.txt')
const name = computed(() => bootFileName(project.facts!))

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
    view.say(`The zip could not be made: ${error.message}. Take that overlay out, or drop its file again.`,
      { tone: 'stop' })
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
      <FilePick
        label="Read files"
        size="small"
        accept=".txt,.conf,.dts,.dtso,.dtsi,.h,.dtb,.dtbo,.zip,text/plain"
        multiple
        test="boot-file"
        @files="take"
      >
        <HoverHint text="Or drop them here: boot file, command line, overlays, a tree, or all of them in a zip" />
      </FilePick>
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
    <ViewTabs
      v-model="shown"
      :views="VIEWS"
      test="boot"
      label="View of the boot files"
    />
    <BootFiles
      v-if="shown === 'files'"
      @rehearse="shown = 'rehearsal'"
    />
    <LazyBootRehearsal v-else-if="shown === 'rehearsal'" />
    <LazyBootOverlays v-else-if="shown === 'overlays'" />
    <LazyBootScreen v-else-if="shown === 'screen'" />
    <LazyBootLibrary v-else-if="shown === 'library'" />
    <LazyBootTree v-else-if="shown === 'tree'" />
    <LazyBootHost v-else-if="shown === 'host'" />
    <LazyBootPrograms v-else />
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
