<script setup lang="ts">
/**
 * Bring-up: what should be seen and what is, what may be wrong and what to try next; scans; and a trainer
 * with hidden faults.
 */
import { picturesOf } from '~/database/photos'
import { checkScriptOf } from '~~/core/diagnosis/check-script'
import { plainPlan, useRunSheet } from './useRunSheet'

const VIEWS = [
  { id: 'run', name: 'Run sheet' }, { id: 'scans', name: 'Addresses and scans' }, { id: 'curves', name: 'Curves' },
  { id: 'programs', name: 'Programs' }, { id: 'board', name: 'Simulated board' }, { id: 'trainer', name: 'Trainer' },
]
const shown = ref('run')
const { sheet, failure, see, seeAll, seeSaid, forget, ask } = useRunSheet()
const project = useProjectStore()
const view = useViewStore()
function script(): void {
  const text = checkScriptOf(project.plan!.name, sheet.value!.rows.map(({ probe }) => probe))
  download(fileName(project.plan!.name, '-check.sh'), text, 'text/x-shellscript')
  view.say('Run it on the board with "sh", and paste what it prints below "Paste anything". It only looks.')
}
const making = ref(false)
async function asBuilt(form: 'md' | 'pdf'): Promise<void> {
  making.value = true
  try {
    if (form === 'md') {
      const text = await ask(service => service.asBuilt(plainPlan()))
      return download(fileName(project.plan!.name, '-as-built.md'), text, 'text/markdown')
    }
    const pictures = await picturesOf(useDatabase(), project.id!)
    const [paper, { pdfOf }] = await Promise.all([ask(service => service.asBuiltPaper(plainPlan(), pictures)),
      import('~/shared/paperPdf')])
    download(fileName(project.plan!.name, '-as-built.pdf'), await pdfOf(paper), 'application/pdf')
  }
  catch (error) {
    view.say(`The sheet was not made: ${(error as Error).message}. Press again.`, { tone: 'stop' })
  }
  finally {
    making.value = false
  }
}
const seen = computed(() => sheet.value?.rows.filter(row => row.seen) ?? [])
const odd = computed(() => seen.value.filter(row => !row.seen!.isPlanned).length)
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Bring-up</h1>
      <span class="quiet">{{ seen.length }} seen{{ odd ? `, ${odd} against the plan` : '' }}</span>
      <span class="spacer" />
      <v-btn
        v-if="sheet?.rows.length"
        size="small"
        variant="outlined"
        data-test="as-built"
        :disabled="making"
        @click="asBuilt('md')"
      >
        As built
      </v-btn>
      <v-btn
        v-if="sheet?.rows.length"
        size="small"
        variant="outlined"
        data-test="as-built-pdf"
        :loading="making"
        @click="asBuilt('pdf')"
      >
        As built, PDF
      </v-btn>
      <v-btn
        v-if="sheet?.rows.length"
        size="small"
        variant="outlined"
        data-test="check-script"
        @click="script"
      >
        Check script
      </v-btn>
    </div>
    <ViewTabs
      v-model="shown"
      :views="VIEWS"
      test="bringup"
      label="View of the bring-up"
    />
    <section
      v-if="shown === 'run'"
      class="view"
    >
      <p
        v-if="failure"
        class="problem"
        role="alert"
      >
        {{ failure }}
      </p>
      <p
        v-else-if="!sheet"
        class="quiet"
        aria-live="polite"
      >
        Every fault is held against every test …
      </p>
      <p
        v-else-if="!sheet.rows.length"
        class="quiet"
        data-test="run-empty"
      >
        Nothing to bring up yet: choose a board, and give your parts their places.
      </p>
      <RunSheet
        v-else
        :sheet="sheet"
        @see="see"
        @see-all="seeAll"
        @see-said="seeSaid"
        @forget="forget"
      />
    </section>
    <section
      v-else-if="shown === 'scans'"
      class="view"
    >
      <BringupScans />
    </section>
    <section
      v-else-if="shown === 'curves'"
      class="view"
    >
      <BringupCurves :ask="ask" />
    </section>
    <section
      v-else-if="shown === 'programs'"
      class="view"
    >
      <BringupPrograms :ask="ask" />
    </section>
    <section
      v-else-if="shown === 'board'"
      class="view"
    >
      <BringupBoard />
    </section>
    <section
      v-else
      class="view"
    >
      <BringupTrainer :ask="ask" />
    </section>
  </div>
</template>

<style scoped>
/* As on the other stages with buttons at their head. */
.stage-head { align-items: center; gap: 8px; }
.view { padding-top: 8px; }
.problem { color: var(--carmine); font-weight: 600; }
</style>
