import type { Remote } from 'comlink'
import { ref, shallowRef } from 'vue'
import type { Explanation } from '~~/core/placement/explain'
import type { NotPlaced, Placed, PlacementResult, WayOut } from '~~/core/placement/types'
import type { Subject } from '~~/core/findings/types'
import { placeOptions } from '~~/core/placement/options'
import { placementEdits } from '~~/core/placement/place'
import type { Edit } from '~~/core/plan/edits'
import type { Plan } from '~~/core/plan/types'
import type { PlacementService } from '~/workers/services/placement'
import { askOnce } from '~/workers/start'

/** What the last placement came to, for the panel. */
export type LastPlacement = (Placed & { scope: 'rest' | 'all', before: { cost: number, powerCost: number } | null })
  | NotPlaced

/** A terminal that could go to more positions than these is not what is scarce. */
const MAX_MARKED = 8

/** Under way: branches looked at, and whether nothing has been heard for a while. */
const running = ref<{ nodes: number, quiet: boolean } | null>(null)
const last = shallowRef<LastPlacement | null>(null)
const panelOpen = ref(false)
let giveUp: (() => void) | null = null
let silence: ReturnType<typeof setTimeout> | undefined
/** Placement tells how far it is several times a second; this is long without a word. */
const QUIET_MS = 15_000

/** Placement in a worker: one at a time, with progress, and a way to stop it. */
export function usePlacement() {
  const project = useProjectStore()
  const view = useViewStore()

  async function place(scope: 'rest' | 'all'): Promise<void> {
    const { plan } = project
    if (!plan || running.value) return
    if (!plan.board) return view.say('Choose a board first: there is nothing to place the parts on.', { tone: 'stop' })
    if (!plan.parts.length) return view.say('Add a part first: there is nothing to place yet.', { tone: 'stop' })
    try {
      const answer = await inWorker<{
        before: { cost: number, powerCost: number } | null
        result: PlacementResult
      }>(async (service, copy) => service.place(copy, scope, (await import('comlink')).proxy((nodes: number) => {
        // Progress comes by a way of its own, and may arrive after the answer.
        if (!running.value) return
        running.value = { nodes, quiet: false }
        heard()
      })), plan)
      if (!answer) return view.say('Stopped. Nothing was moved.')
      if (project.plan !== plan) return view.say('The plan changed while it was being placed. Place it again.',
        { tone: 'stop' })
      show(answer.result, scope, answer.before)
    }
    catch (error) {
      view.say(`Placement failed: ${(error as Error).message}. Nothing was moved.`, {
        tone: 'stop', action: { label: 'Try again', run: () => void place(scope) },
      })
    }
  }

  /** What the next best place of a terminal would cost; null when it was stopped or has none. */
  async function explain(terminal: string): Promise<Explanation | null> {
    if (!project.plan || running.value) return null
    try {
      return await inWorker((service, copy) => service.explain(copy, terminal), project.plan)
    }
    catch (error) {
      view.say(`The next best place could not be worked out: ${(error as Error).message}.`, { tone: 'stop' })
      return null
    }
  }

  async function inWorker<T>(ask: (service: Remote<PlacementService>, plan: Plan) => Promise<T>,
    plan: Plan): Promise<T | null> {
    running.value = { nodes: 0, quiet: false }
    const stopped = new Promise<null>(resolve => giveUp = () => resolve(null))
    heard()
    try {
      return await askOnce('placement', service => ask(service, JSON.parse(JSON.stringify(plan))), stopped)
    }
    finally {
      clearTimeout(silence)
      running.value = null
      giveUp = null
    }
  }

  /** A sign of life: without one for a while, the person is told. */
  function heard(): void {
    clearTimeout(silence)
    silence = setTimeout(() => {
      if (running.value) running.value = { ...running.value, quiet: true }
    }, QUIET_MS)
  }

  function show(result: PlacementResult, scope: 'rest' | 'all',
    before: { cost: number, powerCost: number } | null): void {
    last.value = result.ok ? { ...result, scope, before } : result
    if (!result.ok) {
      panelOpen.value = true
      view.mark(result.conflict.flatMap(entry => entry.terminals.flatMap(subjectsOf)))
      return view.say(result.sentence, { tone: 'stop' })
    }
    const held = Object.keys(project.plan!.assignments).length
    project.edit(
      { edit: 'all', edits: placementEdits(project.plan!, result) },
      scope === 'rest' ? 'Place the rest' : 'Place everything anew',
    )
    const placed = Object.keys(result.assignments).length - held
    const moved = result.moved.length
      ? ` ${result.moved.length} moved: `
      + `${result.moved.slice(0, 3)
        .map(entry => `${entry.terminal} from ${entry.from} to ${entry.to}`)
        .join('; ')}${result.moved.length > 3 ? ' …' : ''}.`
      : ''
    const strapped = result.straps.length
      ? ` ${result.straps.map(strap => strap.value === 'long'
        ? `Take a header with long pins below ${strap.partId}`
        : `Strap ${strap.partId} to ${strap.value}`)
        .join('; ')}.`
      : ''
    const left = result.leftOut.length ? ` Left out, for want of a line: ${result.leftOut.join(', ')}.` : ''
    view.say(
      `${placed > 0 ? `${placed} placed.` : 'Everything has a place.'}${moved}${strapped}${left}${result.provedBest
        ? ''
        : ' The best found so far; the search was cut short.'}`,
      { action: { label: 'Undo', run: project.undo } },
    )
  }

  /** A terminal of a conflict, and the few positions that could serve it. */
  function subjectsOf(key: string): Subject[] {
    const terminal = project.facts!.byKey.get(key)
    const positions = terminal ? placeOptions(terminal, project.facts!).flatMap(option => option.to.position ?? []) : []
    return [{ terminal: key, partId: key.split('.')[0]! }, ...positions.length <= MAX_MARKED
      ? positions.map(position => ({ position }))
      : []]
  }

  /** Takes a way out of a conflict and places again. */
  async function take(way: WayOut): Promise<void> {
    project.edit({ edit: 'all', edits: way.edits as Edit[] }, way.label)
    last.value = null
    view.clearFinding()
    await place('rest')
  }

  function stop(): void {
    giveUp?.()
  }

  function forget(): void {
    last.value = null
    panelOpen.value = false
  }

  return { running, last, panelOpen, place, explain, take, stop, forget }
}
