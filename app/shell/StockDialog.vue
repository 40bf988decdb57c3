<script setup lang="ts">
/** The maker's drawer: what lies there, how many, where; in and out as a table. */
import { inWords } from '~/database/failures'
import { newId } from '~/database/id'
import { shippedCatalogue } from '~~/core/catalogue'
import { joinedStock, stockAsCsv, stockFromCsv } from '~~/core/stock/csv'
import type { StockEntry } from '~~/core/stock/shape'

const emit = defineEmits<{ close: [] }>()
const stock = useStockStore()
const view = useViewStore()
stock.follow()
const known = computed(() => [
  ...shippedCatalogue.boards.values(), ...shippedCatalogue.parts.values(), ...shippedCatalogue.supplies.values(),
  ...shippedCatalogue.powerItems.values(),
].map(({ id, name }) => ({ value: id, title: name })))
const names = computed(() => new Map(known.value.map(({ value, title }) => [value, title])))
const ids = computed(() => new Map(known.value.map(({ value, title }) => [title.toLowerCase(), value])))
const sought = ref<string | null>('')
const taken = computed(() => stock.takenByOthers(null))
const rows = computed(() => (stock.entries ?? []).filter(({ what, place = '', note = '' }) =>
  `${what} ${place} ${note}`.toLowerCase().includes((sought.value ?? '').toLowerCase())))
const COLUMNS = [
  { key: 'what', title: 'What', value: ({ what }: StockEntry) => what },
  { key: 'count', title: 'Count', value: ({ count }: StockEntry) => count, num: true },
  { key: 'taken', title: 'Plans take',
    value: ({ type }: StockEntry) => type === undefined ? null : taken.value.get(type) ?? 0, num: true },
  { key: 'place', title: 'Lies in', value: ({ place }: StockEntry) => place ?? '' },
  { key: 'note', title: 'Note', value: ({ note }: StockEntry) => note ?? '' },
  { key: 'out', title: 'Take out', value: () => null, hidden: true, unsorted: true },
]
/** What is added next: of the catalogue, or anything that is typed. */
const fresh = ref<{ value: string, title: string } | string | null>(null)
const count = ref(1)

async function add() {
  const chosen = fresh.value
  if (!chosen) return
  const typed = typeof chosen === 'string' ? chosen.trim() : chosen.title
  const type = typeof chosen === 'string' ? ids.value.get(typed.toLowerCase()) : chosen.value
  if (!typed) return
  if (await stock.add({ what: typed.slice(0, 200), count: count.value, ...type !== undefined && { type } })) {
    fresh.value = null
    count.value = 1
  }
}

function change(entry: StockEntry, fields: { [Name in keyof StockEntry]?: StockEntry[Name] | undefined }) {
  const next = Object.fromEntries(Object.entries({ ...entry, ...fields }).filter(([, value]) => value !== undefined))
  void stock.put(next as unknown as StockEntry)
}

const out = () => download('stock.csv', '\uFEFF' + stockAsCsv(stock.entries ?? []), 'text/csv')

async function take([file]: File[]) {
  if (!file) return
  try {
    const { entries, problems } = stockFromCsv(await file.text(), type => names.value.get(type),
      name => ids.value.get(name.toLowerCase()))
    const before = [...stock.entries ?? []]
    const { stock: next, changed, added } = joinedStock(before, entries, newId)
    const first = problems.slice(0, 3).map(({ path, message }) => `${path}: ${message}`).join(' ')
    const left = problems.length ? ` ${problems.length} rows are left out: ${first}` : ''
    if (!changed && !added) return view.say(`Nothing in ${file.name} is new.${left}`,
      problems.length ? { tone: 'stop' } : {})
    if (await stock.replace(next,
      `${file.name} was not taken`)) view.say(`${added} came, ${changed} were counted anew.${left}`, {
      action: { label: 'Undo', run: () => void stock.replace(before, 'Not taken back') },
    })
  }
  catch (error) {
    view.say(`${file.name} could not be read: ${inWords(error)}`, { tone: 'stop' })
  }
}
</script>

<template>
  <FrameDialog
    title="What lies in the drawer"
    :width="980"
    test="stock"
    @close="emit('close')"
  >
    <p class="quiet">
      Counted across all projects. A plan's parts list says from it what you have and what is to be bought; what other projects take counts
      as taken.
    </p>
    <v-form
      class="row"
      @submit.prevent="add"
    >
      <v-combobox
        v-model="fresh"
        class="what"
        label="Something of the catalogue, or anything else"
        :items="known"
        data-test="stock-what"
      />
      <NumberField
        class="count"
        label="Count"
        :value="count"
        :min="0"
        :max="100000"
        @set="value => count = Math.round(value!)"
        @typing="value => count = Math.round(value)"
      />
      <v-btn
        type="submit"
        color="primary"
        :disabled="!fresh"
        data-test="stock-add"
      >
        Add
      </v-btn>
      <span class="spacer" />
      <FilePick
        label="Read a table"
        size="small"
        accept=".csv,.tsv,text/csv,text/plain"
        test="stock-file"
        @files="take"
      />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!stock.entries?.length"
        data-test="stock-csv"
        @click="out"
      >
        Download
      </v-btn>
    </v-form>
    <p
      v-if="stock.failure"
      role="alert"
    >
      {{ stock.failure }}
    </p>
    <p
      v-if="stock.entries === null && !stock.failure"
      role="status"
    >
      Looking …
    </p>
    <p
      v-else-if="stock.entries && !stock.entries.length"
      class="quiet"
      data-test="stock-none"
    >
      Nothing is counted yet. Add things above, or read a table with headings such as What, Count, Place.
    </p>
    <template v-else-if="stock.entries">
      <v-text-field
        v-if="stock.entries.length > 8"
        v-model="sought"
        class="seek"
        type="search"
        label="Find"
        clearable
      />
      <SortTable
        :rows="rows"
        :columns="COLUMNS"
        :row-key="row => row.id"
        :height="rows.length > 10 ? 380 : undefined"
        caption="What lies in the drawer"
        data-test="stock-rows"
      >
        <template #count="{ row }">
          <NumberField
            class="few"
            :name="`Count of ${row.what}`"
            :value="row.count"
            :min="0"
            :max="100000"
            @set="value => change(row, { count: Math.round(value!) })"
          />
        </template>
        <template #place="{ row }">
          <LineField
            label=""
            :aria-label="`${row.what} lies in`"
            :value="row.place"
            :max="200"
            @set="place => change(row, { place })"
          />
        </template>
        <template #note="{ row }">
          <LineField
            label=""
            :aria-label="`Note on ${row.what}`"
            :value="row.note"
            :max="1000"
            @set="note => change(row, { note })"
          />
        </template>
        <template #out="{ row }">
          <v-btn
            size="x-small"
            variant="text"
            @click="stock.remove(row)"
          >
            Take out
          </v-btn>
        </template>
      </SortTable>
    </template>
  </FrameDialog>
</template>

<style scoped>
.row { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; margin: 14px 0 10px; }
.what { flex: 1 1 260px; }
.count { width: 90px; }
.few { width: 86px; margin-left: auto; }
.spacer { flex: 1; }
.seek { max-width: 260px; margin-bottom: 8px; }
</style>
