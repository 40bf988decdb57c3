<script setup lang="ts">
/**
 * The simulated board: a prompt, and hands beside it; as planned, with a fault of one's choice, or with a hidden one.
 */
import { minutesOf } from '~~/core/simulated/session-minutes'
import { useSimulated } from './useSimulated'

const { row = null } = defineProps<{
  /** Row of a fault that is hidden in it: an exercise. */
  row?: number | null
}>()
const emit = defineEmits<{
  /** So many minutes of a bench went by. */
  spent: [minutes: number]
}>()
const project = useProjectStore()
const { state, shown, failure, busy, open, run, faults, clear } = useSimulated()
const isExercise = row !== null

const known = shallowRef<{ id: string, title: string, mend: string }[]>([])
const fault = ref<string | null>(null)
/** A fault that nobody was told of. */
const hidden = ref<string | null>(null)
const revealed = ref(false)
const tools = ref<1 | 2>(1)
const TOOLS = [{ value: 1, title: 'libgpiod 1.6' }, { value: 2, title: 'libgpiod 2' }]
const answer = ref<string | null>(null)
/** The plan that the board was switched on with: what is planned since is not in it. */
const opened = ref('')
const planNow = () => JSON.stringify({ ...project.plan!, seen: [], log: [], scans: [], notes: '' })
const isOld = computed(() => !!state.value && opened.value !== planNow())
const hiddenFault = computed(() => known.value.find(({ id }) => id === hidden.value))

async function begin(): Promise<void> {
  answer.value = null
  revealed.value = false
  opened.value = planNow()
  await open(row ?? hidden.value ?? fault.value, tools.value)
}
async function hide(): Promise<void> {
  fault.value = null
  if (!known.value.length) return
  hidden.value = known.value[Math.floor(Math.random() * known.value.length)]!.id
  await begin()
}
async function choose(id: string | null): Promise<void> {
  fault.value = id
  hidden.value = null
  await begin()
}
async function type(line: string): Promise<void> {
  if (line.trim() === 'clear') return void clear()
  const printed = await run(line)
  if (!printed) return
  if (line.startsWith(':')) answer.value = (printed.err || printed.out).trim()
  emit('spent', minutesOf(line))
}
onMounted(async () => {
  if (!project.plan!.board) return
  if (!isExercise) known.value = await faults() ?? []
  await begin()
})
watch(() => row, begin)
</script>

<template>
  <div data-test="board">
    <p
      v-if="!project.plan!.board"
      class="quiet"
      data-test="board-none"
    >
      There is no board to switch on: choose one on the Board stage.
    </p>
    <template v-else>
      <p
        v-if="!isExercise"
        class="small quiet lead"
      >
        This plan as it would stand before you, with its boot files on the card. What it shows is worked out; nothing of it goes into the
        run sheet.
      </p>
      <div class="begin">
        <template v-if="!isExercise">
          <v-autocomplete
            :model-value="fault"
            class="fault"
            :items="known"
            item-value="id"
            item-title="title"
            label="wrong with it"
            placeholder="nothing: as planned"
            persistent-placeholder
            clearable
            hide-details
            data-test="board-fault"
            @update:model-value="choose"
          />
          <v-btn
            size="small"
            variant="outlined"
            :disabled="busy || !known.length"
            data-test="board-hide"
            @click="hide"
          >
            Hide a fault
          </v-btn>
        </template>
        <v-select
          v-model="tools"
          class="tools"
          :items="TOOLS"
          label="tools for lines"
          hide-details
          @update:model-value="begin"
        />
        <v-btn
          v-if="failure || isOld"
          size="small"
          color="primary"
          data-test="board-anew"
          @click="begin"
        >
          {{ failure ? 'Switch it on anew' : 'Take the plan as it is now' }}
        </v-btn>
      </div>
      <p
        v-if="failure"
        class="problem"
        role="alert"
      >
        {{ failure }}
      </p>
      <div
        v-if="hidden"
        class="hidden"
      >
        <p v-if="!revealed">
          Something is wrong with it. Type, measure and pull until you know what.
        </p>
        <p
          v-else
          data-test="board-revealed"
        >
          <b>{{ hiddenFault?.title }}.</b> {{ hiddenFault?.mend }}
        </p>
        <v-btn
          v-if="!revealed"
          size="small"
          variant="text"
          data-test="board-reveal"
          @click="revealed = true"
        >
          Tell me
        </v-btn>
      </div>
      <p
        v-if="!state && !failure"
        class="quiet"
        aria-live="polite"
      >
        The board starts …
      </p>
      <div
        v-if="state"
        class="bench"
      >
        <BoardTerminal
          :shown="shown"
          :prompt="state.prompt"
          :commands="state.commands"
          :busy="busy"
          @run="type"
          @clear="clear"
        />
        <BoardHands
          :state="state"
          :busy="busy"
          :answer="answer"
          @act="type"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.lead { margin-bottom: 8px; }
.begin { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin-bottom: 8px; }
.fault { flex: 1 1 320px; max-width: 640px; }
.tools { flex: 0 1 150px; }
.hidden {
  display: flex; gap: 8px; align-items: center; flex-wrap: wrap; border-left: 6px solid var(--copper); background: var(--sheet);
  padding: 6px 12px; margin-bottom: 10px;
}
.problem { color: var(--carmine); font-weight: 600; }
.bench { display: grid; grid-template-columns: minmax(0, 1fr) minmax(260px, 340px); gap: 18px; }
@media (max-width: 900px) { .bench { grid-template-columns: minmax(0, 1fr); } }
</style>
