<script setup lang="ts">
/**
 * The header as it lies: two rows, large numbers, owners by colour, roles by mark. Also where a terminal is moved to.
 */
import { useMediaQuery } from '@vueuse/core'
import type { HeaderPosition } from '~~/core/catalogue/types'
import type { Terminal } from '~~/core/facts/types'
import { isOpen } from '~~/core/findings/set-aside'
import { claimOf } from '~~/core/placement/refs'
import type { Mark } from '~/shared/RoleMark.vue'

const project = useProjectStore()
const view = useViewStore()
const { colourOf, tagOf } = useOwners()
const { moving, terminal: moved, byPosition, moveTo } = useMove()
const { dragged, over, reason, possible, vDrags, vTakes } = useDrag()
/** What of a cell can be dragged: the chosen part's terminal there, else the first that no add-on board binds. */
const draggable = (cell: Cell) =>
  (cell.owners.find(owner => owner.owner.id === view.partId && claimOf(owner) === undefined)
    ?? cell.owners.find(owner => claimOf(owner) === undefined))?.key
    ?? null

const header = computed(() => project.facts?.board?.header ?? [])
/** In the hand the header stands, the upper row on the right, and there is room for names beside the numbers. */
const upright = useMediaQuery('(max-width: 600px)')
const reserved = computed(() => new Set(project.plan!.reserved.map(entry => entry.position)))

/**
 * Rows as seen: from above the even row is the outer one, on top; from below the rows change places; turned around
 * both run backwards.
 */
const rows = computed(() => {
  const even = header.value.filter(entry => entry.position % 2 === 0)
  const odd = header.value.filter(entry => entry.position % 2 === 1)
  const order = view.turned ? [[...odd].reverse(), [...even].reverse()] : [even, odd]
  return view.fromBelow ? [order[1]!, order[0]!] : order
})
const ends = computed(() => {
  const [first, far] = upright.value ? ['end of position 1', 'far end'] : ['‹ end of position 1', 'far end ›']
  return view.turned
    ? [upright.value ? far! : '‹ far end', upright.value ? first! : 'end of position 1 ›']
    : [first!, far!]
})
const rowName = (row: HeaderPosition[]) => row[0] && row[0].position % 2 === 0
  ? 'outer row, even: nearer the board\'s edge'
  : 'inner row, odd: nearer the board\'s middle'

/** What is wrong at a position, for the mark and for its name. */
const troubleAt = computed(() => {
  const found = new Map<number, { stop: boolean, titles: string[] }>()
  for (const finding of project.report!.findings.filter(isOpen)) {
    if (finding.severity === 'note') continue
    for (const { position } of finding.subjects) {
      if (position === undefined) continue
      const entry = found.get(position) ?? { stop: false, titles: [] }
      entry.stop ||= finding.severity === 'stop'
      entry.titles.push(`${finding.severity}: ${finding.title}`)
      found.set(position, entry)
    }
  }
  return found
})

interface Cell {
  entry: HeaderPosition
  large: string
  small: string
  owners: Terminal[]
  colour: string
  colours: string[]
  mark: Mark | null
  /** Letter of the owner, for eyes that do not part the colours; `+` where there are several. */
  tag: string
  fixed: boolean
  reserved: boolean
  chosen: boolean
  marked: boolean
  stop: boolean
  caution: boolean
  dim: boolean
  target: 'free' | 'taken' | null
  label: string
}

const lineName = (entry: HeaderPosition) =>
  entry.line !== undefined ? `G${entry.line}` : entry.kind === 'ground' ? 'GND' : entry.kind

function cellOf(entry: HeaderPosition): Cell {
  const owners = project.facts!.atPosition.get(entry.position) ?? []
  const mine = view.partId ? owners.filter(owner => owner.owner.id === view.partId) : []
  const front = mine[0] ?? owners[0]
  const option = byPosition.value.get(entry.position)
  const trouble = troubleAt.value.get(entry.position)
  const names = owners.map(owner => `${owner.owner.name} ${owner.label}`)
  return {
    entry, owners,
    large: view.large === 'position' ? String(entry.position) : lineName(entry),
    small: view.large === 'position' ? lineName(entry) : String(entry.position),
    colour: front ? colourOf(front.owner.id) : 'transparent',
    colours: [...new Set(owners.map(owner => colourOf(owner.owner.id)))],
    mark: front ? markOf(front) : null,
    tag: front ? `${tagOf(front.owner.id)}${names.length > 1 ? '+' : ''}` : '',
    fixed: owners.some(owner => owner.assignment?.fixed),
    reserved: reserved.value.has(entry.position) || entry.identity === true,
    chosen: view.position === entry.position,
    marked: view.markedPositions.has(entry.position),
    stop: trouble?.stop === true,
    caution: trouble !== undefined && !trouble.stop,
    dim: moving.value ? !option : !!view.partId && owners.length > 0 && !mine.length && !view.findingId,
    target: moving.value && option ? (option.takenBy.length ? 'taken' : 'free') : null,
    label: `Position ${entry.position}, `
      + `${lineName(entry)}${names.length ? `: ${names.join(', ')}` : ': free'}${reserved.value.has(entry.position)
        ? ', reserved'
        : ''}${option?.takenBy.length
        ? `, taken by ${option.takenBy.join(', ')}`
        : ''}${trouble ? `; ${trouble.titles.slice(0, 2).join('; ')}` : ''}`,
  }
}

