<script setup lang="ts">
/** Finds a part, a header position (`12`), a line (`G18`) or a function (`SPI 0`, `uart3 tx`), and shows it on the Wiring stage. */
const project = useProjectStore()
const view = useViewStore()
const { go } = useStages()
const text = ref('')
const open = ref(false)

interface Hit { label: string, show: () => void }

const hits = computed<Hit[]>(() => {
  const wanted = text.value.trim().toLowerCase()
  if (!wanted || !project.plan) return []
  const parts = project.plan.parts.filter(part => part.name.toLowerCase().includes(wanted))
    .map(part => ({ label: part.name, show: () => view.choosePart(part.id) }))
  const header = project.facts?.board?.header ?? []
  const positions = header.filter(entry => String(entry.position) === wanted || (entry.line !== undefined && `g${entry.line}` === wanted))
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
    ?? []).flatMap(controller => controller.routes.flatMap(route => Object.entries(route.lines).flatMap(([signal, line]) => {
    const entry = board!.header.find(header => header.line === line)
    const name = `${controller.id} ${controller.label} ${signal}`.toLowerCase().replace('²', '2')
    if (!entry || !words.every(word => name.includes(word))) return []
    return [{
      label: `${controller.label} ${signal} · position ${entry.position} · G${line}`, show: () => view.choosePosition(entry.position),
    }]
  })))
}

function choose(hit: Hit | undefined) {
  if (!hit) return
  hit.show()
  text.value = ''
  open.value = false
  void go('wiring')
}
</script>

<template>
  <div class="finder">
    <input
      id="finder"
      v-model="text"
      type="search"
      placeholder="Find (f)"
      data-test="finder"
      aria-label="Find a part, position, line or function"
      autocomplete="off"
      @focus="open = true"
      @blur="open = false"
      @keydown.enter="choose(hits[0])"
      @keydown.esc="text = ''; ($event.target as HTMLElement).blur()"
    >
    <ul v-if="open && text">
      <li
        v-for="hit in hits"
        :key="hit.label"
        @mousedown.prevent="choose(hit)"
      >
        {{ hit.label }}
      </li>
      <li
        v-if="!hits.length"
        class="none"
      >
        Nothing here is called "{{ text }}".
      </li>
    </ul>
  </div>
</template>

<style scoped>
.finder { position: relative; }
input {
  width: 130px;
  background: rgb(255 255 255 / 8%);
  border: 1px solid rgb(255 255 255 / 22%);
  border-radius: 3px;
  color: inherit;
  font: inherit;
  font-size: 13px;
  padding: 3px 8px;
}
input::placeholder { color: var(--bar-ink-2); opacity: 1; }
ul {
  position: absolute;
  right: 0;
  top: 32px;
  z-index: 20;
  width: 300px;
  margin: 0;
  padding: 4px;
  list-style: none;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: 4px;
  box-shadow: 0 6px 18px rgb(0 0 0 / 22%);
}
li { padding: 5px 8px; border-radius: 3px; cursor: pointer; }
li:hover { background: var(--paper-2); }
.none { color: var(--ink-2); cursor: default; }
</style>
