<script setup lang="ts">
/**
 * Which board would carry this? Each one whole: placed, fed, fitted out, judged, with its price and what it gives up.
 */
import type { BoardTrial } from '~~/core/choose/boards'

const project = useProjectStore()
const { price } = useUnits()
const open = ref(false)
const { trials, differences, running, isOld, count, tried, tryAll, leave, take } = useBoardChoice()

const verdictOf = (trial: BoardTrial) => trial.carries ? 'carries it' : trial.placed ? 'stops' : 'no room'
const RANK = { 'carries it': 0, 'stops': 1, 'no room': 2 } as const
const wantsOf = (trial: BoardTrial) => [
  ...trial.supply?.isNew ? [trial.supply.name] : [], ...trial.added.map(({ name }) => name),
]
const columns = [
  { key: 'board', title: 'Board', value: (trial: BoardTrial) => trial.name },
  { key: 'verdict', title: 'Verdict', value: (trial: BoardTrial) => RANK[verdictOf(trial)] },
  { key: 'price', title: 'Price, about', value: (trial: BoardTrial) => trial.price.total, num: true },
  { key: 'lines', title: 'Lines free', value: (trial: BoardTrial) => trial.spare.lines, num: true },
  { key: 'usb', title: 'USB free', value: (trial: BoardTrial) => trial.spare.usb, num: true },
  { key: 'why', title: 'Wants, and what is against it', value: () => '', unsorted: true },
  { key: 'take', title: 'Take it', value: () => '', unsorted: true, hidden: true },
]
const everywhere = computed(() => [...new Set(trials.value.flatMap(trial => trial.everywhere))])
/** So much of what is against a board is said; the gravest come first. */
const MAX = 3
</script>

<template>
  <FoldPanel
    v-model:open="open"
    title="Which board would carry this?"
    data-test="board-choice"
  >
    <p class="small quiet">
      Every board is tried with your parts as they are: everything is placed, fed and judged by the rules of the plan. Prices are made up.
    </p>
    <div class="acts">
      <v-btn
        v-if="!running"
        size="small"
        color="primary"
        :disabled="!project.plan!.parts.length"
        data-test="try-boards"
        @click="tryAll"
      >
        {{ tried ? 'Try them again' : 'Try every board' }}
      </v-btn>
      <template v-else>
        <v-btn
          size="small"
          variant="outlined"
          data-test="leave-boards"
          @click="leave"
        >
          Stop
        </v-btn>
        <span
          class="small"
          role="status"
        >{{ trials.length }} of {{ count }} tried …</span>
      </template>
      <span
        v-if="!project.plan!.parts.length"
        class="small quiet"
      >Choose parts first: a board alone carries nothing.</span>
      <span
        v-else-if="isOld && !running"
        class="small quiet"
      >The plan has changed since.</span>
    </div>
    <SortTable
      v-if="trials.length"
      :rows="trials"
      :columns="columns"
      :row-key="trial => trial.boardId"
      caption="Boards tried on this plan"
      whole
      data-test="board-trials"
    >
      <template #board="{ row }">
        <b>{{ row.name }}</b><span
          v-if="row.boardId === project.plan!.board"
          class="small quiet"
        > yours now</span>
      </template>
      <template #verdict="{ row }">
        <span
          class="verdict"
          :class="{ carries: row.carries, no: !row.carries }"
        >{{ verdictOf(row) }}</span>
      </template>
      <template #price="{ row }">
        {{ price(row.price.total) }}<div
          v-if="row.price.unknown"
          class="small quiet"
        >
          {{ row.price.unknown }} unpriced
        </div>
      </template>
      <template #why="{ row }">
        <ul class="why small">
          <li v-if="differences.get(row.boardId)">
            against yours: {{ differences.get(row.boardId) }}
          </li>
          <li v-if="wantsOf(row).length">
            wants {{ wantsOf(row).join(', ') }}
          </li>
          <li
            v-for="words in row.givenUp"
            :key="words"
          >
            gives up {{ words }}
          </li>
          <li
            v-for="title in row.against.slice(0, MAX)"
            :key="title"
            class="no"
          >
            {{ title }}
          </li>
          <li v-if="row.against.length > MAX">
            and {{ row.against.length - MAX }} more
          </li>
          <li
            v-if="row.cautions.length"
            class="quiet"
          >
            {{ row.cautions.length }} {{ row.cautions.length === 1 ? 'caution' : 'cautions' }}: {{ row.cautions.slice(0, 2).join('; ') }}
          </li>
        </ul>
      </template>
      <template #take="{ row }">
        <v-btn
          size="x-small"
          variant="outlined"
          :disabled="running || isOld || (row.boardId === project.plan!.board && !wantsOf(row).length)"
          :aria-label="`Take ${row.name}`"
          @click="take(row)"
        >
          Take it
        </v-btn>
      </template>
    </SortTable>
    <p
      v-if="everywhere.length"
      class="small"
      data-test="everywhere"
    >
      On every board, and to be mended in the plan itself: {{ everywhere.join('; ') }}.
    </p>
  </FoldPanel>
</template>

<style scoped>
.acts { display: flex; flex-wrap: wrap; gap: 10px; align-items: center; margin: 8px 0; }
.why { list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; }
.verdict { font-weight: 650; white-space: nowrap; }
.carries { color: var(--moss); }
.no { color: var(--carmine); }
</style>
