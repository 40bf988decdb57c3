<script setup lang="ts">
/** Findings on the files, in the drawer of the Boot stage; what the plan's own rules say already is not said twice. */
const project = useProjectStore()
const { cards } = useBoot()
const said = computed(() => new Set((project.report?.findings ?? []).flatMap(finding => [finding.code === 'serial.console' ? finding.code : '', ...finding.subjects.flatMap(subject => subject.bootLine === undefined ? [] : `${finding.code} ${subject.bootLine}`)])))
const shown = computed(() => cards.value.filter(card => !said.value.has(card.code) && !card.subjects.some(subject => said.value.has(`${card.code} ${subject.bootLine}`))))
</script>

<template>
  <FindingCard
    v-for="card in shown"
    :key="card.id"
    :finding="card"
  />
</template>
