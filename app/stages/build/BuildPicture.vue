<script setup lang="ts">
/**
 * The build to scale, from above or below and from the near side: what is there, what is new in the step in view, what
 * is still to come; harnesses as trunks with their number of wires. Drawn from the bodies; nothing can be moved here.
 */
import { mdiMinus, mdiPlus } from '@mdi/js'
import { useElementSize } from '@vueuse/core'
import { runsOf, runOf, withLanes } from '~~/core/mechanics/runs'
import { seenFrom, type Outline, type Sheet, type View } from '~~/core/mechanics/seen'
import { usePicture } from './usePicture'

const project = useProjectStore()
const { colourOf } = useOwners()
const { seen, current, standOf, troubled } = usePicture()

const below = ref(false)
const zoom = ref(1)
const STEP = 1.5
const frame = useTemplateRef<HTMLElement>('frame')
const { width: px } = useElementSize(frame)
/** Letters of this height on the screen, in px. */
const LETTER = 11.5
const MARGIN = 4

const plan = computed(() => {
  if (!seen.value) return null
  return withLanes(seenFrom(seen.value, below.value ? 'below' : 'above'), runs.value.length)
})
/** From the side only what stands on, under or in the board: what lies beside it would hide it. */
const side = computed(() => seen.value && padded(seenFrom({ bodies: seen.value.bodies.filter(({ laid, kind }) =>
  !laid && kind !== 'plate') }, 'near'), 6, true))

function padded(sheet: Sheet, over: number, isSide = false): Sheet {
  const lid = isSide && seen.value?.inside?.lidMm
  const up = lid ? Math.max(0, lid + sheet.y + 4) : 0
  const plate = isSide && seen.value?.bodies.find(({ kind }) => kind === 'plate')
  const down = plate ? Math.max(0, -plate.solid.z[0] - (sheet.y + sheet.height)) : 0
  return {
    ...sheet, x: sheet.x - MARGIN, y: sheet.y - over - up, width: sheet.width + 2 * MARGIN + (isSide ? 40 : 0),
    height: sheet.height + over + MARGIN + up + down,
  }
}
const letter = (sheet: Sheet) => LETTER * sheet.width / Math.max(120, px.value) / zoom.value
const boxOf = (sheet: Sheet) => {
  const [w, h] = [sheet.width / zoom.value, sheet.height / zoom.value]
  return `${sheet.x} ${sheet.y} ${w} ${h}`
}

const ownerStyle = ({ body }: Outline) => project.plan!.parts.some(({ id }) => id === body.owner)
  ? { '--owner': colourOf(body.owner) }
  : {}
const classOf = (shape: Outline) => [standOf(shape.body), shape.body.kind, { bad: troubled.value.has(shape.body.id) }]

/** Names that have room: on what lies beside the board, and on what is new. */
const fits = (shape: Outline, size: number) => shape.height > size * 1.1 && shape.width > size * 2
function nameIn({ body, width }: Outline, size: number): string {
  const max = Math.floor(width / (size * 0.52))
  return body.name.length <= max ? body.name : `${body.name.slice(0, Math.max(1, max - 1))}…`
}
const named = (shape: Outline) => !shape.body.id.includes('.')
  && !['wire', 'pins', 'board', 'spacer', 'plate', 'plug', 'cable',
    'film'].includes(shape.body.kind)

/** Harnesses and cables to parts, with the number of wires in each. */
const runs = computed(() => seen.value ? runsOf(seen.value.bodies, project.report!.wires) : [])
const trunkShapes = computed(() => {
  const sheet = plan.value
  if (!sheet) return []
  return runs.value.flatMap((run, i) => {
    const way = standOf(run.body) === 'later' || standOf(run.starts[0]!) === 'later'
      ? null
      : runOf(run, i, runs.value.length, sheet)
    if (!way) return []
    const lane = way.findIndex((point,
      at) => at > 0 && point[1] === way[at - 1]![1] && point[1]! < sheet.y + sheet.height / 2)
    const [a, b] = [way[Math.max(0, lane - 1)]!, way[Math.max(1, lane)]!]
    return [{ ...run, points: way.map(point => point.join()).join(' '), at: [(a[0]! + b[0]!) / 2, a[1]!] }]
  })
})

