<script setup lang="ts">
/** What the maker saw, in words of their own: taken for what the sheet knows, asked where it may be several things. */
import type { RunRow } from '~~/core/diagnosis/sheet'
import type { SaidMark } from '~~/core/diagnosis/symptoms/clause'
import { readSaid } from '~~/core/diagnosis/symptoms/read'
import type { SpokenSubject } from '~~/core/said/subjects'

const { rows, subjects, rails } = defineProps<{
  rows: readonly RunRow[]
  subjects: readonly SpokenSubject[]
  rails: Readonly<Record<number, string>>
}>()
const emit = defineEmits<{ take: [entries: { clause: string, mark: SaidMark }[]] }>()
const text = ref('')
const said = computed(() => text.value.trim() ? readSaid(text.value, { rows, subjects, rails }) : [])
/** Which of several was meant, by the clause and its place in the text. */
const chosen = ref<Record<string, number>>({})
const key = (clause: string, i: number) => `${i} ${clause}`
const entries = computed(() => said.value.flatMap((entry, i) => {
  if (entry.kind === 'seen') return [{ clause: entry.clause, mark: entry.mark }]
  const mark = entry.kind === 'which' ? entry.marks[chosen.value[key(entry.clause, i)] ?? -1] : undefined
  return mark ? [{ clause: entry.clause, mark }] : []
}))

function take(): void {
  emit('take', entries.value)
  text.value = ''
  chosen.value = {}
}
</script>

<template>
  <section data-test="run-say">
    <h2>Say what you see</h2>
    <v-textarea
      v-model="text"
      rows="2"
      auto-grow
      max-rows="8"
      maxlength="2000"
      aria-label="What you see, in your own words"
      placeholder="The screen stays white. It restarts when the relay pulls. The 5 V pin has 4.4 V."
      hide-details
      data-test="say-text"
    />
    <div
      v-if="said.length"
      class="heard"
      aria-live="polite"
      data-test="say-heard"
    >
      <div
        v-for="(entry, i) in said"
        :key="key(entry.clause, i)"
        class="small"
        :class="entry.kind"
      >
        <template v-if="entry.kind === 'seen'">
          <b>{{ entry.clause }}</b> → {{ entry.mark.words }}
        </template>
        <template v-else-if="entry.kind === 'told'">
          <b>{{ entry.clause }}</b>: {{ entry.words }}
        </template>
        <template v-else-if="entry.kind === 'which'">
          <p><b>{{ entry.clause }}</b>: which of these?</p>
          <v-chip-group
            v-model="chosen[key(entry.clause, i)]"
            column
            :aria-label="`Which is meant by: ${entry.clause}`"
          >
            <v-chip
              v-for="(mark, nth) in entry.marks"
              :key="mark.words"
              :value="nth"
              filter
              size="small"
              variant="outlined"
              class="mark"
              data-test="say-which"
            >
              {{ mark.words }}
            </v-chip>
          </v-chip-group>
        </template>
        <template v-else>
          <b>{{ entry.clause }}</b>: says nothing here yet. Name the part and what it does, or what a meter shows and where.
        </template>
      </div>
      <v-btn
        v-if="entries.length"
        size="small"
        color="primary"
        data-test="say-take"
        @click="take"
      >
        Take {{ entries.length === 1 ? 'it' : `all ${entries.length}` }} into the sheet
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 0 0 5px; }
.heard { display: grid; gap: 6px; justify-items: start; padding-top: 6px; }
.seen { border-left: 4px solid var(--copper); padding-left: 7px; }
.told { border-left: 4px dashed var(--ochre); padding-left: 7px; }
.which { border-left: 4px solid var(--rule); padding-left: 7px; }
.unknown { color: var(--ink-2); }
.mark { height: auto; min-height: 26px; white-space: normal; }
.mark :deep(.v-chip__content) { white-space: normal; }
</style>