function markOf({ is, signal }: Terminal): Mark {
  if (is === 'supply') return 'supply'
  if (is === 'ground') return 'return'
  const role = signal!.role
  if (role.startsWith('serial')) return 'serial'
  if (role === 'pwm' || role === 'strip') return 'pulse'
  return role === 'line' ? 'line' : 'bus'
}

const cells = computed(() => rows.value.map(row => ({ name: rowName(row), cells: row.map(cellOf) })))

function press(cell: Cell) {
  const option = byPosition.value.get(cell.entry.position)
  if (moving.value && option) {
    moveTo(moving.value, option)
    return
  }
  if (moving.value) {
    return view.say(
      `${cell.label} cannot serve ${moved.value?.owner.name} ${moved.value?.label}. The positions that `
      + 'can are outlined.', { tone: 'stop' },
    )
  }
  view.choosePosition(view.position === cell.entry.position ? null : cell.entry.position,
    cell.owners[0]?.owner.id ?? null)
}

/** Arrow keys walk the header as it is drawn. */
function walk(event: KeyboardEvent) {
  const step = (upright.value
    ? { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
    : { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0],
        ArrowDown: [1, 0] } as Record<string, [number, number]>
  )[event.key as 'ArrowLeft'] as [number, number] | undefined
  if (!step) return
  event.preventDefault()
  const buttons = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button.cell')]
  const perRow = buttons.length / 2
  const at = buttons.indexOf(document.activeElement as HTMLElement)
  if (at < 0) return
  const row = Math.floor(at / perRow) + step[0]
  const column = at % perRow + step[1]
  if (row >= 0 && row < 2 && column >= 0 && column < perRow) buttons[row * perRow + column]!.focus()
}
</script>

<template>
  <section
    class="header-rail"
    :class="{ upright }"
    aria-label="Header"
    data-test="header-rail"
    @keydown="walk"
  >
    <div class="ends">
      <template v-if="upright">
        <span>{{ cells[1]?.name }}</span><span>{{ cells[0]?.name }}</span><b>{{ ends[0] }}</b>
      </template>
      <template v-else>
        <span>{{ cells[0]?.name }}</span><span>{{ ends[1] }}</span>
      </template>
    </div>
    <div
      v-for="row in cells"
      :key="row.name"
      class="row"
      :style="{ '--columns': row.cells.length }"
    >
      <button
        v-for="cell in row.cells"
        :key="cell.entry.position"
        v-drags="draggable(cell)"
        v-takes="cell.entry.position"
        class="cell"
        :class="{ held: cell.owners.length,
                  reserved: cell.reserved,
                  chosen: cell.chosen,
                  marked: cell.marked,
                  stop: cell.stop,
                  caution: cell.caution,
                  dim: cell.dim,
                  first: cell.entry.position === 1,
                  target: cell.target === 'free',
                  taken: cell.target === 'taken',
                  over: over === cell.entry.position,
                  impossible: over === cell.entry.position && !possible,
                  several: cell.colours.length > 1 }"
        :style="{ '--owner': cell.colour }"
        :aria-label="cell.label"
        :aria-pressed="cell.chosen"
        :data-test="`position-${cell.entry.position}`"
        @click="press(cell)"
      >
        <RoleMark
          v-if="cell.mark"
          :mark="cell.mark"
          class="corner"
        />
        <span
          v-if="cell.tag"
          class="tag figures"
          :class="{ fixed: cell.fixed }"
          aria-hidden="true"
        >{{ cell.tag }}</span>
        <span class="large figures">{{ cell.large }}</span>
        <span class="small-name figures">{{ cell.small }}</span>
        <span
          v-if="upright && cell.owners.length"
          class="who"
          aria-hidden="true"
        >{{ cell.owners[0]!.owner.name }}{{ cell.owners.length > 1 ? ` +${cell.owners.length - 1}` : '' }}</span>
        <span
          class="foot"
          aria-hidden="true"
        ><span
          v-for="colour in cell.colours.slice(0, 4)"
          :key="colour"
          :style="{ background: colour }"
        /></span>
      </button>
    </div>
    <div class="ends">
      <b v-if="upright">{{ ends[1] }}</b>
      <template v-else>
        <span>{{ ends[0] }}</span><span>{{ cells[1]?.name }}</span>
      </template>
    </div>
    <p
      v-if="dragged"
      class="drag-hint"
      :class="{ impossible: over !== null && !possible }"
      role="status"
      data-test="drag-hint"
    >
      {{ over === null ? 'Drop it on a position outlined in green.' : reason ?? `Position ${over} can take it.` }}
    </p>
  </section>
