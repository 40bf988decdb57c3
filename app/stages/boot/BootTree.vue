<script setup lang="ts">
/**
 * A board from its own tree: controllers, pin groups and names; with a table of positions it becomes a board that
 * plans work against.
 */
import { boardFromTree } from '~~/core/devicetree/board/catalogue'
import { positionsFromNames, readPositions } from '~~/core/devicetree/board/positions'
import { overlayTarget, type BoardProfile } from '~~/core/devicetree/board/profile'
import { base64Of, bytesOf } from '~~/core/boot/bytes'
import { baseSource } from '~~/core/devicetree/bases/base'

const project = useProjectStore()
const view = useViewStore()
const { boot, board, setBoot } = useBoot()
const { ask, stop } = useBootWorker()
const profile = shallowRef<BoardProfile | null>(null)
const reading = ref(false)
const failed = ref<string | null>(null)
const fileName = ref('')
const table = ref('')
const name = ref('')
const onlyHeader = ref(false)
const read = computed(() => readPositions(table.value))
const made = computed(() => profile.value && read.value.rows.length > 1
  ? boardFromTree(profile.value, read.value.rows, { id: idOf(name.value || profile.value.model), name: name.value })
  : null)
const controllers = computed(() =>
  profile.value?.controllers.filter(entry =>
    !onlyHeader.value || made.value?.board.controllers.some(other => other.id === entry.labels[0]))
  ?? [])

type Controller = typeof controllers.value[number]
const pinsOf = (entry: Controller) => entry.groups.flatMap(group => group.pins).slice(0, 10)
const CONTROLLERS_PX = 460
const COLUMNS = [
  { key: 'kind', title: 'Kind',
    value: (entry: Controller) => entry.number === null ? entry.kind : `${entry.kind} ${entry.number}` },
  { key: 'status', title: 'Status', value: (entry: Controller) => entry.status },
  {
    key: 'target', title: 'An overlay names it',
    value: (entry: Controller) => profile.value ? overlayTarget(profile.value, entry) : '',
  },
  { key: 'pins', title: 'Pins', value: (entry: Controller) => pinsOf(entry).length },
]

const idOf = (text: string) =>
  `own-${text.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 40) || 'board'}`

async function open(bytes: Uint8Array, from: string) {
  reading.value = true
  failed.value = null
  try {
    const answer = await ask(service => service.profile(bytes))
    if (!answer) return
    profile.value = answer
    fileName.value = from
    name.value = answer.model
    const rows = positionsFromNames(answer)
    table.value = rows.map(row => `${row.position} ${Math.floor(row.line! / 32)}-${row.line! % 32}`).join('\n')
  }
  catch (error) {
    failed.value = `${from}: ${(error as Error).message}`
  }
  finally {
    reading.value = false
  }
}

/** The shipped tree of the plan's board, as an example of what can be seen. Nothing of the plan changes. */
async function openSample() {
  reading.value = true
  failed.value = null
  try {
    const copy = JSON.parse(JSON.stringify(board.value))
    const answer = await ask(service => service.sample(copy))
    if (!answer) return
    profile.value = answer
    fileName.value = `the sample that ships for ${board.value!.name}`
    name.value = answer.model
  }
  catch (error) {
    failed.value = `The sample: ${(error as Error).message}`
  }
  finally {
    reading.value = false
  }
}

async function chosen([file]: File[]) {
  if (!file) return
  if (file.size > 8 * 1024 * 1024) {
    return void (failed.value = `${file.name} has ${(file.size / 1024 / 1024).toFixed(1)} MiB; a device tree `
      + 'is far smaller.')
  }
  const bytes = new Uint8Array(await file.arrayBuffer())
  await open(bytes, file.name)
  if (profile.value && !failed.value && bytes.length <= 740_000) {
    setBoot({ base: { name: file.name, content: base64Of(bytes) } }, `Rehearse on ${file.name}`)
  }
}

onMounted(() => boot.value?.base && open(bytesOf(boot.value.base.content), boot.value.base.name))
onBeforeUnmount(stop)

function keep() {
  if (!made.value) return
  project.edit(
    { edit: 'all', edits: [{ edit: 'keep-own-board', board: made.value.board },
      { edit: 'choose-board', board: made.value.board.id }] },
    `Plan on ${made.value.board.name}`,
  )
  view.say(
    `${made.value.board.name} is the board of the plan now: ${made.value.board.controllers.length} `
    + 'controllers on its header.',
    { action: { label: 'Undo', run: project.undo } },
  )
}

function drop() {
  const { base: _, ...rest } = boot.value!
  project.edit({ edit: 'set-boot', boot: rest }, 'Rehearse on the base tree that ships')
  profile.value = null
  fileName.value = ''
}
</script>

