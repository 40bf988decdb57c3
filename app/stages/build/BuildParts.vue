<script setup lang="ts">
/** What has to lie on the table, with what it costs and what of it lies in the drawer. */
import { partsAsCsv } from '~~/core/construction/table'
import { priceOf } from '~~/core/construction/parts-list'
import { stockOf } from '~~/core/stock/needs'

const project = useProjectStore()
const { price } = useUnits()
const partsList = computed(() => project.report!.partsList)
const stock = useStockStore()
stock.follow()
const showsStock = ref(false)
const showsTotals = ref(false)
const others = computed(() => stock.takenByOthers(project.id))
type Item = typeof partsList.value[number]
/** What lies in the drawer of a row; null while nothing is counted. */
const stockFor = (item: Item) =>
  stock.entries?.length && item.kind !== 'wire' ? stockOf(item, stock.entries, others.value) : null
const toBuy = computed(() =>
  partsList.value.reduce((all, item) => all + (stockFor(item)?.buy ?? item.count) * (item.price ?? 0), 0))
const sum = computed(() => priceOf(partsList.value).total)
const forWhat = (item: Item) => item.names.filter(name => name !== item.what).join(', ')
const partsColumns = computed(() => [
  { key: 'count', title: 'Count', value: (item: Item) => item.count, num: true },
  { key: 'what', title: 'What', value: (item: Item) => item.what },
  { key: 'for', title: 'For', value: forWhat },
  { key: 'length', title: 'm', value: (item: Item) => item.lengthM, num: true },
  { key: 'price', title: 'each', value: (item: Item) => item.price, num: true },
  ...stock.entries?.length
    ? [
        { key: 'have', title: 'have', value: (item: Item) => stockFor(item)?.have, num: true },
        { key: 'buy', title: 'buy', value: (item: Item) => stockFor(item)?.buy, num: true },
      ]
    : [],
])

function partsCsv() {
  download(fileName(project.plan!.name, '-parts.csv'), '\uFEFF' + partsAsCsv(partsList.value, stock.entries?.length
    ? row => stockOf(row, stock.entries!, others.value)
    : undefined), 'text/csv')
}
</script>

<template>
  <div>
    <section
      v-if="partsList.length"
      class="parts"
    >
      <div class="stage-head">
        <h2>What lies on the table</h2>
        <span class="quiet">{{ sum ? `about ${price(Math.round(sum))} together, made-up prices` : '' }}{{ sum && stock.entries?.length
          ? `; ${price(Math.round(toBuy))} to buy` : '' }}</span>
        <span class="spacer" />
        <v-btn
          size="small"
          variant="outlined"
          data-test="open-stock"
          @click="showsStock = true"
        >
          Drawer
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          data-test="open-totals"
          @click="showsTotals = true"
        >
          Other ways
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          data-test="download-parts"
          @click="partsCsv"
        >
          Download parts list
        </v-btn>
      </div>
      <SortTable
        class="parts-table"
        data-test="parts-list"
        whole
        :rows="partsList"
        :columns="partsColumns"
        :row-key="item => item.kind + item.what"
        caption="What lies on the table"
      >
        <template #price="{ row }">
          {{ row.price === null ? '' : price(row.price) }}
        </template>
        <template #have="{ row }">
          <template v-if="stockFor(row)">
            {{ stockFor(row)!.have }}<span
              v-if="stockFor(row)!.reserved"
              class="quiet"
            > ({{ stockFor(row)!.reserved }} taken)</span><HoverHint
              v-if="stockFor(row)!.places.length"
              :text="`Lies in ${stockFor(row)!.places.join(', ')}`"
            />
          </template>
        </template>
        <template #buy="{ row }">
          <b v-if="stockFor(row)?.buy">{{ stockFor(row)!.buy }}</b><template v-else-if="stockFor(row)">
            –
          </template>
        </template>
        <template #for="{ row }">
          <span class="quiet">{{ forWhat(row) }}</span>
        </template>
      </SortTable>
    </section>
    <LazyBuildTotals
      v-if="showsTotals"
      @close="showsTotals = false"
    />
    <LazyStockDialog
      v-if="showsStock"
      @close="showsStock = false"
    />
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.parts { margin-top: 12px; }
.parts-table { background: transparent; }
.parts h2 { font-size: 16px; }
</style>
