<script setup lang="ts">
/** The board's other connectors, with what hangs on each. */
const project = useProjectStore()
const view = useViewStore()
const { colourOf, tagOf } = useOwners()
const NAMES = { usb: 'USB', video: 'Video', fan: 'Fan', display: 'Camera and display' } as const
/** Sockets one beside the other; those that are wanted beyond what is there stand behind them. */
const rows = computed(() => project.report!.sockets
  .filter(({ there, plugs }) => there > 0 || plugs.length > 0)
  .map(({ kind, there, plugs }) => ({
    kind, there, name: NAMES[kind], count: plugs.length,
    places: Array.from({ length: Math.max(there, plugs.length) },
      (_, i) => ({ plug: plugs[i] ?? null, isMissing: i >= there })),
  })))
</script>

<template>
  <section
    v-if="rows.length"
    class="sockets"
    aria-label="Other connectors"
    data-test="sockets"
  >
    <div
      v-for="row in rows"
      :key="row.kind"
      class="row"
    >
      <div class="name">
        <b>{{ row.name }}</b><span class="small quiet">{{ row.count }} of {{ row.there }}</span>
      </div>
      <ul>
        <li
          v-for="({ plug, isMissing }, i) in row.places"
          :key="i"
          class="socket"
          :class="[row.kind, { held: plug,
                               missing: isMissing,
                               dim: view.partId && plug && plug.partId !== view.partId,
                               marked: plug?.partId !== undefined && view.markedParts.has(plug.partId) }]"
          :style="{ '--owner': colourOf(plug?.partId) }"
        >
          <template v-if="plug">
            <b
              class="figures"
              aria-hidden="true"
            >{{ tagOf(plug.partId) }}</b> {{ plug.name }}<span
              v-if="isMissing"
              class="lack"
            > no socket</span>
          </template>
          <template v-else>
            free
          </template>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 8px;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
  align-items: center;
}
.name { display: grid; line-height: 1.2; }
ul { list-style: none; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 6px; }
.socket {
  border: 1px dashed var(--rule);
  border-radius: 3px;
  padding: 2px 8px;
  font-size: 12.5px;
  color: var(--ink-2);
  min-width: 74px;
  overflow-wrap: anywhere;
}
.socket.usb { border-radius: 2px; border-left-width: 4px; border-left-style: double; }
.socket.fan { border-radius: 12px; }
.socket.display { border-bottom-width: 4px; }
.held {
  border-style: solid;
  border-color: var(--owner);
  background: color-mix(in srgb, var(--owner) var(--mix), var(--sheet));
  color: var(--ink);
}
.missing { border: 2px solid var(--carmine); }
.lack { color: var(--carmine); font-weight: 650; }
.marked { outline: 2px solid var(--copper); }
.dim { filter: saturate(.3); }
</style>
