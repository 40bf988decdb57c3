<script setup lang="ts">
import {
  mdiRedoVariant, mdiUndoVariant, mdiWeatherNight, mdiWhiteBalanceSunny, mdiNotebookOutline, mdiKeyboardOutline, mdiHistory,
} from '@mdi/js'

const project = useProjectStore()
const view = useViewStore()
const boardName = computed(() => project.facts?.board?.name ?? 'no board yet')
const saved = computed(() => {
  const state = project.saveState
  if (state.state === 'saving') return 'saving …'
  if (state.state === 'saved') return state.at ? `saved ${clockTime(state.at)}` : ''
  return 'not saved'
})

function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value
  if (name.trim()) project.edit({ edit: 'rename', name }, 'Rename the project', 'rename')
}
</script>

<template>
  <header class="top">
    <NuxtLink
      to="/"
      class="brand"
    >
      Voltaris
    </NuxtLink>
    <input
      v-if="project.plan"
      class="name"
      aria-label="Name of the project"
      :value="project.plan.name"
      maxlength="300"
      @input="rename"
    >
    <span class="board">{{ boardName }}</span>
    <span
      class="saved"
      role="status"
      data-test="saved"
      :class="project.saveState.state"
    >{{ saved }}</span>
    <span class="spacer" />
    <FindBox v-if="project.plan" />
    <button
      class="tool"
      :disabled="!project.canUndo"
      :title="project.canUndo ? `Undo: ${project.canUndo} (z)` : 'Nothing to undo'"
      aria-label="Undo"
      @click="project.undo"
    >
      <v-icon :icon="mdiUndoVariant" />
    </button>
    <button
      class="tool"
      :disabled="!project.canRedo"
      :title="project.canRedo ? `Redo: ${project.canRedo} (Z)` : 'Nothing to redo'"
      aria-label="Redo"
      @click="project.redo"
    >
      <v-icon :icon="mdiRedoVariant" />
    </button>
    <button
      class="tool"
      title="Earlier states"
      aria-label="Earlier states"
      data-test="open-history"
      :disabled="!project.plan"
      @click="view.historyOpen = true"
    >
      <v-icon :icon="mdiHistory" />
    </button>
    <button
      class="tool"
      title="Logbook (l)"
      aria-label="Logbook"
      :aria-pressed="view.logOpen"
      @click="view.logOpen = !view.logOpen"
    >
      <v-icon :icon="mdiNotebookOutline" />
    </button>
    <button
      class="tool"
      :title="view.dark ? 'Light (t)' : 'Dark (t)'"
      aria-label="Light or dark"
      @click="view.dark = !view.dark"
    >
      <v-icon :icon="view.dark ? mdiWhiteBalanceSunny : mdiWeatherNight" />
    </button>
    <button
      class="tool"
      title="Keys (?)"
      aria-label="Keys"
      @click="view.keysOpen = true"
    >
      <v-icon :icon="mdiKeyboardOutline" />
    </button>
  </header>
</template>

<style scoped>
.top {
  grid-area: top;
  background: var(--bar);
  color: var(--bar-ink);
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  min-width: 0;
}
.brand { color: var(--bar-act); font-weight: 700; text-decoration: none; width: 82px; flex: none; }
.name {
  background: transparent;
  border: 1px solid transparent;
  border-radius: 3px;
  color: inherit;
  font: 650 15px var(--text-family);
  padding: 3px 6px;
  width: 250px;
  min-width: 90px;
  text-overflow: ellipsis;
}
.name:hover, .name:focus { border-color: var(--bar-ink-2); }
.board { color: var(--bar-ink-2); font-size: 12.5px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.saved { color: var(--bar-ink-2); font-size: 12.5px; white-space: nowrap; font-variant-numeric: tabular-nums; }
.saved.failed { color: #ff9fb0; font-weight: 700; }
.spacer { flex: 1; }
.tool {
  background: none;
  border: 0;
  color: inherit;
  width: 32px;
  height: 32px;
  border-radius: 3px;
  cursor: pointer;
  display: grid;
  place-items: center;
  flex: none;
}
.tool:hover:not(:disabled) { background: rgb(255 255 255 / 12%); }
.tool:disabled { opacity: .38; cursor: default; }
.tool[aria-pressed=true] { color: var(--bar-act); }
.tool :deep(.v-icon) { font-size: 20px; }
.top :focus-visible { outline-color: var(--bar-act); }
@media (max-width: 900px) { .board { display: none; } }
</style>
