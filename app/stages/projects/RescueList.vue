<script setup lang="ts">
/** Earlier states of a project whose record is damaged, each a way back. */
import { answered, inWords } from '~/database/failures'
import type { PastState } from '~/database/projects'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ rescued: [] }>()

const database = useDatabase()
const view = useViewStore()
const states = shallowRef<PastState[]>([])

onMounted(async () => {
  try {
    states.value = await answered(database.statesOf(id))
  }
  catch (error) {
    view.say(`The earlier states could not be read: ${inWords(error)}`, { tone: 'stop' })
  }
})

async function takeBack({ plan }: PastState) {
  try {
    await answered(database.putBack(id, { plan, base: plan, baseRevision: 0, tab: 'rescue', number: 0 }))
    emit('rescued')
  }
  catch (error) {
    view.say(`Not taken back: ${inWords(error)}`, { tone: 'stop' })
  }
}
</script>

<template>
  <section aria-label="Earlier states">
    <p v-if="!states.length">
      There is no earlier state of it. A backup or an exported file can bring it back.
    </p>
    <template v-else>
      <p>These earlier states are whole. Save the damaged record first: taking one back writes over it.</p>
      <ul>
        <li
          v-for="state in states"
          :key="state.key"
        >
          {{ state.label ?? dayAndTime(state.at) }}
          <v-btn
            size="small"
            variant="outlined"
            @click="takeBack(state)"
          >
            Take back
          </v-btn>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 8px 0 0; padding: 0; display: grid; gap: 6px; }
li { display: flex; gap: 12px; align-items: center; }
</style>
