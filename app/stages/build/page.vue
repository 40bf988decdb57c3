<script setup lang="ts">
/**
 * Everything that is joined, in the order of connecting, power last; the same one at a time; and the list of what has to lie on the table.
 */
import { cautionsOf } from '~~/core/catalogue/cautions'
import { buildAsMarkdown, partsAsCsv, wiresAsCsv } from '~~/core/build/table'
import { stockOf } from '~~/core/stock/needs'
import { WIRE_COLOURS } from '~~/core/build/wires'

const project = useProjectStore()
const { colourOf } = useOwners()
const { go } = useStages()
const focus = ref(false)
const wires = computed(() => project.report!.wires)
const done = computed(() => new Set(project.plan!.build.done))
const doneCount = computed(() => wires.value.filter(wire => done.value.has(wire.key)).length)
const partsList = computed(() => project.report!.partsList)
const stock = useStockStore()
stock.follow()
const showsStock = ref(false)
const showsTotals = ref(false)
const others = computed(() => stock.takenByOthers(project.id))
/** What lies in the drawer of a row; null while nothing is counted. */
const stockFor = (item: Item) => stock.entries?.length && !isWire(item.kind) ? stockOf(item, stock.entries, others.value) : null
const toBuy = computed(() => partsList.value.reduce((all, item) => all + (stockFor(item)?.buy ?? item.count) * (item.price ?? 0), 0))
const sum = computed(() => partsList.value.reduce((all, item) => all + item.count * (item.price ?? 0), 0))
const stops = computed(() => project.report!.counts.stops)
/** Whoever wires it is told what somebody decided at the desk. */
const setAside = computed(() => project.report!.findings.filter(finding => finding.severity === 'stop' && finding.aside))
/** Kinds of rows that have a colour and a length to choose. */
const isWire = (kind: string) => kind === 'wire'
const cautions = computed(() => [...new Set(project.facts!.parts.flatMap(owner => cautionsOf(owner.part)))])

function toggle(key: string) {
  project.edit({ edit: 'wire-done', wire: key, done: !done.value.has(key) }, 'Tick a wire')
}

const COLOURS = WIRE_COLOURS.map(value => ({ value, title: value }))
const paint = (terminal: string, colour: string) => project.edit({ edit: 'dress-wire', terminal, colour }, 'Choose a wire colour')
const measure = (terminal: string, cm: number) =>
  project.edit({ edit: 'dress-wire', terminal, lengthM: cm / 100 }, 'Set a wire length')
const { units, price } = useUnits()
const length = (metres: number) => Number(units.value.centimetre.show(metres * 100).toFixed(units.value.centimetre.unit === 'cm' ? 0 : 1))

const numbered = computed(() => wires.value.map((wire, i) => ({ wire, number: i + 1 })))
type Row = typeof numbered.value[number]
const wireColumns = computed(() => [
  { key: 'done', title: 'Done', value: ({ wire }: Row) => done.value.has(wire.key) ? 1 : 0, hidden: true, unsorted: true },
  { key: 'number', title: 'Nr', value: ({ number }: Row) => number, num: true },
  { key: 'part', title: 'Part', value: ({ wire }: Row) => wire.partName },
  { key: 'from', title: 'From', value: ({ wire }: Row) => wire.from },
  { key: 'to', title: 'To', value: ({ wire }: Row) => wire.to },
  ...wires.value.some(wire => wire.through) ? [{ key: 'through', title: 'Through', value: ({ wire }: Row) => wire.through }] : [],
  { key: 'colour', title: 'Colour', value: ({ wire }: Row) => wire.colour },
  { key: 'length', title: units.value.centimetre.unit, value: ({ wire }: Row) => wire.lengthM, num: true },
])
type Item = typeof partsList.value[number]
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

const KIND_WORDS = { 'wire': '', 'lead': 'lead', 'plug': 'cable', 'flat cable': 'flat cable', 'seat': 'push on' } as const

function csv() {
  download(fileName(project.plan!.name, '-wires.csv'), '\uFEFF' + wiresAsCsv(wires.value), 'text/csv')
}

function partsCsv() {
  download(fileName(project.plan!.name, '-parts.csv'), '\uFEFF' + partsAsCsv(partsList.value, stock.entries?.length
    ? row => stockOf(
      row, stock.entries!, others.value)
    : undefined), 'text/csv')
}

