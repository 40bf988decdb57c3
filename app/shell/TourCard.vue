<script setup lang="ts">
/** A short tour of what surrounds the stages: step by step, left at any time, called again from Settings and more. */
import { useEventListener } from '@vueuse/core'

const view = useViewStore()
const STEPS = [
  {
    at: 'nav[aria-label="Stages"]', title: 'Seven stages',
    text: 'In the order of the work. The mark at the left of each says how it stands: plain, clear, '
      + 'dashed for cautions, solid for stops. None is ever locked.',
  },
  {
    at: '#stage', title: 'The stage',
    text: 'What you do now. Every change is kept as you make it; undo goes back a hundred steps.',
  },
  {
    at: '.drawer', title: 'Findings',
    text: 'What will happen, why, and ways out to press. Pressing a finding shows what it is about, wherever that '
      + 'is drawn.',
  },
  {
    at: '.strip', title: 'Gauges',
    text: 'What the plan takes of what there is. Point at something you could add, and its price shows here first.',
  },
  {
    at: '.finder', title: 'Find',
    text: 'A part, a position, a line, a function: "G18", "SPI 0", "uart tx". The key f leads here; ? lists the others.',
  },
  {
    at: '[data-test=drawer-help]', title: 'Help',
    text: 'Beside every stage: what it is for, how one goes about it, and its words.',
  },
]
const step = computed(() => view.tour === null ? null : STEPS[view.tour] ?? null)
const box = ref<{ left: number, top: number, width: number, height: number } | null>(null)

async function measure() {
  await nextTick()
  const element = step.value && document.querySelector(step.value.at)
  const rect = element?.getBoundingClientRect()
  // What is not on this screen is told without a frame.
  box.value = rect && rect.width > 0 && rect.left < innerWidth
    ? { left: rect.left, top: rect.top, width: rect.width, height: rect.height }
    : null
}
watch(step, () => void measure(), { immediate: true })
useEventListener(window, 'resize', measure)
const at = computed(() => view.tour ?? 0)
</script>

<template>
  <div
    v-if="step && box"
    class="frame"
    aria-hidden="true"
    :style="{ left: `${box.left}px`, top: `${box.top}px`, width: `${box.width}px`, height: `${box.height}px` }"
  />
  <v-snackbar
    :model-value="step !== null"
    :timeout="-1"
    location="bottom center"
    class="tour"
    role="dialog"
    :aria-label="step?.title"
    @keydown.esc="view.tour = null"
  >
    <div
      v-if="step"
      data-test="tour"
    >
      <b>{{ at + 1 }} of {{ STEPS.length }} · {{ step.title }}</b>
      <p>{{ step.text }}</p>
    </div>
    <template #actions>
      <v-btn
        variant="text"
        :disabled="at === 0"
        @click="view.tour = at - 1"
      >
        Back
      </v-btn>
      <v-btn
        variant="text"
        data-test="tour-next"
        @click="view.tour = at === STEPS.length - 1 ? null : at + 1"
      >
        {{ at === STEPS.length - 1 ? 'Done' : 'Next' }}
      </v-btn>
      <v-btn
        variant="text"
        data-test="tour-leave"
        @click="view.tour = null"
      >
        Leave
      </v-btn>
    </template>
  </v-snackbar>
</template>

<style scoped>
.frame {
  position: fixed;
  z-index: 2400;
  border: 3px solid var(--copper);
  border-radius: 6px;
  pointer-events: none;
  box-shadow: 0 0 0 4000px rgb(0 0 0 / 28%);
}
.tour :deep(.v-snackbar__wrapper) { margin-bottom: 74px; max-width: 640px; }
</style>
