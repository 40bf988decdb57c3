<script setup lang="ts">
/**
 * The run sheet beside what it says: every test by its phase, the one that is looked at, what may be wrong,
 * what to try next.
 */
import type { SaidMark } from '~~/core/diagnosis/symptoms/clause'
import type { RunRow, RunSheet } from '~~/core/diagnosis/sheet'
import { PHASES, type Phase } from '~~/core/diagnosis/types'

const { sheet, hidden = false, alone = false } = defineProps<{
  sheet: RunSheet
  /** An exercise: what a test shows is not entered but tried. */
  hidden?: boolean
  /** What would explain it and what to try next is not said. */
  alone?: boolean
}>()
const emit = defineEmits<{
  see: [id: string, outcome: string | null, value?: number]
  seeAll: [entries: readonly { probe: string, outcome: string }[]]
  seeSaid: [entries: readonly { clause: string, mark: SaidMark }[]]
  attempt: [id: string]
  forget: [ids: readonly string[]]
}>()

const NAMES: Readonly<Record<Phase, string>> = {
  'before power': 'Before power', 'first power': 'First power', 'after the start': 'After the start',
  'each part': 'Each part by itself',
  'under load': 'Together, under load', 'when in doubt': 'When in doubt',
}
const chosenId = ref<string | null>(null)
const next = computed(() => alone ? null : sheet.diagnosis.next[0]?.probe.id ?? null)
/** The first that was not looked at yet, in the order of the phases. */
const firstOpen = computed(() =>
  sheet.rows.find(row => !row.seen && row.probe.phase !== 'when in doubt')?.probe.id ?? null)
const chosen = computed(() => {
  const id = chosenId.value ?? next.value ?? firstOpen.value
  return sheet.rows.find(row => row.probe.id === id) ?? null
})
const groups = computed(() => PHASES.map((phase) => {
  const rows = sheet.rows.filter(row => row.probe.phase === phase)
  return { phase, rows, seen: rows.filter(row => row.seen).length,
    odd: rows.filter(row => row.seen && !row.seen.isPlanned).length }
}).filter(({ rows }) => rows.length))
/** From so many rows on, wires that are looked at are kept together by their part. */
const MANY = 60
const opened = ref<Record<string, boolean>>({})
interface Block { id: string, title: string | null, rows: readonly RunRow[], seen: number, isShut: boolean }
function blocksOf(rows: readonly RunRow[]): Block[] {
  const isLook = ({ probe }: RunRow) => probe.id.startsWith('look:')
  const looks = rows.filter(isLook)
  if (looks.length < MANY) return [{ id: '', title: null, rows, seen: 0, isShut: false }]
  const byPart = new Map<string, RunRow[]>()
  for (const row of looks) {
    const id = row.probe.at.parts?.[0] ?? ''
    byPart.set(id, [...byPart.get(id) ?? [], row])
  }
  const name = (id: string) =>
    sheet.proofs.find(proof => proof.partId === id)?.name ?? (id || 'Places where wires meet')
  return [
    { id: '', title: null, rows: rows.filter(row => !isLook(row)), seen: 0, isShut: false },
    ...[...byPart].map(([id, list]) => ({
      id: id || '@meet', title: name(id), rows: list, seen: list.filter(row => row.seen).length,
      isShut: !(opened.value[id || '@meet'] ?? list.includes(chosen.value!)),
    })),
  ]
}
const open = ref<Record<string, boolean>>({})
const isOpen = (phase: Phase) => open.value[phase] ?? chosen.value?.probe.phase === phase

function took(row: RunRow, outcome: string | null, value?: number): void {
  const at = sheet.rows.indexOf(row)
  emit('see', row.probe.id, outcome, value)
  // On to the next of the sheet while all is as planned; what is odd is followed by what tells most.
  const following = sheet.rows.slice(at + 1).find(other => !other.seen && other.probe.phase === row.probe.phase)
  chosenId.value = outcome === row.planned && !sheet.diagnosis.odd.length ? following?.probe.id ?? null : null
}
function take(entries: readonly { probe: string, outcome: string }[]): void {
  emit('seeAll', entries)
  chosenId.value = null
}
function takeSaid(entries: readonly { clause: string, mark: SaidMark }[]): void {
  emit('seeSaid', entries)
  chosenId.value = null
}
const seenBefore = (row: RunRow) =>
  row.seen?.value === undefined ? row.seen?.outcome : `${row.seen.value} ${row.probe.reading?.unit ?? ''}`
const mark = (row: RunRow) => !row.seen ? 'not seen yet' : row.seen.isPlanned ? 'as planned' : 'against the plan'
</script>

