<script setup lang="ts">
/** The lessons of the trainer: which there are, how far one is, and the next one. */
import { nextOf, passedOf, type Lesson, type Played } from '~~/core/diagnosis/series'

const { series, results,
  busy } = defineProps<{ series: readonly Lesson[], results: readonly Played[], busy: boolean }>()
const emit = defineEmits<{ begin: [lesson: Lesson, nth: number] }>()
const next = computed(() => nextOf(series, results))
const rows = computed(() => series.map((lesson) => {
  const passed = passedOf(lesson, results)
  const count = lesson.exercises.length
  return { lesson, passed, count, isDone: passed === count }
}))
const done = computed(() => rows.value.filter(({ isDone }) => isDone).length)
/** The first of the lesson that was not found, or its first again. */
const nthOf = (lesson: Lesson) => nextOf([lesson], results)?.nth ?? 0
</script>

<template>
  <div
    class="series"
    data-test="trainer-series"
  >
    <div class="next">
      <v-btn
        v-if="next"
        color="primary"
        size="small"
        :disabled="busy"
        data-test="series-next"
        @click="emit('begin', next.lesson, next.nth)"
      >
        Next: {{ next.lesson.title }}
      </v-btn>
      <span class="small quiet figures">{{ done }} of {{ series.length }} lessons {{ next ? '' : ': all of them ' }}found</span>
    </div>
    <v-list
      class="list"
      density="compact"
      aria-label="Lessons"
    >
      <v-list-item
        v-for="{ lesson, passed, count, isDone } in rows"
        :key="lesson.id"
        :title="lesson.title"
        :subtitle="isDone ? lesson.teaches : `${passed} of ${count} found`"
        :disabled="busy"
        :data-test="`lesson-${lesson.id}`"
        @click="emit('begin', lesson, nthOf(lesson))"
      >
        <template #append>
          <span class="small figures">{{ isDone ? 'found, again' : passed ? 'go on' : 'begin' }}</span>
        </template>
      </v-list-item>
    </v-list>
  </div>
</template>

<style scoped>
.next { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin-bottom: 6px; }
.list { border: 1px solid var(--rule); border-radius: 4px; background: var(--sheet); padding: 0; }
.list :deep(.v-list-item + .v-list-item) { border-top: 1px solid var(--rule); }
.list :deep(.v-list-item-subtitle) { -webkit-line-clamp: unset; white-space: normal; }
</style>
