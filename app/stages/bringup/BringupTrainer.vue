<script setup lang="ts">
/**
 * Finding hidden faults in this plan: a sign is given, tests are tried, the fault is named; scored against the
 * best known way.
 */
import { useStorage } from '@vueuse/core'
import type { RunSheet } from '~~/core/diagnosis/sheet'
import { lessonKey, nextOf, passedAt, PASSES, type Lesson, type Played } from '~~/core/diagnosis/series'
import { GRADES, scoreOf, type Exercise, type Grade, type TrainedFault } from '~~/core/diagnosis/trainer'
import type { Fault, Mark } from '~~/core/diagnosis/types'
import { useSlots } from '~/database/slots'
import type { Column } from '~/shared/SortTable.vue'
import { plainPlan, type useBringupWorker } from './useRunSheet'

const { ask } = defineProps<{ ask: ReturnType<typeof useBringupWorker>['ask'] }>()
interface Result extends Played { at: string, plan: string, grade: Grade, minutes: number, best: number, fault: string }
const MAX_KEPT = 100
const results = useStorage<Result[]>('voltaris.trainer', [], useSlots())
const project = useProjectStore()
const grade = ref<Grade>('first steps')
/** Lessons of this plan; null until they were worked out. */
const series = shallowRef<Lesson[] | null>(null)
/** Of which lesson the exercise is; null for one by chance. */
const lessonsOpen = ref(true)
const inLesson = shallowRef<{ lesson: Lesson, nth: number } | null>(null)
const exercise = shallowRef<Exercise | null>(null)
const marks = ref<Mark[]>([])
const spent = ref(0)
const wrong = ref<string[]>([])
const sheet = shallowRef<RunSheet | null>(null)
const names = shallowRef<{ id: string, title: string }[]>([])
const guess = ref<string | null>(null)
const solved = shallowRef<(TrainedFault & { fault: Fault, score: number, gaveUp: boolean }) | null>(null)
const failure = ref<string | null>(null)
const none = ref(false)
const busy = ref(false)
/** What would explain it is shown: for learning how one narrows down. */
const help = ref(false)
const wasHelped = ref(false)
watch(help, on => wasHelped.value ||= on)

async function guarded(work: () => Promise<void>): Promise<void> {
  busy.value = true
  failure.value = null
  try {
    await work()
  }
  catch (error) {
    failure.value = `The trainer stopped: ${(error as Error).message}. Begin anew.`
  }
  finally {
    busy.value = false
  }
}
async function refresh(): Promise<void> {
  const tried = marks.value.map(mark => ({ ...mark }))
  sheet.value = await ask(service => service.exerciseSheet(plainPlan(), tried))
}

const begin = () => guarded(async () => {
  const all = await ask(service => service.exercises(plainPlan()))
  const fitting = all.filter(entry => entry.grade === grade.value)
  none.value = !fitting.length
  if (fitting.length) await play(fitting[Math.floor(Math.random() * fitting.length)]!, null)
})
const beginLesson = (lesson: Lesson, nth: number) => guarded(() => play({ ...lesson.exercises[nth]! }, { lesson, nth }))
onMounted(() => guarded(async () => {
  series.value = await ask(service => service.series(plainPlan()))
}))
/** This exercise was found, now or before. */
const isFound = computed(() =>
  inLesson.value !== null && passedAt(inLesson.value.lesson, inLesson.value.nth, results.value))
/** What comes after the lesson that was just found. */
const following = computed(() => series.value && inLesson.value ? nextOf(series.value, results.value) : null)

async function play(chosen: Exercise, of: { lesson: Lesson, nth: number } | null): Promise<void> {
  const plan = plainPlan()
  inLesson.value = of
  lessonsOpen.value = false
  names.value = await ask(service => service.faults(plan))
  marks.value = [chosen.sign]
  spent.value = 0
  wrong.value = []
  guess.value = null
  solved.value = null
  wasHelped.value = help.value
  exercise.value = chosen
  await refresh()
}