<template>
  <p
    v-if="sheet.stray.length"
    class="small stray"
    data-test="stray"
  >
    {{ sheet.stray.length === 1 ? 'One sighting is' : `${sheet.stray.length} sightings are` }} about what the plan has no more.
    <v-btn
      size="x-small"
      variant="text"
      @click="emit('forget', sheet.stray)"
    >
      Forget {{ sheet.stray.length === 1 ? 'it' : 'them' }}
    </v-btn>
  </p>
  <div class="run">
    <div
      class="rows"
      data-test="run-sheet"
    >
      <FoldPanel
        v-for="group in groups"
        :key="group.phase"
        :open="isOpen(group.phase)"
        title=""
        :data-test="`phase-${group.phase.replaceAll(' ', '-')}`"
        @update:open="open[group.phase] = $event"
      >
        <template #title>
          <b>{{ NAMES[group.phase] }}</b>
          <span class="figures count">{{ group.seen }} of {{ group.rows.length }}<template v-if="group.odd">,
            <b class="odd">{{ group.odd }} odd</b></template></span>
        </template>
        <v-list
          density="compact"
          class="list"
          :aria-label="NAMES[group.phase]"
        >
          <template
            v-for="block in blocksOf(group.rows)"
            :key="block.title ?? ''"
          >
            <div
              v-if="block.title !== null"
              class="block"
              role="listitem"
              :data-test="`wires-${block.id}`"
            >
              <v-btn
                size="small"
                variant="text"
                :aria-expanded="!block.isShut"
                @click="opened[block.id] = block.isShut"
              >
                {{ block.title }}
              </v-btn>
              <span class="figures count">{{ block.seen }} of {{ block.rows.length }}</span>
              <v-btn
                v-if="!hidden && block.seen < block.rows.length"
                size="x-small"
                variant="outlined"
                :aria-label="`Every wire of ${block.title} was counted and is right`"
                @click="emit('seeAll', block.rows.filter(row => !row.seen).map(row => ({ probe: row.probe.id, outcome: row.planned })))"
              >
                All right
              </v-btn>
            </div>
            <v-list-item
              v-for="row in block.isShut ? [] : block.rows"
              :key="row.probe.id"
              class="row"
              :class="{ planned: row.seen?.isPlanned, against: row.seen && !row.seen.isPlanned, chosen: chosen?.probe.id === row.probe.id }"
              :active="chosen?.probe.id === row.probe.id"
              :data-test="`probe-${row.probe.id}`"
              @click="chosenId = row.probe.id"
            >
              <span class="what">
                <span
                  class="sign"
                  aria-hidden="true"
                >{{ row.seen ? row.seen.isPlanned ? '✓' : '✕' : '·' }}</span>
                <span class="only-reader">{{ mark(row) }}:</span>
                <span class="name">{{ row.probe.title }}</span>
                <span
                  v-if="row.seen && !row.seen.isPlanned"
                  class="figures was"
                >{{ seenBefore(row) }}</span>
              </span>
            </v-list-item>
          </template>
        </v-list>
      </FoldPanel>
    </div>
    <div class="side">
      <RunProbe
        v-if="chosen"
        :key="chosen.probe.id"
        :row="chosen"
        :hidden="hidden"
        :bits="alone ? null : sheet.diagnosis.next.find(({ probe }) => probe.id === chosen!.probe.id)?.bits ?? null"
        :is-next="chosen.probe.id === next"
        @took="(outcome, value) => took(chosen!, outcome, value)"
        @attempt="emit('attempt', chosen!.probe.id)"
      />
      <p
        v-else
        class="quiet"
        data-test="run-all-seen"
      >
        Everything on the sheet has been seen.
      </p>
      <RunSay
        v-if="!hidden"
        :rows="sheet.rows"
        :subjects="sheet.subjects"
        :rails="sheet.rails"
        @take="takeSaid"
      />
      <RunDiagnosis
        v-if="!alone"
        :diagnosis="sheet.diagnosis"
        :rows="sheet.rows"
        :proofs="sheet.proofs"
        :hidden="hidden"
        @choose="chosenId = $event"
        @drop="emit('see', $event, null)"
      />
      <RunPaste
        v-if="!hidden"
        :probes="sheet.rows.map(row => row.probe)"
        @take="take"
      />
    </div>
  </div>
</template>

<style scoped>
.stray { border-left: 4px dashed var(--ochre); padding-left: 8px; margin-bottom: 8px; }
.run { display: grid; gap: 16px; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); align-items: start; }
.rows { min-width: 0; }
.side { display: grid; gap: 12px; min-width: 0; position: sticky; top: 8px; }
.count { margin-left: auto; padding: 0 8px; color: var(--ink-2); font-size: 13px; }
.odd { color: var(--carmine); }
.list { background: transparent; padding: 0; }
.row { border-bottom: 1px solid var(--rule); min-height: 30px; padding: 2px 6px; border-left: 5px solid transparent; border-radius: 0; }
.row.planned { border-left-color: var(--moss); }
.row.against { border-left-color: var(--carmine); background: var(--carmine-wash); }
.row.chosen { box-shadow: inset 0 0 0 2px var(--copper); }
.block { display: flex; align-items: center; gap: 8px; border-bottom: 1px solid var(--rule); min-height: 34px; }
.block .count { margin-left: auto; }
.block > :deep(.v-btn:first-child) { min-width: 0; padding: 0 6px; }
.what { display: flex; gap: 7px; align-items: baseline; }
.name { flex: 1; min-width: 0; overflow-wrap: anywhere; font-size: 14px; line-height: 1.3; }
.sign { width: 1em; flex: none; font-weight: 700; text-align: center; }
.planned .sign { color: var(--moss); }
.against .sign, .was { color: var(--carmine); font-weight: 700; }
.was { font-size: 13px; max-width: 45%; text-align: end; overflow-wrap: anywhere; }
@media (max-width: 900px) { .run { grid-template-columns: minmax(0, 1fr); } .side { position: static; order: -1; } }
</style>
