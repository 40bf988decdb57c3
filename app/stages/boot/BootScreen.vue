<script setup lang="ts">
/** Lines for a screen: driver, mode by CVT, rotation, and the matrix that turns the touch along. */
import { displayDriverOf, type DisplayDriver } from '~~/core/boot/lint/screen'
import { screenLines, TOUCH_MATRIX, type Rotation, type ScreenWish } from '~~/core/boot/display/lines'

const project = useProjectStore()
const view = useViewStore()
const { effective, files, replaceFiles } = useBoot()
const driver = ref<DisplayDriver>(displayDriverOf({ effective: effective.value }))
const path = ref<ScreenWish['path']>('video')
const second = ref(false)
const own = ref(true)
const width = ref(1024)
const height = ref(600)
const rate = ref(60)
const reduced = ref(false)
const rotation = ref<Rotation>(0)
const DRIVERS = [
  { value: 'full', title: 'full: the kernel sets the mode' },
  { value: 'firmware', title: 'firmware sets the mode, older' },
  { value: 'legacy', title: 'none, the firmware alone' },
]
const PATHS = [
  { value: 'video', title: 'video cable' }, { value: 'connector', title: 'display connector' },
  { value: 'parallel', title: 'parallel lines of the header' },
]
const ROTATIONS = ([0, 90, 180, 270] as const).map(value => ({ value, title: `${value}°` }))
const touch = ref(true)

/** Screens of the plan, to start from. */
const screens = computed(() => project.facts!.parts.flatMap(owner => owner.part.display
  && (owner.part.display.picture === 'video' || owner.part.display.picture === 'flat cable')
  ? [owner]
  : []))
const [screen] = screens.value
if (screen?.part.display) {
  width.value = screen.part.display.width
  height.value = screen.part.display.height
  if (screen.part.display.picture === 'flat cable') path.value = 'connector'
}

const worked = computed(() => {
  try {
    return {
      lines: screenLines({
        driver: driver.value, path: path.value, second: second.value,
        ...(own.value && {
          mode: { width: Number(width.value), height: Number(height.value), rateHz: Number(rate.value),
            reduced: reduced.value },
        }),
        rotation: rotation.value, touch: touch.value,
      }),
      trouble: null,
    }
  }
  catch (error) {
    if (!(error instanceof RangeError)) throw error
    return { lines: null, trouble: error.message }
  }
})
const lines = computed(() => worked.value.lines)
const trouble = computed(() => worked.value.trouble)

function write() {
  if (!lines.value) return
  const { text } = files.value
  const newline = text.includes('\r\n') ? '\r\n' : '\n'
  const add = lines.value.boot.filter(line => !text.split(/\r?\n/).some(other => other.trim() === line))
  const gap = text && !text.endsWith('\n') ? newline : ''
  const opened = add.length && text ? ['[all]'] : []
  const command = (files.value.commandLine ?? '').trimEnd()
  const words = lines.value.words.filter(word => !command.split(/\s+/).includes(word))
  replaceFiles({
    text: add.length ? text + gap + [...opened, ...add].map(line => line + newline).join('') : text,
    ...(words.length && {
      commandLine: [...command.split(/\s+/)
        .filter(word => word && !words.some(next => word.startsWith(next.split(':')[0]! + ':'))), ...words].join(' '),
    }),
  }, 'Write the screen\'s lines')
  view.say(add.length || words.length
    ? `Written: ${[...add, ...words].join('  ')}`
    : 'All of it stood in the files already.', { action: { label: 'Undo', run: project.undo } })
}
</script>