function markdown() {
  download(fileName(project.plan!.name, '-build.md'), buildAsMarkdown(project.plan!.name, wires.value, partsList.value), 'text/markdown')
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Build</h1>
      <span class="quiet">{{ doneCount }} of {{ wires.length }} joined</span>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!wires.length"
        data-test="download-wires"
        @click="csv"
      >
        Download wire list
      </v-btn>
      <v-btn
        size="small"
        color="primary"
        :disabled="!wires.length"
        data-test="focus"
        @click="focus = true"
      >
        Focus mode
      </v-btn>
    </div>
    <p
      v-if="stops"
      class="hold"
    >
      <b>{{ stops }} {{ stops === 1 ? 'stop is' : 'stops are' }} open.</b> Mend {{ stops === 1 ? 'it' : 'them' }} before the supply goes in:
      something would not work or be damaged.
    </p>
    <p
      v-for="finding in setAside"
      :key="finding.id"
      class="hold aside"
      data-test="stop-set-aside"
    >
      <b>Set aside, and yet a stop: {{ finding.title }}.</b> {{ finding.aside!.reason }}
    </p>
    <p class="small quiet lead">
      Supply unplugged while you wire. Touch something earthed first. Position 1 has the square pad. Never move a wire on a running board.
    </p>
    <ul
      v-if="cautions.length"
      class="cautions small"
    >
      <li
        v-for="caution in cautions"
        :key="caution"
      >
        {{ caution }}
      </li>
    </ul>
    <div
      v-if="!wires.length"
      class="empty"
    >
      <p>Nothing to join yet: no part is placed, plugged in or fed.</p>
      <v-btn
        size="small"
        color="primary"
        @click="go('wiring')"
      >
        To the Wiring stage
      </v-btn>
    </div>
    <template v-else>
      <SortTable
        class="wires"
        data-test="wires"
        whole
        :rows="numbered"
        :columns="wireColumns"
        :row-key="({ wire }) => wire.key"
        :row-class="({ wire }) => ({ done: done.has(wire.key) })"
        caption="What is joined, in the order of connecting"
      >
        <template #done="{ row: { wire } }">
          <v-checkbox-btn
            :model-value="done.has(wire.key)"
            :aria-label="`${wire.partName} ${wire.from} to ${wire.to} done`"
            @update:model-value="toggle(wire.key)"
          />
        </template>
        <template #part="{ row: { wire } }">
          <span
            v-if="wire.partId"
            class="owner-swatch"
            :style="{ '--owner': colourOf(wire.partId) }"
          /> {{ wire.partName }}
        </template>
        <template #from="{ row: { wire } }">
          <span class="figures">{{ wire.from }}</span>
        </template>
        <template #to="{ row: { wire } }">
          <span class="figures">{{ wire.to }}</span>
        </template>
        <template #colour="{ row: { wire } }">
          <span
            v-if="!isWire(wire.kind) || !wire.terminal"
            class="quiet"
          >{{ KIND_WORDS[wire.kind] || wire.colour }}</span>
          <PickCell
            v-else
            :value="wire.colour"
            :choices="COLOURS"
            :name="`Colour of ${wire.partName} ${wire.from}`"
            @pick="colour => paint(wire.terminal!, colour)"
          >
            <span
              class="wire-swatch"
              :style="{ '--wire': wire.colour }"
            />{{ wire.colour }}
          </PickCell>
        </template>
        <template #length="{ row: { wire } }">
          <span
            v-if="!wire.terminal"
            class="figures"
          >{{ wire.lengthM ? length(wire.lengthM) : '' }}</span>
          <MeasureField
            v-else
            class="length"
            measure="centimetre"
            variant="plain"
            :value="Math.round(wire.lengthM * 100)"
            :least="0.1"
            :most="10000"
            :name="`Length of ${wire.partName} ${wire.from}`"
            @set="value => measure(wire.terminal!, value!)"
          />
        </template>
      </SortTable>
      <p class="push">
        Boards are pushed on first: position 1 over position 1, not one row or column off; look from the side before pressing. The supply
        goes in last of all{{ project.facts!.supply ? '' : '; none is chosen yet' }}.
      </p>
    </template>
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
        <v-btn
          size="small"
          variant="outlined"
          data-test="download-build"
          @click="markdown"
        >
          Both as text
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
            > ({{ stockFor(row)!.reserved }} taken)</span><v-tooltip
              v-if="stockFor(row)!.places.length"
              activator="parent"
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
    <FocusMode
      v-if="focus"
      :wires="wires"
      @close="focus = false"
    />
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.lead { margin-bottom: 8px; }
.hold {
  border: 1px solid var(--carmine);
  border-left-width: 6px;
  background: var(--carmine-wash);
  border-radius: 4px;
  padding: 6px 12px;
  margin-bottom: 8px;
}
.cautions { margin: 0 0 10px; padding-left: 0; list-style: none; display: grid; gap: 3px; }
.cautions li { border-left: 3px dashed var(--ochre); padding-left: 8px; }
.empty { display: grid; gap: 8px; justify-items: start; padding: 12px 0; }
.push { padding: 6px 0; }
.length { width: 78px; margin-left: auto; }
.length :deep(.v-field) { background: none; }
.length :deep(input) { text-align: end; }
.wires :deep(td.v-data-table__td) { vertical-align: middle; padding-block: 1px; }
.wires :deep(.v-field), .wires :deep(.v-field .v-field__input) { min-height: 26px; padding-block: 1px; }
.wires :deep(.v-input) { --v-input-control-height: 26px; }
.wire-swatch {
  width: 18px;
  height: 8px;
  border-radius: 4px;
  background: var(--wire);
  border: 1px solid var(--ink-2);
  margin-right: 6px;
  display: inline-block;
}
.parts { margin-top: 18px; }
.parts-table { background: transparent; }
.parts h2 { font-size: 16px; }
:deep(tr.done td) {
  color: var(--ink-2);
  text-decoration: line-through;
  text-decoration-color: color-mix(in srgb, var(--ink-2) 50%, transparent);
}
</style>