const lid = computed(() => {
  const inside = seen.value?.inside
  return inside?.lidMm == null
    ? null
    : { z: -inside.lidMm, x: inside.x, name: inside.name, closes: !seen.value!.room.overLid.length }
})
const plate = computed(() => seen.value?.bodies.find(({ kind }) => kind === 'plate') ?? null)
/** Heights that count, beside the stack: what is highest, and the lid. */
const heights = computed(() => {
  const sheet = side.value
  if (!sheet || !seen.value) return []
  const right = sheet.x + sheet.width - 38
  const top = Math.max(...sheet.shapes.map(({ y }) => -y))
  const entries = [{ z: top, words: `${round(top)} mm` }]
  if (lid.value) entries.push({ z: -lid.value.z, words: `lid ${round(-lid.value.z)} mm` })
  return entries.map((entry, i) => ({ ...entry, x: right + i * 16 }))
})
const round = (value: number) => Number(value.toFixed(1))
const told = (view: View) => {
  const now = (seen.value?.bodies ?? []).filter(body => standOf(body) === 'now' && !body.id.startsWith('@'))
    .map(({ name }) => name)
  const where = { above: 'above', below: 'below', near: 'the near side' }[view]
  return `The build from ${where}, to scale. New in this step: ${now.length ? now.join(', ') : 'nothing to be seen'}. `
    + 'Sizes stand in the table below it.'
}
</script>

<template>
  <figure
    v-if="plan && side && seen"
    class="picture"
    data-test="picture"
  >
    <figcaption class="bar">
      <b class="figures">{{ current ? current.title : 'The build' }}</b>
      <span class="spacer" />
      <v-btn
        size="x-small"
        variant="outlined"
        data-test="turn-over"
        @click="below = !below"
      >
        {{ below ? 'From above' : 'Turn over' }}
      </v-btn>
      <IconAct
        name="Smaller"
        hint="Smaller"
        :icon="mdiMinus"
        :disabled="zoom <= 1"
        @click="zoom = Math.max(1, zoom / STEP)"
      />
      <IconAct
        name="Larger"
        hint="Larger"
        :icon="mdiPlus"
        :disabled="zoom >= 5"
        @click="zoom *= STEP"
      />
    </figcaption>
    <div
      ref="frame"
      class="frame"
      :class="{ wide: zoom > 1 }"
    >
      <svg
        role="img"
        :aria-label="told(below ? 'below' : 'above')"
        :viewBox="boxOf({ ...plan, width: plan.width * zoom, height: plan.height * zoom })"
        :style="{ width: `${zoom * 100}%` }"
        data-test="picture-above"
      >
        <g
          v-for="shape in plan.shapes"
          :key="shape.body.id"
          class="body"
          :class="classOf(shape)"
          :style="ownerStyle(shape)"
        >
          <rect
            :x="shape.x"
            :y="shape.y"
            :width="shape.width"
            :height="shape.height"
            :rx="shape.round ? shape.width / 2 : shape.body.kind === 'board' ? 3 : 0.6"
          />
          <text
            v-if="named(shape) && fits(shape, letter(plan))"
            :x="shape.x + letter(plan) * 0.3"
            :y="shape.y + letter(plan) * 1.05"
            :font-size="letter(plan)"
          >{{ nameIn(shape, letter(plan)) }}</text>
        </g>
        <g
          v-for="trunk in trunkShapes"
          :key="`${trunk.owner} ${trunk.kind}`"
          class="trunk"
          :class="[standOf(trunk.body), { flat: trunk.kind === 'flat cable' }]"
        >
          <polyline :points="trunk.points" />
          <text
            v-if="trunk.kind === 'wires'"
            :x="trunk.at[0]"
            :y="trunk.at[1]! + letter(plan) * 0.35"
            :font-size="letter(plan) * 0.9"
            text-anchor="middle"
          >{{ trunk.count }}</text>
        </g>
      </svg>
    </div>
    <div class="frame">
      <svg
        role="img"
        :aria-label="told('near')"
        :viewBox="boxOf({ ...side, width: side.width * zoom, height: side.height * zoom })"
        data-test="picture-side"
      >
        <rect
          v-if="plate"
          class="plate"
          :x="side.x + 1"
          :y="-plate.solid.z[1]"
          :width="side.width - 44"
          :height="plate.solid.z[1] - plate.solid.z[0]"
        />
        <g
          v-for="shape in side.shapes"
          :key="shape.body.id"
          class="body"
          :class="classOf(shape)"
          :style="ownerStyle(shape)"
        >
          <rect
            :x="shape.x"
            :y="shape.y"
            :width="shape.width"
            :height="shape.height"
            rx="0.3"
          />
        </g>
        <g
          v-if="lid"
          class="lid"
          :class="{ bad: !lid.closes }"
        >
          <line
            :x1="lid.x?.[0] ?? side.x"
            :x2="lid.x?.[1] ?? side.x + side.width - 42"
            :y1="lid.z"
            :y2="lid.z"
          />
        </g>
        <g
          v-for="height in heights"
          :key="height.words"
          class="height"
        >
          <line
            :x1="height.x"
            :x2="height.x"
            :y1="0"
            :y2="-height.z"
          />
          <text
            :x="height.x + 1"
            :y="-height.z + letter(side) * (height.z > 8 ? 1 : 0)"
            :font-size="letter(side) * 0.9"
          >{{ height.words }}</text>
        </g>
      </svg>
    </div>
    <p class="small quiet key">
      {{ below ? 'From below' : 'From above' }} and from the near side, to scale; what lies beside the board lies anywhere.
      <span class="mark now">new in this step</span> <span class="mark later">still to come</span>
      <span
        v-if="troubled.size"
        class="mark bad"
      >no room</span>
      <template v-if="seen.unknown.length">
        Nobody knows the size of {{ seen.unknown.map(({ name }) => name).join(', ') }}: type it in below.
      </template>
    </p>
  </figure>
  <p
    v-else-if="project.facts?.board && !project.facts.board.body"
    class="quiet"
    data-test="picture-none"
  >
    Nobody knows how large {{ project.facts.board.name }} is: type its width, depth and height in under Sizes and places, and it is drawn.
  </p>