<template>
  <div class="columns">
    <section class="sheet form">
      <v-select
        v-model="driver"
        label="Display driver"
        :items="DRIVERS"
      />
      <v-select
        v-model="path"
        label="Picture by"
        :items="PATHS"
        data-test="screen-path"
      />
      <v-checkbox
        v-if="path === 'video' && (project.facts!.board?.sockets.video ?? 0) > 1"
        v-model="second"
        label="second socket"
      />
      <v-checkbox
        v-model="own"
        label="a mode of its own, worked out by CVT"
        data-test="screen-own"
      />
      <div
        v-if="own"
        class="mode"
      >
        <NumberField
          label="columns"
          :value="width"
          :min="8"
          :max="16384"
          data-test="screen-width"
          @set="value => width = value!"
        />
        <NumberField
          label="rows"
          :value="height"
          :min="1"
          :max="16384"
          data-test="screen-height"
          @set="value => height = value!"
        />
        <NumberField
          label="pictures a second"
          :value="rate"
          :min="1"
          :max="1000"
          @set="value => rate = value!"
        />
        <v-checkbox
          v-model="reduced"
          label="shorter blanking"
        />
      </div>
      <v-select
        v-model="rotation"
        label="Rotation"
        :items="ROTATIONS"
        data-test="screen-rotation"
      />
      <v-checkbox
        v-model="touch"
        label="has a touch that turns along"
      />
      <v-btn
        size="small"
        color="primary"
        :disabled="!lines"
        data-test="write-screen"
        @click="write"
      >
        Write the lines in
      </v-btn>
    </section>
    <section>
      <p
        v-if="trouble"
        class="trouble"
        role="alert"
      >
        {{ trouble }}
      </p>
      <template v-if="lines">
        <h2>Boot file</h2>
        <pre
          class="sheet figures"
          data-test="screen-boot"
          tabindex="0"
        >{{ lines.boot.join('\n') || '(nothing)' }}</pre>
        <h2>Kernel command line</h2>
        <pre
          class="sheet figures"
          data-test="screen-words"
          tabindex="0"
        >{{ lines.words.join(' ') || '(nothing)' }}</pre>
        <template v-if="lines.touchRule">
          <h2>
            Touch <span class="quiet small">in /etc/udev/rules.d/98-touch.rules, or by flags of its overlay:
              {{ lines.touchFlags.join(', ') }}</span>
          </h2>
          <pre
            class="sheet figures"
            data-test="screen-touch"
            tabindex="0"
          >{{ lines.touchRule }}</pre>
          <v-table class="matrix figures">
            <tbody>
              <tr
                v-for="row in [0, 3]"
                :key="row"
              >
                <td
                  v-for="column in [0, 1, 2]"
                  :key="column"
                >
                  {{ TOUCH_MATRIX[rotation][row + column] }}
                </td>
              </tr>
            </tbody>
          </v-table>
        </template>
        <template v-if="lines.timing">
          <h2>Timing <span class="quiet small">VESA CVT 1.1</span></h2>
          <v-table class="sheet pad">
            <thead>
              <tr>
                <th scope="col">
                  <span class="only-reader">Axis</span>
                </th><th
                  v-for="word in ['shown', 'pulse from', 'pulse to', 'total']"
                  :key="word"
                  scope="col"
                  class="num"
                >
                  {{ word }}
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">
                  columns
                </th><td
                  v-for="(value, i) in lines.timing.horizontal"
                  :key="i"
                  class="num"
                >
                  {{ value }}
                </td>
              </tr>
              <tr>
                <th scope="row">
                  rows
                </th><td
                  v-for="(value, i) in lines.timing.vertical"
                  :key="i"
                  class="num"
                >
                  {{ value }}
                </td>
              </tr>
            </tbody>
          </v-table>
          <p
            class="small"
            data-test="screen-clock"
          >
            <b class="figures">{{ (lines.timing.clockKhz / 1000).toFixed(2) }} MHz</b> pixel clock,
            <b class="figures">{{ lines.timing.actualHz.toFixed(2) }}</b> pictures a second.
          </p>
        </template>
        <p
          v-for="words in lines.said"
          :key="words"
          class="small quiet"
        >
          {{ words }}
        </p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; gap: 14px; grid-template-columns: minmax(260px, 2fr) minmax(0, 3fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.form { padding: 12px; display: grid; gap: 10px; align-content: start; }
.mode { display: grid; gap: 8px; grid-template-columns: repeat(3, minmax(0, 1fr)); }
.mode .v-checkbox { grid-column: 1 / -1; }
h2 { margin: 0 0 4px; }
pre { margin: 0 0 10px; padding: 8px 12px; font-size: 12.5px; white-space: pre-wrap; overflow-wrap: anywhere; }
.matrix { margin: -4px 0 10px; border-left: 2px solid var(--ink); border-right: 2px solid var(--ink); }
.matrix td { padding: 1px 12px; text-align: right; }
.pad th:first-child { padding-left: 10px; }
.trouble { background: var(--carmine-wash); border-left: 6px solid var(--carmine); padding: 8px 12px; border-radius: 4px; }
</style>
