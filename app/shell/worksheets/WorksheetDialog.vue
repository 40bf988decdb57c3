<script setup lang="ts">
/** Worksheets: opened by a finding with its figures in it, or by themselves. */
import { USUAL_WORKSHEETS, WORKSHEET_NAMES, type Worksheet, type WorksheetKind } from '~~/core/worksheets'
import { POWER_WORKSHEET_NAMES, type PowerWorksheet } from '~~/core/power/worksheets'
import { sheetUse } from '~~/core/power/sheets'
import type { Edit } from '~~/core/plan/edits'
import type { KeptWorksheet } from '~~/core/plan/power'

const project = useProjectStore()
const view = useViewStore()
const KINDS = Object.keys(WORKSHEET_NAMES) as WorksheetKind[]
const POWER_KINDS = new Set<string>(Object.keys(POWER_WORKSHEET_NAMES))
const SHEETS = {
  'pull-up': resolveComponent('LazyPullUpSheet'), 'divider': resolveComponent('LazyDividerSheet'), 'led': resolveComponent('LazyLedSheet'),
  'serial': resolveComponent('LazySerialSheet'), 'matrix': resolveComponent('LazyMatrixSheet'), 'stage': resolveComponent('LazyStageSheet'),
} as const
const PowerSheet = resolveComponent('LazyPowerSheet')
const open = computed({ get: () => view.worksheet !== null, set: value => view.worksheet = value ? view.worksheet : null })
const sheet = computed<Worksheet | null>(() => view.worksheet)
/** The figures as they were typed; what is kept and used. */
const typed = shallowRef<Worksheet | null>(null)
const what = ref('')
watch(sheet, () => {
  typed.value = null
  what.value = ''
})
const now = computed(() => typed.value ?? sheet.value)
const kept = computed(() => project.plan?.worksheets ?? [])
const isPower = (entry: Worksheet): entry is PowerWorksheet => POWER_KINDS.has(entry.kind)
const nodeName = (id: string) => project.report?.power.nodes.find(node => node.id === id)?.name ?? id
/** What "Use it" would carry into the plan: only where the worksheet belongs to a node that is there. */
const use = computed(() => {
  const entry = now.value
  const found = entry && isPower(entry) && project.plan ? sheetUse(entry, project.plan.power) : null
  return found && project.report?.power.nodes.some(node => node.id === found.node) ? found : null
})

function keep(label: string): Edit {
  const id = `sheet-${Date.now().toString(36)}`
  return { edit: 'keep-worksheet', kept: { id, keptAt: new Date().toISOString(), what: label, sheet: { ...now.value! } } }
}
function keepIt() {
  project.edit(keep(what.value.trim() || WORKSHEET_NAMES[sheet.value!.kind]), 'Keep the worksheet')
  what.value = ''
}
function useIt() {
  const { node, edits } = use.value!
  project.edit(
    {
      edit: 'all',
      edits: [
        ...edits,
        keep(what.value.trim() || `${WORKSHEET_NAMES[sheet.value!.kind]} of ${nodeName(node)}`),
      ],
    },
    `Use it for ${nodeName(node)}`,
  )
  view.say(`Used for ${nodeName(node)}, and the worksheet kept in the plan.`)
  open.value = false
}
function reopen(entry: KeptWorksheet) {
  const usual = USUAL_WORKSHEETS[entry.sheet.kind as WorksheetKind]
  if (usual) view.worksheet = { ...usual, ...entry.sheet } as Worksheet
}
</script>

<template>
  <v-dialog
    v-model="open"
    max-width="820"
    aria-label="Worksheets"
  >
    <v-card
      v-if="sheet"
      class="worksheet"
      data-test="worksheet"
    >
      <div class="head">
        <h2>{{ WORKSHEET_NAMES[sheet.kind] }}</h2>
        <v-btn
          size="small"
          variant="outlined"
          @click="open = false"
        >
          Close
        </v-btn>
      </div>
      <div
        class="kinds"
        role="group"
        aria-label="Worksheets"
      >
        <button
          v-for="kind in KINDS"
          :key="kind"
          class="kind"
          :aria-pressed="kind === sheet.kind"
          :data-test="`sheet-${kind}`"
          @click="view.worksheet = USUAL_WORKSHEETS[kind]"
        >
          {{ WORKSHEET_NAMES[kind] }}
        </button>
      </div>
      <component
        :is="isPower(sheet) ? PowerSheet : SHEETS[sheet.kind]"
        :key="JSON.stringify(sheet)"
        :given="sheet"
        @change="typed = $event"
      />
      <div class="keep small">
        <label>For <input
          v-model="what"
          maxlength="120"
          placeholder="what it is for"
          data-test="sheet-what"
          @keydown.enter="keepIt"
        ></label>
        <v-btn
          v-if="use"
          size="small"
          color="primary"
          data-test="sheet-use"
          @click="useIt"
        >
          Use it for {{ nodeName(use.node) }}
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          data-test="sheet-keep"
          @click="keepIt"
        >
          Keep it in the plan
        </v-btn>
      </div>
      <details
        v-if="kept.length"
        class="small"
      >
        <summary>Kept in this plan ({{ kept.length }})</summary>
        <ul class="kept">
          <li
            v-for="entry in kept"
            :key="entry.id"
          >
            <button
              class="bare act"
              @click="reopen(entry)"
            >
              {{ entry.what }}
            </button>
            <span class="quiet">{{ WORKSHEET_NAMES[entry.sheet.kind as WorksheetKind] ?? entry.sheet.kind }},
              {{ dayAndTime(entry.keptAt) }}</span>
            <button
              class="bare"
              :aria-label="`Drop ${entry.what}`"
              @click="project.edit({ edit: 'drop-worksheet', id: entry.id }, `Drop the worksheet ${entry.what}`)"
            >
              ✕
            </button>
          </li>
        </ul>
      </details>
      <p class="small quiet">
        Figures from memory are typical ones: look into your part's own sheet, and type what stands there.
      </p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.worksheet { padding: 14px 18px 16px; display: grid; gap: 12px; background: var(--paper); color: var(--ink); }
.keep { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.keep input {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 3px 6px;
  width: 220px;
  font: inherit;
}
.kept { list-style: none; margin: 4px 0 0; padding: 0; display: grid; gap: 3px; }
.kept li { display: flex; gap: 10px; }
.act { text-decoration: underline; color: var(--copper); }
.head { display: flex; justify-content: space-between; align-items: center; }
.kinds { display: flex; flex-wrap: wrap; gap: 6px; }
.kind {
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 3px 10px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}
.kind[aria-pressed=true] { border-color: var(--copper); box-shadow: inset 0 -3px var(--copper); font-weight: 650; }
.worksheet :deep(.sheet-body) { display: grid; grid-template-columns: minmax(280px, 330px) minmax(0, 1fr); gap: 22px; align-items: start; }
.worksheet :deep(.inputs) { display: grid; gap: 7px; }
.worksheet :deep(.text) {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) 154px;
  gap: 6px;
  align-items: center;
  font-size: 13.5px;
}
.worksheet :deep(.text input), .worksheet :deep(.text select) {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 3px 6px;
  min-width: 0;
}
.worksheet :deep(.check) { font-size: 13.5px; }
@media (max-width: 760px) { .worksheet :deep(.sheet-body) { grid-template-columns: minmax(0, 1fr); } }
</style>
