<script setup lang="ts">
/** One wire at a time, huge, for the bench: space ticks and goes on, arrows go back and forth, and it can speak. */
import { onKeyStroke } from '@vueuse/core'
import { positionInWords, type Wire } from '~~/core/build/wires'

const { wires } = defineProps<{ wires: Wire[] }>()
const emit = defineEmits<{ close: [] }>()
const project = useProjectStore()
const done = computed(() => new Set(project.plan!.build.done))
const first = wires.findIndex(wire => !done.value.has(wire.key))
const at = ref(Math.max(0, first))
const wire = computed(() => wires[Math.min(at.value, wires.length - 1)]!)
const KIND_WORDS = {
  'wire': 'wire', 'lead': 'lead', 'plug': 'cable with its plug', 'flat cable': 'flat cable', 'seat': 'push the board on',
} as const
const canSpeak = typeof speechSynthesis !== 'undefined'
const speaking = ref(false)
const box = ref<HTMLElement | null>(null)
const where = computed(() => wire.value.position !== undefined
  ? positionInWords(wire.value.position, project.facts!.board?.header.length)
  : '')
const headerRows = computed(() => {
  const header = project.facts!.board?.header ?? []
  return [header.filter(entry => entry.position % 2 === 0), header.filter(entry => entry.position % 2 === 1)]
})

onMounted(() => box.value?.focus())
watch([wire, speaking], () => {
  if (!speaking.value || !canSpeak) return
  speechSynthesis.cancel()
  speechSynthesis.speak(
    new SpeechSynthesisUtterance([
      wire.value.colour ? `${wire.value.colour} wire` : KIND_WORDS[wire.value.kind],
      `From ${wire.value.partName}, ${wire.value.from}, to ${wire.value.to}`, where.value, wire.value.through,
    ].filter(Boolean).map(words => `${words}.`).join(' ')),
  )
})
onUnmounted(() => {
  if (canSpeak) speechSynthesis.cancel()
})

function step(by: number) {
  at.value = Math.min(wires.length - 1, Math.max(0, at.value + by))
}

function tick() {
  if (!done.value.has(wire.value.key)) project.edit({ edit: 'wire-done', wire: wire.value.key, done: true }, 'Tick a wire')
  if (at.value === wires.length - 1) emit('close')
  else step(1)
}

function untick() {
  project.edit({ edit: 'wire-done', wire: wire.value.key, done: false }, 'Untick a wire')
}

onKeyStroke([' ', 'ArrowRight', 'ArrowLeft', 'Escape'], (event) => {
  event.preventDefault()
  if (event.key === ' ') tick()
  else if (event.key === 'Escape') emit('close')
  else step(event.key === 'ArrowRight' ? 1 : -1)
})
</script>

