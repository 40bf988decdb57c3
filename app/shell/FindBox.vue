<script setup lang="ts">
/**
 * Finds a part, a header position (`12`), a line (`G18`) or a function (`SPI 0`, `uart3 tx`), and shows it on
 * the Wiring stage.
 */
const project = useProjectStore()
const view = useViewStore()
const { go } = useStages()
const text = ref('')

interface Hit { label: string, show: () => void }

const hits = computed<Hit[]>(() => {
  const wanted = text.value.trim().toLowerCase()
  if (!wanted || !project.plan) return []
  const parts = project.plan.parts.filter(part => part.name.toLowerCase().includes(wanted))
    .map(part => ({ label: part.name, show: () => view.choosePart(part.id) }))
  const header = project.facts?.board?.header ?? []
  const positions = header.filter(entry =>
    String(entry.position) === wanted || (entry.line !== undefined && `g${entry.line}` === wanted))
    .map(entry => ({
      label: `Position ${entry.position}${entry.line !== undefined ? ` · line G${entry.line}` : ` · ${entry.kind}`}`,
      show: () => view.choosePosition(entry.position),
    }))
  const functions = wanted.length < 2 ? [] : functionsMatching(wanted)
  return [...positions, ...parts, ...functions].slice(0, 9)
})

/** Lines that carry a controller's signal, by the controller's name as a person writes it. */
function functionsMatching(wanted: string): Hit[] {
  const board = project.facts?.board
  const words = wanted.split(/\s+/)
  return (board?.controllers
    ?? []).flatMap(controller => controller.routes.flatMap(route => Object.entries(route.lines)
    .flatMap(([signal, line]) => {
      const entry = board!.header.find(header => header.line === line)
      const name = `${controller.id} ${controller.label} ${signal}`.toLowerCase().replace('²', '2')
      if (!entry || !words.every(word => name.includes(word))) return []
      return [{
        label: `${controller.label} ${signal} · position ${entry.position} · G${line}`,
        show: () => view.choosePosition(entry.position),
      }]
    })))
}

function choose(hit: Hit | null) {
  if (!hit) return
  hit.show()
  text.value = ''
  void go('wiring')
}
</script>

<template>
  <v-autocomplete
    id="finder"
    v-model:search="text"
    class="finder"
    :model-value="null"
    :items="hits"
    item-title="label"
    item-value="label"
    return-object
    no-filter
    auto-select-first
    hide-details
    menu-icon=""
    variant="outlined"
    placeholder="Find (f)"
    aria-label="Find a part, position, line or function"
    data-test="finder"
    :hide-no-data="!text"
    :no-data-text="`Nothing here is called &quot;${text}&quot;.`"
    @update:model-value="choose"
  />
</template>

<style scoped>
.finder { flex: 0 1 150px; min-width: 90px; margin-right: 6px; }
.finder :deep(.v-field) { background: rgb(255 255 255 / 8%); color: inherit; }
.finder :deep(.v-field__input) { min-height: 28px; padding: 2px 8px; }
.finder :deep(input::placeholder) { color: var(--bar-ink-2); opacity: 1; }
</style>
