/** The Board stage: boards by what one sees, supplies by how they suit the plan, and what goes with the board. */
import { createSharedComposable, useDebounceFn } from '@vueuse/core'
import { boardsMatching, nextQuestion, QUESTIONS } from '~~/core/catalogue/recognise'
import { KINDS } from '~~/core/netlist/supply/kinds'
import type { SupplyChoice } from '~~/core/choose/supplies'
import { engine } from '~/stores/engine'

/** Rests this long before the supplies are tried anew. */
const REST_MS = 150

export const useBoard = createSharedComposable(() => {
  const project = useProjectStore()
  const boards = computed(() => [...project.catalogue.boards.values()])
  const answers = ref<Record<string, string>>({})
  const matching = computed(() => boardsMatching(answers.value, boards.value))
  const question = computed(() => nextQuestion(answers.value, boards.value))
  const asked = computed(() => QUESTIONS.filter(entry => entry.id in answers.value).map(entry => ({
    ...entry, answer: entry.answers.find(answer => answer.value === answers.value[entry.id])?.label ?? '',
  })))

  function answer(id: string, value: string) {
    answers.value = { ...answers.value, [id]: value }
  }
  function takeBack(id: string) {
    answers.value = Object.fromEntries(Object.entries(answers.value).filter(([other]) => other !== id))
  }

  /** Every supply as the catalogue has it, until the checks have tried them on the plan. */
  const untried = computed<SupplyChoice[]>(() => [...project.catalogue.supplies.values()]
    .map(supply => ({ supply, kind: KINDS[supply.kind].label, fit: 'fits' as const, why: [] })))
  const tried = shallowRef<SupplyChoice[] | null>(null)
  let run = 0

  /** One supply at a time, so that nobody waits for all of them. */
  async function tryAll() {
    const mine = ++run
    const checks = engine.value
    const plan = project.plan
    if (!checks || !plan?.board) return tried.value = null
    const trials = []
    for (const supply of project.catalogue.supplies.values()) {
      trials.push(checks.trySupply(plan, supply, project.catalogue))
      await new Promise(resolve => setTimeout(resolve))
      if (mine !== run) return
    }
    tried.value = checks.supplyChoices(trials)
  }
  const later = useDebounceFn(tryAll, REST_MS)
  watch([
    engine, () => project.plan?.board, () => project.plan?.parts, () => project.plan?.assignments,
    () => project.plan?.power,
  ], () => void later(), {
    immediate: true,
  })
  onScopeDispose(() => run++)

  return { boards, matching, question, asked, answer, takeBack, choices: computed(
    () => tried.value ?? untried.value,
  ), isTried: computed(() => tried.value !== null) }
})
