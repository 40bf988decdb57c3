<script setup lang="ts">
/** What the whole costs in each way that the plan knows, side by side; one of them can be taken. */
import type { ListedItem } from '~~/core/construction/parts-list'
import type { Total } from '~~/core/choose/totals'
import { stockOf } from '~~/core/stock/needs'

const emit = defineEmits<{ close: [] }>()
const project = useProjectStore()
const view = useViewStore()
const stock = useStockStore()
const { price } = useUnits()
const totals = shallowRef<readonly Total[] | null>(null)
const failed = ref('')

onMounted(async () => {
  try {
    const { totalsOf } = await import('~~/core/choose/totals')
    totals.value = totalsOf(project.plan!, project.catalogue)
  }
  catch (error) {
    failed.value = `The totals could not be worked out: ${(error as Error).message}. Close this and try again.`
  }
})

/** What has to be bought for a way, with what lies in the drawer; null while nothing is counted there. */
function toBuy(items: readonly ListedItem[]): number | null {
  if (!stock.entries?.length) return null
  const others = stock.takenByOthers(project.id)
  return items.filter(({ kind }) => kind !== 'wire')
    .reduce((sum, item) => sum + stockOf(item, stock.entries!, others).buy * (item.price ?? 0), 0)
}

const COLUMNS = computed(() => [
  { key: 'title', title: 'Way', value: ({ title }: Total) => title },
  { key: 'price', title: 'together', value: ({ price: { total } }: Total) => total, num: true },
  ...stock.entries?.length
    ? [{ key: 'buy', title: 'to buy', value: ({ items }: Total) => toBuy(items), num: true }]
    : [],
  { key: 'unknown', title: 'no price', value: ({ price: { unknown } }: Total) => unknown, num: true },
  { key: 'counts', title: 'stops, cautions',
    value: ({ counts }: Total) => counts && counts.stops * 1000 + counts.cautions, num: true },
  { key: 'take', title: 'Take', value: () => '', unsorted: true, hidden: true },
])

function take({ title, edits }: Total) {
  project.edit({ edit: 'all', edits: edits! }, title)
  view.say(`${title}: in the plan.`, { action: { label: 'Undo', run: project.undo } })
  emit('close')
}
</script>

<template>
  <FrameDialog
    title="What the whole costs, in each way"
    :width="860"
    test="totals"
    @close="emit('close')"
  >
    <p
      v-if="failed"
      role="alert"
    >
      {{ failed }}
    </p>
    <p
      v-else-if="!totals"
      role="status"
    >
      Working out each way on your plan …
    </p>
    <template v-else>
      <SortTable
        :rows="[...totals]"
        :columns="COLUMNS"
        :row-key="row => row.id"
        caption="What the whole costs, in each way"
      >
        <template #title="{ row }">
          <b v-if="row.kind === 'now'">{{ row.title }}</b>
          <template v-else>
            {{ row.title }}
          </template>
          <span
            v-if="row.givesUp.length"
            class="gives small"
          >Gives up {{ row.givesUp.join('; ') }}.</span>
        </template>
        <template #price="{ row }">
          {{ price(row.price.total) }}
        </template>
        <template #buy="{ row }">
          {{ price(Math.round(toBuy(row.items) ?? 0)) }}
        </template>
        <template #counts="{ row }">
          {{ row.counts ? `${row.counts.stops}, ${row.counts.cautions}` : '—' }}
        </template>
        <template #take="{ row }">
          <v-btn
            v-if="row.edits?.length"
            size="x-small"
            variant="outlined"
            :aria-label="`Take ${row.title}`"
            :data-test="`take-total-${row.id}`"
            @click="take(row)"
          >
            Take it
          </v-btn>
        </template>
      </SortTable>
      <p class="small quiet notes">
        Arrangements that you kept at Power, the other way of each part that has one, and, where the plan has a panel, devices that come
        whole. All prices are made up; things without one are counted beside.
        Other boards are tried at the Board stage. Wire from the reel, screws and your time are not counted.
      </p>
      <p
        v-if="totals.length === 1"
        class="small"
      >
        This plan knows no other way yet: keep an arrangement at Power, or add what it is about.
      </p>
    </template>
  </FrameDialog>
</template>

<style scoped>
.gives { display: block; color: var(--ink-2); }
.notes { margin-top: 8px; }
</style>
