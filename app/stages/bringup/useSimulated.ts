/** A sitting at the simulated board, in a worker that stays as long as its view does. */
import type { Shown } from '~~/core/simulated/session'
import type { BoardState } from '~~/core/simulated/state'
import type { Remote } from 'comlink'
import type { BoardService } from '~/workers/services/board'
import { heldWorker } from '~/workers/start'
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
  const board = heldWorker('board', MAX_MS, 'it did not answer')

  async function ask<T>(question: (service: Remote<BoardService>) => Promise<T>): Promise<T | null> {
    busy.value = true
    failure.value = null
    try {
      return await board.ask(question)
    }
    catch (error) {
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
  onScopeDispose(board.end)
  return { state, shown, failure, busy, open, run, faults, clear }
}
