/** The run sheet of the plan as it stands, worked out in a worker that stays as long as the stage does. */
import { watchDebounced } from '@vueuse/core'
import { newId } from '~/database/id'
import type { RunSheet } from '~~/core/diagnosis/sheet'
import { noteOf } from '~~/core/diagnosis/words'
import type { SaidMark } from '~~/core/diagnosis/symptoms/clause'
import { notesOfSaid } from '~~/core/diagnosis/symptoms/tell'
import type { Edit } from '~~/core/plan/edits'
import { heldWorker } from '~/workers/start'

/** So long may one answer take. */
const MAX_MS = 30_000

export function useBringupWorker() {
  const { ask, end } = heldWorker('bringup', MAX_MS, 'it did not answer')
  onScopeDispose(end)
  return { ask }
}

/** Plain data for the worker: a plan in the store is watched. */
export const plainPlan = () =>
  JSON.parse(JSON.stringify(useProjectStore().plan)) as NonNullable<ReturnType<typeof useProjectStore>['plan']>

export function useRunSheet() {
  const project = useProjectStore()
  const { ask } = useBringupWorker()
  const sheet = shallowRef<RunSheet | null>(null)
  const failure = ref<string | null>(null)
  let run = 0

  async function look(): Promise<void> {
    const mine = ++run
    if (!project.plan) return
    try {
      const answer = await ask(service => service.sheet(plainPlan()))
      if (mine !== run) return
      sheet.value = answer
      failure.value = null
    }
    catch (error) {
      if (mine === run) failure.value = `The run sheet was not made: ${(error as Error).message}. It is tried again `
        + 'with the next change.'
    }
  }
  watchDebounced(() => project.plan, look, { debounce: 120, maxWait: 600, immediate: true })

  /** The sighting, and what the logbook says of it by itself. */
  function editsFor(id: string, outcome: string | null, value?: number): Edit[] {
    const at = new Date().toISOString()
    const row = sheet.value?.rows.find(({ probe }) => probe.id === id)
    const note = row ? noteOf(row, outcome, value) : null
    return [
      { edit: 'see', id, sighting: outcome === null ? null : { outcome, at, ...value !== undefined && { value } } },
      ...note ? [{ edit: 'log' as const, entry: { id: newId(), at, stage: 'bringup' as const, text: note } }] : [],
    ]
  }

  /** Writes down what was seen at a probe; null takes it back. */
  function see(id: string, outcome: string | null, value?: number): void {
    project.edit({ edit: 'all', edits: editsFor(id, outcome, value) },
      outcome === null ? 'Take a sighting back' : 'What was seen')
  }
  /** The same for all that a pasted text holds, as one edit. */
  function seeAll(entries: readonly { probe: string, outcome: string }[]): void {
    project.edit({ edit: 'all', edits: entries.flatMap(({ probe, outcome }) => editsFor(probe, outcome)) },
      'What was pasted')
  }
  /** What the maker said, clause by clause, with what it was taken for; the logbook keeps the words. */
  function seeSaid(entries: readonly { clause: string, mark: SaidMark }[]): void {
    const at = new Date().toISOString()
    project.edit({
      edit: 'all', edits: entries.flatMap(({ clause, mark }): Edit[] => [
        { edit: 'see', id: mark.probe,
          sighting: { outcome: mark.outcome, at, ...mark.value !== undefined && { value: mark.value } } },
        { edit: 'log', entry: { id: newId(), at, stage: 'bringup', text: notesOfSaid(clause, mark) } },
      ]),
    }, 'What was said')
  }
  const forget = (ids: readonly string[]) => project.edit({
    edit: 'all', edits: ids.map(id => ({ edit: 'see', id, sighting: null })),
  }, 'Forget sightings')
  return { sheet, failure, see, seeAll, seeSaid, forget, ask }
}
