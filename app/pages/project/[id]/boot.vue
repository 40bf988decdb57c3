<script setup lang="ts">
/** The boot file: read as it is, written with what the plan needs, shown before it is taken away. */
import { compareLines, restoreEndings } from '~~/core/boot/lines'

const project = useProjectStore()
const view = useViewStore()
const picker = ref<HTMLInputElement | null>(null)
const boot = computed(() => project.plan!.boot)
const text = computed(() => boot.value?.text ?? '')
const after = computed(() => project.report!.boot)
const difference = computed(() => compareLines(text.value, after.value.text))
const path = computed(() => boot.value?.path ?? project.facts?.board?.bootPath ?? '/boot/firmware/config.txt')
const marked = computed(() => new Set(view.marked.flatMap(subject => subject.bootLine ?? [])))

function setText(event: Event) {
  const value = (event.target as HTMLTextAreaElement).value
  project.edit({ edit: 'set-boot', boot: { ...boot.value, text: restoreEndings(text.value, value) } }, 'Edit the boot file', 'boot-text')
}

function setCommandLine(event: Event) {
  project.edit({ edit: 'set-boot', boot: { text: text.value, ...boot.value, commandLine: (event.target as HTMLInputElement).value } }, 'Edit the command line', 'command-line')
}

async function read(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  if (file.size > 1_000_000) return view.say(`"${file.name}" has ${Math.round(file.size / 1000)} kB: a boot file is a short text. Nothing was read.`, { tone: 'stop' })
  const decoded = decodeBoot(new Uint8Array(await file.arrayBuffer()))
  project.edit({ edit: 'set-boot', boot: { ...boot.value, ...decoded } }, `Read ${file.name}`)
  view.say(`${file.name} is read, every byte of it.`, { action: { label: 'Undo', run: project.undo } })
}

function write() {
  project.edit({ edit: 'set-boot', boot: { ...boot.value, text: after.value.text } }, 'Write the plan\'s lines into the boot file')
}

function take() {
  download('config.txt', encodeBoot(after.value.text, boot.value?.encoding), 'text/plain')
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Boot files</h1>
      <span class="quiet figures">{{ path }}</span>
      <span class="spacer" />
      <input
        ref="picker"
        type="file"
        accept=".txt,text/plain"
        hidden
        data-test="boot-file"
        @change="read"
      >
      <v-btn
        size="small"
        variant="outlined"
        @click="picker?.click()"
      >
        Read a file
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!after.changes.length"
        data-test="write-boot"
        @click="write"
      >
        Write the lines in
      </v-btn>
      <v-btn
        size="small"
        color="primary"
        data-test="download-boot"
        @click="take"
      >
        Download config.txt
      </v-btn>
    </div>
    <p
      class="lead"
      role="status"
    >
      <template v-if="after.changes.length">
        The plan needs <b>{{ after.changes.length }}</b> {{ after.changes.length === 1 ? 'change' : 'changes' }}. The download has {{ after.changes.length === 1 ? 'it' : 'them' }}; everything else stays byte for byte. Keep the old file beside it. All of it is read at start: restart once.
      </template>
      <template v-else-if="after.needs.length">
        The file has all that the plan needs. The download is the file as it is.
      </template>
      <template v-else>
        The plan needs nothing of the boot file yet.
      </template>
    </p>
    <div class="columns">
      <label>
        <h2>As it is on the card</h2>
        <textarea
          class="text-file"
          rows="18"
          spellcheck="false"
          wrap="off"
          placeholder="Paste config.txt here, read it from the card, or start empty."
          data-test="boot-text"
          :value="text"
          @input="setText"
        />
      </label>
      <section>
        <h2>As the plan wants it</h2>
        <ol
          class="difference figures sheet"
          data-test="boot-difference"
          tabindex="0"
        >
          <li
            v-for="(line, i) in difference"
            :key="i"
            :class="[line.kind, { marked: line.kind !== 'added' && marked.has(i + 1) }]"
          >
            <span class="sign">{{ line.kind === 'added' ? '+' : line.kind === 'removed' ? '−' : ' ' }}</span><span
              v-if="line.kind !== 'same'"
              class="only-reader"
            >{{ line.kind }}: </span>{{ line.text || ' ' }}
          </li>
        </ol>
      </section>
    </div>
    <label class="command">
      <h2>Kernel command line <span class="quiet small">cmdline.txt, one line; a console there holds the serial port</span></h2>
      <input
        class="figures"
        :value="boot?.commandLine ?? ''"
        placeholder="Paste cmdline.txt here."
        data-test="command-line"
        @input="setCommandLine"
      >
    </label>
    <h2>What asks for what</h2>
    <table class="plain-table">
      <thead>
        <tr>
          <th scope="col">
            Line
          </th><th scope="col">
            For
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="need in after.needs"
          :key="need.line"
        >
          <td class="figures">
            {{ need.line }}
          </td><td>{{ need.why }}</td>
        </tr>
        <tr v-if="!after.needs.length">
          <td
            colspan="2"
            class="quiet"
          >
            Nothing yet: place some parts first.
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.lead { margin-bottom: 10px; max-width: 90ch; }
.columns { display: grid; gap: 14px; grid-template-columns: repeat(auto-fit, minmax(340px, 1fr)); margin-bottom: 12px; }
h2 { margin-bottom: 5px; }
.difference { list-style: none; margin: 0; padding: 8px 0; font-size: 13px; height: 386px; overflow: auto; white-space: pre; }
.difference li { padding: 0 10px; min-width: max-content; }
.sign { display: inline-block; width: 16px; color: var(--ink-2); }
.added { background: var(--moss-wash); font-weight: 650; }
.removed { background: var(--carmine-wash); text-decoration: line-through; }
.marked { outline: 2px solid var(--copper); }
.command input { width: 100%; border: 1px solid var(--rule); border-radius: 4px; background: var(--sheet); color: inherit; padding: 6px 10px; font-size: 13px; }
.command { display: block; margin-bottom: 16px; }
</style>
