<script setup lang="ts">
/**
 * Building: the steps in the order without regret, every wire, what lies on the table; and one thing at a time,
 * for the bench.
 */
import { useMediaQuery } from '@vueuse/core'
import { buildAsMarkdown, cutsAsCsv, labelsAsCsv, wiresAsCsv } from '~~/core/construction/table'
import { engine } from '~/stores/engine'
import { useBuild } from './useBuild'

const project = useProjectStore()
const { go } = useStages()
const { build } = useBuild()
const focus = ref(false)
const VIEWS = [{ id: 'steps', name: 'Steps' }, { id: 'wires', name: 'Wires' }, { id: 'parts', name: 'Parts list' }]
const shown = ref('steps')
/** A view is made when it is first looked at, all of them for paper. */
const paper = useMediaQuery('print')
const met = ref(new Set(['steps']))
watch(shown, view => met.value.add(view))
const isMade = (view: string) => paper.value || met.value.has(view)
const wires = computed(() => project.report!.wires)
const done = computed(() => new Set(project.plan!.build.done))
const doneCount = computed(() => wires.value.filter(wire => done.value.has(wire.key)).length)
const stops = computed(() => project.report!.counts.stops)
/** Whoever wires it is told what somebody decided at the desk. */
const setAside = computed(() =>
  project.report!.findings.filter(finding => finding.severity === 'stop' && finding.aside))

const csv = () => download(fileName(project.plan!.name, '-wires.csv'), '\uFEFF' + wiresAsCsv(wires.value), 'text/csv')
const cuts = () => download(fileName(project.plan!.name, '-cuts.csv'), '\uFEFF' + cutsAsCsv(wires.value), 'text/csv')
const labels = () =>
  download(fileName(project.plan!.name, '-labels.csv'), '\uFEFF' + labelsAsCsv(wires.value), 'text/csv')
const view = useViewStore()
const making = ref(false)
async function benchSheet() {
  if (!engine.value || !project.facts) return
  making.value = true
  try {
    const open = project.report!.findings.filter(finding => finding.severity === 'stop').map(({ title }) => title)
    const { pdfOf } = await import('~/shared/paperPdf')
    download(fileName(project.plan!.name, '-bench.pdf'), await pdfOf(engine.value.sheetOf(project.facts, open)),
      'application/pdf')
  }
  catch (error) {
    view.say(`The bench sheet could not be made: ${(error as Error).message}. "All as text" has the same words.`)
  }
  finally {
    making.value = false
  }
}
const markdown = () => download(fileName(project.plan!.name, '-build.md'),
  buildAsMarkdown(project.plan!.name, wires.value, project.report!.partsList, build.value), 'text/markdown')
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Build</h1>
      <span class="quiet">{{ doneCount }} of {{ wires.length }} joined</span>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!wires.length"
        data-test="download-build"
        @click="markdown"
      >
        All as text
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!wires.length"
        :loading="making"
        data-test="bench-sheet"
        @click="benchSheet"
      >
        Bench sheet
      </v-btn>
      <v-btn
        size="small"
        color="primary"
        :disabled="!wires.length"
        data-test="focus"
        @click="focus = true"
      >
        Focus mode
      </v-btn>
    </div>
    <p
      v-if="stops"
      class="hold"
    >
      <b>{{ stops }} {{ stops === 1 ? 'stop is' : 'stops are' }} open.</b> Mend {{ stops === 1 ? 'it' : 'them' }} before the supply goes in:
      something would not work or be damaged.
    </p>
    <p
      v-for="finding in setAside"
      :key="finding.id"
      class="hold aside"
      data-test="stop-set-aside"
    >
      <b>Set aside, and yet a stop: {{ finding.title }}.</b> {{ finding.aside!.reason }}
    </p>
    <p class="small quiet lead">
      Supply unplugged while you wire. Touch something earthed first. Position 1 has the square pad. Never move a wire on a running board.
    </p>
    <div
      v-if="!wires.length"
      class="empty"
    >
      <p>Nothing to join yet: no part is placed, plugged in or fed.</p>
      <v-btn
        size="small"
        color="primary"
        @click="go('wiring')"
      >
        To the Wiring stage
      </v-btn>
    </div>
    <template v-else>
      <ViewTabs
        v-model="shown"
        :views="VIEWS"
        test="build"
        label="View of the build"
      />
      <section
        v-show="shown === 'steps'"
        class="view steps"
      >
        <div class="seen">
          <BuildPicture />
          <BuildRoom />
        </div>
        <BuildSteps />
      </section>
      <section
        v-if="isMade('wires')"
        v-show="shown === 'wires'"
        class="view"
      >
        <div class="acts">
          <v-btn
            size="small"
            variant="outlined"
            data-test="download-wires"
            @click="csv"
          >
            Download wire list
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            data-test="download-cuts"
            @click="cuts"
          >
            Download cut list
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            data-test="download-labels"
            @click="labels"
          >
            Download labels
          </v-btn>
        </div>
        <BuildWires />
        <p class="push">
          Boards are pushed on first: position 1 over position 1, not one row or column off; look from the side before pressing. The supply
          goes in last of all{{ project.facts!.supply ? '' : '; none is chosen yet' }}.
        </p>
      </section>
    </template>
    <section
      v-if="!wires.length || isMade('parts')"
      v-show="!wires.length || shown === 'parts'"
      class="view"
    >
      <BuildParts />
    </section>
    <FocusMode
      v-if="focus"
      :wires="wires"
      :steps="build.steps"
      @close="focus = false"
    />
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.lead { margin-bottom: 8px; }
.hold {
  border: 1px solid var(--carmine);
  border-left-width: 6px;
  background: var(--carmine-wash);
  border-radius: 4px;
  padding: 6px 12px;
  margin-bottom: 8px;
}
.empty { display: grid; gap: 8px; justify-items: start; padding: 12px 0; }
.push { padding: 6px 0; }
.view { padding-top: 8px; }
.steps { display: grid; gap: 8px; align-items: start; }
.seen { display: grid; gap: 8px; min-width: 0; }
.steps > * { min-width: 0; }
@media (min-width: 1200px) {
  .steps { grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); }
  .seen { grid-column: 2; grid-row: 1; position: sticky; top: 8px; }
}
.acts { display: flex; flex-wrap: wrap; gap: 8px; padding-bottom: 6px; }
/* Paper has all of it, one after the other. */
@media print { .view { display: block !important; } .acts { display: none; } }
</style>
