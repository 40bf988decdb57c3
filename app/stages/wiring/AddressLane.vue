<script setup lang="ts">
/** An I²C bus as its address range: two parts at one address visibly collide. */
import type { BusReport } from '~~/core/evaluate'
import { hexAddress } from '~~/core/bringup/grid'
import { ohmsInWords } from '~~/core/signals/series'

const { bus } = defineProps<{ bus: BusReport }>()
const view = useViewStore()
const { colourOf, nameOf } = useOwners()

const project = useProjectStore()
const figures = computed(() => project.report!.signals.i2c.find(entry => entry.busId === bus.id) ?? null)

const pullUpWords = computed(() =>
  figures.value?.pullUpOhm == null ? 'no pull-up' : ohmsInWords(figures.value.pullUpOhm))

const FIRST = 0x08
const LAST = 0x77
const left = (address: number) => ((address - FIRST) / (LAST - FIRST)) * 100
/** In hundredths of the lane: what a label takes at the most. */
const LABEL_WIDTH = 12.5
const marks = computed(() => {
  const byAddress = new Map<number, string[]>()
  for (const { address, partId } of bus.addresses) byAddress.set(address, [...byAddress.get(address) ?? [], partId])
  // How far each row of labels, above and below the axis, is written already.
  const ends = { above: -100, below: -100 }
  return [...byAddress].sort(([a], [b]) => a - b).map(([address, partIds]) => {
    // Those near the end lie before their mark.
    const near = left(address) > 82
    const from = left(address) - (near ? LABEL_WIDTH : 0)
    const low = from < ends.above && ends.below < ends.above
    ends[low ? 'below' : 'above'] = from + LABEL_WIDTH
    return { address, partIds, low, near }
  })
})

function inWords({ capacitancePf, riseS, busyShare }: NonNullable<typeof figures.value>): string {
  const rises = riseS === null ? 'never rises' : `rises in ${Math.round(riseS * 1e9)} ns`
  return `${Math.round(capacitancePf)} pF, ${rises}; busy ${Math.round(busyShare * 100)} % of the time`
}
</script>

<template>
  <div class="lane">
    <div class="lane-name">
      <b>{{ bus.label }}</b><span class="small quiet">{{ bus.addresses.length }}
        {{ bus.addresses.length === 1 ? 'address' : 'addresses' }}</span><span
        v-if="figures"
        class="small figures"
      ><HintText :hint="inWords(figures)">{{ figures.clockHz / 1000 }} kHz · {{ pullUpWords }}</HintText></span>
    </div>
    <div class="range">
      <span
        v-for="tick in [0x10, 0x20, 0x30, 0x40, 0x50, 0x60, 0x70]"
        :key="tick"
        class="tick figures"
        :style="{ left: `${left(tick)}%` }"
      >{{ tick.toString(16) }}</span>
      <span
        v-for="mark in marks"
        :key="mark.address"
        class="mark"
        :class="{ clash: mark.partIds.length > 1, low: mark.low, near: mark.near, dim: view.partId && !mark.partIds.includes(view.partId) }"
        :style="{ 'left': `${left(mark.address)}%`, '--owner': colourOf(mark.partIds[0]) }"
      >
        <span class="bar" />
        <span class="mark-name figures">{{ hexAddress(mark.address).slice(2) }}
          {{ mark.partIds.length > 1 ? `${mark.partIds.length} parts!` : nameOf(mark.partIds[0]!) }}<span
            v-if="mark.partIds.length > 1"
            class="only-reader"
          > stop: {{ mark.partIds.map(nameOf).join(' and ') }} at one address</span></span>
      </span>
    </div>
  </div>
</template>

<style scoped>
.lane { display: grid; grid-template-columns: 92px minmax(0, 1fr); gap: 8px; padding: 4px 0 2px; border-top: 1px solid var(--rule); }
.lane-name { display: grid; align-content: start; line-height: 1.2; }
.range { position: relative; height: 54px; margin-right: 6px; overflow: hidden; }
.range::before {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  top: 20px;
  border-top: 2px solid color-mix(in srgb, var(--ink-2) 60%, transparent);
}
.tick { position: absolute; top: 40px; transform: translateX(-50%); font-size: 10.5px; color: var(--ink-2); }
.mark { position: absolute; top: 4px; }
.bar { position: absolute; left: -2px; top: 0; width: 5px; height: 18px; background: var(--owner); border-radius: 1px; }
.clash .bar {
  width: 13px;
  left: -6px;
  height: 22px;
  background: repeating-linear-gradient(0deg, var(--owner) 0 4px, var(--carmine) 4px 8px);
  border: 2px solid var(--carmine);
}
.mark-name {
  position: absolute;
  left: 6px;
  top: -2px;
  font-size: 11.5px;
  font-weight: 650;
  color: var(--owner);
  white-space: nowrap;
  max-width: 88px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.clash .mark-name { color: var(--carmine); left: 11px; }
.low .mark-name { top: 19px; }
.near .mark-name { left: auto; right: 6px; }
.dim { --owner: var(--ink-2) !important; }
</style>
