<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'

/** The findings of the stage in view; everything else one switch away. */
const project = useProjectStore()
const view = useViewStore()
const { current } = useStages()
/** Narrow screens have the selection on the stage itself. */
const wide = useMediaQuery('(min-width: 1101px)')

const judged = computed(() => !!project.facts?.board && project.plan!.parts.length > 0)
const findings = computed(() => project.report?.findings ?? [])
const here = computed(() => findings.value.filter(finding => finding.stages.includes(current.value.id)))
const shown = computed(() => {
  const list = view.allStages ? findings.value : here.value
  const part = view.partId
  if (!part || view.findingId) return list
  // What concerns the chosen part comes first.
  const mine = list.filter(finding => finding.subjects.some(subject => subject.partId === part))
  return [...mine, ...list.filter(finding => !mine.includes(finding))]
})
/** So many cards are drawn at first, and with each press of the button: a broken file can have hundreds. */
const CARDS = 40
const most = ref(CARDS)
const cards = computed(() => {
  const chosen = shown.value.findIndex(finding => finding.id === view.findingId)
  return shown.value.slice(0, Math.max(most.value, chosen + 1))
})
watch(() => [current.value.id, view.allStages, view.partId], () => most.value = CARDS)
</script>

<template>
  <aside
    class="drawer"
    :class="{ open: view.drawerOpen }"
    aria-label="Findings"
    data-test="findings"
  >
    <div class="head">
      <h2>Findings</h2>
      <label class="small"><input
        v-model="view.allStages"
        type="checkbox"
      > all stages ({{ findings.length }})</label>
      <button
        class="bare close"
        aria-label="Close the findings"
        @click="view.drawerOpen = false"
      >
        ✕
      </button>
    </div>
    <LazySelectionCard v-if="wide && current.id === 'wiring' && !view.findingId" />
    <LazyPowerNodeCard v-if="wide && current.id === 'power' && view.node" />
    <LazyFindingCard
      v-for="finding in cards"
      :key="finding.id"
      :finding="finding"
    />
    <v-btn
      v-if="cards.length < shown.length"
      variant="outlined"
      data-test="more-findings"
      @click="most = cards.length + CARDS"
    >
      Show {{ Math.min(CARDS, shown.length - cards.length) }} more of {{ shown.length - cards.length }}
    </v-btn>
    <p
      v-if="!shown.length"
      class="quiet none"
    >
      {{ findings.length ? `Nothing on this stage. ${findings.length} elsewhere.` : judged
        ? 'Nothing to stop you, and nothing to be careful about.' : 'Nothing to judge yet: it takes a board and a part.' }}
    </p>
  </aside>
</template>

<style scoped>
.drawer {
  grid-area: drawer;
  background: var(--paper-2);
  border-left: 1px solid var(--rule);
  overflow-y: auto;
  padding: 10px 12px 20px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.head { display: flex; align-items: baseline; gap: 10px; }
.head label { margin-left: auto; color: var(--ink-2); cursor: pointer; }
.close { display: none; padding: 2px 6px; }
.none { padding: 6px 2px; }
@media (max-width: 1100px) {
  .drawer {
    position: fixed;
    right: 0;
    top: 44px;
    bottom: 58px;
    width: 320px;
    z-index: 15;
    transform: translateX(105%);
    visibility: hidden;
    box-shadow: -8px 0 24px rgb(0 0 0 / 25%);
  }
  .drawer.open { transform: none; visibility: visible; }
  .close { display: block; }
}
</style>
