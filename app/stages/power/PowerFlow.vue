<script setup lang="ts">
/**
 * The supply as a flow from source to loads: width is current, voltage stands at each joint, tight places are marked.
 */
import { useElementSize, useEventListener } from '@vueuse/core'
import { sankey, sankeyJustify, sankeyLinkHorizontal, type SankeyLink, type SankeyNode } from 'd3-sankey'
import { isOpen } from '~~/core/findings/set-aside'
import { flowOf, mayFeed, type FlowLink, type FlowNode } from '~~/core/power/flow'
import type { PowerState } from '~~/core/power/states'

const { state } = defineProps<{ state: PowerState }>()
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const frame = useTemplateRef<HTMLElement>('frame')
const { width: frameWidth } = useElementSize(frame)

interface Placed { id: string, at: FlowNode }
interface Drawn { flow: FlowLink, value: number }
type Box = SankeyNode<Placed, Drawn>
type Band = SankeyLink<Placed, Drawn>

const flow = computed(() => flowOf(project.report!.power, state))
const width = computed(() => Math.max(680, frameWidth.value || 840))
/** Room for the loads' names on the right. */
const RIGHT = 176
const TOP = 56
const ROW = 44
const BAR = 9

const drawing = computed(() => {
  const { nodes, links } = flow.value
  if (!links.length) return null
  const max = Math.max(1, ...links.map(link => link.currentMa))
  const ends = nodes.filter(({ node }) => !links.some(link => link.from === node.id)).length
  const height = Math.max(300, ends * ROW + TOP + 16)
  // A thin band stays visible: nothing is narrower than a fiftieth of the widest.
  const laid = sankey<Placed, Drawn>().nodeId(node => node.id).nodeAlign(sankeyJustify).nodeWidth(BAR)
    .nodePadding(ROW - 5)
    .extent([[6, TOP], [width.value - RIGHT, height - 10]])
    .nodeSort((a, b) => order.value.get(a.id)! - order.value.get(b.id)!)({
      nodes: nodes.map(at => ({ id: at.node.id, at })),
      links: links.map(entry => ({ source: entry.from, target: entry.to, value: Math.max(entry.currentMa, max / 50),
        flow: entry })),
    })
  return { ...laid, height }
})
const order = computed(() => new Map(project.report!.power.nodes.map((node, i) => [node.id, i])))
const path = sankeyLinkHorizontal<Placed, Drawn>()
const isEnd = (box: Box) => !box.sourceLinks?.length
const marks = computed(() => {
  const found = new Map<string, 'stop' | 'caution'>()
  for (const { severity, subjects, stages } of project.report!.findings.filter(isOpen)) {
    if (severity === 'note' || !stages.includes('power')) continue
    const node = subjects.find(subject => subject.node)?.node?.replace(/@wire$/, '')
    if (node && found.get(node) !== 'stop') found.set(node, severity)
  }
  return found
})
const colour = (at: FlowNode) =>
  at.node.partId ? colourOf(at.node.partId) : at.node.role === 'source' ? 'var(--copper)' : 'var(--ink-2)'
const bandColour = (band: Band) => band.flow.backwards ? 'var(--carmine)' : colour((band.target as Box).at)
const nameOf = ({ node }: FlowNode) => node.kind === 'position'
  ? node.name.replace('Position ', 'pos ')
  : node.kind === 'board'
    ? 'Board'
    : node.name
/** Letters that fit between two columns. */
const room = computed(() => {
  const layers = Math.max(1, ...(drawing.value?.nodes ?? []).map(box => (box as { layer?: number }).layer ?? 0))
  return Math.max(7, Math.floor((width.value - RIGHT) / layers / 7.4))
})
const short = (text: string, room: number) => text.length > room ? `${text.slice(0, room - 1)}…` : text
/** A name in two lines at the most, broken between words where that can be. */
function twoLines(text: string, room: number): string[] {
  if (text.length <= room) return [text]
  const at = text.lastIndexOf(' ', room)
  const cut = at > room / 3 ? at : room
  return [text.slice(0, cut).trim(), short(text.slice(cut).trim(), room)]
}
const said = (at: FlowNode) =>
  `${at.node.name}: ${at.voltageV.toFixed(2)} V, `
  + `${milliamps(at.currentMa)}${at.node.role === 'path' ? `, ${(at.powerMw / 1000).toFixed(2)} W lost` : ''}`
