<script setup lang="ts">
/** The header as text: the same facts as the picture. */
const project = useProjectStore()
const rows = computed(() => project.facts!.board!.header.map((entry) => {
  const reserved = project.plan!.reserved.find(item => item.position === entry.position)
  const holders = (project.facts!.atPosition.get(entry.position) ?? []).map(terminal =>
    `${terminal.owner.name} ${terminal.label}`)
  return {
    position: entry.position,
    line: entry.line !== undefined ? `G${entry.line}` : entry.kind === 'ground' ? 'GND' : entry.kind,
    held: [...holders, ...reserved ? [`reserved${reserved.reason ? `: ${reserved.reason}` : ''}`] : []].join(', '),
  }
}))
type Row = typeof rows.value[number]
const COLUMNS = [
  { key: 'position', title: 'Position', value: (row: Row) => row.position },
  { key: 'line', title: 'Line', value: (row: Row) => row.line },
  { key: 'held', title: 'Held by', value: (row: Row) => row.held },
]
</script>

<template>
  <SortTable
    :rows="rows"
    :columns="COLUMNS"
    :row-key="row => String(row.position)"
    caption="The header, position by position"
  />
</template>
