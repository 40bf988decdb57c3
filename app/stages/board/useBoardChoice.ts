/** Every board tried on the plan, in a worker: told one after the other, and left at any time. */
import type { BoardTrial } from '~~/core/choose/boards'
import { startWorker, type Started } from '~/workers/start'

export function useBoardChoice() {
  const project = useProjectStore()
  const view = useViewStore()
  const trials = shallowRef<BoardTrial[]>([])
  const running = ref(false)
  /** Each board against the plan's own, in words. */
  const differences = shallowRef<ReadonlyMap<string, string>>(new Map())
  /** The plan that was tried: with another one the answer is old. */
  const tried = shallowRef<unknown>(null)
  const isOld = computed(() => tried.value !== null && tried.value !== project.plan)
  const count = computed(() => project.catalogue.boards.size)
  let started: Started<'placement'> | null = null
  let run = 0

  async function tryAll(): Promise<void> {
    if (!project.plan || running.value) return
    const mine = ++run
    const plan = project.plan
    trials.value = []
    running.value = true
    try {
      const { proxy } = await import('comlink')
      const worker = await startWorker('placement')
      if (mine !== run) return worker.end()
      started = worker
      const told = proxy((trial: BoardTrial) => {
        if (mine === run) trials.value = [...trials.value, trial]
      })
      await Promise.race([worker.service.boards(JSON.parse(JSON.stringify(plan)), told),
        worker.failed])
      await settle(plan, mine)
    }
    catch (error) {
      if (mine === run) view.say(`The boards were not tried: ${(error as Error).message}. Try again.`, { tone: 'stop' })
    }
    finally {
      if (mine === run) end()
    }
  }

  function end(): void {
    started?.end()
    started = null
    running.value = false
  }

  /** Leaves it: what was tried so far stays to be seen. */
  async function leave(): Promise<void> {
    const mine = ++run
    end()
    await settle(project.plan, mine)
  }

  /** All that were tried, together. The rules come with what was tried by them; they are no part of the first page. */
  async function settle(plan: unknown, mine: number): Promise<void> {
    const { against, compared } = await import('~~/core/choose/boards')
    if (mine !== run) return
    trials.value = compared(trials.value)
    const yours = trials.value.find(({ boardId }) => boardId === project.plan?.board)
    differences.value = new Map(trials.value.flatMap(trial =>
      yours && trial !== yours ? [[trial.boardId, against(trial, yours)]] : []))
    tried.value = plan
  }

  function take(trial: BoardTrial): void {
    project.edit({ edit: 'all', edits: trial.edits }, `Take ${trial.name}`)
    view.say(`${trial.name} is chosen${trial.placed ? ', and everything is placed on it' : ''}.`, {
      action: { label: 'Undo', run: project.undo },
    })
  }

  onScopeDispose(() => {
    run++
    end()
  })
  return { trials, differences, running, isOld, count, tried, tryAll, leave, take }
}
