<script setup lang="ts">
import type { Figure, Finding } from '~~/core/findings/types'
import { FIGURES } from '~~/core/netlist/supply/kinds'

const { finding } = defineProps<{ finding: Finding }>()
const project = useProjectStore()
const view = useViewStore()
const SEVERITY = { stop: 'Stop', caution: 'Caution', note: 'Note' } as const
const chosen = computed(() => view.findingId === finding.id)
const editing = ref<string | null>(null)

const withUnit = (value: number | string, unit?: string) => `${value}${unit ? ` ${unit}` : ''}`

/** What makes a limit replaceable, as one name: a key of the plan's limits, or a figure of a node. */
const nameOf = ({ limitKey, replaces }: Figure) => limitKey ?? (replaces ? `${replaces.node} ${replaces.figure}` : null)

/** A limit that is a figure of a node is replaced there. */
function setNodeFigure({ node, figure }: NonNullable<Figure['replaces']>, text: string, value: number) {
  if (text === '') return project.edit({ edit: 'set-figure', node, figure, value: null }, 'Take back the limit')
  const { label, unit, least, most } = FIGURES[figure]!
  if (!Number.isFinite(value) || value < least || value > most) {
    return view.say(
      `"${text}" cannot be: ${label} goes from ${least} to ${most} ${unit}. Type nothing to take the file's figure back.`, { tone: 'stop' },
    )
  }
  project.edit({ edit: 'set-figure', node, figure, value }, `Set ${label} to ${value}`)
}

function setLimit(figure: Figure, event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  const value = Number(text.replace(',', '.'))
  editing.value = null
  if (figure.replaces && !figure.limitKey) return setNodeFigure(figure.replaces, text, value)
  if (text === '') return project.edit({ edit: 'set-limit', key: figure.limitKey!, value: null }, 'Take back the limit')
  if (!Number.isFinite(value) || value <= 0) {
    return view.say(`"${text}" is no figure. Type a number above zero, or nothing to take the limit of the file back.`, { tone: 'stop' })
  }
  project.edit({ edit: 'set-limit', key: figure.limitKey!, value }, `Set the limit to ${value}`)
}
</script>

<template>
  <article
    class="card"
    :class="[finding.severity, { chosen }]"
    :data-test="`finding-${finding.code}`"
  >
    <button
      class="bare title"
      :aria-pressed="chosen"
      @click="view.chooseFinding(finding)"
    >
      <span class="only-reader">{{ SEVERITY[finding.severity] }}: </span>{{ finding.title }}
    </button>
    <p>{{ finding.sentence }}</p>
    <dl
      v-if="finding.figures.length"
      class="figures-list"
    >
      <div
        v-for="figure in finding.figures"
        :key="figure.label"
      >
        <dt>{{ figure.label }}</dt>
        <dd class="figures">
          {{ withUnit(figure.value, figure.unit) }}
        </dd>
        <template v-if="figure.limit !== undefined">
          <dt>limit</dt>
          <dd class="figures">
            <input
              v-if="editing !== null && editing === nameOf(figure)"
              :value="figure.limit"
              :aria-label="`Your own limit for ${figure.label}`"
              class="limit-input"
              autofocus
              @change="setLimit(figure, $event)"
              @keydown.esc="editing = null"
            >
            <button
              v-else-if="nameOf(figure)"
              class="bare editable"
              title="Replace this limit with your own"
              @click="editing = nameOf(figure)"
            >
              {{ withUnit(figure.limit, figure.unit) }}
            </button>
            <template v-else>
              {{ withUnit(figure.limit, figure.unit) }}
            </template>
          </dd>
        </template>
        <template v-if="figure.origin">
          <dt>from</dt><dd>{{ figure.origin }}</dd>
        </template>
      </div>
    </dl>
    <div
      v-if="finding.fixes.length || finding.worksheet"
      class="fixes"
    >
      <v-btn
        v-for="(fix, i) in finding.fixes"
        :key="fix.label"
        size="small"
        :color="i === 0 ? 'primary' : undefined"
        :variant="i === 0 ? 'flat' : 'outlined'"
        data-test="fix"
        @click="project.applyFix(fix)"
      >
        {{ fix.label }}
      </v-btn>
      <v-btn
        v-if="finding.worksheet"
        size="small"
        variant="outlined"
        data-test="work-it-out"
        @click="view.worksheet = finding.worksheet"
      >
        Work it out
      </v-btn>
    </div>
  </article>
</template>

<style scoped>
.card {
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 4px;
  padding: 9px 12px 11px 16px;
  display: grid;
  gap: 6px;
  font-size: 13.5px;
}
.card::before {
  content: '';
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 6px;
  border-radius: 3px 0 0 3px;
  background: var(--ink-2);
  opacity: .5;
}
.stop::before { background: var(--carmine); opacity: 1; }
.caution::before { background: repeating-linear-gradient(var(--ochre) 0 7px, var(--ochre-wash) 7px 11px); opacity: 1; }
.chosen { box-shadow: 0 0 0 2px var(--copper); }
.title { font-weight: 650; font-size: 14.5px; line-height: 1.25; overflow-wrap: anywhere; }
.card p { overflow-wrap: anywhere; }
.figures-list { margin: 0; font-size: 12.5px; color: var(--ink-2); display: grid; gap: 2px; }
.figures-list div { display: flex; flex-wrap: wrap; gap: 0 6px; }
.figures-list dt { color: var(--ink-2); }
.figures-list dd { margin: 0 8px 0 0; color: var(--ink); font-weight: 600; overflow-wrap: anywhere; }
.editable { text-decoration: underline dotted; font-weight: 600; }
.limit-input {
  width: 70px;
  border: 1px solid var(--copper);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 0 4px;
}
.fixes { display: flex; flex-wrap: wrap; gap: 6px; }
.fixes :deep(.v-btn) { max-width: 100%; height: auto; min-height: 28px; padding-block: 3px; }
.fixes :deep(.v-btn__content) { white-space: normal; text-align: left; }
</style>
