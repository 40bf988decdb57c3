<script setup lang="ts">
/**
 * What would explain what was seen, the likeliest first, with what mends it; what would tell more; and the parts
 * that are proved.
 */
import type { Diagnosis } from '~~/core/diagnosis/diagnose'
import type { Proof, RunRow } from '~~/core/diagnosis/sheet'
import type { Fault } from '~~/core/diagnosis/types'

const { diagnosis,
  rows } = defineProps<{ diagnosis: Diagnosis, rows: readonly RunRow[], proofs: readonly Proof[], hidden: boolean }>()
const emit = defineEmits<{ choose: [id: string], drop: [id: string] }>()
const { goTo } = useShown()
const MAX = 8
const MORE = ' There may be more than two things wrong: keep one sign, find what it comes from, then go on '
  + 'with the next.'
const all = ref(false)
const shown = computed(() => all.value ? diagnosis.candidates : diagnosis.candidates.slice(0, MAX))
const titleOf = (id: string) => rows.find(({ probe }) => probe.id === id)?.probe.title ?? id
const others = computed(() => diagnosis.next.slice(1, 4))
const placesOf = (faults: readonly Fault[]): Fault['at'] => ({
  parts: faults.flatMap(({ at }) => at.parts ?? []), positions: faults.flatMap(({ at }) => at.positions ?? []),
})
const STATES = { works: 'works', odd: 'odd', open: 'not yet' } as const
</script>

<template>
  <section
    v-if="diagnosis.odd.length"
    data-test="diagnosis"
    aria-live="polite"
  >
    <h2>What would explain it</h2>
    <ul class="odd small">
      <li
        v-for="mark in diagnosis.odd"
        :key="mark.probe"
      >
        {{ titleOf(mark.probe) }}: <b class="figures">{{ mark.outcome }}</b>
        <v-btn
          v-if="!hidden"
          size="x-small"
          variant="text"
          :aria-label="`Take back: ${titleOf(mark.probe)}`"
          @click="emit('drop', mark.probe)"
        >
          take back
        </v-btn>
      </li>
    </ul>
    <ul
      v-if="shown.length"
      class="candidates"
    >
      <FaultRow
        v-for="candidate in shown"
        :key="candidate.faults[0]!.id"
        :faults="candidate.faults"
        :share="candidate.share"
        :note="candidate.faults.length > 1 ? 'No test here tells these apart.' : undefined"
        :mend="diagnosis.candidates.length === 1 ? candidate.faults[0]!.mend : undefined"
        data-test="candidate"
        @where="goTo(placesOf(candidate.faults))"
      />
    </ul>
    <v-btn
      v-if="diagnosis.candidates.length > MAX"
      size="x-small"
      variant="text"
      @click="all = !all"
    >
      {{ all ? 'Only the likeliest' : `and ${diagnosis.candidates.length - MAX} more` }}
    </v-btn>
    <template v-if="!diagnosis.candidates.length">
      <p v-if="diagnosis.pairs.length">
        No single fault shows all of it. Two at once would:
      </p>
      <p
        v-else
        class="problem"
        data-test="unexplained"
      >
        Nothing that is known here shows all of it{{ diagnosis.pairsCut ? ', as far as pairs were tried' : '' }}. Look at the odd readings
        once more, and take back what you are not sure of.{{ diagnosis.odd.length > 2 ? MORE : '' }}
      </p>
      <ul class="candidates">
        <FaultRow
          v-for="pair in diagnosis.pairs.slice(0, MAX)"
          :key="pair.faults.map(({ id }) => id).join(' ')"
          :faults="pair.faults"
          :share="pair.share"
          data-test="pair"
          @where="goTo(placesOf(pair.faults))"
        />
      </ul>
    </template>
    <template v-if="diagnosis.doubtful.length">
      <p class="small">
        Or one of these is old, or misread: without it a single fault does, or none.
      </p>
      <ul
        class="doubtful small"
        data-test="doubtful"
      >
        <li
          v-for="mark in diagnosis.doubtful"
          :key="mark.probe"
        >
          {{ titleOf(mark.probe) }}: <b class="figures">{{ mark.outcome }}</b>
          <v-btn
            v-if="!hidden"
            size="x-small"
            variant="text"
            :aria-label="`Leave out: ${titleOf(mark.probe)}`"
            @click="emit('drop', mark.probe)"
          >
            leave it out
          </v-btn>
        </li>
      </ul>
    </template>
    <p
      v-if="others.length"
      class="small others"
    >
      Or try:
      <v-btn
        v-for="{ probe } in others"
        :key="probe.id"
        size="x-small"
        variant="outlined"
        class="other"
        @click="emit('choose', probe.id)"
      >
        {{ probe.title }}
      </v-btn>
    </p>
  </section>
  <section
    v-if="proofs.length && !hidden"
    data-test="proofs"
  >
    <h2>Proof, part by part</h2>
    <div class="proofs">
      <v-chip
        v-for="proof in proofs"
        :key="proof.partId"
        size="small"
        :class="proof.state"
        @click="emit('choose', `works:${proof.partId}`)"
      >
        {{ proof.name }}: {{ STATES[proof.state] }}
      </v-chip>
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 0 0 5px; }
.odd { list-style: none; padding: 0; margin: 0 0 6px; color: var(--carmine); }
.doubtful { list-style: none; padding: 0; margin: 0; }
.candidates { list-style: none; padding: 0; margin: 0; }
.others { display: flex; gap: 6px; flex-wrap: wrap; align-items: center; padding-top: 6px; }
.other { height: auto; min-height: 24px; white-space: normal; max-width: 100%; }
.other :deep(.v-btn__content) { white-space: normal; }
.problem { color: var(--carmine); }
.proofs { display: flex; flex-wrap: wrap; gap: 6px; }
.proofs .works { border: 1px solid var(--moss); color: var(--moss); }
.proofs .odd { border: 1px solid var(--carmine); color: var(--carmine); font-weight: 700; margin: 0; padding: 0 10px; }
.proofs .open { border: 1px dashed var(--ink-2); }
</style>
