<script setup lang="ts">
/** The header as text: the same facts as the picture. */
const project = useProjectStore()
const rows = computed(() => project.facts!.board!.header.map(entry => ({
  position: entry.position,
  line: entry.line !== undefined ? `G${entry.line}` : entry.kind === 'ground' ? 'GND' : entry.kind,
  holders: (project.facts!.atPosition.get(entry.position) ?? []).map(terminal => `${terminal.owner.name} ${terminal.label}`).join(', '),
  reserved: project.plan!.reserved.find(item => item.position === entry.position),
})))
</script>

<template>
  <v-table>
    <thead>
      <tr>
        <th scope="col">
          Position
        </th><th scope="col">
          Line
        </th><th scope="col">
          Held by
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="row in rows"
        :key="row.position"
      >
        <td class="figures">
          {{ row.position }}
        </td><td class="figures">
          {{ row.line }}
        </td>
        <td>{{ row.holders }}<span v-if="row.reserved"> reserved{{ row.reserved.reason ? `: ${row.reserved.reason}` : '' }}</span></td>
      </tr>
    </tbody>
  </v-table>
</template>
