<script setup lang="ts">
/** Under the header: each scarce thing as a lane with its natural axis. */
import type { BusReport } from '~~/core/evaluate'
import { isOpenStop } from '~~/core/findings/set-aside'
import { openControllers } from '~~/core/facts/open'

const project = useProjectStore()
const view = useViewStore()
const { colourOf, nameOf } = useOwners()

const rails = computed(() => project.report!.power.rails)
const noteOf = (name: string) => {
  const rail = rails.value.find(entry => entry.rail === name)!
  return rail.availableMa === null ? 'no supply chosen' : `of ${milliamps(rail.availableMa)}, peak`
}
const i2c = computed(() => project.report!.buses.filter(bus => bus.kind === 'i2c'))

interface Slot { label: string, partIds: string[], what: string, clash?: boolean, busId?: string }
interface SlotLane { kind: string, name: string, note: string, slots: Slot[] }

const figures = computed(() => project.report!.signals)
const hertz = (value: number) => value >= 1e6
  ? `${Number((value / 1e6).toPrecision(3))} MHz`
  : value >= 1000
    ? `${Number((value / 1000).toPrecision(3))} kHz`
    : `${Number(value.toPrecision(3))} Hz`
const percent = (share: number) => `${share > 0 ? '+' : ''}${(share * 100).toFixed(2)} %`

const open = computed(() => openControllers(project.facts!))

/** Selects, ports and channels: what is taken and how fast it runs, and what the board still has. */
const lanes = computed<SlotLane[]>(() => {
  const board = project.facts!.board!
  const byId = new Map(project.report!.buses.map(bus => [bus.id, bus]))
  return (['spi', 'serial', 'pwm', 'i2s'] as const).flatMap((kind) => {
    const controllers = board.controllers.filter(controller => controller.kind === kind)
    const used = controllers.filter(controller => byId.has(controller.id))
    const free = open.value.filter(controller => controller.kind === kind)
    if (kind === 'i2s' && !used.length) return []
    return [{
      kind, name: { spi: 'SPI', serial: 'Serial', pwm: 'PWM', i2s: 'I²S' }[kind],
      note: `${used.length} of ${controllers.length} in use`,
      slots: [
        ...used.flatMap(controller => slotsOf(byId.get(controller.id)!)),
        ...free.slice(0, 3).map(({ label, positions, held }) => ({
          label, partIds: [], what: held.length ? `unused, ${held.join(' ')} held` : `free on ${positions.join(' ')}`,
        })),
        ...free.length > 3 ? [{ label: `${free.length - 3} more`, partIds: [], what: 'unused' }] : [],
      ],
    }]
  })
})

function slotsOf(bus: BusReport): Slot[] {
  const names = bus.partIds.map(nameOf).join(', ')
  const serial = figures.value.serial.filter(link => link.busId === bus.id)
  if (serial.length) {
    return serial.map(link => ({
      label: bus.label, partIds: [link.partId], busId: bus.id, clash: serial.length > 1,
      what: `${nameOf(link.partId)} · `
        + `${link.baud}${link.board ? ` · ${percent(link.board.error)}` : ' · out of reach'} · `
        + `${link.frame}${link.circuit ? ` · ${link.circuit.label}` : ''}`,
    }))
  }
  const channel = figures.value.pwm.find(entry => entry.busId === bus.id)
  if (channel) {
    return [{
      label: bus.label, partIds: bus.partIds, busId: bus.id, clash: channel.outputs.length > 1,
      what: `${names}${channel.outputs[0]?.need
        ? ` · ${hertz(channel.outputs[0].need.frequencyHz)}`
        : ''}${channel.steps ? ` · ${channel.steps} steps` : ''}`,
    }]
  }
  if (bus.kind !== 'spi') return [{ label: bus.label, partIds: bus.partIds, busId: bus.id, what: names }]
  return project.facts!.groups.filter(entry => entry.bus?.id === bus.id).map((entry) => {
    const select = entry.terminals.find(terminal => terminal.signal!.role === 'spi.select')
    const line = select?.place?.kind === 'header' ? select.place.line?.line : undefined
    const name = Object.entries(entry.bus!.route?.lines ?? {}).find(([, at]) => at === line)?.[0]
    const device = figures.value.spi.find(other => other.partId === entry.owner.id)
    return {
      label: `${bus.label}${name ? `, ${name.replace('select', 'select ')}` : ''}`, partIds: [entry.owner.id],
      busId: bus.id,
      what: `${entry.owner.name}${device?.clock
        ? ` · ${hertz(device.clock.rateHz)} · mode ${device.mode}`
        : ''}${device?.screen ? ` · ${device.screen.framesPerS.toFixed(1)} pictures/s` : ''}`,
    }
  })
}