const voltage = (at: FlowNode) => `${at.voltageV.toFixed(2)} V`
const chosen = (id: string) =>
  view.node === id || view.marked.some(subject => subject.node?.replace(/@wire$/, '') === id)

/** Dragging a load or a node of the maker's to another feed. */
const dragging = ref<{
  id: string
  x: number
  y: number
  fromX: number
  fromY: number
  over: string | null
  why: string | null
} | null>(null)
let pressed: { id: string, x: number, y: number } | null = null
const movable = (at: FlowNode) =>
  at.node.own ? at.node.role !== 'source' : at.node.kind === 'part' || at.node.id === '@socket'
const svg = useTemplateRef<SVGSVGElement>('svg')

function press(box: Box, event: PointerEvent) {
  if (event.button === 0 && movable(box.at)) pressed = { id: box.id, x: event.clientX, y: event.clientY }
}
function move(event: PointerEvent) {
  if (!pressed || !svg.value) return
  const frameBox = svg.value.getBoundingClientRect()
  const x = event.clientX - frameBox.left
  const y = event.clientY - frameBox.top
  if (!dragging.value && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < 6) return
  const over = (document.elementFromPoint(event.clientX, event.clientY)?.closest('[data-node]') as HTMLElement
    | null)?.dataset.node ?? null
  const target = over && over !== pressed.id ? over : null
  dragging.value = {
    id: pressed.id, x, y, fromX: pressed.x - frameBox.left, fromY: pressed.y - frameBox.top, over: target,
    why: target ? mayFeed(project.report!.power, pressed.id, target) : null,
  }
}
function release() {
  const drag = dragging.value
  pressed = null
  dragging.value = null
  if (!drag?.over) return
  if (drag.why) view.say(drag.why, { tone: 'stop' })
  else {
    const node = project.report!.power.nodes
    const name = (id: string) => node.find(entry => entry.id === id)?.name ?? id
    project.edit({ edit: 'feed', consumer: drag.id, from: drag.over }, `Feed ${name(drag.id)} from ${name(drag.over)}`)
    view.chooseNode(drag.id)
  }
}
useEventListener('pointermove', move)
useEventListener('pointerup', release)
useEventListener('pointercancel', () => {
  pressed = null
  dragging.value = null
})

const bandInWords = ({ currentMa, backwards }: FlowLink, source: Box, target: Box) =>
  `${milliamps(currentMa)} from ${source.at.node.name} to ${target.at.node.name}${backwards ? ', backwards' : ''}. `
  + 'Press to put something in here.'
</script>