</template>

<style scoped>
.header-rail { background: var(--paper-2); border: 1px solid var(--rule); border-radius: 5px; padding: 6px 8px; }
.ends { display: flex; justify-content: space-between; font-size: 12px; color: var(--ink-2); padding: 0 2px; }
.row { display: grid; grid-template-columns: repeat(var(--columns), minmax(0, 1fr)); gap: 3px; margin: 4px 0; }
.cell {
  position: relative;
  height: 50px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  display: grid;
  justify-items: center;
  align-content: center;
  padding: 9px 0 0;
  cursor: pointer;
  overflow: hidden;
  line-height: 1.12;
}
.cell.first { border-radius: 0; border-width: 2px; border-color: var(--ink); }
.held {
  background: color-mix(in srgb, var(--owner) var(--mix), var(--sheet));
  border-color: color-mix(in srgb, var(--owner) 60%, var(--sheet));
}
.large { font-weight: 650; font-size: 16px; }
.small-name { font-size: 11px; color: var(--ink-2); }
.held .small-name { color: var(--ink); }
.foot { position: absolute; inset: auto 0 0 0; height: 3px; display: flex; }
.foot span { flex: 1; }
.corner { position: absolute; top: 2px; right: 1px; width: 9px; height: 9px; color: var(--owner); }
.tag { position: absolute; top: 1px; left: 2px; font-size: 10px; font-weight: 700; line-height: 12px; color: var(--ink); padding: 0 1px; }
.tag.fixed { background: var(--ink); color: var(--sheet); border-radius: 2px; padding: 0 2px; }
.caution { border: 2px dashed var(--ochre); }
.reserved:not(.held) { background: repeating-linear-gradient(135deg, var(--paper-3) 0 3px, var(--paper-2) 3px 7px); }
.dim { background: var(--paper-2); border-color: var(--rule); }
.dim .large { color: var(--ink-2); font-weight: 500; }
.dim .corner, .dim .foot { opacity: .35; }
.over { outline: 3px solid var(--moss); }
.impossible { outline-color: var(--carmine); cursor: not-allowed; }
.drag-hint { font-size: 13px; font-weight: 600; padding: 2px; color: var(--moss); }
.drag-hint.impossible { color: var(--carmine); }
.chosen { outline: 3px solid var(--ink); outline-offset: 0; }
.stop { border: 2px solid var(--carmine); }
.marked { outline: 3px solid var(--copper); outline-offset: 1px; z-index: 1; }
.target { outline: 2px solid var(--moss); }
.taken { outline: 2px dashed var(--ochre); }
@media (max-width: 900px) {
  .large { font-size: 13px; }
  .small-name { font-size: 9.5px; }
  .cell { height: 46px; }
  .row { gap: 2px; }
  .corner { width: 7px; height: 7px; top: 1px; }
}
.upright { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 0 6px; }
.upright .ends { grid-column: 1 / -1; display: grid; grid-template-columns: inherit; gap: 2px 6px; }
.upright .ends b { grid-column: 1 / -1; text-align: center; font-weight: 600; }
.upright .row { grid-template-columns: minmax(0, 1fr); grid-row: 2; gap: 3px; }
.upright .row:nth-child(2) { grid-column: 2; }
.upright .row:nth-child(3) { grid-column: 1; }
.upright .cell {
  height: 34px;
  grid-template-columns: 24px 34px minmax(0, 1fr);
  gap: 4px;
  align-items: center;
  justify-items: start;
  padding: 0 12px 2px 22px;
}
.upright .large { font-size: 15px; justify-self: end; }
.upright .small-name { font-size: 11px; }
.upright .tag { top: 10px; left: 4px; font-size: 11px; }
.upright .who { font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; max-width: 100%; }
.upright .drag-hint { grid-column: 1 / -1; }
</style>
