/**
 * The list of projects: what is in it, what is chosen, and what is done with it. Every failure is told, and
 * changes nothing else.
 */
import { answered, inWords } from '~/database/failures'
import { copyPhotos } from '~/database/photos'
import type { Head } from '~/database/projects'
import { emptyPlan } from '~~/core/plan/create'
import type { Plan } from '~~/core/plan/types'

const later = (a: string, b: string) => {
  if (a < b) return 1
  return a > b ? -1 : 0
}

/** Asks the browser not to clear this away when the disk runs full; it may say no, and nothing else changes then. */
function askToKeep(): void {
  navigator.storage?.persist?.().catch(error => console.error('The browser was not asked to keep the storage:', error))
}

export function useProjects() {
  const database = useDatabase()
  const view = useViewStore()

  // Shallow: what goes back to the database has to be plain data.
  const heads = shallowRef<readonly Head[] | null>(null)
  const failure = ref<string | null>(null)
  const chosen = ref<ReadonlySet<string>>(new Set())

  const all = computed(() => (heads.value ?? []).filter(head => !head.deletedAt).length)
  const binned = computed(() =>
    (heads.value ?? []).filter(head => head.deletedAt).sort((a, b) => later(a.deletedAt!, b.deletedAt!)))

  async function refresh(): Promise<void> {
    try {
      heads.value = await answered(database.allHeads())
      failure.value = null
      const there = new Set(heads.value.filter(head => !head.deletedAt).map(head => head.id))
      chosen.value = new Set([...chosen.value].filter(id => there.has(id)))
    }
    catch (error) {
      failure.value = inWords(error)
    }
  }

  /** Does something and shows the list anew; a failure is told with what was not done. Gives whether it was. */
  async function attempt(notDone: string, work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work()
      await refresh()
      return true
    }
    catch (error) {
      view.say(`${notDone}: ${inWords(error)}`, { tone: 'stop' })
      await refresh()
      return false
    }
  }

  /** A project from a plan that is ready, and the way to where one goes on. */
  const createFrom = (plan: Plan) => attempt('No project was made', async () => {
    const record = await answered(database.create(plan))
    askToKeep()
    await navigateTo(`/project/${record.id}/${plan.parts.length ? 'wiring' : 'board'}`)
  })

  const create = (name: string) => attempt('No project was made', async () => {
    const record = await answered(database.create(emptyPlan(name.trim() || 'New project')))
    askToKeep()
    await navigateTo(`/project/${record.id}/board`)
  })

  const rename = (head: Head, name: string) => name.trim() && name.trim() !== head.name
    ? attempt('Not renamed', () => answered(database.rename(head.id, name.trim())))
    : Promise.resolve(true)

  const duplicate = (ids: readonly string[]) => attempt('Not duplicated', async () => {
    for (const id of ids) {
      const { plan } = await answered(database.read(id))
      const copy = await answered(database.create({ ...plan, name: `${plan.name} (copy)` }))
      await answered(copyPhotos(database, id, copy.id))
    }
  })

  const namesOf = (ids: readonly string[]) => ids.length === 1
    ? `"${heads.value?.find(head => head.id === ids[0])?.name}" is`
    : `${ids.length} projects are`

  async function remove(ids: readonly string[]): Promise<void> {
    const what = namesOf(ids)
    if (!await attempt('Not deleted', () => answered(database.putInBin(ids)))) return
    view.say(`${what} in the bin for thirty days.`, { action: { label: 'Undo', run: () => void takeBack(ids) } })
  }

  const takeBack = (ids: readonly string[]) =>
    attempt('Not taken from the bin', () => answered(database.takeFromBin(ids)))
  const removeForGood = (ids: readonly string[]) => attempt('Not deleted', () => answered(database.remove(ids)))

  function choose(id: string, isChosen: boolean): void {
    const next = new Set(chosen.value)
    if (isChosen) next.add(id)
    else next.delete(id)
    chosen.value = next
  }

  function chooseAll(of: readonly Head[]): void {
    chosen.value = new Set(of.map(head => head.id))
  }

  return {
    heads, failure, chosen, all, binned, refresh,
    attempt, create, createFrom, rename, duplicate, remove, takeBack, removeForGood, choose, chooseAll,
  }
}
