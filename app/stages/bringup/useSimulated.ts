/** A sitting at the simulated board, in a worker that stays as long as its view does. */
import type { Shown } from '~~/core/simulated/session'
import type { BoardState } from '~~/core/simulated/state'
import type { BoardService } from '~/workers/board.worker'
import { startWorker, within, type Started } from '~/workers/start'
import { plainPlan } from './useRunSheet'

/** One line takes no longer; whoever types a loop without end is told. */
const MAX_MS = 20_000
/** Lines of the transcript that are kept. */
const MAX_LINES = 300

export function useSimulated() {
  const state = shallowRef<BoardState | null>(null)
  const shown = shallowRef<Shown[]>([])
  const failure = ref<string | null>(null)
  const busy = ref(false)
  let started: Started<BoardService> | null = null

  async function ask<T>(question: (service: Started<BoardService>['service']) => Promise<T>): Promise<T | null> {
    busy.value = true
    failure.value = null
    try {
      started ??= await startWorker<BoardService>(
        () => new Worker(new URL('../../workers/board.worker.ts', import.meta.url), { type: 'module' }),
      )
      return await within(MAX_MS, Promise.race([question(started.service), started.failed]), 'it did not answer')
    }
    catch (error) {
      started?.end()
      started = null
      state.value = null
      failure.value = `The simulated board stopped: ${(error as Error).message}. Switch it on anew.`
      return null
    }
    finally {
      busy.value = false
    }
  }

  /** Switches a board on with a fault in it, by its name or its row, or with none; what was shown goes. */
  async function open(fault: string | number | null, tools: 1 | 2): Promise<void> {
    const plan = plainPlan()
    const answer = await ask(service => service.open(plan, fault, tools))
    if (!answer) return
    state.value = answer
    shown.value = []
  }

  async function run(line: string): Promise<Shown | null> {
    const answer = await ask(service => service.run(line))
    if (!answer) return null
    state.value = answer.state
    shown.value = [...shown.value, answer.shown].slice(-MAX_LINES)
    return answer.shown
  }

  const faults = () => ask(service => service.faults(plainPlan()))
  const clear = () => shown.value = []
  onScopeDispose(() => started?.end())
  return { state, shown, failure, busy, open, run, faults, clear }
}
