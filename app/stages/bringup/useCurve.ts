/** The chosen curve beside the prediction, worked out in the worker of the stage. */
import { watchDebounced } from '@vueuse/core'
import type { JudgedCurve } from '~~/core/curves/judge'
import type { KeptCurve } from '~~/core/plan/types'
import { plainPlan } from './useRunSheet'
import type { AskBringup } from './useSmallPrograms'

export function useCurve(ask: AskBringup, curve: Ref<KeptCurve | null>) {
  const project = useProjectStore()
  const judged = shallowRef<JudgedCurve | null>(null)
  const failure = ref<string | null>(null)
  let run = 0

  async function judge(): Promise<void> {
    const mine = ++run
    if (!curve.value || !project.plan) return void (judged.value = null)
    try {
      const plain = JSON.parse(JSON.stringify(curve.value)) as KeptCurve
      const answer = await ask(service => service.curve(plainPlan(), plain))
      if (mine !== run) return
      judged.value = answer
      failure.value = null
    }
    catch (error) {
      if (mine === run) failure.value = `The curve was not held against the plan: ${(error as Error).message}. The `
        + 'next change tries again.'
    }
  }
  watchDebounced([curve, () => project.plan], judge, { debounce: 120, maxWait: 600, immediate: true })
  return { judged, failure }
}