<template>
  <div>
    <div class="row">
      <FilePick
        label="Open a .dtb"
        size="small"
        color="primary"
        variant="flat"
        :disabled="reading"
        accept=".dtb"
        test="tree-file"
        @files="chosen"
      />
      <v-btn
        v-if="board"
        size="small"
        variant="outlined"
        @click="download(`${board.id}.dts`, baseSource(board), 'text/plain')"
      >
        Base tree of {{ board.name }}
        <HoverHint text="Our own and minimal: for rehearsing, not for starting a board" />
      </v-btn>
      <v-btn
        v-if="boot?.base"
        size="small"
        variant="outlined"
        @click="drop"
      >
        Take {{ boot.base.name }} out
      </v-btn>
      <span
        class="small quiet"
        role="status"
      >{{ reading ? 'Reading …' : profile ? fileName
        : 'The tree of your image: in the folder of its boot files, or /sys/firmware/fdt on the running board.' }}</span>
    </div>
    <p
      v-if="failed"
      class="trouble"
      role="alert"
    >
      {{ failed }} Nothing was changed.
    </p>
    <template v-if="profile">
      <p data-test="tree-summary">
        <b>{{ profile.model || 'No model named' }}</b> <span class="quiet small figures">{{ profile.compatible.join(', ') }}</span><br>
        <span class="small">{{ profile.controllers.length }} controllers, {{ profile.groups.length }} pin
          groups<template v-if="profile.bindings.length"> ({{ profile.bindings.join(', ') }})</template>,
          {{ profile.lines.filter(line => line.name).length }} named lines;
          {{ profile.hasSymbols ? `${profile.labels.length} labels that overlays can name`
            : 'built without labels: overlays can only go on by path' }}.</span>
      </p>
      <div class="columns">
        <section>
          <div class="row">
            <h2>Controllers</h2><span class="spacer" />
            <v-checkbox-btn
              v-model="onlyHeader"
              label="on the header only"
            />
          </div>
          <SortTable
            class="pad sheet"
            :rows="controllers"
            :columns="COLUMNS"
            :row-key="entry => entry.path"
            caption="Controllers"
            :height="CONTROLLERS_PX"
          >
            <template #status="{ row }">
              <span :class="{ quiet: row.status !== 'okay' }">{{ row.status }}</span>
            </template>
            <template #target="{ row }">
              <span class="figures small">{{ overlayTarget(profile, row) }}</span>
            </template>
            <template #pins="{ row }">
              <span class="figures small"><span
                v-for="(pin, i) in pinsOf(row)"
                :key="i"
                :class="{ quiet: pin.isUnnamed }"
              >{{ i ? ' ' : '' }}{{ pin.name }}{{ pin.isUnnamed ? '?' : '' }}</span></span>
            </template>
          </SortTable>
          <p
            v-if="controllers.some(entry => entry.groups.some(group => group.pins.some(pin => pin.isUnnamed)))"
            class="small quiet"
          >
            With a question mark: the tree has no name for the pin, only the register or the group that it is found by.
          </p>
        </section>
        <section>
          <h2>Header positions</h2>
          <p class="small quiet">
            One a line: a position, then a line or rail. <code>3 PA12</code>, <code>5 1-22</code> (bank and pin), <code>1 3V3</code>,
            <code>6 GND</code>. Paste it from the board's own sheet.
          </p>
          <v-textarea
            v-model="table"
            class="text-file"
            rows="11"
            spellcheck="false"
            aria-label="Header positions"
            data-test="tree-positions"
          />
          <p
            v-for="problem in read.problems.slice(0, 5)"
            :key="problem.line"
            class="small trouble"
          >
            Line {{ problem.line }}: {{ problem.message }}.
          </p>
          <v-text-field
            v-model="name"
            class="name"
            label="Name"
            maxlength="100"
          />
          <template v-if="made">
            <p
              class="small"
              data-test="tree-made"
            >
              {{ made.board.header.length }} positions, {{ made.board.controllers.length }} controllers on them:
              {{ made.board.controllers.map(entry => entry.label).join(', ') || 'none' }}.
            </p>
            <p
              v-for="words in made.assumed"
              :key="words"
              class="small quiet"
            >
              {{ words }}
            </p>
            <v-btn
              size="small"
              color="primary"
              data-test="tree-keep"
              @click="keep"
            >
              Plan on this board
            </v-btn>
          </template>
        </section>
      </div>
    </template>
    <div
      v-else-if="!failed && !reading"
      class="nothing"
    >
      <p>With the device tree of a board, its <b>.dtb</b>, you can here</p>
      <ul>
        <li>see its controllers, with the labels that overlays name them by, and whether they are on;</li>
        <li>see its pin groups and the names of its lines;</li>
        <li>make a board of your own from it, with a table of header positions, and plan on that;</li>
        <li>rehearse starts on it, in place of the plain tree that ships.</li>
      </ul>
      <p class="quiet small">
        On a card it lies in the folder of the boot files; on the running board copy <span class="figures">/sys/firmware/fdt</span>.
      </p>
      <v-btn
        v-if="board"
        size="small"
        variant="outlined"
        data-test="tree-sample"
        @click="openSample"
      >
        Look at the shipped sample of {{ board.name }}
      </v-btn>
    </div>
  </div>
</template>

<style scoped>
.row { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-bottom: 8px; }
.spacer { flex: 1; }
.columns { display: grid; gap: 14px; grid-template-columns: minmax(0, 4fr) minmax(0, 3fr); margin-top: 8px; }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.pad :deep(td:first-child), .pad :deep(th:first-child) { padding-left: 10px; }
.pad :deep(td) { overflow-wrap: anywhere; }
section > * + * { margin-top: 6px; }
.name { max-width: 280px; }
.nothing { display: grid; gap: 8px; justify-items: start; max-width: 72ch; }
.nothing ul { margin: 0; padding-left: 20px; }
.trouble {
  background: var(--carmine-wash);
  border-left: 6px solid var(--carmine);
  padding: 6px 12px;
  border-radius: 4px;
  overflow-wrap: anywhere;
}
</style>
