<script setup lang="ts">
/**
 * All steps in their order: what, with what, how long, what has to be seen; moved, ticked, and with what a move breaks.
 */
import { mdiArrowDown, mdiArrowUp, mdiEye, mdiEyeOutline } from '@mdi/js'
import { stepKey } from '~~/core/construction/steps'
import { TOOL_WORDS, type BuildStep } from '~~/core/construction/steps/types'
import { tookTogether } from '~~/core/plan/durations'
import { useBuild } from './useBuild'
import { usePicture } from './usePicture'
import { minutesAndSeconds } from './useStopwatch'

const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { build, done, stepDone, tick, move, computedOrder } = useBuild()
const { current, chosen } = usePicture()
const wireOf = computed(() => new Map(project.report!.wires.map((wire, i) => [wire.key, { ...wire, number: i + 1 }])))
const titleOf = (id: string) => build.value.bench.steps.find(step => step.id === id)?.title ?? id
const doneCount = computed(() => build.value.steps.filter(stepDone).length)
const time = computed(() => {
  const left = build.value.steps.filter(step => !stepDone(step)).reduce((sum, { minutes }) => sum + minutes, 0)
  const said = (minutes: number) => minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`
  const took = tookTogether(project.plan!.build, project.plan!.build.done)
  return [
    left === build.value.minutes ? said(left) : `${said(left)} of ${said(build.value.minutes)} to go`,
    ...took === null ? [] : [`${said(Math.max(1, Math.round(took / 60)))} by the clock so far`],
  ].join(', ')
})
const times = (count: number) => count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`
const summary = computed(() => {
  const { flips, toolChanges, isOwn, best } = build.value
  const turned = flips ? `turned over ${times(flips)}` : 'not turned over'
  const tools = toolChanges ? `tools change ${times(toolChanges)}` : 'tools do not change'
  const whose = isOwn ? '; this is your own order' : best?.isBest ? '; no order that keeps every rule has fewer' : ''
  return `The board is ${turned}, ${tools}${whose}.`
})
const brokenFor = (id: string) => build.value.broken.filter(({ then }) => then === id)
const sign = ({ id, conductors, tool, side, minutes }: BuildStep) =>
  [...tool === 'none' ? [] : [TOOL_WORDS[tool]], ...side === 'bottom' ? ['turned over'] : [], `${minutes} min`,
    ...tookFor(id, conductors)].join(' · ')
/** What it took by the clock of the focus mode. */
function tookFor(id: string, conductors: readonly string[]): string[] {
  const took = tookTogether(project.plan!.build, [stepKey(id), ...conductors])
  return took === null ? [] : [`took ${minutesAndSeconds(took)}`]
}
/** The part that a step is about, for its colour. */
const partOf = ({ id }: BuildStep) => project.plan!.parts.find(part => id.endsWith(`:${part.id}`))?.id

function toggleWire(key: string) {
  project.edit({ edit: 'wire-done', wire: key, done: !done.value.has(key) }, 'Tick a wire')
}
function takenOff(key: string) {
  project.edit({ edit: 'wire-done', wire: key, done: false }, 'Taken off')
  view.say('Taken off, and forgotten.', { action: { label: 'Undo', run: project.undo } })
}

const rule = reactive({ first: null as string | null, then: null as string | null, why: '' })
const choices = computed(() => build.value.bench.steps.map(({ id, title }) => ({ value: id, title })))
const rules = computed(() => project.plan!.build.rules)
function addRule() {
  if (!rule.first || !rule.then || rule.first === rule.then) return
  project.edit({
    edit: 'set-step-rules',
    rules: [...rules.value.filter(other => !(other.first === rule.first && other.then === rule.then)),
      { first: rule.first, then: rule.then, why: rule.why.trim() }],
  }, 'A rule of the build')
  Object.assign(rule, { first: null, then: null, why: '' })
}
const dropRule = (at: number) =>
  project.edit({ edit: 'set-step-rules', rules: rules.value.filter((_, i) => i !== at) }, 'Give a rule up')
</script>

<template>
  <div data-test="build-order">
    <p class="sum">
      <b>{{ doneCount }} of {{ build.steps.length }} steps</b>, {{ time }}. {{ summary }}
      <v-btn
        v-if="build.isOwn"
        class="act"
        variant="text"
        size="x-small"
        data-test="computed-order"
        @click="computedOrder"
      >
        Take the computed order
      </v-btn>
    </p>
    <div
      v-for="leftover in build.leftovers"
      :key="leftover.key"
      class="leftover"
      data-test="leftover"
    >
      <span>{{ leftover.words }}</span>
      <v-btn
        size="x-small"
        variant="outlined"
        @click="takenOff(leftover.key)"
      >
        It is off
      </v-btn>
    </div>
    <ol class="steps">
      <li
        v-for="(step, i) in build.steps"
        :key="step.id"
        class="step"
        :class="{ done: stepDone(step), shown: current?.id === step.id }"
        :data-test="`step-${step.id}`"
        :style="partOf(step) ? { '--owner': colourOf(partOf(step)!) } : {}"
      >
        <div class="line">
          <v-checkbox-btn
            class="tick"
            :model-value="stepDone(step)"
            :aria-label="`${step.title} done`"
            @update:model-value="tick(step, !!$event)"
          />
          <span class="figures nr">{{ i + 1 }}</span>
          <b class="title">{{ step.title }}</b>
          <span
            v-if="step.hold"
            class="mark hold"
          >stop and look</span>
          <span
            v-if="step.undo === null"
            class="mark final"
          >no way back</span>
          <span class="acts">
            <span class="small quiet figures sign">{{ sign(step) }}</span>
            <IconAct
              :name="`Show ${step.title} in the picture`"
              hint="Show in the picture"
              :icon="current?.id === step.id ? mdiEye : mdiEyeOutline"
              :data-test="`show-${step.id}`"
              @click="chosen = chosen === step.id ? null : step.id"
            />
            <IconAct
              :name="`Move ${step.title} up`"
              hint="Earlier"
              :icon="mdiArrowUp"
              :disabled="i === 0"
              @click="move(step.id, -1)"
            />
            <IconAct
              :name="`Move ${step.title} down`"
              hint="Later"
              :icon="mdiArrowDown"
              :disabled="i === build.steps.length - 1"
              @click="move(step.id, 1)"
            />
          </span>
        </div>
        <p
          v-for="bad in brokenFor(step.id)"
          :key="bad.first"
          class="small bad"
        >
          “{{ titleOf(bad.first) }}” has to come before this: {{ bad.why }}.
        </p>
        <div class="rest">
          <p
            v-for="words in step.cautions"
            :key="words"
            class="small caution"
          >
            {{ words }}
          </p>
          <p
            v-if="step.how.length"
            class="small"
          >
            {{ step.how.join(' ') }}
          </p>
          <ul
            v-if="step.conductors.length"
            class="ways small"
          >
            <li
              v-for="key in step.conductors"
              :key="key"
              :class="{ done: done.has(key) }"
            >
              <v-checkbox-btn
                class="tick"
                density="compact"
                :model-value="done.has(key)"
                :aria-label="`Wire ${wireOf.get(key)?.number} done`"
                @update:model-value="toggleWire(key)"
              />
              <span class="figures nr">{{ wireOf.get(key)?.number }}</span>
              <span
                v-if="wireOf.get(key)?.colour"
                class="swatch"
                :style="{ '--wire': wireOf.get(key)!.colour }"
              /><span class="only-reader">{{ wireOf.get(key)?.colour }}</span>
              <span class="figures">{{ wireOf.get(key)?.from }} → {{ wireOf.get(key)?.to }}</span>
            </li>
          </ul>
          <BuildMisplugged
            v-if="step.id.startsWith('seat:')"
            :part-id="step.id.slice(5)"
          />
          <p class="small quiet">
            {{ step.hold ? 'Go on when: ' : 'Then: ' }}{{ step.check }}
            <template v-if="step.undo === null">
              What is done here stays done.
            </template>
          </p>
        </div>
      </li>
    </ol>
    <BuildFlatCables />
    <BuildMount />
    <FoldPanel
      title="What else has to come before what"
      :open="rules.length > 0"
    >
      <ul
        v-if="rules.length"
        class="rules small"
      >
        <li
          v-for="(entry, i) in rules"
          :key="`${entry.first} ${entry.then}`"
        >
          “{{ titleOf(entry.first) }}” before “{{ titleOf(entry.then) }}”<template v-if="entry.why">
            : {{ entry.why }}
          </template>
          <v-btn
            size="x-small"
            variant="text"
            :aria-label="`Give up ${titleOf(entry.first)} before ${titleOf(entry.then)}`"
            @click="dropRule(i)"
          >
            give up
          </v-btn>
        </li>
      </ul>
      <div class="rule">
        <v-autocomplete
          v-model="rule.first"
          :items="choices"
          label="This first"
          data-test="rule-first"
          hide-details
        />
        <v-autocomplete
          v-model="rule.then"
          :items="choices"
          label="Then this"
          data-test="rule-then"
          hide-details
        />
        <v-text-field
          v-model="rule.why"
          label="Because"
          maxlength="200"
          hide-details
          data-test="rule-why"
          @keydown.enter="addRule"
        />
        <v-btn
          size="small"
          variant="outlined"
          :disabled="!rule.first || !rule.then || rule.first === rule.then"
          data-test="rule-add"
          @click="addRule"
        >
          Keep this rule
        </v-btn>
      </div>
    </FoldPanel>
  </div>
</template>

<style scoped>
.sum { margin-bottom: 8px; }
.leftover {
  display: flex;
  gap: 10px;
  align-items: center;
  border-left: 6px solid var(--ochre);
  background: var(--ochre-wash);
  padding: 4px 10px;
  margin-bottom: 6px;
}
.steps { list-style: none; padding: 0; margin: 0 0 10px; display: grid; gap: 4px; }
.step { background: var(--sheet); border: 1px solid var(--rule); border-left: 6px solid var(--owner, var(--rule)); border-radius: 4px;
  padding: 2px 8px 6px; }
.step.shown { box-shadow: inset 0 0 0 2px var(--copper); }
.acts { display: inline-flex; align-items: center; margin-left: auto; }
.sign { margin-right: 4px; }
.line { display: flex; gap: 6px; align-items: center; flex-wrap: wrap; }
.tick { flex: none; }
.nr { min-width: 1.6em; text-align: end; color: var(--ink-2); }
.title { overflow-wrap: anywhere; }
.mark { font-size: 11.5px; font-weight: 700; border-radius: 2px; padding: 0 6px; white-space: nowrap; }
.mark.hold { background: var(--ochre-wash); color: var(--ochre); border: 1px solid var(--ochre); }
.mark.final { background: var(--carmine-wash); color: var(--carmine); border: 1px solid var(--carmine); }
.rest { display: grid; gap: 3px; padding-left: 34px; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; }
.bad { color: var(--carmine); padding-left: 34px; font-weight: 650; }
.ways { list-style: none; padding: 0; margin: 0; display: grid; gap: 0 14px; grid-template-columns: repeat(auto-fill, minmax(230px, 1fr)); }
.ways li { display: flex; gap: 5px; align-items: center; min-height: 26px; }
.ways li.done, .step.done > .line .title { color: var(--ink-2); text-decoration: line-through; }
.step.done .rest { display: none; }
.swatch { width: 18px; height: 8px; border-radius: 4px; background: var(--wire); border: 1px solid var(--ink-2); flex: none; }
.rules { list-style: none; padding: 0; margin: 0 0 8px; }
.rule { display: grid; gap: 8px; grid-template-columns: repeat(auto-fit, minmax(170px, 1fr)); align-items: center; }
@media (max-width: 600px) { .rest, .bad { padding-left: 4px; } }
@media print { .step { break-inside: avoid; } .step.done .rest { display: grid; } }
</style>
