<script setup lang="ts">
/** Always there: what the plan takes of what there is. A ghost shows what a change would take. */
import type { Report } from '~~/core/evaluate'

const project = useProjectStore()
const view = useViewStore()

interface Gauge {
  label: string
  text: string
  share: number | null
  ghostShare: number | null
  over: boolean
  ghostText: string | null
}

const railOf = (report: Report, name: string) => report.power.rails.find(rail => rail.rail === name)
const shareOf = (report: Report, name: string) => {
  const rail = railOf(report, name)
  return rail?.availableMa ? rail.peakMa / rail.availableMa : null
}

const gauges = computed<Gauge[]>(() => {
  const report = project.report!
  const ghost = view.ghost?.report
  return [['5V', '5 V rail, peak'], ['3V3', '3V3 rail, peak']].map(([name, label]) => {
    const rail = railOf(report, name!)!
    const after = ghost && railOf(ghost, name!)
    const share = shareOf(report, name!)
    return {
      label: label!, share, over: (share ?? 0) > 1,
      text: `${milliamps(rail.peakMa)} / `
        + `${rail.availableMa === null
          ? name === '5V' ? 'no supply' : 'no board'
          : milliamps(rail.availableMa)}${name === '5V' && rail.availableMa !== null && !report.power.assumed
          ? ` · ${rail.peakV.toFixed(2)} V`
          : ''}`,
      ghostShare: ghost ? shareOf(ghost, name!) : null,
      ghostText: after && after.peakMa !== rail.peakMa
        ? `${after.peakMa > rail.peakMa ? '+' : '−'}${milliamps(Math.abs(after.peakMa - rail.peakMa))}`
        : null,
    }
  })
})
const lines = computed(() => project.report!.lines)
const buses = computed(() => {
  const list = project.report!.buses.filter(bus => bus.kind === 'i2c' || bus.kind === 'spi' || bus.kind === 'serial')
  return { shown: list.slice(0, 4), more: list.length - 4 }
})
const percent = (share: number | null) => `${Math.min(100, Math.round((share ?? 0) * 100))}%`

function showFindings() {
  view.drawer = 'findings'
  view.allStages = true
}
</script>

<template>
  <v-footer
    app
    class="strip"
    aria-label="Gauges"
  >
    <div
      v-for="gauge in gauges"
      :key="gauge.label"
      class="gauge"
      :class="{ over: gauge.over }"
    >
      <span class="label">{{ gauge.label }}</span>
      <span class="figures value">{{ gauge.text }} <span
        v-if="gauge.ghostText"
        class="plus"
      >{{ gauge.ghostText }}</span></span>
      <span class="track">
        <span
          v-if="gauge.ghostShare !== null"
          class="ghost eases"
          :style="{ width: percent(gauge.ghostShare) }"
        />
        <span
          class="fill eases"
          :style="{ width: percent(gauge.share) }"
        />
      </span>
    </div>
    <div class="counts">
      <div class="count">
        <span class="label">Lines</span>
        <span class="figures value">{{ lines.used }} / {{ lines.available }}</span>
      </div>
      <div
        v-for="bus in buses.shown"
        :key="bus.id"
        class="count bus"
      >
        <span class="label">{{ bus.label.replace(' (identity memory)', '') }}</span>
        <span class="figures value">{{ bus.partIds.length }} {{ bus.partIds.length === 1 ? 'part' : 'parts' }}</span>
      </div>
      <div
        v-if="buses.more > 0"
        class="count bus"
      >
        <span class="label">Buses</span><span class="figures value">+{{ buses.more }}</span>
      </div>
    </div>
    <span class="spacer" />
    <span
      v-if="view.ghost"
      class="ghost-name"
    >if added: {{ view.ghost.label }}</span>
    <v-btn
      size="small"
      class="badge stop"
      :class="{ none: !project.report!.counts.stops }"
      data-test="stops"
      @click="showFindings"
    >
      {{ project.report!.counts.stops }} {{ project.report!.counts.stops === 1 ? 'stop' : 'stops' }}
    </v-btn>
    <v-btn
      size="small"
      class="badge caution"
      :class="{ none: !project.report!.counts.cautions }"
      data-test="cautions"
      @click="showFindings"
    >
      {{ project.report!.counts.cautions }} {{ project.report!.counts.cautions === 1 ? 'caution' : 'cautions' }}
    </v-btn>
  </v-footer>
</template>

<style scoped>
.strip {
  grid-area: strip;
  background: var(--bar);
  color: var(--bar-ink);
  display: flex;
  align-items: center;
  gap: 24px;
  padding: 8px 16px;
  min-height: 58px;
  overflow: hidden;
}
.gauge { display: grid; width: 176px; flex: none; }
.gauge:first-child { width: 214px; }
/* What does not fit goes onto a line that is not seen: nothing is cut in the middle. */
.counts { display: flex; flex-wrap: wrap; gap: 0 24px; min-width: 0; height: 38px; overflow: hidden; flex: 0 1 auto; }
.count { display: grid; flex: none; }
.label { font-size: 12px; color: var(--bar-ink-2); }
.value { font-size: 13.5px; white-space: nowrap; }
.over .value { color: #ff9fb0; font-weight: 700; }
.plus { color: var(--bar-act); }
.track { position: relative; height: 6px; border-radius: 3px; background: rgb(255 255 255 / 16%); margin-top: 3px; overflow: hidden; }
.fill, .ghost { position: absolute; inset: 0 auto 0 0; background: var(--bar-act); }
.over .fill { background: #ff6f88; }
.ghost { background: repeating-linear-gradient(115deg, #f0a878 0 3px, transparent 3px 6px); }
.spacer { flex: 1; }
.ghost-name { font-size: 12.5px; color: var(--bar-act); max-width: 190px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
.badge { font: 700 13px var(--text-family); border-radius: 3px; padding: 4px 10px; cursor: pointer; white-space: nowrap; flex: none; }
.stop { background: #f2738b; color: #1d0a0f; border: 1px solid #f2738b; }
.caution { background: transparent; color: #f0c76b; border: 1px dashed #f0c76b; }
.badge.none { background: transparent; border: 1px solid transparent; color: var(--bar-ink-2); font-weight: 500; }
.strip :focus-visible { outline-color: var(--bar-act); }
@media (max-width: 900px) { .bus { display: none; } .strip { gap: 14px; } .gauge { width: 140px; } }
@media (max-width: 600px) {
  .strip { flex-wrap: wrap; gap: 4px 12px; padding: 5px 10px; }
  .strip .gauge { flex: 1 1 44%; width: auto; }
  .value { font-size: 12px; }
  .label { font-size: 11px; }
  .counts { height: auto; }
  .count { grid-auto-flow: column; gap: 6px; align-items: baseline; }
}
</style>
