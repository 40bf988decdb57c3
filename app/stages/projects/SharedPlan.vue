<script setup lang="ts">
/** A plan that came with an address: to be looked at, and copied by choice. Nothing of it is kept before that. */
import { answered, inWords } from '~/database/failures'
import { engine, loadEngine } from '~/stores/engine'
import { ownerColour } from '~/composables/useOwners'
import { shippedCatalogue } from '~~/core/catalogue'
import { catalogueOf, gatherFacts } from '~~/core/facts/gather'
import { completed } from '~~/core/plan/create'
import type { Plan } from '~~/core/plan/types'

const route = useRoute()
const view = useViewStore()
const database = useDatabase()
const plan = shallowRef<Plan | null>(null)
const page = ref('')
const trouble = ref<string | null>(null)
useHead({ title: () => plan.value ? `${plan.value.name}, shared · Voltaris` : 'A shared plan · Voltaris' })

watch(() => route.hash, async (hash) => {
  plan.value = null
  trouble.value = null
  try {
    const [{ planOfFragment }, { sheetOf }, checks] = await Promise.all([
      import('~~/core/share/address'), import('~~/core/share/sheet'), engine.value ?? loadEngine(),
    ])
    const read = planOfFragment(hash)
    if (!read.ok) {
      trouble.value = read.problems.map(({ path, message }) => `${path} ${message}`.trim()).join('; ')
      return
    }
    const shared = completed(read.plan)
    const facts = gatherFacts(shared, catalogueOf(shared, shippedCatalogue))
    page.value = sheetOf(facts, checks.evaluateFacts(facts), new Date().toISOString(), id => colourOf(shared, id))
    plan.value = shared
  }
  catch (error) {
    trouble.value = inWords(error)
  }
}, { immediate: true })

/** The sheet stands by itself: it knows no custom properties. */
function colourOf(shared: Plan, id: string): string {
  const name = /--owner-\d+/.exec(ownerColour(shared.parts.findIndex(part => part.id === id)))?.[0] ?? '--owner-0'
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#555555'
}

async function copy() {
  try {
    const record = await answered(database.create(plan.value!))
    await navigateTo(`/project/${record.id}/${record.plan.board ? 'wiring' : 'board'}`)
  }
  catch (error) {
    view.say(`Not copied: ${inWords(error)}`, { tone: 'stop' })
  }
}
</script>

<template>
  <main class="shared">
    <header>
      <NuxtLink to="/">
        Voltaris
      </NuxtLink>
      <b>{{ plan?.name ?? 'A shared plan' }}</b>
      <span class="small">read only: nothing of it is kept in this browser</span>
      <v-spacer />
      <v-btn
        color="primary"
        size="small"
        :disabled="!plan"
        data-test="copy-shared"
        @click="copy"
      >
        Make it a project of mine
      </v-btn>
    </header>
    <p
      v-if="trouble"
      role="alert"
      class="trouble"
    >
      This address cannot be opened: {{ trouble }}. Ask for it again, as a file if it is long.
    </p>
    <p
      v-else-if="!plan"
      class="quiet"
      role="status"
    >
      Reading …
    </p>
    <iframe
      v-else
      :srcdoc="page"
      sandbox=""
      :title="`${plan.name}, as a sheet`"
      data-test="shared-sheet"
    />
  </main>
</template>

<style scoped>
.shared { display: flex; flex-direction: column; height: 100dvh; }
header { display: flex; gap: 14px; align-items: center; flex-wrap: wrap; background: var(--bar); color: var(--bar-ink); padding: 8px 16px; }
header a { color: var(--bar-act); font-weight: 700; text-decoration: none; }
header b { overflow-wrap: anywhere; }
iframe { flex: 1; border: 0; background: #fff; }
.trouble, .quiet { padding: 24px; }
.trouble { color: var(--carmine); }
</style>