/** The lines of the header along it: who holds each, which are free. */
const lines = computed(() => project.facts!.board!.header.filter(entry => entry.line !== undefined && !entry.identity)
  .map(entry => ({
    entry, held: project.facts!.atPosition.get(entry.position)?.[0] ?? null,
  })))
/** Buses that a stop is about. */
const stopsAt = computed(() => new Set(project.report!.findings.filter(isOpenStop)
  .flatMap(finding => finding.subjects.flatMap(subject => subject.busId ?? []))))
const conflict = computed(() => new Set(view.findingId ? [] : view.marked.flatMap(subject => subject.partId ?? [])))
/** Parts of a conflict that want something of this lane. */
const wanting = (kind: string) => conflict.value.size
  ? [...new Set(project.facts!.groups
      .filter(group => group.kind === kind && conflict.value.has(group.owner.id))
      .map(group => group.owner.name))]
  : []
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
      :class="{ contested: wanting(lane.kind).length > 1 }"
    >
      <div class="lane-name">
        <b>{{ lane.name }}</b><span class="small quiet">{{ lane.note }}</span>
      </div>
      <div class="slots">
        <span
          v-for="slot in lane.slots"
          :key="slot.label + slot.what"
          class="slot"
          :class="{ taken: slot.partIds.length,
                    clash: slot.clash || (slot.busId !== undefined && stopsAt.has(slot.busId)),
                    conflict: slot.partIds.some(id => conflict.has(id)),
                    dim: view.partId
                      && slot.partIds.length && !slot.partIds.includes(view.partId) }"
          :style="{ '--owner': colourOf(slot.partIds[0]) }"
        ><b class="figures">{{ slot.label }}</b> {{ slot.what }}<span
          v-if="slot.clash || (slot.busId !== undefined && stopsAt.has(slot.busId))"
          class="only-reader"
        >, stop</span></span>
        <span
          v-if="wanting(lane.kind).length > 1"
          class="slot clash"
          data-test="lane-conflict"
        >wanted by {{ wanting(lane.kind).join(' and ') }}</span>
      </div>
    </div>
    <div class="lane">
      <div class="lane-name">
        <b>Lines</b><span class="small quiet">{{ project.report!.lines.used }} of {{ project.report!.lines.available }}</span>
      </div>
      <div
        class="line-marks"
        role="img"
        :aria-label="`${project.report!.lines.used} of ${project.report!.lines.available} lines held`"
      >
        <span
          v-for="{ entry, held } in lines"
          :key="entry.position"
          class="line-mark figures"
          :class="{ held }"
          :style="{ '--owner': held ? colourOf(held.owner.id) : 'transparent' }"
        >{{ entry.line }}<HoverHint
          :text="`G${entry.line}, position ${entry.position}: ${held ? `${held.owner.name} ${held.label}` : 'free'}`"
        /></span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.lane {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 8px;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
  align-items: center;
}
.lane-name { display: grid; line-height: 1.2; }
.slots { display: flex; flex-wrap: wrap; gap: 6px; }
.slot { border: 1px dashed var(--rule); border-radius: 3px; padding: 2px 8px; font-size: 12.5px; color: var(--ink-2); }
.slot.taken { border: 1px solid var(--owner); background: color-mix(in srgb, var(--owner) var(--mix), var(--sheet)); color: var(--ink); }

.contested { box-shadow: inset 4px 0 var(--carmine); padding-left: 8px; }
.slot.clash { color: var(--ink); border: 2px solid var(--carmine); }
.slot.conflict { outline: 2px solid var(--carmine); outline-offset: 1px; }
.line-marks { display: flex; flex-wrap: wrap; gap: 2px; }
.line-mark { width: 25px; text-align: center; font-size: 11.5px; border: 1px dashed var(--rule); border-radius: 2px; color: var(--ink-2); }
.line-mark.held {
  border: 1px solid var(--owner);
  background: color-mix(in srgb, var(--owner) var(--mix), var(--sheet));
  color: var(--ink);
  font-weight: 650;
}
.dim { --owner: var(--ink-2) !important; }
</style>
