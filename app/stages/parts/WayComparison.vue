<script setup lang="ts">
/** One function by loose wires and as an add-on board, each tried on the plan. */
import type { WayTrial } from '~~/core/choose/ways'

const { partId } = defineProps<{ partId: string }>()
const emit = defineEmits<{ close: [] }>()
const project = useProjectStore()
const view = useViewStore()
const ways = shallowRef<readonly WayTrial[]>([])
const rows = shallowRef<readonly { label: string, values: string[], differs: boolean }[]>([])
const failed = ref('')
const isHere = ({ parts }: WayTrial) => parts[0]!.id === project.plan!.parts.find(({ id }) => id === partId)?.type

onMounted(async () => {
  try {
    const [{ tryWays },
      { trialRows }] = await Promise.all([import('~~/core/choose/ways'), import('~~/core/choose/parts')])
    ways.value = tryWays(project.plan!, partId, project.catalogue) ?? []
    rows.value = trialRows(ways.value.map(({ trial }) => trial))
  }
  catch (error) {
    failed.value = `The two ways could not be worked out: ${(error as Error).message}. Close this and try again.`
  }
})

function take(way: WayTrial) {
  project.edit({ edit: 'all', edits: way.trial.edits }, way.title)
  view.say(`${way.parts.map(({ name }) => name).join(', ')}: in the plan${way.trial.placed ? ', and placed' : ''}.`, {
    action: { label: 'Undo', run: project.undo },
  })
  emit('close')
}
</script>

<template>
  <FrameDialog
    title="Loose wires or an add-on board"
    :width="820"
    test="ways"
    @close="emit('close')"
  >
    <p
      v-if="failed"
      role="alert"
    >
      {{ failed }}
    </p>
    <p
      v-else-if="!ways.length"
      role="status"
    >
      Trying both on your plan …
    </p>
    <v-table v-else>
      <thead>
        <tr>
          <th scope="col">
            <span class="only-reader">What</span>
          </th>
          <th
            v-for="way in ways"
            :key="way.title"
            scope="col"
          >
            <b>{{ way.title }}</b><br><span class="small quiet">{{ way.parts.map(({ name }) => name).join(' + ') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.label"
          :class="{ differs: row.differs }"
        >
          <th
            scope="row"
            class="quiet"
          >
            {{ row.label }}
          </th>
          <td
            v-for="(value, i) in row.values"
            :key="i"
          >
            {{ value }}
          </td>
        </tr>
        <tr>
          <th scope="row">
            <span class="only-reader">Take one</span>
          </th>
          <td
            v-for="way in ways"
            :key="way.title"
          >
            <span
              v-if="isHere(way)"
              class="quiet"
            >as it is now</span>
            <v-btn
              v-else
              size="small"
              color="primary"
              :data-test="`way-${way.trial.partId}`"
              @click="take(way)"
            >
              Take this
            </v-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
    <p class="small quiet">
      An add-on board is tidy, claims its positions for good and covers the header; loose wires mostly cost less, take longer, and
      teach what goes where. Practitioners do both.
    </p>
  </FrameDialog>
</template>

<style scoped>
th[scope=row] { text-align: start; font-weight: 400; white-space: nowrap; padding-right: 16px; vertical-align: top; }
.differs td { font-weight: 650; }
td { overflow-wrap: anywhere; }
</style>