<template>
  <div
    ref="frame"
    class="frame"
    data-test="power-flow"
  >
    <svg
      v-if="drawing"
      ref="svg"
      :viewBox="`0 0 ${width} ${drawing.height}`"
      :width="width"
      :height="drawing.height"
      role="group"
      :aria-label="`Supply, ${state.label}: the table below says the same`"
      :class="{ dragging }"
    >
      <path
        v-for="(band, i) in drawing.links"
        :key="i"
        :d="path(band) ?? ''"
        fill="none"
        class="band"
        :class="{ back: band.flow.backwards }"
        :stroke="bandColour(band)"
        :stroke-width="Math.max(1.2, band.width ?? 1)"
        @click="view.chooseNode(band.flow.consumer, true)"
      ><title>{{ bandInWords(band.flow, band.source as Box, band.target as Box) }}</title></path>
      <g
        v-for="box in drawing.nodes"
        :key="box.id"
        class="node"
        :class="[marks.get(box.id), { chosen: chosen(box.id),
                                      target: dragging?.over === box.id && !dragging.why,
                                      refused: dragging?.over === box.id && dragging.why,
                                      movable: movable(box.at) }]"
        :data-node="box.id"
        role="button"
        tabindex="0"
        :aria-label="said(box.at)"
        @click="view.chooseNode(box.id)"
        @keydown.enter.prevent="view.chooseNode(box.id)"
        @keydown.space.prevent="view.chooseNode(box.id)"
        @pointerdown="press(box, $event)"
      >
        <title>{{ said(box.at) }}</title>
        <rect
          class="hit"
          :x="box.x0! - 6"
          :y="box.y0! - (isEnd(box) ? 10 : 36)"
          :width="isEnd(box) ? RIGHT + 8 : 92"
          :height="Math.max(22, box.y1! - box.y0! + (isEnd(box) ? 20 : 40))"
        />
        <rect
          class="bar"
          :x="box.x0!"
          :y="box.y0! - 1"
          :width="BAR"
          :height="Math.max(3, box.y1! - box.y0! + 2)"
          :fill="colour(box.at)"
          rx="1.5"
        />
        <rect
          v-if="marks.get(box.id)"
          class="mark"
          :x="box.x0! - 3.5"
          :y="box.y0! - 4.5"
          :width="BAR + 7"
          :height="Math.max(10, box.y1! - box.y0! + 9)"
          rx="3"
        />
        <template v-if="isEnd(box)">
          <text
            class="name"
            :x="box.x1! + 7"
            :y="(box.y0! + box.y1!) / 2 - 1"
          >{{ short(nameOf(box.at), 23) }}</text>
          <text
            class="value"
            :x="box.x1! + 7"
            :y="(box.y0! + box.y1!) / 2 + 12"
          >{{ voltage(box.at) }} · {{ milliamps(box.at.currentMa) }}</text>
        </template>
        <template v-else>
          <text
            v-for="(line, i) in twoLines(nameOf(box.at), room)"
            :key="i"
            class="name"
            :x="box.x0! - 2"
            :y="box.y0! - 27 - 12 * (twoLines(nameOf(box.at), room).length - 1 - i)"
          >{{ line }}</text>
          <text
            class="value"
            :x="box.x0! - 2"
            :y="box.y0! - 15"
          >{{ voltage(box.at) }}</text>
          <text
            class="value"
            :x="box.x0! - 2"
            :y="box.y0! - 4"
          >{{ milliamps(box.at.currentMa) }}</text>
        </template>
      </g>
      <g
        v-if="dragging"
        class="drag"
        aria-hidden="true"
      >
        <line
          :x1="dragging.fromX"
          :y1="dragging.fromY"
          :x2="dragging.x"
          :y2="dragging.y"
        />
        <circle
          :cx="dragging.x"
          :cy="dragging.y"
          r="5"
        />
      </g>
    </svg>
    <p
      v-if="dragging"
      class="hint small"
      role="status"
    >
      {{ dragging.why ?? (dragging.over ? 'Let go to feed it from here.' : 'Drop it on what shall feed it.') }}
    </p>
    <p
      v-if="flow.loose.some(({ node }) => node.own || node.role === 'source' || node.kind === 'part')"
      class="loose small"
    >
      Not joined:
      <v-chip
        v-for="at in flow.loose.filter(({ node }) => node.own || node.role === 'source' || node.kind === 'part')"
        :key="at.node.id"
        tag="button"
        :data-node="at.node.id"
        @click="view.chooseNode(at.node.id)"
      >
        {{ at.node.name }}
      </v-chip>
    </p>
  </div>
</template>

<style scoped>
.frame { overflow-x: auto; position: relative; }
svg { display: block; touch-action: pan-y; user-select: none; }
.band { opacity: .34; cursor: copy; transition: opacity .15s; }
.band:hover { opacity: .62; }
.band.back { stroke-dasharray: 7 4; opacity: .7; }
.node { cursor: pointer; outline-offset: -2px; }
.movable { cursor: grab; }
.dragging, .dragging .node { cursor: grabbing; }
.hit { fill: transparent; }
/* What lies under a label does not strike it through. */
.name, .value { paint-order: stroke; stroke: var(--paper); stroke-width: 4px; stroke-linejoin: round; }
.name { font: 600 12.5px var(--text-family); fill: var(--ink); }
.value { font: 11.5px var(--figure-family); fill: var(--ink-2); }
.mark { fill: none; stroke: var(--carmine); stroke-width: 2; }
.caution .mark { stroke: var(--ochre); stroke-dasharray: 4 3; }
.stop .name, .stop .value { fill: var(--carmine); }
.node:hover .name { text-decoration: underline; }
.chosen .hit { fill: var(--copper-wash); stroke: var(--copper); rx: 3px; }
.target .hit { fill: var(--moss-wash); stroke: var(--moss); }
.refused .hit { fill: var(--carmine-wash); stroke: var(--carmine); }
.drag line { stroke: var(--copper); stroke-width: 2; stroke-dasharray: 5 4; }
.drag circle { fill: var(--copper); }
.hint { position: sticky; bottom: 0; background: var(--paper-2); padding: 3px 8px; }
.loose { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 4px 0; }
</style>
