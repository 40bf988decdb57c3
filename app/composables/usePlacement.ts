import { proxy, wrap } from 'comlink'
import { ref } from 'vue'
import type { PlacementResult } from '~~/core/placement/types'
import type { PlacementService } from '~/workers/placement.worker'

const running = ref<{ nodes: number } | null>(null)
let worker: Worker | null = null
let giveUp: (() => void) | null = null

/** Placement in a worker: one at a time, with progress, and a way to stop it. */
export function usePlacement() {
  const project = useProjectStore()
  const view = useViewStore()

  async function place(scope: 'rest' | 'all'): Promise<void> {
    const { plan } = project
    if (!plan || running.value) return
    if (!plan.board) return view.say('Choose a board first: there is nothing to place the parts on.', { tone: 'stop' })
    if (!plan.parts.length) return view.say('Add a part first: there is nothing to place yet.', { tone: 'stop' })
    running.value = { nodes: 0 }
    try {
      const result = await inWorker(JSON.parse(JSON.stringify(plan)), scope)
      if (!result) return view.say('Stopped. Nothing was moved.')
      if (project.plan !== plan) return view.say('The plan changed while it was being placed. Place it again.', { tone: 'stop' })
      show(result, scope)
    }
    catch (error) {
      view.say(`Placement failed: ${(error as Error).message}. Nothing was moved.`, { tone: 'stop' })
    }
    finally {
      running.value = null
      worker?.terminate()
      worker = null
    }
  }

  async function inWorker(plan: Parameters<PlacementService['place']>[0], scope: 'rest' | 'all'): Promise<PlacementResult | null> {
    worker = new Worker(new URL('../workers/placement.worker.ts', import.meta.url), { type: 'module' })
    const service = wrap<PlacementService>(worker)
    const stopped = new Promise<null>(resolve => giveUp = () => resolve(null))
    const failed = new Promise<never>((_, reject) => worker!.addEventListener('error', event => reject(new Error(event.message || 'the worker did not start'))))
    return Promise.race([service.place(plan, scope, proxy((nodes: number) => running.value = { nodes })), stopped, failed])
  }

  function show(result: PlacementResult, scope: 'rest' | 'all'): void {
    if (!result.ok) return view.say(result.sentence, { tone: 'stop' })
    const before = Object.keys(project.plan!.assignments).length
    project.edit({ edit: 'place', assignments: result.assignments }, scope === 'rest' ? 'Place the rest' : 'Place everything anew')
    const placed = Object.keys(result.assignments).length - before
    const moved = result.moved.length ? ` ${result.moved.length} moved: ${result.moved.slice(0, 3).map(entry => `${entry.terminal} from ${entry.from} to ${entry.to}`).join('; ')}${result.moved.length > 3 ? ' …' : ''}.` : ''
    const left = result.leftOut.length ? ` Left out, for want of a line: ${result.leftOut.join(', ')}.` : ''
    view.say(`${placed > 0 ? `${placed} placed.` : 'Everything has a place.'}${moved}${left}${result.provedBest ? '' : ' The best found so far; the search was cut short.'}`,
      { action: { label: 'Undo', run: project.undo } })
  }

  function stop(): void {
    giveUp?.()
  }

  return { running, place, stop }
}
