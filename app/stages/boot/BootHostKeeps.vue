<script setup lang="ts">
/** What programs keep loaded and what lies on the card, against the board's memory and the card. */
import { newId } from '~/database/id'
import type { Keeps } from '~~/core/plan/host-shape'

const { host, set, made } = useHost()
const SIZES = [
  { value: 0, title: 'not said' },
  ...[256, 512, 1024, 2048, 4096, 8192, 16_384].map(value => ({ value,
    title: value < 1024 ? `${value} MB` : `${value / 1024} GB` })),
]
const bars = computed(() => [
  { what: 'Memory', budget: made.value.budgets.memory }, { what: 'Card, with a part left free',
    budget: made.value.budgets.card },
].map(({ what, budget }) => ({
  what, ...budget, share: budget.availableMb ? Math.min(100, 100 * budget.totalMb / budget.availableMb) : 0,
  isOver: budget.availableMb !== null && budget.totalMb > budget.availableMb,
})))
const inMb = (mb: number) => mb >= 10_000 ? `${Number((mb / 1000).toFixed(1))} GB` : `${Math.round(mb)} MB`
const add = () => set({ keeps: [...host.value.keeps, { id: newId(), what: 'Pictures' }] }, 'Something that is kept')
function change(id: string, fields: { [Name in keyof Keeps]?: Keeps[Name] | undefined }) {
  set({ keeps: host.value.keeps.map(entry => entry.id === id
    ? Object.fromEntries(Object.entries({ ...entry, ...fields })
      .filter(([, value]) => value !== undefined)) as unknown as Keeps
    : entry) }, 'What is kept')
}
</script>

<template>
  <FoldPanel
    title="Kept loaded, and on the card"
    :open="host.keeps.length > 0"
  >
    <v-select
      class="size"
      label="Memory of the board"
      :items="SIZES"
      :model-value="host.memoryMb ?? 0"
      data-test="host-memory"
      @update:model-value="value => set({ memoryMb: value || undefined }, 'Memory of the board')"
    />
    <article
      v-for="entry in host.keeps"
      :key="entry.id"
      class="fields"
    >
      <LineField
        label="What"
        :value="entry.what"
        :max="120"
        @set="what => what && change(entry.id, { what })"
      />
      <NumberField
        label="In memory"
        unit="MB"
        :value="entry.memoryMb ?? null"
        :min="0"
        :max="1000000"
        may-be-empty
        @set="value => change(entry.id, { memoryMb: value ?? undefined })"
      />
      <NumberField
        label="On the card"
        unit="MB"
        :value="entry.cardMb ?? null"
        :min="0"
        :max="100000000"
        may-be-empty
        @set="value => change(entry.id, { cardMb: value ?? undefined })"
      />
      <NumberField
        label="Written a day"
        unit="MB"
        :value="entry.writesMbPerDay ?? null"
        :min="0"
        :max="10000000"
        may-be-empty
        @set="value => change(entry.id, { writesMbPerDay: value ?? undefined })"
      />
      <v-btn
        size="small"
        variant="text"
        @click="set({ keeps: host.keeps.filter(other => other.id !== entry.id) }, 'Take it out')"
      >
        Take out
      </v-btn>
    </article>
    <v-btn
      size="small"
      variant="outlined"
      data-test="keeps-add"
      @click="add"
    >
      Add samples, pictures, a model …
    </v-btn>
    <div
      v-for="bar in bars"
      :key="bar.what"
      class="bar"
    >
      <span>{{ bar.what }}: <b
        class="figures"
        :class="{ over: bar.isOver }"
      >{{ inMb(bar.totalMb) }}</b>{{ bar.availableMb === null ? ', of how much is not said' : ` of ${inMb(bar.availableMb)}` }}</span>
      <v-progress-linear
        v-if="bar.availableMb !== null"
        :model-value="bar.share"
        :color="bar.isOver ? 'error' : 'primary'"
        height="8"
        :aria-label="bar.what"
      />
      <span class="small quiet">{{ bar.takes.map(({ what, mb }) => `${what} ${inMb(mb)}`).join(' · ') }}</span>
    </div>
    <p
      v-if="made.budgets.writesMbPerDay"
      class="small quiet"
    >
      {{ inMb(made.budgets.writesMbPerDay) }} a day are written to the card. What is written often is better kept in memory and written
      once an hour.
    </p>
    <p class="small quiet">
      What the system itself takes is common practice, not measured on your board: <code class="figures">free -m</code> and
      <code class="figures">df -h</code> tell it there.
    </p>
  </FoldPanel>
</template>

<style scoped>
.size { max-width: 220px; margin: 4px 0 8px; }
.fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(130px, 1fr)); gap: 8px; align-items: center; margin-bottom: 8px; }
.bar { display: grid; gap: 3px; margin: 8px 0; }
.over { color: var(--carmine); }
</style>
