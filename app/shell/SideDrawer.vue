<script setup lang="ts">
/** Beside the stage: its findings, the logbook, or help. Narrow screens have it over the stage when it is asked for. */
import { mdiClose } from '@mdi/js'
import { useMediaQuery } from '@vueuse/core'
import { isOpen } from '~~/core/findings/set-aside'

const project = useProjectStore()
const view = useViewStore()
const { current } = useStages()
const wide = useMediaQuery('(min-width: 1101px)')
watch(wide, now => view.drawer = now ? view.drawer ?? 'findings' : null)
const here = computed(() => project.report!.findings.filter(
  finding => isOpen(finding) && (view.allStages || finding.stages.includes(current.value.id)),
).length)
const shown = computed({
  get: () => view.drawer !== null,
  set: (open) => {
    if (!open) view.drawer = null
  },
})
const tab = computed({ get: () => view.drawer ?? 'findings', set: next => view.drawer = next })
</script>

<template>
  <v-navigation-drawer
    v-model="shown"
    location="right"
    :width="316"
    :permanent="wide && shown"
    :temporary="!wide"
    tag="aside"
    class="drawer"
    :aria-label="{ findings: 'Findings', logbook: 'Logbook', help: 'Help' }[tab]"
    disable-resize-watcher
    touchless
  >
    <div class="head">
      <v-tabs
        v-model="tab"
        aria-label="Beside the stage"
        class="tabs"
      >
        <v-tab
          value="findings"
          data-test="drawer-findings"
        >
          Findings {{ here }}
        </v-tab>
        <v-tab
          value="logbook"
          data-test="drawer-logbook"
        >
          Logbook {{ project.plan!.log.length || '' }}
        </v-tab>
        <v-tab
          value="help"
          data-test="drawer-help"
        >
          Help
        </v-tab>
      </v-tabs>
      <IconAct
        :name="`Close the ${tab}`"
        :icon="mdiClose"
        @click="view.drawer = null"
      />
    </div>
    <FindingsPanel v-if="tab === 'findings'" />
    <LazyLogbookPanel v-else-if="tab === 'logbook'" />
    <LazyHelpPanel v-else />
  </v-navigation-drawer>
</template>

<style scoped>
.drawer.drawer { background: var(--paper-2); color: var(--ink); border-color: var(--rule); }
.head {
  display: flex;
  align-items: center;
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--paper-2);
  padding: 2px 6px 0 4px;
  border-bottom: 1px solid var(--rule);
}
.tabs { flex: 1; border: 0; margin: 0; }
.tabs :deep(.v-tab) { padding: 0 9px; font-size: 13px; }
</style>
