<script setup lang="ts">
/** What was typed at the simulated board and what it printed, and the line for the next. */
import type { Shown } from '~~/core/simulated/session'

const { shown, prompt, commands, busy } = defineProps<{
  shown: readonly Shown[]
  prompt: string
  /** Offered for a press: those that show what the plan expects. */
  commands: readonly string[]
  busy: boolean
}>()
const emit = defineEmits<{ run: [line: string], clear: [] }>()
const line = ref('')
/** How far back in what was typed; 0 is the line that is being written. */
const back = ref(0)
const written = ref('')
const screen = useTemplateRef<HTMLElement>('screen')
const typed = computed(() => [...new Set(shown.map(entry => entry.line).filter(Boolean).reverse())])

function run(text: string): void {
  if (busy || !text.trim()) return
  emit('run', text)
  line.value = ''
  back.value = 0
}
function turn(by: 1 | -1): void {
  const next = Math.min(typed.value.length, Math.max(0, back.value + by))
  if (back.value === 0) written.value = line.value
  back.value = next
  line.value = next ? typed.value[next - 1]! : written.value
}
/** Zero bytes end strings of the tree; a terminal shows none. */
const plain = (text: string) => text.replaceAll('\0', '')
watch(() => shown, () => nextTick(() => screen.value?.scrollTo({ top: screen.value.scrollHeight })))
</script>

<template>
  <div class="terminal">
    <div
      ref="screen"
      class="screen figures"
      role="log"
      tabindex="0"
      aria-label="What the simulated board printed"
      data-test="board-screen"
    >
      <p
        v-if="!shown.length"
        class="quiet"
      >
        Type below, or press one of the commands. "help" lists what can be typed, ":help" what hands can do.
      </p>
      <div
        v-for="(entry, i) in shown"
        :key="i"
      >
        <p class="typed">
          <span class="quiet">{{ entry.prompt }}</span>{{ entry.line }}
        </p>
        <pre v-if="entry.out">{{ plain(entry.out) }}</pre>
        <pre
          v-if="entry.err"
          class="err"
        >{{ plain(entry.err) }}</pre>
      </div>
    </div>
    <div class="entry">
      <v-text-field
        v-model="line"
        class="text-file line"
        :prefix="prompt"
        aria-label="Line for the simulated board"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        hide-details
        maxlength="4096"
        data-test="board-line"
        @keydown.enter.prevent="run(line)"
        @keydown.up.prevent="turn(1)"
        @keydown.down.prevent="turn(-1)"
      />
      <v-btn
        size="small"
        color="primary"
        :loading="busy"
        :disabled="!line.trim()"
        data-test="board-run"
        @click="run(line)"
      >
        Run
      </v-btn>
      <v-btn
        size="small"
        variant="text"
        :disabled="!shown.length"
        data-test="board-clear"
        @click="emit('clear')"
      >
        Clear
      </v-btn>
    </div>
    <div class="offers">
      <v-chip
        v-for="command in commands"
        :key="command"
        size="small"
        variant="outlined"
        class="figures"
        data-test="board-offer"
        @click="run(command)"
      >
        {{ command }}
      </v-chip>
    </div>
  </div>
</template>

<style scoped>
.terminal { display: grid; gap: 8px; min-width: 0; align-content: start; }
.screen {
  background: var(--sheet); border: 1px solid var(--rule); border-left: 6px solid var(--bar); border-radius: 4px;
  padding: 8px 12px; height: 350px; overflow: auto; font-size: 12.5px; line-height: 1.35;
}
.screen pre { margin: 0; font: inherit; white-space: pre; }
.typed { font-weight: 650; white-space: pre-wrap; overflow-wrap: anywhere; }
.typed .quiet { font-weight: 400; }
.err { color: var(--carmine); }
.entry { display: flex; gap: 6px; align-items: center; }
.line { flex: 1; min-width: 0; }
.line :deep(.v-text-field__prefix) { padding-inline-start: 10px; }
.offers { display: flex; flex-wrap: wrap; gap: 5px; }
</style>
