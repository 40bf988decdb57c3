<script setup lang="ts">
/** Two to five parts of a kind, side by side: what they are, and what each would do to this plan. */
import { compareParts } from '~~/core/catalogue/traits'
import type { Part } from '~~/core/catalogue/types'
import type { PartTrial } from '~~/core/choose/parts'

const { parts: given } = defineProps<{ parts: Part[] }>()
const emit = defineEmits<{ close: [], add: [part: Part] }>()
const project = useProjectStore()
const choosing = shallowRef<typeof import('~~/core/choose/parts') | null>(null)
const tried = shallowRef<PartTrial[]>([])
type Order = '' | 'best' | keyof typeof import('~~/core/choose/parts')['TRIAL_ORDERS']
const order = ref<Order>('')
/** Columns in the order that was asked for; as they were chosen until all are tried. */
const trials = computed(() => {
  if (!choosing.value || !order.value || tried.value.length < given.length) return tried.value
  return order.value === 'best'
    ? choosing.value.bestParts(tried.value)
    : choosing.value.trialsBy(tried.value, order.value)
})
const parts = computed(() => order.value && trials.value.length === given.length
  ? trials.value.map(trial => given.find(({ id }) => id === trial.partId)!)
  : given)
const orders = computed(() => [
  { value: '', title: 'as they were chosen' }, { value: 'best', title: 'what goes best with this plan' },
  ...Object.entries(choosing.value?.TRIAL_ORDERS ?? {}).map(([value, { title }]) => ({ value, title })),
])
const failed = ref('')
const isTried = computed(() => tried.value.length === given.length)
/** The one that goes best with the plan is said, not put first: nothing moves under the pointer. */
const best = computed(() =>
  isTried.value ? choosing.value?.bestParts(trials.value).find(({ placed }) => placed)?.partId ?? null : null)
const sections = computed(() => [
  { title: '', rows: compareParts(parts.value) },
  { title: 'In this plan', rows: isTried.value && choosing.value ? choosing.value.trialRows(trials.value) : [] },
])

/** One at a time: nobody waits for all of them before anything is shown. */
onMounted(async () => {
  try {
    choosing.value = await import('~~/core/choose/parts')
    for (const part of given) {
      await new Promise(resolve => setTimeout(resolve))
      tried.value = [...tried.value, choosing.value.tryPart(project.plan!, part, project.catalogue)]
    }
  }
  catch (error) {
    failed.value = `What they would do to this plan could not be worked out: ${(error as Error).message}. Close this `
      + 'and try again.'
  }
})
function take(part: Part) {
  emit('add', part)
  emit('close')
}
</script>

<template>
  <FrameDialog
    :width="parts.length > 3 ? 1240 : 960"
    title="Parts side by side"
    test="part-comparison"
    @close="emit('close')"
  >
    <v-select
      v-model="order"
      class="order"
      label="In the order of"
      :items="orders"
      :disabled="!isTried"
      data-test="comparison-order"
    />
    <v-table>
      <thead>
        <tr>
          <th scope="col">
            <span class="only-reader">What</span>
          </th>
          <th
            v-for="part in parts"
            :key="part.id"
            scope="col"
          >
            <b>{{ part.name }}</b>
            <div
              v-if="part.id === best"
              class="small best"
            >
              goes best with this plan
            </div>
          </th>
        </tr>
      </thead>
      <tbody
        v-for="section in sections"
        :key="section.title"
      >
        <tr v-if="section.title">
          <th
            scope="rowgroup"
            :colspan="parts.length + 1"
            class="section"
          >
            {{ section.title }}
            <span
              v-if="!isTried && !failed"
              class="quiet small"
              role="status"
            >trying them on it: {{ trials.length }} of {{ parts.length }} …</span>
            <span
              v-if="failed"
              class="small failed"
              role="alert"
            >{{ failed }}</span>
          </th>
        </tr>
        <tr
          v-for="row in section.rows"
          :key="row.label"
          :class="{ differs: row.differs, off: row.label === 'stops that it brings' }"
        >
          <th
            scope="row"
            class="quiet"
          >
            {{ row.label }}<span
              v-if="row.differs"
              class="only-reader"
            >, differs</span>
          </th>
          <td
            v-for="(value, i) in row.values"
            :key="i"
          >
            {{ value }}
          </td>
        </tr>
      </tbody>
      <tbody>
        <tr>
          <th scope="row">
            <span class="only-reader">Take one</span>
          </th>
          <td
            v-for="part in parts"
            :key="part.id"
          >
            <v-btn
              size="small"
              color="primary"
              :aria-label="`Add ${part.name}`"
              @click="take(part)"
            >
              Add
            </v-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
  </FrameDialog>
</template>

<style scoped>
th[scope=row] { text-align: start; font-weight: 400; white-space: nowrap; padding-right: 16px; vertical-align: top; }
.differs td { font-weight: 650; }
td { overflow-wrap: anywhere; }
.order { max-width: 260px; margin: 6px 0 8px; }
.best { color: var(--moss); }
.section { text-align: start; padding-top: 12px; font-weight: 650; }
.off td, .failed { color: var(--carmine); }
</style>
