<script setup lang="ts">
/** The test that is looked at: what to do, what should be seen, and what is. */
import type { RunRow } from '~~/core/diagnosis/sheet'
import { readingIn } from '~~/core/diagnosis/diagnose'

const { row, hidden } = defineProps<{
  row: RunRow
  hidden: boolean
  /** Bits that it is expected to tell; null where nothing odd was seen, or where it tells nothing. */
  bits: number | null
  isNext: boolean
}>()
const emit = defineEmits<{ took: [outcome: string | null, value?: number], attempt: [] }>()
const copy = useCopy()
const { goTo } = useShown()
const probe = computed(() => row.probe)
const minutes = computed(() => probe.value.minutes < 1 ? 'half a minute' : `${probe.value.minutes} min`)
const others = computed(() => row.outcomes.filter(outcome => outcome !== row.planned))
const planned = computed(() => {
  const { reading } = probe.value
  if (!reading) return row.planned
  return reading.unit === 'Ω'
    ? reading.max > 1e6 ? `more than ${reading.min} Ω` : `less than ${reading.max} Ω`
    : `${reading.min.toFixed(2)} to ${reading.max.toFixed(2)} V`
})

/** The last figure that was told: a field that is left tells its figure again. */
let told: number | null = null
function typed(value: number | null): void {
  if (value === null || value === told || !probe.value.reading) return
  told = value
  const outcome = readingIn(probe.value.reading, row.planned, row.outcomes, value)
  emit('took', outcome, value)
}
</script>

<template>
  <section
    class="probe"
    :class="{ next: isNext }"
    data-test="run-probe"
  >
    <p class="lead">
      <b>{{ isNext ? 'Next: ' : '' }}{{ probe.title }}</b>
      <span class="quiet small">{{ minutes }}<template v-if="bits !== null">, tells {{ bits.toFixed(1) }} bits</template></span>
    </p>
    <p class="small">
      {{ probe.how }}
    </p>
    <p
      v-if="probe.command"
      class="command"
    >
      <code class="figures">{{ probe.command }}</code>
      <v-btn
        size="x-small"
        variant="outlined"
        @click="copy(probe.command!, `&quot;${probe.command}&quot;`)"
      >
        Copy
      </v-btn>
    </p>
    <p
      v-if="probe.caution"
      class="caution small"
    >
      {{ probe.caution }}
    </p>
    <p class="small">
      <template v-if="planned !== 'as planned'">
        Planned: <b class="figures">{{ planned }}</b>
      </template>
      <template v-if="row.seen">
        {{ planned === 'as planned' ? 'Seen' : '· seen' }}{{ row.seen.at ? ` ${dayAndTime(row.seen.at)}` : '' }}:
        <b
          class="figures"
          :class="{ odd: !row.seen.isPlanned }"
        >{{ row.seen.value === undefined ? row.seen.outcome : `${row.seen.value} ${probe.reading?.unit ?? ''}, ${row.seen.outcome}` }}</b>
      </template>
    </p>
    <div class="acts">
      <v-btn
        v-if="hidden && !row.seen"
        color="primary"
        size="small"
        data-test="probe-attempt"
        @click="emit('attempt')"
      >
        Try it
      </v-btn>
      <template v-else-if="!hidden">
        <NumberField
          v-if="probe.reading"
          class="reading"
          :value="null"
          may-be-empty
          label="reading"
          :unit="probe.reading.unit"
          data-test="probe-reading"
          @set="typed"
        />
        <v-btn
          color="primary"
          size="small"
          data-test="probe-planned"
          @click="emit('took', row.planned)"
        >
          {{ row.planned }}
        </v-btn>
        <v-btn
          v-for="outcome in others"
          :key="outcome"
          class="outcome"
          size="small"
          variant="outlined"
          @click="emit('took', outcome)"
        >
          {{ outcome }}
        </v-btn>
        <v-btn
          v-if="row.seen"
          size="small"
          variant="text"
          data-test="probe-forget"
          @click="emit('took', null)"
        >
          Take back
        </v-btn>
      </template>
      <v-btn
        v-if="probe.at.parts?.length || probe.at.positions?.length"
        size="small"
        variant="text"
        class="where"
        @click="goTo(probe.at)"
      >
        Show me where
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
.probe { border-left: 6px solid var(--rule); background: var(--sheet); padding: 8px 12px; display: grid; gap: 6px; }
.probe.next { border-left-color: var(--copper); }
.lead { display: flex; gap: 10px; align-items: baseline; flex-wrap: wrap; }
.command { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; overflow-wrap: anywhere; }
.caution { border-left: 3px dashed var(--ochre); padding-left: 7px; }
.odd { color: var(--carmine); }
.acts { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.acts :deep(.v-btn) { height: auto; min-height: 28px; white-space: normal; text-align: start; max-width: 100%; }
.acts :deep(.v-btn__content) { white-space: normal; overflow-wrap: anywhere; }
.reading { flex: 0 1 130px; }
.where { margin-left: auto; }
</style>