<template>
  <v-dialog
    :model-value="true"
    fullscreen
    persistent
    no-click-animation
    :transition="false"
    aria-label="Focus mode"
  >
    <div
      ref="box"
      class="focus"
      tabindex="-1"
      data-takes-keys
      data-test="focus-mode"
    >
      <div class="top">
        <span class="figures">wire {{ at + 1 }} of {{ wires.length }}</span>
        <span class="figures">{{ wires.filter(entry => done.has(entry.key)).length }} done</span>
        <span class="spacer" />
        <v-btn
          v-if="canSpeak"
          variant="outlined"
          :aria-pressed="speaking"
          @click="speaking = !speaking"
        >
          {{ speaking ? 'Stop speaking' : 'Speak' }}
        </v-btn>
        <v-btn
          variant="outlined"
          data-test="focus-close"
          @click="emit('close')"
        >
          Close (Esc)
        </v-btn>
      </div>
      <div class="middle">
        <div
          class="wire"
          :style="{ '--wire': wire.colour }"
        >
          <template v-if="wire.colour">
            <span class="swatch" /><b>{{ wire.colour }}</b>
          </template><b v-else>{{ KIND_WORDS[wire.kind] }}</b><span
            v-if="wire.lengthM"
            class="figures"
          >{{ Math.round(wire.lengthM * 100) }} cm</span>
        </div>
        <div class="ends">
          <div>
            <span class="what">{{ wire.partName }}</span>
            <span class="big">{{ wire.from }}</span>
          </div>
          <span
            class="arrow"
            aria-hidden="true"
          >→</span>
          <div>
            <span class="what">{{ wire.position !== undefined ? wire.shared ? 'splice of position' : 'header position'
              : wire.to.split(',')[0] }}</span>
            <span class="big figures">{{ wire.position ?? (wire.to.split(', ').at(-1) || wire.to) }}<small
              v-if="wire.position !== undefined"
            >{{ wire.toLabel }}</small></span>
          </div>
        </div>
        <p
          v-if="wire.through"
          class="through"
        >
          {{ wire.through }}
        </p>
        <p
          v-if="where"
          class="where"
        >
          {{ where }}{{ wire.shared ? ' — several wires meet here: split on a rail' : '' }}
        </p>
        <div
          v-if="wire.position !== undefined"
          class="little"
          aria-hidden="true"
        >
          <div
            v-for="(row, i) in headerRows"
            :key="i"
          >
            <span
              v-for="entry in row"
              :key="entry.position"
              :class="{ here: entry.position === wire.position, first: entry.position === 1 }"
            />
          </div>
        </div>
        <p
          v-if="done.has(wire.key)"
          class="ticked"
        >
          done · <v-btn
            variant="outlined"
            class="act"
            @click="untick"
          >
            undo
          </v-btn>
        </p>
      </div>
      <div class="bottom">
        <v-btn
          variant="outlined"
          :disabled="at === 0"
          @click="step(-1)"
        >
          ← Back
        </v-btn>
        <v-btn
          variant="outlined"
          class="next"
          data-test="focus-next"
          @click="tick"
        >
          {{ at === wires.length - 1 ? 'Done, close' : 'Done, next' }} (space)
        </v-btn>
        <v-btn
          variant="outlined"
          :disabled="at === wires.length - 1"
          @click="step(1)"
        >
          Skip →
        </v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.focus {
  height: 100%;
  background: var(--paper);
  color: var(--ink);
  display: grid;
  grid-template-rows: auto 1fr auto;
  outline: none;
}
.top, .bottom { display: flex; gap: 14px; align-items: center; background: var(--bar); color: var(--bar-ink); padding: 12px 18px; }
.spacer { flex: 1; }
.bottom { justify-content: space-between; }
.bottom .v-btn { height: auto; min-height: 60px; min-width: 130px; font-size: 19px; }
.bottom .next { flex: 1; height: auto; background: var(--bar-act); color: #20130b; border-color: var(--bar-act); }
.middle { display: grid; justify-items: center; align-content: center; gap: 22px; padding: 16px; text-align: center; overflow: auto; }
.wire { display: flex; gap: 16px; align-items: center; font-size: 30px; }
.swatch { width: 190px; height: 22px; border-radius: 11px; background: var(--wire); border: 2px solid var(--ink-2); }
.ends { display: flex; gap: clamp(20px, 5vw, 70px); align-items: end; flex-wrap: wrap; justify-content: center; }
.ends div { display: grid; }
.what { font-size: 22px; color: var(--ink-2); max-width: 420px; overflow-wrap: anywhere; }
.big { font-size: clamp(56px, 10vw, 110px); font-weight: 700; line-height: 1.05; }
.big small { margin-left: .35em; font-size: .42em; color: var(--ink-2); }
.arrow { font-size: 60px; color: var(--copper); }
.through { font-size: 26px; background: var(--ochre-wash); border: 2px dashed var(--ochre); border-radius: 4px; padding: 4px 16px; }
.where { font-size: 24px; }
.little { display: grid; gap: 6px; background: var(--paper-3); padding: 10px; border-radius: 5px; }
.little div { display: flex; gap: 6px; }
.little span { width: 18px; height: 18px; border-radius: 50%; background: var(--sheet); border: 1px solid var(--ink-2); }
.little .first { border-radius: 0; }
.little .here { background: var(--copper); border-color: var(--copper); transform: scale(1.45); }
.ticked { color: var(--moss); font-size: 18px; font-weight: 650; }
</style>
