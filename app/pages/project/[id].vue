<script setup lang="ts">
/** The shell of a project: stage rail, stage, findings, gauges. */
const route = useRoute()
const project = useProjectStore()
const view = useViewStore()
const { current } = useStages()

const ready = ref(false)
watch(() => String(route.params.id), async (id) => {
  ready.value = false
  view.reset()
  await project.open(id)
  ready.value = true
  if (project.recovered === 'here') {
    view.say('The last change had not been saved when the tab was closed. It is back.', { action: { label: 'Undo', run: project.undo } })
  }
  if (project.recovered === 'copy') view.say('Work from a closed tab was found and kept as a project of its own, marked "recovered".')
}, { immediate: true })
onUnmounted(project.close)
useShortcuts()
useHead({ title: () => project.plan ? `${project.plan.name} · ${current.value.name} · Voltaris` : 'Voltaris' })
</script>

<template>
  <div
    class="shell"
    :class="{ 'with-drawer': view.drawerOpen }"
  >
    <TopBar />
    <StageRail />
    <main
      id="stage"
      class="stage"
    >
      <LazyConflictBar v-if="project.saveState.state === 'conflict' || project.saveState.state === 'failed'" />
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
        <p>{{ project.loadError }} It may have been deleted, or belong to another browser. Go back to the list, or import its file.</p>
        <v-btn
          color="primary"
          to="/"
        >
          To the list of projects
        </v-btn>
      </div>
      <NuxtPage v-else-if="project.plan" />
    </main>
    <FindingsDrawer v-if="project.plan" />
    <GaugeStrip v-if="project.report" />
    <LazyWorksheetDialog v-if="view.worksheet" />
    <LazyLogbookPanel v-if="view.logOpen && project.plan" />
  </div>
</template>

<style scoped>
.shell {
  display: grid; min-height: 100vh; height: 100vh;
  grid-template: "top top top" 44px "rail stage drawer" minmax(0, 1fr) "strip strip strip" auto / 92px minmax(0, 1fr) 306px;
}
.stage { grid-area: stage; overflow: auto; padding: 14px 16px 24px; }
.missing { max-width: 560px; display: grid; gap: 12px; justify-items: start; }
@media (max-width: 1100px) {
  .shell { grid-template: "top top" 44px "rail stage" minmax(0, 1fr) "strip strip" auto / 92px minmax(0, 1fr); }
}
@media (max-width: 700px) {
  .shell { grid-template: "top" 44px "rail" auto "stage" minmax(0, 1fr) "strip" auto / minmax(0, 1fr); }
}
</style>
