<script setup lang="ts">
/** One finding: the sentence, the figures with their limits, the fixes, and a way to set it aside with a reason. */
import type { Figure, Finding, Fix } from '~~/core/findings/types'
import { asideOf } from '~~/core/findings/set-aside'
import { drawerFirst } from '~~/core/stock/needs'
import { FIGURES } from '~~/core/netlist/supply/kinds'

const { finding } = defineProps<{ finding: Finding }>()
const emit = defineEmits<{ fix: [fix: Fix] }>()
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
  const { label, unit, min, max } = FIGURES[figure]!
  if (!Number.isFinite(value) || value < min || value > max) {
    return view.say(
      `"${text}" cannot be: ${label} goes from ${min} to ${max} ${unit}. Type nothing to take the file's figure back.`,
      { tone: 'stop' },
    )
  }
  project.edit({ edit: 'set-figure', node, figure, value }, `Set ${label} to ${value}`)
}

function setLimit(figure: Figure, text: string) {
  const value = Number(text.replace(',', '.'))
  editing.value = null
  if (figure.replaces && !figure.limitKey) return setNodeFigure(figure.replaces, text, value)
  if (text === '') return project.edit({ edit: 'set-limit', key: figure.limitKey!, value: null }, 'Take back the limit')
  if (!Number.isFinite(value) || value <= 0) {
    return view.say(`"${text}" is no figure. Type a number above zero, or nothing to take the limit of the file back.`,
      { tone: 'stop' })
  }
  project.edit({ edit: 'set-limit', key: figure.limitKey!, value }, `Set the limit to ${value}`)
}

const typedLimit = ref('')
function editLimit(figure: Figure) {
  editing.value = nameOf(figure)
  typedLimit.value = String(figure.limit)
}

/** What the maker has is the way out that is tried first. */
const { left } = useDrawer()
const fixes = computed(() => drawerFirst(finding.fixes, left.value))

const reason = ref<string | null>(null)
function setAside() {
  const text = reason.value?.trim()
  if (!text) return
  project.edit({ edit: 'set-aside', entry: asideOf(finding, text, new Date().toISOString()) },
    `Set aside: ${finding.title}`)
  reason.value = null
  view.say('It no longer counts, as long as it says the same.', { action: { label: 'Undo', run: project.undo } })
}
</script>

<template>
  <article
    class="card"
    :class="[finding.severity, { chosen, aside: finding.aside }]"
    :data-test="`finding-${finding.code}`"
  >
    <v-btn
      variant="text"
      class="finding-title grows"
      :ripple="false"
      :aria-pressed="chosen"
      :data-finding="finding.id"
      @click="view.chooseFinding(finding)"
    >
      <span class="only-reader">{{ SEVERITY[finding.severity] }}: </span>{{ finding.title }}
    </v-btn>
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
            <v-text-field
              v-if="editing !== null && editing === nameOf(figure)"
              v-model="typedLimit"
              :aria-label="`Your own limit for ${figure.label}`"
              class="limit-input figures"
              inputmode="decimal"
              autofocus
              hide-details
              @keydown.enter="setLimit(figure, typedLimit.trim())"
              @blur="editing !== null && setLimit(figure, typedLimit.trim())"
              @keydown.esc.stop="editing = null"
            />
            <v-btn
              v-else-if="nameOf(figure)"
              class="act"
              variant="text"
              size="x-small"
              @click="editLimit(figure)"
            >
              {{ withUnit(figure.limit, figure.unit) }}
              <HoverHint text="Replace this limit with your own" />
            </v-btn>
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
    <p
      v-if="finding.aside"
      class="said"
    >
      Set aside: {{ finding.aside.reason }} <span class="quiet small">({{ dayAndTime(finding.aside.at) }})</span>
    </p>
    <p
      v-if="finding.lapsed"
      class="said"
    >
      Was set aside: {{ finding.lapsed.reason }}. It counts again, because
      {{ finding.lapsed.because === 'graver' ? 'it is graver than it was' : 'its figures have changed' }}.
    </p>
    <v-form
      v-if="reason !== null"
      class="reason"
      @submit.prevent="setAside"
    >
      <v-text-field
        v-model="reason"
        label="Why it is acceptable"
        maxlength="1000"
        autofocus
        data-test="aside-reason"
        :hint="finding.severity === 'stop' ? 'A stop means that something will not work or be damaged. It stays in every list.' : undefined"
        :persistent-hint="finding.severity === 'stop'"
        @keydown.esc.stop="reason = null"
      />
      <v-btn
        size="small"
        color="primary"
        type="submit"
        :disabled="!reason.trim()"
        data-test="aside-keep"
      >
        Set aside
      </v-btn>
    </v-form>
    <div class="fixes">
      <v-btn
        v-for="({ fix, isThere }, i) in fixes"
        :key="fix.label"
        size="small"
        class="grows"
        :color="i === 0 ? 'primary' : undefined"
        :variant="i === 0 ? 'flat' : 'outlined'"
        data-test="fix"
        @click="emit('fix', fix)"
      >
        <span>{{ fix.label }}<span
          v-if="isThere"
          class="drawer"
        > · in your drawer</span></span>
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
      <v-btn
        v-if="finding.aside"
        size="small"
        variant="text"
        data-test="count-again"
        @click="project.edit({ edit: 'count-again', id: finding.id }, `Count again: ${finding.title}`)"
      >
        Let it count again
      </v-btn>
      <v-btn
        v-else-if="reason === null"
        size="small"
        variant="text"
        class="quiet"
        data-test="set-finding-aside"
        @click="reason = ''"
      >
        Set aside …
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
.drawer { font-weight: 400; opacity: .85; }
.chosen { box-shadow: 0 0 0 2px var(--copper); }
.finding-title.finding-title {
  font-weight: 650;
  font-size: 14.5px;
  line-height: 1.25;
  overflow-wrap: anywhere;
  padding: 0;
  justify-content: start;
  min-height: 24px;
}
.finding-title :deep(.v-btn__content) { overflow-wrap: anywhere; }
.finding-title :deep(.v-btn__overlay) { opacity: 0; }
.card p { overflow-wrap: anywhere; }
.figures-list { margin: 0; font-size: 12.5px; color: var(--ink-2); display: grid; gap: 2px; }
.figures-list div { display: flex; flex-wrap: wrap; gap: 0 6px; }
.figures-list dt { color: var(--ink-2); }
.figures-list dd { margin: 0 8px 0 0; color: var(--ink); font-weight: 600; overflow-wrap: anywhere; }
.limit-input { width: 96px; }
.reason { display: grid; gap: 6px; justify-items: start; }
.reason .v-input { width: 100%; }
.said { font-size: 13px; border-left: 3px solid var(--rule); padding-left: 8px; }
.aside { opacity: .85; }
.figures-list div { align-items: center; }
.fixes { display: flex; flex-wrap: wrap; gap: 6px; }
</style>
