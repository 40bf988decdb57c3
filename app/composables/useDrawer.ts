import { createSharedComposable } from '@vueuse/core'
import { takenBy } from '~~/core/stock/needs'

/** What lies in the maker's drawer and no other project takes, by catalogue id: counted once for all who ask. */
export const useDrawer = createSharedComposable(() => {
  const project = useProjectStore()
  const stock = useStockStore()
  stock.follow()
  const free = computed(() => {
    const others = stock.takenByOthers(project.id)
    const counted = new Map<string, number>()
    for (const { type, count } of stock.entries
      ?? []) if (type !== undefined) counted.set(type, (counted.get(type) ?? 0) + count)
    return new Map([...counted].map(([type, count]) => [type, Math.max(0, count - (others.get(type) ?? 0))]))
  })
  /** What this project has not taken either. */
  const left = computed(() => {
    const own = project.plan ? takenBy(project.plan) : new Map<string, number>()
    return new Map([...free.value].map(([type, count]) => [type, Math.max(0, count - (own.get(type) ?? 0))]))
  })
  const hasStock = computed(() => (stock.entries?.length ?? 0) > 0)
  /** `2 in the drawer`; empty where none lies free. */
  const freeInWords = (id: string) => free.value.get(id) ? `${free.value.get(id)} in the drawer` : ''
  return { free, left, hasStock, freeInWords }
})
