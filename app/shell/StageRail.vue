<script setup lang="ts">
const project = useProjectStore()
const { stages, current, pathOf } = useStages()
const WORDS = { untouched: 'untouched', clear: 'clear', caution: 'has cautions', stop: 'has stops' } as const
const stateOf = (id: keyof NonNullable<typeof project.report>['stages']) => project.report?.stages[id] ?? 'untouched'
</script>

<template>
  <nav
    class="rail"
    aria-label="Stages"
  >
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
</template>

<style scoped>
.rail { grid-area: rail; background: var(--paper-3); padding-top: 12px; overflow-y: auto; }
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
@media (max-width: 700px) {
  .rail { display: flex; padding: 0; }
  .item { min-height: 44px; padding: 6px 10px; }
  .item::before { inset: auto 0 0 0; width: auto !important; height: 4px; }
}
</style>
