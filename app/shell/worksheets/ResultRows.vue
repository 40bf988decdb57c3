<script setup lang="ts">
/** What a worksheet comes to: a figure, its limit, whether it holds, and where the limit comes from. */
import type { SheetRow } from '~~/core/worksheets/fields'

const { rows } = defineProps<{ rows: SheetRow[] }>()
const { result } = useUnits()
</script>

<template>
  <v-table class="results">
    <tbody>
      <tr
        v-for="row in rows"
        :key="row.label"
        :class="{ off: row.holds === false }"
      >
        <th scope="row">
          {{ row.label }}
        </th>
        <td class="num">
          {{ result(row.value) }}
        </td>
        <td>
          <template v-if="row.limit">
            {{ row.holds === false ? '✗' : row.holds ? '✓' : '' }} {{ result(row.limit) }}
          </template>
        </td>
        <td class="quiet small">
          {{ row.origin }}
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.results th { font-weight: 600; color: var(--ink); border-bottom-color: color-mix(in srgb, var(--rule) 55%, transparent); }
.results .num { white-space: nowrap; }
.off .num, .off td:nth-child(3) { color: var(--carmine); font-weight: 700; }
</style>
