<script setup lang="ts">
/** Each way to push a board on wrong: what meets what, what it does, and how it is found before power. */
import { misplugged, WAY_WORDS } from '~~/core/mechanics/plugged'

const { partId } = defineProps<{ partId: string }>()
const project = useProjectStore()
const HARM_WORDS = { 'breaks': 'breaks something', 'may break': 'can break something',
  'dead': 'does not work' } as const
const found = computed(() => misplugged(project.facts!).filter(entry => entry.partId === partId))
const breaking = computed(() => found.value.filter(({ harm }) => harm === 'breaks').length)
</script>

<template>
  <FoldPanel
    v-if="found.length"
    :title="`Pushed on wrong: ${breaking} of ${found.length} ways break something`"
    :data-test="`misplugged-${partId}`"
  >
    <ul class="ways small">
      <li
        v-for="entry in found"
        :key="entry.way"
      >
        <b>{{ WAY_WORDS[entry.way] }}</b> <span :class="['mark', entry.harm.replace(' ', '-')]">{{ HARM_WORDS[entry.harm] }}</span>
        <span class="look">{{ entry.look }}</span>
        <span v-if="entry.measure"><b>The meter:</b> {{ entry.measure }}</span>
        <ul v-if="entry.meetings.length">
          <li
            v-for="meeting in entry.meetings"
            :key="meeting.words"
          >
            {{ meeting.words }}.
          </li>
        </ul>
      </li>
    </ul>
    <p class="small quiet">
      Worked out from the pins that meet. That boards join all their returns, and their pins of one rail, is common practice.
    </p>
  </FoldPanel>
</template>

<style scoped>
.ways { list-style: none; padding: 0; margin: 0; display: grid; gap: 8px; }
.ways ul { padding-left: 18px; margin: 0; }
.look { display: block; }
.mark { font-size: 11.5px; font-weight: 700; border-radius: 2px; padding: 0 6px; }
.breaks { background: var(--carmine-wash); color: var(--carmine); }
.may-break { background: var(--ochre-wash); color: var(--ochre); }
.dead { background: var(--paper-3); color: var(--ink-2); }
</style>
