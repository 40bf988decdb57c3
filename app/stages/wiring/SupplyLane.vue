<script setup lang="ts">
/** A rail in mA: each load is as wide as it draws, typical solid and peak behind it. */
import type { RailBudget } from '~~/core/power/budget'

const { rail, note, name = undefined } = defineProps<{ rail: RailBudget, note: string, name?: string }>()
const view = useViewStore()
const { colourOf } = useOwners()

const full = computed(() => Math.max(rail.availableMa ?? 0, rail.peakMa, 1))
const width = (ma: number) => `${(ma / full.value) * 100}%`
const step = computed(() => {
  const rough = full.value / 5
  const power = 10 ** Math.floor(Math.log10(rough))
  return [1, 2, 5, 10].map(n => n * power).find(n => n >= rough)!
})
const ticks = computed(() => Array.from({ length: Math.floor(full.value / step.value) + 1 }, (_, i) => i * step.value))
const available = computed(() => rail.availableMa === null ? 'an unknown supply' : milliamps(rail.availableMa))
const free = computed(() => rail.availableMa === null ? null : rail.availableMa - rail.peakMa)
const merged = computed(() => {
  const byOwner = new Map<string | null, { partId: string | null, name: string, typicalMa: number, peakMa: number }>()
  for (const load of rail.loads) {
    const entry = byOwner.get(load.partId)
    if (entry) {
      entry.typicalMa += load.typicalMa
      entry.peakMa += load.peakMa
    }
    else byOwner.set(load.partId, { ...load })
  }
  return [...byOwner.values()].filter(load => load.peakMa > 0)
})
</script>

<template>
  <div class="lane">
    <div class="lane-name">
      <b>{{ name ?? (rail.rail === '3V3' ? '3V3' : rail.rail === '5V' ? '5 V' : 'USB') }}</b><span
        class="small quiet"
      >{{ note }}</span><span
        v-if="free !== null && free >= 0"
        class="small figures"
      >{{ milliamps(free) }} free</span>
    </div>
    <div>
      <div
        class="track"
        role="img"
        :aria-label="`${rail.rail}: ${milliamps(rail.peakMa)} at peak of ${available}`"
      >
        <span
          v-for="load in merged"
          :key="load.partId ?? 'board'"
          class="load eases"
          :class="{ dim: view.partId && load.partId !== view.partId }"
          :style="{ 'width': width(load.peakMa), '--owner': load.partId ? colourOf(load.partId) : 'var(--ink-2)' }"
        ><HoverHint :text="`${load.name}: ${milliamps(load.typicalMa)} typical, ${milliamps(load.peakMa)} peak`" /><span
          class="typical"
          :style="{ width: `${load.peakMa ? load.typicalMa / load.peakMa * 100 : 0}%` }"
        /><span
          v-if="load.peakMa / full > 0.07"
          class="load-name"
        >{{ load.name }}</span></span>
        <span
          v-if="rail.availableMa !== null && rail.peakMa > rail.availableMa"
          class="limit"
          :style="{ left: width(rail.availableMa) }"
        />
        <span
          v-if="free !== null && free < 0"
          class="over figures small"
        >{{ milliamps(-free) }} too much</span>
      </div>
      <div
        class="axis figures"
        aria-hidden="true"
      >
        <span
          v-for="tick in ticks"
          :key="tick"
          :style="{ left: width(tick) }"
        >{{ tick }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.lane { display: grid; grid-template-columns: 92px minmax(0, 1fr); gap: 8px; padding: 4px 0 2px; border-top: 1px solid var(--rule); }
.lane-name { display: grid; align-content: start; line-height: 1.2; }
.track { position: relative; height: 22px; background: var(--paper-2); display: flex; }
.load {
  position: relative;
  flex: none;
  background: color-mix(in srgb, var(--owner) 34%, var(--sheet));
  box-shadow: inset -1px 0 var(--paper);
  overflow: hidden;
  min-width: 0;
}
.typical { position: absolute; inset: 0 auto 0 0; background: var(--owner); }
.load-name {
  position: absolute;
  left: 3px;
  top: 3px;
  max-width: calc(100% - 6px);
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 11.5px;
  line-height: 16px;
  font-weight: 600;
  color: var(--ink);
  background: color-mix(in srgb, var(--sheet) 88%, transparent);
  border-radius: 2px;
  padding: 0 4px;
  white-space: nowrap;
  pointer-events: none;
}
.dim { filter: saturate(.3); }
.over {
  position: absolute;
  right: 4px;
  top: 2px;
  background: var(--carmine);
  color: var(--sheet);
  padding: 0 6px;
  border-radius: 2px;
  font-weight: 700;
}
.limit { position: absolute; top: -4px; bottom: -4px; width: 3px; background: var(--carmine); }
.axis { position: relative; height: 15px; font-size: 10.5px; color: var(--ink-2); }
.axis span { position: absolute; transform: translateX(-50%); }
.axis span:first-child { transform: none; }
.axis span:last-child { transform: translateX(-85%); }
</style>
