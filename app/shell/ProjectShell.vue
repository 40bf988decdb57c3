<script setup lang="ts">
/** What surrounds the stages of a project: bar, rail, drawer, strip. */
import { useEventListener } from '@vueuse/core'

const route = useRoute()
const project = useProjectStore()
const view = useViewStore()
const { current } = useStages()
const { exportRecord } = useTransfer()

const ready = ref(false)
watch(() => String(route.params.id), async (id) => {
  ready.value = false
  view.reset()
  await project.open(id)
  ready.value = true
  if (project.recovered) {
    view.say('The last change had not been saved when the tab was closed. It is back.',
      { action: { label: 'Undo', run: project.undo } })
  }
}, { immediate: true })
// The Board stage asks nothing of the checks, is shown first, and asks for them itself.
watch(() => current.value.id, stage => stage === 'board' || void project.beJudged(), { immediate: true })
onUnmounted(project.close)
// What could not be kept goes with the tab: the browser asks first.
useEventListener(window, 'beforeunload', (event) => {
  if (project.saveState.state === 'failed') event.preventDefault()
})
useShortcuts()
useHead({ title: () => project.plan ? `${project.plan.name} · ${current.value.name} · Voltaris` : 'Voltaris' })

function toStage() {
  document.querySelector<HTMLElement>('#stage')?.focus()
}
</script>

<template>
  <v-btn
    class="skip"
    color="primary"
    size="small"
    @click="toStage"
  >
    To the stage
  </v-btn>
  <TopBar />
  <StageRail />
  <v-main tag="div">
    <main
      id="stage"
      class="stage"
      tabindex="-1"
    >
      <LazySaveBar v-if="project.saveState.state === 'failed' || project.collisions.length" />
      <p
        v-if="!ready"
        class="quiet"
      >
        Opening …
      </p>
      <div
        v-else-if="project.loadError"
        role="alert"
        class="missing"
      >
        <h1>This project cannot be opened</h1>
        <p>
          {{ project.loadError.message }}
          <template v-if="project.loadError.trouble === 'gone'">
            It may have been deleted, or belong to another browser. Go back to the list, look into the bin, or import its file.
          </template>
        </p>
        <div class="ways">
          <v-btn
            color="primary"
            to="/"
          >
            To the list of projects
          </v-btn>
          <v-btn
            variant="outlined"
            @click="project.open(String(route.params.id))"
          >
            Try again
          </v-btn>
          <v-btn
            v-if="project.loadError.record"
            variant="outlined"
            @click="exportRecord(project.loadError.record)"
          >
            Save the record to a file
          </v-btn>
        </div>
        <LazyRescueList
          v-if="project.loadError.trouble === 'damaged'"
          :id="String(route.params.id)"
          @rescued="project.open(String(route.params.id))"
        />
      </div>
      <NuxtPage v-else-if="project.plan && (project.report || current.id === 'board')" />
      <div
        v-else-if="project.plan"
        class="quiet"
        role="status"
      >
        <p>Checking the plan …</p>
        <LazyWaitingLine />
        <v-skeleton-loader type="heading, table-row@6" />
      </div>
    </main>
  </v-main>
  <LazySideDrawer v-if="project.plan && project.report" />
  <GaugeStrip v-if="project.report" />
  <LazyWorksheetDialog v-if="view.worksheet" />
  <LazyShareDialog v-if="view.shareOpen && project.report" />
  <LazyTourCard v-if="view.tour !== null" />
  <LazyHistoryDialog v-if="view.historyOpen && project.plan" />
</template>

<style scoped>
.skip { position: fixed; top: 8px; left: 8px; z-index: 3000; }
.skip:not(:focus-visible) { transform: translateY(-60px); opacity: 0; pointer-events: none; }
.stage {
  height: calc(100dvh - var(--v-layout-top) - var(--v-layout-bottom));
  overflow: auto;
  padding: 12px 16px 24px;
  outline: none;
}
.missing { max-width: 640px; display: grid; gap: 12px; justify-items: start; }
.ways { display: flex; gap: 10px; flex-wrap: wrap; }
@media (max-width: 700px) { .stage { padding: 10px 10px 20px; } }
@media print { .stage { height: auto; overflow: visible; padding: 0; } }
</style>
