<script setup lang="ts">
/** Under the header: each scarce thing as a lane with its natural axis. */
import type { BusReport } from '~~/core/evaluate'

const project = useProjectStore()
const view = useViewStore()
const { colourOf, nameOf } = useOwners()

const rails = computed(() => project.report!.power.rails)
const noteOf = (name: string) => {
  const rail = rails.value.find(entry => entry.rail === name)!
  return rail.availableMa === null ? 'no supply chosen' : `of ${milliamps(rail.availableMa)}, peak`
}
const i2c = computed(() => project.report!.buses.filter(bus => bus.kind === 'i2c'))

interface SlotLane { kind: string, name: string, note: string, slots: { label: string, partIds: string[], what: string }[] }

/** Selects, ports and channels: what is taken, and what the board still has. */
const lanes = computed<SlotLane[]>(() => {
  const board = project.facts!.board!
  const byId = new Map(project.report!.buses.map(bus => [bus.id, bus]))
  return (['spi', 'serial', 'pwm'] as const).map((kind) => {
    const controllers = board.controllers.filter(controller => controller.kind === kind)
    const used = controllers.filter(controller => byId.has(controller.id))
    const free = controllers.filter(controller => !byId.has(controller.id))
    return {
      kind, name: { spi: 'SPI', serial: 'Serial', pwm: 'PWM' }[kind], note: `${used.length} of ${controllers.length} in use`,
      slots: [
        ...used.flatMap(controller => slotsOf(byId.get(controller.id)!)),
        ...free.slice(0, 3).map(controller => ({ label: controller.label, partIds: [], what: `free on ${positionsOf(controller.routes[0]!.lines)}` })),
        ...free.length > 3 ? [{ label: `${free.length - 3} more`, partIds: [], what: 'free' }] : [],
      ],
    }
  })
})

function slotsOf(bus: BusReport) {
  if (bus.kind !== 'spi') return [{ label: bus.label, partIds: bus.partIds, what: bus.partIds.map(nameOf).join(', ') }]
  const group = project.facts!.groups.filter(entry => entry.bus?.id === bus.id)
  return group.map((entry) => {
    const select = entry.terminals.find(terminal => terminal.signal!.role === 'spi.select')
    const line = select?.place?.kind === 'header' ? select.place.line?.line : undefined
    const name = Object.entries(entry.bus!.route?.lines ?? {}).find(([, at]) => at === line)?.[0]
    return { label: `${bus.label}${name ? `, ${name.replace('select', 'select ')}` : ''}`, partIds: [entry.owner.id], what: entry.owner.name }
  })
}

function positionsOf(lines: Record<string, number>) {
  return Object.values(lines).map(line => project.facts!.board!.header.find(entry => entry.line === line)!.position).sort((a, b) => a - b).slice(0, 4).join(' ')
}
</script>

<template>
  <div data-test="lanes">
    <SupplyLane
      v-for="rail in rails"
      :key="rail.rail"
      :rail="rail"
      :note="noteOf(rail.rail)"
    />
    <AddressLane
      v-for="bus in i2c"
      :key="bus.id"
      :bus="bus"
    />
    <div
      v-for="lane in lanes"
      :key="lane.kind"
      class="lane"
    >
      <div class="lane-name">
        <b>{{ lane.name }}</b><span class="small quiet">{{ lane.note }}</span>
      </div>
      <div class="slots">
        <span
          v-for="slot in lane.slots"
          :key="slot.label"
          class="slot"
          :class="{ taken: slot.partIds.length, dim: view.partId && slot.partIds.length && !slot.partIds.includes(view.partId) }"
          :style="{ '--owner': colourOf(slot.partIds[0]) }"
        ><b class="figures">{{ slot.label }}</b> {{ slot.what }}</span>
      </div>
    </div>
    <div class="lane">
      <div class="lane-name">
        <b>Lines</b><span class="small quiet">{{ project.report!.lines.used }} of {{ project.report!.lines.available }}</span>
      </div>
      <div class="slots">
        <span class="slot">{{ Math.max(0, project.report!.lines.available - project.report!.lines.used) }} free on the header</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.lane { display: grid; grid-template-columns: 92px minmax(0, 1fr); gap: 8px; padding: 6px 0; border-top: 1px solid var(--rule); align-items: center; }
.lane-name { display: grid; line-height: 1.2; }
.slots { display: flex; flex-wrap: wrap; gap: 6px; }
.slot { border: 1px dashed var(--rule); border-radius: 3px; padding: 2px 8px; font-size: 12.5px; color: var(--ink-2); }
.slot.taken { border: 1px solid var(--owner); background: color-mix(in srgb, var(--owner) var(--mix), var(--sheet)); color: var(--ink); }
.dim { --owner: var(--ink-2) !important; }
</style>
