<script setup lang="ts">
/** Whatever was copied from the board's screen, sorted into what was seen. */
import { readPasted } from '~~/core/diagnosis/pasted/paste'
import type { Probe } from '~~/core/diagnosis/types'

const { probes } = defineProps<{ probes: readonly Probe[] }>()
const emit = defineEmits<{ take: [entries: { probe: string, outcome: string }[]] }>()
const project = useProjectStore()
const text = ref('')
const bus = computed(() => project.report!.expected.scans[0]?.busId ?? null)
const read = computed(() => text.value.trim() ? readPasted(text.value, probes, bus.value) : null)
const seen = computed(() => read.value?.found.flatMap(entry => entry.kind === 'seen' ? [entry] : []) ?? [])

function take(): void {
  emit('take', seen.value.map(({ probe, outcome }) => ({ probe, outcome })))
  text.value = ''
}
</script>

<template>
  <section data-test="run-paste">
    <h2>Paste anything</h2>
    <v-textarea
      v-model="text"
      class="text-file"
      rows="3"
      auto-grow
      max-rows="14"
      spellcheck="false"
      aria-label="Output of commands"
      placeholder="What i2cdetect, ls and others print: several in one, prompts and all."
      hide-details
      data-test="paste-text"
    />
    <div
      v-if="read"
      class="read"
      aria-live="polite"
      data-test="paste-read"
    >
      <p
        v-for="(entry, i) in read.found"
        :key="i"
        class="small"
        :class="entry.kind"
      >
        {{ entry.words }}
      </p>
      <p
        v-if="!read.found.length"
        class="small"
      >
        Nothing in it says anything here: i2cdetect, ls, dmesg, gpioinfo, gpiomon, lsusb, probes on 1-Wire, temperature and throttle word
        are read.
      </p>
      <p
        v-else-if="read.unread"
        class="small quiet"
      >
        {{ read.unread }} {{ read.unread === 1 ? 'line says' : 'lines say' }} nothing here.
      </p>
      <v-btn
        v-if="seen.length"
        size="small"
        color="primary"
        data-test="paste-take"
        @click="take"
      >
        Take {{ seen.length === 1 ? 'it' : `all ${seen.length}` }} into the sheet
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 0 0 5px; }
.read { display: grid; gap: 4px; justify-items: start; padding-top: 6px; }
.refused { color: var(--carmine); font-weight: 600; }
.seen { border-left: 4px solid var(--copper); padding-left: 7px; }
</style>
