<script setup lang="ts">
/**
 * One thing at a time, huge, for the bench: a wire, or a step that has none or that nobody goes past before it was
 * looked at. Space ticks and goes on, arrows go back and forth, and it can speak.
 */
import { onKeyStroke } from '@vueuse/core'
import { newId } from '~/database/id'
import { photosNamed } from '~/database/photos'
import { positionInWords, type Wire } from '~~/core/construction/wires'
import { stepKey } from '~~/core/construction/steps'
import { TOOL_WORDS, type BuildStep } from '~~/core/construction/steps/types'
import { minutesAndSeconds, useStopwatch } from './useStopwatch'

const { wires, steps } = defineProps<{ wires: Wire[], steps: BuildStep[] }>()
const emit = defineEmits<{ close: [] }>()
const project = useProjectStore()
const done = computed(() => new Set(project.plan!.build.done))

interface Card { key: string, step: BuildStep, wire?: Wire, isFirst: boolean, isLast: boolean }
const byKey = computed(() => new Map(wires.map(wire => [wire.key, wire])))
const cards = computed(() => steps.flatMap((step): Card[] => {
  const ways = step.conductors.flatMap(id => byKey.value.get(id) ?? [])
  const own = !ways.length || step.hold
  return [
    ...ways.map((wire,
      i): Card => ({ key: wire.key, step, wire, isFirst: i === 0, isLast: !own && i === ways.length - 1 })),
    ...own ? [{ key: stepKey(step.id), step, isFirst: !ways.length, isLast: true }] : [],
  ]
}))
const first = cards.value.findIndex(card => !done.value.has(card.key))
const at = ref(Math.max(0, first))
const card = computed(() => cards.value[Math.min(at.value, cards.value.length - 1)]!)
const wire = computed(() => card.value.wire ?? null)
/** Figures that the step asks for, with what was typed: as on the run sheet, which has them too. */
const readings = computed(() => wire.value
  ? []
  : (card.value.step.readings ?? []).map((entry) => {
      const seen = project.plan!.seen.find(({ id }) => id === entry.probe)
      const isOdd = seen !== undefined && seen.outcome !== entry.planned
      return { ...entry, value: seen?.value ?? null, outcome: seen?.outcome ?? null, isOdd }
    }))
/** What was measured says not to go on. */
const isStopped = computed(() => readings.value.some(({ isOdd }) => isOdd))
function typed({ probe, planned, reading }: NonNullable<BuildStep['readings']>[number], value: number | null): void {
  const outcome = value === null
    ? null
    : value >= reading.min && value <= reading.max ? planned : reading.outside ?? planned
  const sighting = outcome === null || value === null ? null : { outcome, value, at: new Date().toISOString() }
  project.edit({ edit: 'see', id: probe, sighting }, 'What was measured')
}
/** Nobody goes past what has to be looked at first. */
const isHeld = computed(() => !wire.value && card.value.step.hold && !done.value.has(card.value.key))
const KIND_WORDS = {
  'wire': 'wire', 'lead': 'lead', 'plug': 'cable with its plug', 'flat cable': 'flat cable',
  'seat': 'push the board on',
} as const
const canSpeak = typeof speechSynthesis !== 'undefined'
const speaking = ref(false)
/**
 * How long this one is in sight, for what it took; nothing is counted while the page is not looked at or somebody
 * stops the clock.
 */
const { seconds, isStill, begin } = useStopwatch()
watch(() => card.value.key, begin)
const { take: takePhotos, isTaking } = usePhotos()
const taken = computed(() => photosNamed(project.plan!.log).length)
async function photograph(files: readonly File[]) {
  const text = wire.value
    ? `${card.value.step.title}: ${wire.value.partName} ${wire.value.from}`
    : card.value.step.title
  const photos = await takePhotos(files)
  if (photos.length) project.edit({
    edit: 'log', entry: { id: newId(), at: new Date().toISOString(), stage: 'build', text, photos },
  }, 'A photo of a step')
  box.value?.focus()
}
const box = ref<HTMLElement | null>(null)
const where = computed(() => wire.value?.position !== undefined
  ? positionInWords(wire.value.position, project.facts!.board?.header.length)
  : '')
const headerRows = computed(() => {
  const header = project.facts!.board?.header ?? []
  return [header.filter(entry => entry.position % 2 === 0), header.filter(entry => entry.position % 2 === 1)]
})
const spoken = computed(() => wire.value
  ? [
      wire.value.colour ? `${wire.value.colour} wire` : KIND_WORDS[wire.value.kind],
      `From ${wire.value.partName}, ${wire.value.from}, to ${wire.value.to}`, where.value, wire.value.through,
    ].filter(Boolean).map(words => `${words}.`)
  : [`${card.value.step.title}.`, ...card.value.step.cautions, ...card.value.step.how, card.value.step.check])

onMounted(() => box.value?.focus())
watch([card, speaking], () => {
  if (!speaking.value || !canSpeak) return
  speechSynthesis.cancel()
  speechSynthesis.speak(new SpeechSynthesisUtterance(spoken.value.join(' ')))
})
onUnmounted(() => {
  if (canSpeak) speechSynthesis.cancel()
})

function step(by: number) {
  if (by > 0 && isHeld.value) return
  at.value = Math.min(cards.value.length - 1, Math.max(0, at.value + by))
}

