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
</script>

<template>
  <v-table
    data-test="power-table"
  >
    <caption class="only-reader">
      {{ state.label }}: voltage, current and power at every node
    </caption>
    <thead>
      <tr>
        <th scope="col">
          Node
        </th><th scope="col">
          is
        </th><th scope="col">
          fed from
        </th><th
          scope="col"
          class="num"
        >
          V
        </th><th
          scope="col"
          class="num"
        >
          mA
        </th><th
          scope="col"
          class="num"
        >
          W
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="{ node, at } in rows"
        :key="node.id"
      >
        <td>
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
        </td>
        <td class="quiet">
          {{ KINDS[node.kind].label }}
        </td>
        <td class="quiet">
          {{ node.from.map(fedFrom).join(', ') || '—' }}
        </td>
        <td class="num">
          {{ at.voltageV.toFixed(3) }}
        </td>
        <td class="num">
          {{ Number(at.currentMa.toFixed(2)) }}
        </td>
        <td class="num">
          {{ (at.powerMw / 1000).toFixed(3) }}
        </td>
      </tr>
    </tbody>
  </v-table>
</template>
