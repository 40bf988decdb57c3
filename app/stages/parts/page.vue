<script setup lang="ts">
/** Choose the parts: what the plan holds, and what the drawer of parts has to offer. */
import { answersTo } from '~~/core/overlays/search'
import { freePartId } from '~~/core/plan/create'
import type { Part } from '~~/core/catalogue/types'

const project = useProjectStore()
const view = useViewStore()
const text = ref('')
const group = ref('')
const all = computed(() => [...project.catalogue.parts.values()])
const groups = computed(() => [...new Set(all.value.map(part => part.group))].sort())
const comparing = ref(false)

const offered = computed(() => all.value.filter(part => (!group.value || part.group === group.value) && answersTo(part, text.value)))

const fresh = (part: Part) => {
  const id = freePartId(project.plan!, part.id)
  const n = project.plan!.parts.filter(other => other.type === part.id).length
  const short = part.name.split(',')[0]!
  return { id, type: part.id, name: n ? `${short} ${n + 1}` : short }
}

function add(part: Part) {
  const added = fresh(part)
  project.edit({ edit: 'add-part', part: added }, `Add ${added.name}`)
  view.choosePart(added.id)
  view.ghost = null
  view.say(`${added.name} is in the plan.`, { action: { label: 'Undo', run: project.undo } })
}

function ghost(part: Part | null) {
  const report = part && project.preview({ edit: 'add-part', part: fresh(part) })
  view.ghost = report ? { label: part.name, report } : null
}

const takes = (part: Part) => {
  const supply = part.supplies[0]
  const kinds = [...new Set(part.signals.map(signal => signal.role.split('.')[0]!))].map(kind => ({
    i2c: 'I²C', spi: 'SPI', serial: 'serial', onewire: '1-Wire', pwm: 'PWM', strip: 'strip', i2s: 'I²S', line: '',
  })[kind])
  const lines = part.signals.filter(signal => signal.role === 'line').length
  const plugs = (part.plugs ?? []).map(plug => ({
    usb: 'USB', video: 'video', fan: 'fan socket', display: 'display connector',
  })[plug.socket])
  return [...kinds.filter(Boolean), lines ? `${lines} ${lines === 1 ? 'line' : 'lines'}` : '', ...plugs,
    supply ? `${supply.rail} ${milliamps(supply.peakMa)}${supply.perOption ? ' each' : ''}` : ''].filter(Boolean).join(' · ')
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Parts</h1>
      <span class="quiet">{{ project.plan!.parts.length }} in the plan</span>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        data-test="compare-displays"
        @click="comparing = true"
      >
        Compare displays
      </v-btn>
    </div>
    <StackOrder />
    <p
      v-if="!project.plan!.parts.length"
      class="empty"
    >
      No part yet. Choose from the drawer below: hovering over one shows on the strip what it would take.
    </p>
    <div
      v-else
      class="held"
    >
      <PartCard
        v-for="part in project.plan!.parts"
        :key="part.id"
        :in-plan="part"
      />
    </div>
    <div class="stage-head drawer-head">
      <h2>Drawer of parts</h2>
      <input
        v-model="text"
        type="search"
        placeholder="search"
        aria-label="Search the parts"
        data-test="part-search"
      >
      <select
        v-model="group"
        aria-label="Kind of part"
      >
        <option value="">
          all kinds
        </option>
        <option
          v-for="name in groups"
          :key="name"
        >
          {{ name }}
        </option>
      </select>
      <span class="quiet small">{{ offered.length }} of {{ all.length }}</span>
    </div>
    <ul class="offered">
      <li
        v-for="part in offered"
        :key="part.id"
        v-memo="[part]"
      >
        <button
          class="offer"
          :data-test="`add-${part.id}`"
          @click="add(part)"
          @mouseenter="ghost(part)"
          @mouseleave="ghost(null)"
          @focus="ghost(part)"
          @blur="ghost(null)"
        >
          <span class="plus">+</span>
          <span><b>{{ part.name }}</b><br><span class="small quiet">{{ part.summary }}</span></span>
          <span class="figures small takes">{{ takes(part) }}</span>
        </button>
      </li>
      <li
        v-if="!offered.length"
        class="quiet none"
      >
        No part matches "{{ text }}". Search for what it does or how it connects, e.g. "screen" or "I²C".
      </li>
    </ul>
    <OwnEntries kind="part" />
    <LazyDisplayTable
      v-if="comparing"
      @close="comparing = false"
      @add="add"
    />
  </div>
</template>

<style scoped>
.empty { padding: 6px 0 10px; }
.held { display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(300px, 1fr)); margin-bottom: 18px; }
.drawer-head input, .drawer-head select {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 4px 8px;
}
.offered { list-style: none; margin: 0; padding: 0; border-top: 1px solid var(--rule); }
.offer {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) minmax(140px, 230px);
  gap: 8px;
  width: 100%;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 60%, transparent);
  font: inherit;
  color: inherit;
  padding: 7px 6px;
  cursor: pointer;
  align-items: baseline;
}
.offer:hover, .offer:focus-visible { background: var(--copper-wash); }
.plus { color: var(--copper); font-weight: 700; }
.takes { text-align: right; color: var(--ink-2); }
.none { padding: 12px 6px; }
</style>
