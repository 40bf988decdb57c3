<script setup lang="ts">
/** Worksheets: opened by a finding with its figures in it, or by themselves. */
import { mdiClose } from '@mdi/js'
import { USUAL_WORKSHEETS, WORKSHEET_NAMES, type Worksheet, type WorksheetKind } from '~~/core/vocabulary/worksheets'
import { isOfPower } from '~~/core/findings/worksheets'
import { sheetUse } from '~~/core/power/sheets'
import type { Edit } from '~~/core/plan/edits'
import type { KeptWorksheet } from '~~/core/plan/power'

const project = useProjectStore()
const view = useViewStore()
const KINDS = Object.keys(WORKSHEET_NAMES) as WorksheetKind[]
const open = computed({ get: () => view.worksheet !== null,
  set: value => view.worksheet = value ? view.worksheet : null })
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
/** What a line of the board gives: sheets go by it. */
const context = computed(() => ({ lineMost: project.facts?.board?.limits.lineMaxMa
  ?? { value: 16, origin: 'memory' as const } }))
const nodeName = (id: string) => project.report?.power.nodes.find(node => node.id === id)?.name ?? id
/** What "Use it" would carry into the plan: only where the worksheet belongs to a node that is there. */
const use = computed(() => {
  const entry = now.value
  const found = entry && isOfPower(entry) && project.facts ? sheetUse(entry, project.facts) : null
  return found && project.report?.power.nodes.some(node => node.id === found.node) ? found : null
})

function keep(label: string): Edit {
  const id = `sheet-${Date.now().toString(36)}`
  return { edit: 'keep-worksheet',
    kept: { id, keptAt: new Date().toISOString(), what: label, sheet: { ...now.value! } } }
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
      <v-tabs
        :model-value="sheet.kind"
        class="kinds"
        aria-label="Worksheets"
        show-arrows
        @update:model-value="kind => view.worksheet = USUAL_WORKSHEETS[kind as WorksheetKind]"
      >
        <v-tab
          v-for="kind in KINDS"
          :key="kind"
          :value="kind"
          :data-test="`sheet-${kind}`"
        >
          {{ WORKSHEET_NAMES[kind] }}
        </v-tab>
      </v-tabs>
      <SheetBody
        :key="JSON.stringify(sheet)"
        :given="sheet"
        :context="context"
        @change="typed = $event"
      />
      <div class="keep small">
        <v-text-field
          v-model="what"
          class="what"
          label="What it is for"
          maxlength="120"
          data-test="sheet-what"
          @keydown.enter="keepIt"
        />
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
      <FoldPanel
        v-if="kept.length"
        :title="`Kept in this plan (${kept.length})`"
      >
        <ul class="kept small">
          <li
            v-for="entry in kept"
            :key="entry.id"
          >
            <v-btn
              class="act"
              variant="text"
              size="x-small"
              @click="reopen(entry)"
            >
              {{ entry.what }}
            </v-btn>
            <span class="quiet">{{ WORKSHEET_NAMES[entry.sheet.kind as WorksheetKind] ?? entry.sheet.kind }},
              {{ dayAndTime(entry.keptAt) }}</span>
            <IconAct
              :name="`Drop ${entry.what}`"
              :icon="mdiClose"
              @click="project.edit({ edit: 'drop-worksheet', id: entry.id }, `Drop the worksheet ${entry.what}`)"
            />
          </li>
        </ul>
      </FoldPanel>
      <p class="small quiet">
        Figures from memory are typical ones: look into your part's own sheet, and type what stands there.
      </p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.worksheet { padding: 14px 18px 16px; display: grid; gap: 12px; background: var(--paper); color: var(--ink); }
.keep { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.what { flex: 0 1 260px; }
.kept { list-style: none; margin: 4px 0 0; padding: 0; display: grid; gap: 3px; }
.kept li { display: flex; gap: 10px; align-items: center; }
.head { display: flex; justify-content: space-between; align-items: center; }
.kinds { margin-bottom: 0; }
</style>
