<script setup lang="ts">
/** Every node in one state, in figures: the flow picture for those who read. */
import { KINDS } from '~~/core/netlist/supply/kinds'
import type { PowerReport } from '~~/core/power/report'
import type { PowerState } from '~~/core/power/states'

type PowerNode = PowerReport['nodes'][number]

const { state } = defineProps<{ state: PowerState }>()
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const byId = computed(() => new Map(project.report!.power.nodes.map(node => [node.id, node])))
/** Wires and plugs are called by whose they are. */
const nameOf = (node: PowerNode) => node.id.endsWith('@wire')
  ? `${byId.value.get(node.id.slice(0, -5))?.name ?? node.id}: ${node.name}`
  : node.name
const fedFrom = (id: string) => {
  const node = byId.value.get(id)
  return node ? nameOf(node) : id
}
const rows = computed(() => project.report!.power.nodes.map(node => ({ node, at: state.nodes[node.id]! })))
type Row = typeof rows.value[number]
const COLUMNS = [
  { key: 'node', title: 'Node', value: ({ node }: Row) => nameOf(node) },
  { key: 'kind', title: 'is', value: ({ node }: Row) => KINDS[node.kind].label },
  { key: 'from', title: 'fed from', value: ({ node }: Row) => node.from.map(fedFrom).join(', ') || '—' },
  { key: 'volts', title: 'V', value: ({ at }: Row) => at.voltageV, num: true },
  { key: 'milliamps', title: 'mA', value: ({ at }: Row) => at.currentMa, num: true },
  { key: 'watts', title: 'W', value: ({ at }: Row) => at.powerMw, num: true },
]
</script>

<template>
  <SortTable
    :rows="rows"
    :columns="COLUMNS"
    :row-key="({ node }) => node.id"
    :caption="`${state.label}: voltage, current and power at every node`"
    data-test="power-table"
  >
    <template #node="{ row: { node } }">
      <v-btn
        class="act"
        variant="text"
        size="x-small"
        @click="view.chooseNode(node.id.replace(/@wire$/, ''))"
      >
        <span
          class="owner-swatch"
          :style="{ '--owner': colourOf(node.partId) }"
        />&nbsp;{{ nameOf(node) }}
      </v-btn>
    </template>
    <template #volts="{ row }">
      {{ row.at.voltageV.toFixed(3) }}
    </template>
    <template #milliamps="{ row }">
      {{ Number(row.at.currentMa.toFixed(2)) }}
    </template>
    <template #watts="{ row }">
      {{ (row.at.powerMw / 1000).toFixed(3) }}
    </template>
  </SortTable>
</template>
