<script setup lang="ts">
/** Worksheets: opened by a finding with its figures in it, or by themselves. */
import { USUAL_WORKSHEETS, WORKSHEET_NAMES, type Worksheet, type WorksheetKind } from '~~/core/worksheets'

const view = useViewStore()
const KINDS = Object.keys(WORKSHEET_NAMES) as WorksheetKind[]
const SHEETS = {
  'pull-up': resolveComponent('LazyPullUpSheet'), 'divider': resolveComponent('LazyDividerSheet'), 'led': resolveComponent('LazyLedSheet'),
  'serial': resolveComponent('LazySerialSheet'), 'matrix': resolveComponent('LazyMatrixSheet'), 'stage': resolveComponent('LazyStageSheet'),
} as const
const open = computed({ get: () => view.worksheet !== null, set: value => view.worksheet = value ? view.worksheet : null })
const sheet = computed<Worksheet | null>(() => view.worksheet)
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
        :is="SHEETS[sheet.kind]"
        :key="JSON.stringify(sheet)"
        :given="sheet"
      />
      <p class="small quiet">
        Figures from memory are typical ones: look into your part's own sheet, and type what stands there.
      </p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.worksheet { padding: 14px 18px 16px; display: grid; gap: 12px; background: var(--paper); color: var(--ink); }
.head { display: flex; justify-content: space-between; align-items: center; }
.kinds { display: flex; flex-wrap: wrap; gap: 6px; }
.kind { border: 1px solid var(--rule); border-radius: 3px; padding: 3px 10px; background: var(--sheet); color: inherit; font: inherit; font-size: 13px; cursor: pointer; }
.kind[aria-pressed=true] { border-color: var(--copper); box-shadow: inset 0 -3px var(--copper); font-weight: 650; }
.worksheet :deep(.sheet-body) { display: grid; grid-template-columns: minmax(280px, 330px) minmax(0, 1fr); gap: 22px; align-items: start; }
.worksheet :deep(.inputs) { display: grid; gap: 7px; }
.worksheet :deep(.text) { display: grid; grid-template-columns: minmax(120px, 1fr) 154px; gap: 6px; align-items: center; font-size: 13.5px; }
.worksheet :deep(.text input), .worksheet :deep(.text select) { border: 1px solid var(--rule); border-radius: 3px; background: var(--sheet); color: inherit; padding: 3px 6px; min-width: 0; }
.worksheet :deep(.check) { font-size: 13.5px; }
@media (max-width: 760px) { .worksheet :deep(.sheet-body) { grid-template-columns: minmax(0, 1fr); } }
</style>
