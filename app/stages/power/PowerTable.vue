<script setup lang="ts">
/** Every node in one state, in figures: the flow picture for those who read. */
import { KINDS } from '~~/core/netlist/supply/kinds'
import type { PowerState } from '~~/core/power/states'

const { state } = defineProps<{ state: PowerState }>()
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
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
          <button
            class="bare"
            @click="view.chooseNode(node.id.replace(/@wire$/, ''))"
          >
            <span
              class="owner-swatch"
              :style="{ '--owner': colourOf(node.partId) }"
            /> {{ node.name }}
          </button>
        </td>
        <td class="quiet">
          {{ KINDS[node.kind].label }}
        </td>
        <td class="quiet figures">
          {{ node.from.join(', ') || '—' }}
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
