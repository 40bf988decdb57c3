/**
 * What the maker owns, as it lies in the browser's database: kept in step with other tabs, and with what
 * other projects take.
 */
import { liveQuery, type Subscription } from 'dexie'
import { answered, inWords } from '~/database/failures'
import { newId } from '~/database/id'
import { takenTogether } from '~~/core/stock/needs'
import type { StockEntry } from '~~/core/stock/shape'

export const useStockStore = defineStore('stock', () => {
  const database = useDatabase()
  const view = useViewStore()
  /** Null until it was read. */
  const entries = shallowRef<readonly StockEntry[] | null>(null)
  const failure = ref<string | null>(null)
  /** By catalogue id, what all projects but those in the bin take; each project's own id beside its plan. */
  const plans = shallowRef<readonly { id: string, plan: Parameters<typeof takenTogether>[0][number] }[]>([])
  let watching: Subscription | null = null

  /** Reads it, and goes on following it. */
  function follow(): void {
    if (watching) return
    watching = liveQuery(async () => {
      const stock = await database.stock.toArray()
      // Nobody asks what plans take of an empty drawer: they are not read at every save then.
      const records = stock.length ? await database.projects.toArray() : []
      return { stock, plans: records.filter(({ deletedAt }) => !deletedAt).map(({ id, plan }) => ({ id, plan })) }
    }).subscribe({
      async next(read) {
        const { soundEntries } = await import('~~/core/stock/check')
        const { sound, damaged } = soundEntries(read.stock)
        entries.value = sound.sort((a, b) => a.what.localeCompare(b.what))
        plans.value = read.plans
        failure.value = damaged
          ? `${damaged} entries of the drawer are damaged and left out; they stay as they are.`
          : null
      },
      error(error) {
        watching = null
        failure.value = inWords(error)
      },
    })
  }

  /** What projects other than this one take. */
  const takenByOthers = (projectId: string
    | null) => takenTogether(plans.value.filter(({ id }) => id !== projectId).map(({ plan }) =>
    plan))

  /** Throws with what is wrong and where. */
  async function check(next: readonly StockEntry[]): Promise<void> {
    const { stockProblems } = await import('~~/core/stock/check')
    const [first] = stockProblems(next)
    if (first) throw new Error(`${first.path ? `${first.path} ` : ''}${first.message}`)
  }

  /** Keeps all of it as given, in one step; what goes wrong is told, and nothing is changed then. */
  async function replace(next: readonly StockEntry[], notDone: string): Promise<boolean> {
    try {
      await check(next)
      await answered(database.transaction('rw', database.stock, async () => {
        // Only what is known here can go: what another tab added or what is damaged stays.
        const ids = new Set(next.map(({ id }) => id))
        await database.stock.bulkDelete((entries.value ?? []).map(({ id }) => id).filter(id => !ids.has(id)))
        await database.stock.bulkPut(next.map(entry => ({ ...entry })))
      }))
      return true
    }
    catch (error) {
      view.say(`${notDone}: ${inWords(error)}`, { tone: 'stop' })
      return false
    }
  }

  async function put(entry: StockEntry): Promise<boolean> {
    try {
      await check([entry])
      await answered(database.stock.put({ ...entry }))
      return true
    }
    catch (error) {
      view.say(`Not kept: ${inWords(error)}`, { tone: 'stop' })
      return false
    }
  }

  const add = (entry: Omit<StockEntry, 'id'>) => put({ id: newId(), ...entry })

  async function remove(entry: StockEntry): Promise<void> {
    try {
      await answered(database.stock.delete(entry.id))
      view.say(`${entry.what} is taken out of the stock.`, { action: { label: 'Undo', run: () => void put(entry) } })
    }
    catch (error) {
      view.say(`Not taken out: ${inWords(error)}`, { tone: 'stop' })
    }
  }

  return { entries, failure, follow, takenByOthers, replace, put, add, remove }
})
