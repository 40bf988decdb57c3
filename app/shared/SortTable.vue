<script setup lang="ts" generic="T extends object">
/**
 * A table that is put in order by any of its columns, by pointer or by the Enter key. A cell shows what its column gives, or the slot of
 * the column's key; `after` adds rows that stay last. Long tables draw only the rows in sight.
 */
import { useMediaQuery } from '@vueuse/core'
import { VDataTable, VDataTableVirtual } from 'vuetify/components/VDataTable'

export interface Column<Row> {
  key: string
  title: string
  /** What is shown without a slot, and what the order goes by: figures by size, words by alphabet. */
  value: (row: Row) => string | number | null | undefined
  /** Figures stand to the right. */
  num?: boolean
  /** There is no sense in an order by this. */
  unsorted?: boolean
  /** The title is for readers only. */
  hidden?: boolean
}

const { rows, columns, rowKey, caption = undefined, rowClass = undefined, height = undefined, whole = false } = defineProps<{
  rows: readonly T[]
  columns: readonly Column<T>[]
  rowKey: (row: T) => string
  /** Names the table for readers. */
  caption?: string
  rowClass?: (row: T) => string | Record<string, boolean> | undefined
  /** Pixels, where it scrolls by itself. */
  height?: number
  /** Every row is drawn, however many: for tables that go on paper. */
  whole?: boolean
}>()

/** From so many rows on only those in sight are drawn. */
const LONG = 80
const ROW_PX = 29
/** Columns that stand beside each other in the hand; of more each row becomes a card. */
const FITS = 4
const narrow = useMediaQuery('(max-width: 600px)')

const headers = computed(() => columns.map(({ key, title, value, num, unsorted }) => (
  {
    key, title, value: (row: T) => value(row) ?? '', align: num ? 'end' as const : 'start' as const, sortable: !unsorted,
    ...num && { cellProps: { class: 'num' }, headerProps: { class: 'num' } },
  }
)))
const isLong = computed(() => !whole && rows.length > LONG)
/** The library takes its rows as they are; keys come with them. */
const items = computed(() => [...rows])
const keyOf = (row: unknown) => rowKey(row as T)
/** A row that stays last has a table's columns: those rows stay beside each other. */
const slots = useSlots()
const isCards = computed(() => narrow.value && columns.length > FITS && !slots.after)
const order = ref<{ key: string, order: 'asc' | 'desc' }[]>([])
/** Cards have no headings to press: the order is chosen above them. */
const orders = computed(() => [
  { value: '', title: 'As they come' }, ...columns.filter(({ unsorted }) => !unsorted).map(({ key, title }) => ({ value: key, title })),
])
const table = useTemplateRef<{ $el: HTMLElement }>('table')
/** What scrolls by itself has to be reached by the keyboard; the library's frame cannot be told so. */
function reachable() {
  const frame = table.value?.$el.querySelector<HTMLElement>('.v-table__wrapper')
  if (!frame || (!isLong.value && height === undefined)) return
  frame.tabIndex = 0
  frame.setAttribute('role', 'region')
  frame.setAttribute('aria-label', caption ?? 'Table')
}
onMounted(reachable)
onUpdated(reachable)
const propsOf = ({ item }: { item: unknown }) => ({ class: rowClass?.(item as T) })
</script>

<template>
  <component
    :is="isLong ? VDataTableVirtual : VDataTable"
    ref="table"
    v-model:sort-by="order"
    :headers="headers"
    :items="items"
    :item-value="keyOf"
    :row-props="propsOf"
    :height="isLong ? height ?? 420 : height"
    :item-height="ROW_PX"
    :mobile="isCards"
    :hide-default-header="isCards"
    :fixed-header="isLong || height !== undefined"
    hide-no-data
  >
    <template
      v-if="isCards && rows.length > 1"
      #top
    >
      <v-select
        class="order"
        label="In the order of"
        :items="orders"
        :model-value="order[0]?.key ?? ''"
        @update:model-value="key => order = key ? [{ key, order: 'asc' }] : []"
      />
    </template>
    <template
      v-if="caption"
      #colgroup
    >
      <caption class="only-reader">
        {{ caption }}
      </caption>
    </template>
    <template
      v-for="column in columns"
      :key="column.key"
      #[`item.${column.key}`]="{ item }"
    >
      <slot
        :name="column.key"
        :row="(item as T)"
      >
        {{ column.value(item as T) ?? '' }}
      </slot>
    </template>
    <template
      v-for="column in columns.filter(entry => entry.hidden)"
      :key="`head ${column.key}`"
      #[`header.${column.key}`]
    >
      <span class="only-reader">{{ column.title }}</span>
    </template>
    <template
      v-if="$slots.after"
      #[`body.append`]
    >
      <slot name="after" />
    </template>
  </component>
</template>

<style scoped>
.order { max-width: 220px; margin: 8px 0; }
</style>