const attempt = (probe: string) => guarded(async () => {
  const now = exercise.value
  if (!now || marks.value.some(mark => mark.probe === probe)) return
  const outcome = await ask(service => service.shown(plainPlan(), now, probe))
  marks.value = [...marks.value, { probe, outcome }]
  spent.value += sheet.value!.rows.find(row => row.probe.id === probe)!.probe.minutes
  await refresh()
})

const name = () => guarded(async () => {
  const now = exercise.value
  if (!now || !guess.value) return
  const solution = await ask(service => service.solution(plainPlan(), now))
  const same = solution.faults.some(({ id }) => id === guess.value)
  if (!same) {
    wrong.value = [...new Set([...wrong.value, guess.value])]
    return
  }
  finish(solution, false)
})
const giveUp = () => guarded(async () => {
  const now = exercise.value
  if (now) finish(await ask(service => service.solution(plainPlan(), now)), true)
})

function finish(solution: TrainedFault & { fault: Fault }, gaveUp: boolean): void {
  const score = gaveUp ? 0 : scoreOf(spent.value, wrong.value.length, solution.minutes)
  solved.value = { ...solution, score, gaveUp }
  const { grade: played } = exercise.value!
  results.value = [{
    at: new Date().toISOString(), plan: project.plan!.name, grade: played, score, minutes: spent.value,
    best: solution.minutes, fault: solution.fault.title, helped: wasHelped.value,
    ...inLesson.value && { lesson: lessonKey(inLesson.value.lesson, inLesson.value.nth) },
  }, ...results.value].slice(0, MAX_KEPT)
}
const COLUMNS: Column<Result>[] = [
  { key: 'at', title: 'When', value: ({ at }) => dayAndTime(at) },
  { key: 'plan', title: 'Plan', value: ({ plan }) => plan },
  { key: 'fault', title: 'Fault', value: ({ fault }) => fault },
  { key: 'score', title: 'Of 100', num: true, value: ({ score }) => score },
  { key: 'helped', title: 'Help', value: ({ helped }) => helped ? 'with help' : '' },
]
const titleOf = (id: string) => sheet.value?.rows.find(row => row.probe.id === id)?.probe.title ?? id
const average = computed(() => results.value.length
  ? Math.round(results.value.reduce((sum, { score }) => sum + score, 0) / results.value.length)
  : null)
const minutesSaid = (minutes: number) => `${Number(minutes.toFixed(1))} min`
</script>