</template>

<style scoped>
.picture { margin: 0; background: var(--sheet); border: 1px solid var(--rule); border-radius: 4px; padding: 4px 8px 6px; display: grid;
  gap: 4px; }
.bar { display: flex; gap: 6px; align-items: center; min-height: 30px; }
.bar b { overflow-wrap: anywhere; font-size: 12.5px; }
.spacer { flex: 1; }
.frame { overflow: auto; background: var(--paper); border-radius: 3px; }
svg { display: block; width: 100%; max-height: 420px; }
.frame.wide svg { max-height: none; }
.body rect { fill: color-mix(in srgb, var(--owner, var(--ink-2)) 14%, var(--sheet)); stroke: var(--owner, var(--ink-2));
  stroke-width: 0.35; }
.body.board rect { fill: var(--moss-wash); stroke: var(--moss); stroke-width: 0.6; }
.body.standing rect { fill: color-mix(in srgb, var(--ink) 13%, var(--sheet)); }
.body.pins rect { fill: color-mix(in srgb, var(--ink) 45%, var(--sheet)); }
.body.wire rect { fill: var(--ink); stroke: none; }
.body.cable rect { fill: color-mix(in srgb, var(--ink) 30%, var(--sheet)); stroke: none; }
.body.film rect { fill: none; stroke: var(--ochre); stroke-dasharray: 1.5 1; }
.body.spacer rect { fill: var(--ochre-wash); stroke: var(--ochre); }
.body.plate rect { fill: none; stroke-dasharray: 2 1.5; }
.body.now rect { stroke: var(--copper); stroke-width: 1; fill: color-mix(in srgb, var(--copper) 20%, var(--sheet)); }
.body.later rect { fill: none; stroke-dasharray: 1.2 1.2; opacity: 0.45; }
.body.bad rect { stroke: var(--carmine); stroke-width: 0.9; stroke-dasharray: 2 1; }
text { fill: var(--ink); font-family: inherit; }
.body.later text { fill: var(--ink-2); }
.trunk polyline { fill: none; stroke: var(--ink-2); stroke-width: 1.6; stroke-linejoin: round; opacity: 0.6; }
.trunk.now polyline { stroke: var(--copper); opacity: 1; stroke-width: 2.2; }
.trunk.flat polyline { stroke-width: 3; stroke-dasharray: 1 0.6; }
.trunk text { paint-order: stroke; stroke: var(--paper); stroke-width: 2.5; }
.plate { fill: color-mix(in srgb, var(--ink) 9%, var(--sheet)); stroke: var(--ink-2); stroke-width: 0.3; }
.lid line { stroke: var(--ink); stroke-width: 1; }
.lid.bad line { stroke: var(--carmine); stroke-width: 1.4; }
.height line { stroke: var(--ink-2); stroke-width: 0.35; }
.mark { padding: 0 5px; border-radius: 2px; white-space: nowrap; }
.mark.now { border: 2px solid var(--copper); }
.mark.later { border: 1px dashed var(--ink-2); }
.mark.bad { border: 2px dashed var(--carmine); }
@media print { .picture { break-inside: avoid; } .bar button { display: none; } }
</style>
