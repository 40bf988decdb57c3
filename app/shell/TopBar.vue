<script setup lang="ts">
import {
  mdiCogOutline, mdiHelpCircleOutline, mdiHistory, mdiNotebookOutline, mdiRedoVariant, mdiShareVariantOutline,
  mdiUndoVariant, mdiListBoxOutline,
} from '@mdi/js'
import { useMediaQuery } from '@vueuse/core'

const project = useProjectStore()
const view = useViewStore()
const boardName = computed(() => project.facts?.board?.name ?? 'no board yet')
const narrow = useMediaQuery('(max-width: 760px)')
const saved = computed(() => {
  const state = project.saveState
  if (state.state === 'saving') return 'saving …'
  if (state.state === 'saved') return state.at ? narrow.value ? 'saved' : `saved ${clockTime(state.at)}` : ''
  return 'not saved'
})

function rename(name: string | null) {
  if (name?.trim()) project.edit({ edit: 'rename', name }, 'Rename the project', 'rename')
}
</script>

<template>
  <v-app-bar
    class="top"
    :height="46"
    flat
    tag="header"
  >
    <NuxtLink
      to="/"
      class="brand"
      aria-label="Voltaris, the list of projects"
    >
      <img
        v-if="narrow"
        src="/mark.svg"
        alt=""
        width="24"
        height="24"
      >
      <template v-else>
        Voltaris
      </template>
    </NuxtLink>
    <v-text-field
      v-if="project.plan"
      class="name"
      variant="plain"
      aria-label="Name of the project"
      :model-value="project.plan.name"
      maxlength="300"
      hide-details
      @update:model-value="rename"
    />
    <span
      v-if="!narrow"
      class="board"
    >{{ boardName }}</span>
    <span
      class="saved"
      role="status"
      data-test="saved"
      :class="project.saveState.state"
    >{{ saved }}</span>
    <v-spacer />
    <LazyFindBox
      v-if="project.plan && !narrow"
    />
    <IconAct
      name="Undo"
      :icon="mdiUndoVariant"
      :hint="project.canUndo ? `Undo: ${project.canUndo} (z)` : 'Nothing to undo'"
      :disabled="!project.canUndo"
      @click="project.undo"
    />
    <IconAct
      name="Redo"
      :icon="mdiRedoVariant"
      :hint="project.canRedo ? `Redo: ${project.canRedo} (Z)` : 'Nothing to redo'"
      :disabled="!project.canRedo"
      @click="project.redo"
    />
    <template v-if="!narrow">
      <IconAct
        name="Earlier states"
        :icon="mdiHistory"
        data-test="open-history"
        :disabled="!project.plan"
        @click="view.historyOpen = true"
      />
      <IconAct
        name="Share"
        hint="Share: a sheet, an address, a file"
        :icon="mdiShareVariantOutline"
        data-test="open-share"
        :disabled="!project.report"
        @click="view.shareOpen = true"
      />
    </template>
    <IconAct
      name="Findings"
      hint="Findings (d)"
      class="findings-button"
      :icon="mdiListBoxOutline"
      :aria-pressed="view.drawer === 'findings'"
      @click="view.toggleDrawer('findings')"
    />
    <IconAct
      name="Logbook"
      hint="Logbook (l)"
      :icon="mdiNotebookOutline"
      :aria-pressed="view.drawer === 'logbook'"
      @click="view.toggleDrawer('logbook')"
    />
    <IconAct
      v-if="!narrow"
      name="Help"
      hint="Help on this stage (h)"
      data-test="open-help"
      :icon="mdiHelpCircleOutline"
      :aria-pressed="view.drawer === 'help'"
      @click="view.toggleDrawer('help')"
    />
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn
          icon
          variant="text"
          density="compact"
          aria-label="Settings and more"
          data-test="more"
          v-bind="menu"
        >
          <v-icon :icon="mdiCogOutline" />
        </v-btn>
      </template>
      <LazyMoreList :narrow="narrow" />
    </v-menu>
  </v-app-bar>
</template>

<style scoped>
.top.top { background: var(--bar); color: var(--bar-ink); }
.top :deep(.v-toolbar__content) { gap: 4px; padding: 0 12px 0 16px; }
.brand {
  color: var(--bar-act);
  font-weight: 700;
  text-decoration: none;
  margin-right: 12px;
  flex: none;
  display: grid;
  align-items: center;
  min-height: 32px;
}
.name { flex: 0 1 260px; min-width: 80px; }
.name :deep(input) { font: 650 15px var(--text-family); padding: 3px 6px; text-overflow: ellipsis; }
.name :deep(.v-field) { background: none; border: 1px solid transparent; border-radius: 3px; color: inherit; }
.name :deep(.v-field:hover), .name :deep(.v-field--focused) { border-color: var(--bar-ink-2); }
.name :deep(.v-field__input) { min-height: 30px; padding: 0; color: var(--bar-ink); }
.board {
  color: var(--bar-ink-2);
  font-size: 12.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  margin: 0 8px;
  flex: 0 1 auto;
}
.saved { color: var(--bar-ink-2); font-size: 12.5px; white-space: nowrap; font-variant-numeric: tabular-nums; }
.saved.failed { color: #ff9fb0; font-weight: 700; }
.top :deep(.v-btn--icon) { --v-btn-height: 26px; width: 32px; height: 32px; }
.top :deep(.v-btn--disabled) { opacity: .4; }
.top :deep(.v-btn--disabled .v-btn__overlay) { opacity: 0; }
.top :deep([aria-pressed=true]) { color: var(--bar-act); }
.top :deep(:focus-visible) { outline-color: var(--bar-act); }
.saved { flex: none; }
@media (max-width: 760px) {
  .top :deep(.v-toolbar__content) { padding: 0 4px 0 10px; gap: 2px; }
  .brand { margin-right: 4px; }
  .name { min-width: 60px; }
}
@media (max-width: 380px) { .saved.saved:not(.failed) { display: none; } }
</style>