<template>
  <div data-test="trainer">
    <p class="small quiet lead">
      Somewhere in this plan, as if it stood before you, something is wrong. Try tests, then name the fault. What you do here changes
      nothing in the plan.
    </p>
    <FoldPanel
      v-if="series?.length"
      v-model:open="lessonsOpen"
      title="Lessons: the usual mistakes, one after the other"
      data-test="trainer-lessons"
    >
      <TrainerSeries
        :series="series"
        :results="results"
        :busy="busy"
        @begin="beginLesson"
      />
    </FoldPanel>
    <div class="begin">
      <v-select
        v-model="grade"
        class="grade"
        :items="[...GRADES]"
        label="how hard"
        hide-details
        data-test="trainer-grade"
      />
      <v-btn
        :color="series?.length ? undefined : 'primary'"
        :variant="series?.length ? 'outlined' : 'flat'"
        size="small"
        :loading="busy && !exercise"
        data-test="trainer-begin"
        @click="begin"
      >
        {{ exercise ? 'Another fault' : 'Hide a fault by chance' }}
      </v-btn>
      <v-switch
        v-model="help"
        class="help"
        label="show what would explain it"
        hide-details
        data-test="trainer-help"
      />
      <span
        v-if="average !== null"
        class="small quiet figures"
      >{{ results.length }} played, {{ average }} of 100 on average</span>
    </div>
    <p
      v-if="failure"
      class="problem"
      role="alert"
    >
      {{ failure }}
    </p>
    <p
      v-if="none"
      class="quiet"
    >
      This plan has no fault of this grade: choose another one, or place more parts.
    </p>
    <template v-if="exercise && sheet">
      <div
        class="task"
        data-test="trainer-task"
      >
        <p
          v-if="inLesson"
          class="small quiet"
        >
          {{ inLesson.lesson.title }} {{ inLesson.nth + 1 }} of {{ inLesson.lesson.exercises.length }}
        </p>
        <p><b>{{ titleOf(exercise.sign.probe) }}: <span class="figures">{{ exercise.sign.outcome }}</span></b></p>
        <p class="small figures">
          {{ marks.length - 1 }} {{ marks.length === 2 ? 'test' : 'tests' }}, {{ minutesSaid(spent) }}{{ wrong.length
            ? `, ${wrong.length} wrong ${wrong.length === 1 ? 'name' : 'names'}` : '' }}
        </p>
        <div
          v-if="!solved"
          class="name"
        >
          <v-autocomplete
            v-model="guess"
            :items="names"
            item-value="id"
            item-title="title"
            label="It is …"
            hide-details
            data-test="trainer-guess"
          />
          <v-btn
            size="small"
            color="primary"
            :disabled="!guess || busy"
            data-test="trainer-name"
            @click="name"
          >
            Name it
          </v-btn>
          <v-btn
            size="small"
            variant="text"
            data-test="trainer-give-up"
            @click="giveUp"
          >
            Show it to me
          </v-btn>
        </div>
        <p
          v-if="!solved && guess && wrong.includes(guess)"
          class="problem small"
          data-test="trainer-wrong"
        >
          It is not that: with it the tests would have shown something else, or it is another one that fits as well.
        </p>
        <div
          v-if="solved"
          class="solution"
          data-test="trainer-solution"
        >
          <p>
            <b>{{ solved.gaveUp ? 'It was this:' : `${solved.score} of 100.` }}</b>
            {{ solved.faults.map(({ title }) => title).join('; or ') }}.
          </p>
          <p class="small">
            {{ solved.fault.mend }}
          </p>
          <p class="small">
            The best known way takes {{ minutesSaid(solved.minutes) }}:
          </p>
          <ol class="small">
            <li
              v-for="(test, i) in solved.tests"
              :key="test.id"
            >
              {{ test.title }}: <b class="figures">{{ solved.marks[i + 1]!.outcome }}</b>
            </li>
          </ol>
          <template v-if="inLesson">
            <p class="small">
              {{ inLesson.lesson.teaches }}
            </p>
            <p
              v-if="!isFound"
              class="small quiet"
            >
              It counts as found from {{ PASSES }} of 100 on, without help: it comes again.
            </p>
            <v-btn
              v-if="following"
              size="small"
              color="primary"
              data-test="lesson-next"
              @click="beginLesson(following.lesson, following.nth)"
            >
              {{ following.lesson.id === inLesson.lesson.id ? 'Go on with this lesson' : `Next: ${following.lesson.title}` }}
            </v-btn>
          </template>
        </div>
      </div>
      <FoldPanel
        v-if="!solved"
        title="The board itself: type, measure, pull"
        data-test="trainer-board"
      >
        <BringupBoard
          :row="exercise.row"
          @spent="minutes => spent += minutes"
        />
      </FoldPanel>
      <RunSheet
        v-if="!solved"
        :sheet="sheet"
        hidden
        :alone="!help"
        @attempt="attempt"
      />
    </template>
    <FoldPanel
      v-if="results.length"
      title="What was played"
    >
      <SortTable
        :rows="results"
        :columns="COLUMNS"
        :row-key="result => result.at"
        caption="Exercises that were played"
      />
    </FoldPanel>
  </div>
</template>

<style scoped>
.lead { margin-bottom: 8px; }
.begin, .name { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin-bottom: 8px; }
.grade { flex: 0 1 180px; }
.name > :first-child { flex: 1 1 260px; }
.task { border-left: 6px solid var(--copper); background: var(--sheet); padding: 8px 12px; margin-bottom: 10px; display: grid; gap: 4px; }
.problem { color: var(--carmine); font-weight: 600; }
.solution ol { padding-left: 20px; }
</style>
