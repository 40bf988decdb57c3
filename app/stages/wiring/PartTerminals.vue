<script setup lang="ts">
/** A part's terminals: where each is, why, and the ways to move, fix and release it. */
import { mdiCursorMove, mdiLinkOff, mdiPin, mdiPinOutline } from '@mdi/js'
import type { Explanation } from '~~/core/placement/explain'
import { claimOf } from '~~/core/placement/refs'
import { placeOptions } from '~~/core/placement/options'
import { roleInWords } from '~~/core/facts/roles'
import type { Terminal } from '~~/core/facts/types'

const { partId } = defineProps<{ partId: string }>()
const project = useProjectStore()
const view = useViewStore()
const { moving, start, moveTo } = useMove()
const { current, go } = useStages()
const { vDrags } = useDrag()
const { running, explain } = usePlacement()
const explained = shallowRef<Explanation | null>(null)

async function ask(terminal: Terminal) {
  const plan = project.plan
  const found = await explain(terminal.key)
  if (found && project.plan === plan) explained.value = found
}
watch(() => project.plan, () => explained.value = null)
const nameOfTerminal = (key: string) => {
  const found = project.facts!.byKey.get(key)
  return found ? `${found.owner.name} ${found.label}` : key
}

const terminals = computed(() => project.facts!.terminals.filter(terminal => terminal.owner.id === partId))
const reasons = computed(() => new Map(project.report!.placements.map(entry => [entry.terminal, entry.reason])))
const whyOpen = ref<string | null>(null)

const bound = (terminal: Terminal) => claimOf(terminal) !== undefined
const boundAt = ({ place }: Terminal) => place?.kind === 'header' ? String(place.position) : ''
const valueOf = (terminal: Terminal) => terminal.assignment
  ? terminal.assignment.position !== undefined ? `P${terminal.assignment.position}` : terminal.assignment.terminal!
  : ''
const optionsOf = (terminal: Terminal) => placeOptions(terminal, project.facts!).map(option => ({
  ...option, value: option.to.position !== undefined ? `P${option.to.position}` : option.to.terminal!,
  text: `${option.label}${option.takenBy.length ? ' (taken)' : ''}${option.reserved ? ' (reserved)' : ''}`,
}))
/** A place that cannot serve the terminal is shown as it is, so that it can be seen and changed. */
const stray = (terminal: Terminal) => valueOf(terminal)
  && !optionsOf(terminal).some(option => option.value === valueOf(terminal))
  ? valueOf(terminal).replace(/^P(\d+)$/, 'position $1')
  : null
const kindOf = (terminal: Terminal) => terminal.is === 'ground'
  ? 'return'
  : terminal.is === 'supply'
    ? `supply ${terminal.supply!.rail}`
    : roleInWords(terminal.signal!.role).replace(/^an? /, '')

/** Places to choose from, with the one it has where that cannot serve it. */
const placesOf = (terminal: Terminal) => [
  ...stray(terminal) ? [{ value: valueOf(terminal), title: `${stray(terminal)} (cannot)` }] : [],
  ...optionsOf(terminal).map(({ value, text: title }) => ({ value, title })),
]

function choose(terminal: Terminal, value: string | null) {
  if (!value) return release(terminal)
  const option = optionsOf(terminal).find(entry => entry.value === value)
  if (option) moveTo(terminal.key, option)
}

function release(terminal: Terminal) {
  project.edit({ edit: 'release', terminal: terminal.key }, `Release ${terminal.owner.name} ${terminal.label}`)
}

function fix(terminal: Terminal) {
  const fixed = !terminal.assignment?.fixed
  project.edit({ edit: 'fix', terminal: terminal.key, fixed },
    `${fixed ? 'Fix' : 'Let go of'} ${terminal.owner.name} ${terminal.label}`)
}

async function move(terminal: Terminal) {
  if (current.value.id !== 'wiring') await go('wiring')
  start(terminal.key)
}

function movesInWords(moves: { terminal: string, to: string }[]): string {
  if (!moves.length) return ', and nothing else moves'
  const told = moves.slice(0, 3).map(move => `${nameOfTerminal(move.terminal)} goes to ${move.to}`).join(', ')
  return `; ${told}${moves.length > 3 ? ` and ${moves.length - 3} more move` : ''}`
}
</script>

