<script setup lang="ts">
/** The stages in the order of the work, each with its state; on narrow screens a row below the bar. */
import { useMediaQuery } from '@vueuse/core'
import { VAppBar } from 'vuetify/components/VAppBar'
import { VNavigationDrawer } from 'vuetify/components/VNavigationDrawer'

const project = useProjectStore()
const { stages, current, pathOf } = useStages()
const WORDS = { untouched: 'untouched', clear: 'clear', caution: 'has cautions', stop: 'has stops' } as const
const stateOf = (id: keyof NonNullable<typeof project.report>['stages']) => project.report?.stages[id] ?? 'untouched'
const narrow = useMediaQuery('(max-width: 700px)')
</script>

<template>
  <component
    :is="narrow ? VAppBar : VNavigationDrawer"
    v-bind="narrow ? { height: 46, flat: true, tag: 'div' } : { permanent: true, width: 92, touchless: true, border: 0, tag: 'div' }"
    class="rail"
    :class="{ row: narrow }"
  >
    <nav aria-label="Stages">
      <NuxtLink
        v-for="stage in stages"
        :key="stage.id"
        :to="pathOf(stage.id)"
        :class="['item', stateOf(stage.id), { here: stage.id === current.id }]"
        :aria-current="stage.id === current.id ? 'page' : undefined"
        :data-test="`stage-${stage.id}`"
      >
        <span class="figures number">{{ stage.number }}</span>
        <span>{{ stage.name }}</span>
        <span class="only-reader">, {{ WORDS[stateOf(stage.id)] }}</span>
      </NuxtLink>
    </nav>
  </component>
</template>

<style scoped>
.rail.rail { background: var(--paper-3); color: var(--ink); padding-top: 8px; }
.item {
  position: relative;
  display: grid;
  padding: 10px 6px 10px 16px;
  color: var(--ink);
  text-decoration: none;
  line-height: 1.25;
  min-height: 60px;
  align-content: center;
}
.item:hover { background: var(--paper-2); }
.number { font-size: 12px; color: var(--ink-2); }
.item::before {
  content: '';
  position: absolute;
  left: 0;
  top: 6px;
  bottom: 6px;
  width: 5px;
  background: color-mix(in srgb, var(--ink-2) 30%, transparent);
}
.item.clear::before { background: var(--moss); }
.item.caution::before { background: repeating-linear-gradient(var(--ochre) 0 6px, transparent 6px 10px); }
.item.stop::before { background: var(--carmine); width: 7px; }
.here { background: var(--paper); font-weight: 700; }
.rail.row { padding: 0; }
.row :deep(.v-toolbar__content) { padding: 0; }
.row nav { display: flex; overflow-x: auto; width: 100%; height: 100%; }
.row .item { min-height: 44px; padding: 2px 11px; flex: none; font-size: 13.5px; }
.row .item::before { inset: auto 0 0 0; width: auto; height: 4px; }
.row .item.caution::before { background: repeating-linear-gradient(90deg, var(--ochre) 0 6px, transparent 6px 10px); }
</style>
