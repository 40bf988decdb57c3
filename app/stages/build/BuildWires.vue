<script setup lang="ts">
/** Every wire, cable and seat in the order of connecting: ticked, coloured and measured. */
import { lookAlike, ruledColour } from '~~/core/construction/colours'
import { endsInWords } from '~~/core/construction/ends'
import { WIRE_END_IDS, WIRE_ENDS } from '~~/core/plan/ends'
import { CARRIES, CARRIES_IDS, WIRE_COLOURS, type Carries } from '~~/core/plan/wire-colours'

const project = useProjectStore()
const { colourOf } = useOwners()
const { units, length } = useWireLength()
const wires = computed(() => project.report!.wires)
const done = computed(() => new Set(project.plan!.build.done))
/** Kinds of rows that have a colour and a length to choose. */
const isWire = (kind: string) => kind === 'wire'

function toggle(key: string) {
  project.edit({ edit: 'wire-done', wire: key, done: !done.value.has(key) }, 'Tick a wire')
}

const COLOURS = WIRE_COLOURS.map(value => ({ value, title: value }))
const paint = (terminal: string,
  colour: string) => project.edit({ edit: 'dress-wire', terminal, colour }, 'Choose a wire colour')
/** Rules for all wires at once. */
const rules = computed(() => project.plan!.build.colours)
const IN_TURN = { value: '', title: 'in turn' }
const rule = (carries: Carries, colour: string) => project.edit(
  { edit: 'colour-rule', carries, colour: colour || null }, 'Choose a colour for all wires of a kind',
)
const alike = computed(() => lookAlike(rules.value).map(([one, other]) => `${CARRIES[one]} and ${CARRIES[other]}`))
const measure = (terminal: string, cm: number) =>
  project.edit({ edit: 'dress-wire', terminal, lengthM: cm / 100 }, 'Set a wire length')

const ENDS = WIRE_END_IDS.map(value => ({ value, title: WIRE_ENDS[value] }))
const dress = (terminal: string, ends: { nearEnd?: keyof typeof WIRE_ENDS, farEnd?: keyof typeof WIRE_ENDS }) =>
  project.edit({ edit: 'dress-wire', terminal, ...ends }, 'Choose the end of a wire')

const numbered = computed(() => wires.value.map((wire, i) => ({ wire, number: i + 1 })))
type Row = typeof numbered.value[number]
const wireColumns = computed(() => [
  { key: 'done', title: 'Done', value: ({ wire }: Row) => done.value.has(wire.key) ? 1 : 0, hidden: true,
    unsorted: true },
  { key: 'number', title: 'Nr', value: ({ number }: Row) => number, num: true },
  { key: 'part', title: 'Part', value: ({ wire }: Row) => wire.partName },
  { key: 'from', title: 'From', value: ({ wire }: Row) => wire.from },
  { key: 'to', title: 'To', value: ({ wire }: Row) => wire.to },
  ...wires.value.some(wire => wire.through)
    ? [{ key: 'through', title: 'Through', value: ({ wire }: Row) => wire.through }]
    : [],
  { key: 'colour', title: 'Colour', value: ({ wire }: Row) => wire.colour },
  { key: 'ends', title: 'Ends', value: ({ wire }: Row) => wire.ends?.join(' ') ?? '' },
  { key: 'length', title: units.value.centimetre.unit, value: ({ wire }: Row) => wire.lengthM, num: true },
])
const KIND_WORDS = { 'wire': '', 'lead': 'lead', 'plug': 'cable', 'flat cable': 'flat cable',
  'seat': 'push on' } as const
</script>

<template>
  <FoldPanel
    title="Colours of your own"
    data-test="colour-rules"
  >
    <p class="small quiet">
      They hold for every wire that has none of its own, here, in the cut list and on the labels.
    </p>
    <div class="rules">
      <v-select
        v-for="carries in CARRIES_IDS"
        :key="carries"
        :model-value="ruledColour(rules, carries) ?? ''"
        :items="ruledColour(undefined, carries) === null ? [IN_TURN, ...COLOURS] : COLOURS"
        :label="CARRIES[carries]"
        hide-details
        :data-test="`colour-${carries}`"
        @update:model-value="rule(carries, $event)"
      />
    </div>
    <p
      v-if="alike.length"
      class="alike"
      role="status"
    >
      {{ alike.join('; ') }} would look alike: whoever mends this later takes one for the other.
    </p>
  </FoldPanel>
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
    <template #ends="{ row: { wire } }">
      <template v-if="wire.ends">
        <template
          v-for="(end, i) in wire.ends"
          :key="i"
        >
          <span v-if="i"> – </span>
          <PickCell
            v-if="wire.terminal"
            :value="end"
            :choices="ENDS"
            :name="`End of ${wire.partName} ${wire.from}, ${i ? `at ${wire.to}` : 'at the part'}`"
            @pick="value => dress(wire.terminal!, i ? { farEnd: value } : { nearEnd: value })"
          >
            {{ end }}
          </PickCell>
          <span v-else>{{ end }}</span>
        </template>
      </template>
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
        :min="0.1"
        :max="10000"
        :name="`Length of ${wire.partName} ${wire.from}`"
        @set="value => measure(wire.terminal!, value!)"
      />
    </template>
  </SortTable>
  <p
    class="small quiet"
    data-test="wire-ends"
  >
    Ends: {{ endsInWords(wires) || 'none' }}. Common practice where you choose nothing: sockets on pins, pins into a breadboard, bare under
    a screw.
  </p>
</template>

<style scoped>
.rules { display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 8px; margin: 6px 0; }
.alike { color: var(--ochre); font-weight: 600; }
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
:deep(tr.done td) {
  color: var(--ink-2);
  text-decoration: line-through;
  text-decoration-color: color-mix(in srgb, var(--ink-2) 50%, transparent);
}
</style>