function tick() {
  const { key } = card.value
  if (isStopped.value) return
  if (!done.value.has(key)) {
    const took = seconds.value === null ? {} : { seconds: seconds.value }
    project.edit({ edit: 'wire-done', wire: key, done: true, ...took }, wire.value ? 'Tick a wire' : 'Tick a step')
  }
  if (at.value === cards.value.length - 1) emit('close')
  else at.value++
}

function untick() {
  project.edit({ edit: 'wire-done', wire: card.value.key, done: false }, 'Untick')
}

onKeyStroke([' ', 'ArrowRight', 'ArrowLeft', 'Escape'], (event) => {
  // A figure is being typed: its keys are the field's, and Escape leaves the field first.
  if (event.target instanceof HTMLInputElement) return event.key === 'Escape' ? box.value?.focus() : undefined
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
        <span class="figures">{{ at + 1 }} of {{ cards.length }}</span>
        <span class="figures">{{ cards.filter(entry => done.has(entry.key)).length }} done</span>
        <span class="now">{{ card.step.title }}</span>
        <span class="spacer" />
        <v-btn
          variant="outlined"
          class="figures"
          :aria-label="isStill ? 'Let the clock run' : 'Stop the clock'"
          data-test="focus-clock"
          @click="isStill = !isStill"
        >
          {{ isStill ? '⏸ ' : '' }}{{ minutesAndSeconds(seconds) }}
        </v-btn>
        <FilePick
          :label="isTaking ? 'Making it small …' : taken ? `Photo (${taken})` : 'Photo'"
          :disabled="isTaking"
          accept="image/*"
          test="focus-photo"
          @files="photograph"
        />
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
        <ul
          v-if="card.isFirst && card.step.cautions.length"
          class="cautions"
        >
          <li
            v-for="words in card.step.cautions"
            :key="words"
          >
            {{ words }}
          </li>
        </ul>
        <template v-if="wire">
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
            v-if="card.isLast"
            class="check"
          >
            {{ card.step.check }}
          </p>
        </template>
        <template v-else>
          <span class="title">{{ card.step.title }}</span>
          <span
            v-if="card.step.tool !== 'none' || card.step.side === 'bottom'"
            class="what"
          >{{ [TOOL_WORDS[card.step.tool], card.step.side === 'bottom' ? 'board turned over' : ''].filter(Boolean).join(' · ') }}</span>
          <p
            v-for="words in card.isFirst ? card.step.how : []"
            :key="words"
            class="how"
          >
            {{ words }}
          </p>
          <div
            v-if="readings.length"
            class="readings"
          >
            <div
              v-for="entry in readings"
              :key="entry.probe"
            >
              <NumberField
                :value="entry.value"
                :label="entry.label"
                :unit="entry.reading.unit"
                :min="0"
                may-be-empty
                :data-test="`focus-${entry.probe}`"
                @set="typed(entry, $event)"
              />
              <p
                class="said"
                :class="{ bad: entry.isOdd }"
                aria-live="polite"
              >
                {{ entry.outcome ?? 'not measured yet' }}
              </p>
            </div>
          </div>
          <p
            v-if="isStopped"
            class="final"
            role="alert"
          >
            Do not switch on. Find the short: the Bring-up stage says where to look.
          </p>
          <p
            v-if="card.step.undo === null"
            class="final"
          >
            There is no way back from here.
          </p>
          <p
            class="check"
            :class="{ held: card.step.hold }"
          >
            {{ card.step.hold ? 'Go on when: ' : '' }}{{ card.step.check }}
          </p>
        </template>
        <p
          v-if="done.has(card.key)"
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
          :disabled="isStopped"
          @click="tick"
        >
          {{ isHeld ? 'I have looked' : at === cards.length - 1 ? 'Done, close' : 'Done, next' }} (space)
        </v-btn>
        <v-btn
          variant="outlined"
          :disabled="at === cards.length - 1 || isHeld"
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
.now { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; min-width: 0; }
.title { font-size: clamp(34px, 6vw, 64px); font-weight: 700; line-height: 1.1; overflow-wrap: anywhere; max-width: 22ch; }
.how { font-size: clamp(19px, 2.4vw, 26px); max-width: 44ch; }
.readings { display: flex; gap: 16px; flex-wrap: wrap; width: min(560px, 100%); }
.readings > div { flex: 1 1 220px; text-align: start; }
.said { font-size: 15px; padding-top: 3px; }
.said.bad { font-weight: 700; color: var(--carmine); }
.check { font-size: clamp(19px, 2.4vw, 26px); max-width: 44ch; border: 2px solid var(--rule); border-radius: 4px; padding: 8px 18px; }
.check.held { border-color: var(--ochre); background: var(--ochre-wash); }
.final { font-size: 22px; font-weight: 700; color: var(--carmine); }
.cautions { list-style: none; padding: 0; margin: 0; font-size: 19px; display: grid; gap: 4px; max-width: 60ch; }
.cautions li { border-left: 4px dashed var(--ochre); padding-left: 10px; text-align: start; }
.little { display: grid; gap: 6px; background: var(--paper-3); padding: 10px; border-radius: 5px; }
.little div { display: flex; gap: 6px; }
.little span { width: 18px; height: 18px; border-radius: 50%; background: var(--sheet); border: 1px solid var(--ink-2); }
.little .first { border-radius: 0; }
.little .here { background: var(--copper); border-color: var(--copper); transform: scale(1.45); }
.ticked { color: var(--moss); font-size: 18px; font-weight: 650; }
</style>
