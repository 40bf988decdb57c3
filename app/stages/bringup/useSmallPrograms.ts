/** The small programs of the plan as it stands, written in the worker of the stage. */
import { watchDebounced } from '@vueuse/core'
import type { SmallPrograms } from '~~/core/first-programs/types'
import { plainPlan, type useBringupWorker } from './useRunSheet'

export type AskBringup = ReturnType<typeof useBringupWorker>['ask']

export function useSmallPrograms(ask: AskBringup) {
  const project = useProjectStore()
  const made = shallowRef<SmallPrograms | null>(null)
  const failure = ref<string | null>(null)
  let run = 0

  async function write(): Promise<void> {
    const mine = ++run
    if (!project.plan) return
    try {
      const answer = await ask(service => service.programs(plainPlan()))
      if (mine !== run) return
      made.value = answer
      failure.value = null
    }
    catch (error) {
      if (mine === run) failure.value = `The programs were not written: ${(error as Error).message}. The next `
        + 'change tries again.'
    }
  }
  watchDebounced(() => project.plan, write, { debounce: 200, maxWait: 1000, immediate: true })
  return { made, failure }
}