<template>
  <ul class="terminals">
    <li
      v-for="terminal in terminals"
      :key="terminal.key"
      v-drags="bound(terminal) || current.id !== 'wiring' ? null : terminal.key"
      :data-test="`terminal-${terminal.key}`"
      :class="{ moving: moving === terminal.key, marked: view.marked.some(subject => subject.terminal === terminal.key) }"
    >
      <div class="line">
        <span class="name"><b>{{ terminal.label }}</b> <span class="quiet small">{{ kindOf(terminal) }}</span></span>
        <span
          v-if="bound(terminal)"
          class="small"
        ><HintText hint="The add-on board is bound to this position"><span class="figures">{{ boundAt(terminal) }}</span>
          bound</HintText></span>
        <v-autocomplete
          v-else
          class="place figures"
          :items="placesOf(terminal)"
          :model-value="valueOf(terminal) || null"
          placeholder="none yet"
          :aria-label="`Place of ${terminal.owner.name} ${terminal.label}`"
          :data-test="`place-${terminal.key}`"
          @update:model-value="value => choose(terminal, value)"
        />
        <template v-if="!bound(terminal)">
          <IconAct
            :name="`Move ${terminal.label} on the header`"
            hint="Move on the header"
            :icon="mdiCursorMove"
            :aria-pressed="moving === terminal.key"
            @click="move(terminal)"
          />
          <IconAct
            :disabled="!terminal.assignment"
            :name="`${terminal.assignment?.fixed ? 'Let go of' : 'Fix'} ${terminal.label}`"
            :hint="terminal.assignment?.fixed ? 'Fixed: placing leaves it here. Press to let go.' : 'Fix it here'"
            :icon="terminal.assignment?.fixed ? mdiPin : mdiPinOutline"
            :aria-pressed="terminal.assignment?.fixed === true"
            @click="fix(terminal)"
          />
          <IconAct
            :disabled="!terminal.assignment"
            :name="`Release ${terminal.label}`"
            hint="Release"
            :icon="mdiLinkOff"
            @click="release(terminal)"
          />
        </template>
      </div>
      <p
        v-if="terminal.between"
        class="small"
      >
        {{ terminal.between.kind === 'divider' ? `through a divider, ${terminal.between.upperOhm} Ω over ${terminal.between.lowerOhm} Ω`
          : `through a ${terminal.between.kind.replace('-', ' ')}${['mosfet', 'transistor'].includes(terminal.between.kind) ? ' stage'
            : ''}`
        }}
        <v-btn
          variant="text"
          size="x-small"
          class="act"
          @click="project.edit({ edit: 'set-between', terminal: terminal.key, between: null },
                               `Take out what is between at ${terminal.key}`)"
        >
          take out
        </v-btn>
      </p>
      <p
        v-if="reasons.get(terminal.key) && (whyOpen === terminal.key || view.position !== null
          && terminal.assignment?.position === view.position)"
        class="small quiet"
      >
        {{ reasons.get(terminal.key) }}
        <v-btn
          v-if="!bound(terminal) && explained?.terminal !== terminal.key"
          variant="text"
          size="x-small"
          class="act"
          :disabled="running !== null"
          :data-test="`explain-${terminal.key}`"
          @click="ask(terminal)"
        >
          {{ running ? 'working it out …' : 'and the next best?' }}
        </v-btn>
      </p>
      <div
        v-if="explained?.terminal === terminal.key"
        class="small explained"
        data-test="explained"
      >
        <p v-if="explained.nextBest">
          Next best: <b>{{ explained.nextBest.to }}</b>, costs {{ explained.nextBest.costsMore.toFixed(2) }}
          more{{ movesInWords(explained.nextBest.moves) }}.
        </p>
        <p v-else>
          It can be nowhere else.
        </p>
        <p>
          {{ explained.alsoWanted.length ? `Also wanted by ${explained.alsoWanted.join(', ')}.`
            : 'Nobody else would choose this place first.' }}
        </p>
      </div>
      <v-btn
        v-else-if="reasons.get(terminal.key)"
        variant="text"
        size="x-small"
        class="act"
        @click="whyOpen = terminal.key"
      >
        why here?
      </v-btn>
    </li>
  </ul>
</template>

<style scoped>
.terminals { list-style: none; margin: 0; padding: 0; }
li { padding: 4px 0; border-top: 1px solid color-mix(in srgb, var(--rule) 60%, transparent); }
li:first-child { border-top: 0; }
.moving { background: var(--moss-wash); }
.marked { box-shadow: inset 3px 0 var(--copper); padding-left: 6px; }
.line { display: flex; align-items: center; gap: 2px; }
.name { flex: 1; min-width: 0; line-height: 1.15; overflow-wrap: anywhere; }
.name .small { display: block; font-size: 11.5px; }
.place { width: 118px; flex: none; }
.place :deep(.v-field) { padding-inline-end: 0; font-size: 12.5px; }
.place :deep(.v-field__input.v-field__input) { padding-inline: 6px 0; font-size: 12.5px; }
.place :deep(.v-icon) { font-size: 17px; }
.line :deep(.v-btn--icon) { width: 26px; height: 28px; }
.line :deep([aria-pressed=true]) { color: var(--copper); }
.explained { border-left: 3px solid var(--rule); padding-left: 7px; }
li[draggable=true] .name { cursor: grab; }
.link { color: var(--copper); text-decoration: underline; font-size: 12px; }
</style>
