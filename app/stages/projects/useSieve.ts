/** Which projects of the list are shown, and in which order. */
import type { Head } from '~/database/projects'
import type { Glance } from './useGlances'

export type Order = 'changed' | 'name' | 'made' | 'parts' | 'stops'
/** What the checks say of a plan. */
export type Verdict = 'stops' | 'cautions' | 'clear'

export const ORDERS: { value: Order, title: string }[] = [
  { value: 'changed', title: 'Last changed first' }, { value: 'name', title: 'By name' },
  { value: 'made', title: 'Newest first' },
  { value: 'parts', title: 'Most parts first' }, { value: 'stops', title: 'Most stops first' },
]
export const VERDICTS: { value: Verdict, title: string }[] = [
  { value: 'stops', title: 'With stops' }, { value: 'cautions', title: 'With cautions, no stop' },
  { value: 'clear', title: 'Clear' },
]

/** Rows drawn at first, as many as a screen holds; more come with the end of the list. */
const FIRST_ROWS = 10
const MORE_ROWS = 30

const later = (a: string, b: string) => {
  if (a < b) return 1
  return a > b ? -1 : 0
}
const plain = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
const verdictOf = ({ stops, cautions }: Glance): Verdict => {
  if (stops) return 'stops'
  return cautions ? 'cautions' : 'clear'
}

export function useSieve(heads: Readonly<Ref<readonly Head[] | null>>) {
  const wanted = ref('')
  const order = ref<Order>('changed')
  /** Only those on one board. */
  const onBoard = ref<string | null>(null)
  const verdict = ref<Verdict | null>(null)
  const rows = ref(FIRST_ROWS)
  watch([wanted, order, onBoard, verdict], () => rows.value = FIRST_ROWS)

  const matching = computed(() => {
    const words = plain(wanted.value).split(/\s+/).filter(Boolean)
    return (heads.value ?? []).filter(head => !head.deletedAt && (!onBoard.value || head.board === onBoard.value)
      && words.every(word => plain(`${head.name} ${head.story} ${head.board ?? ''}`).includes(word)))
  })
  /** Every plan has to be checked before it can be sifted or ordered by what the checks say. */
  const needsAll = computed(() => verdict.value !== null || order.value === 'stops')
  const looked = computed(() => needsAll.value ? matching.value : shown.value)
  const { glanceAt, isLookedAt, run } = useGlances()

  const compare: Readonly<Record<Order, (a: Head, b: Head) => number>> = {
    changed: (a, b) => later(a.updatedAt, b.updatedAt),
    name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true, sensitivity: 'base' }),
    made: (a, b) => later(a.createdAt, b.createdAt),
    parts: (a, b) => b.parts - a.parts || later(a.updatedAt, b.updatedAt),
    stops: (a, b) => (glanceAt(b)?.stops ?? 0) - (glanceAt(a)?.stops ?? 0) || later(a.updatedAt, b.updatedAt),
  }
  // What the checks say is only asked for when it matters: the list would be made anew with every plan they come to.
  const found = computed(() => matching.value.filter((head) => {
    if (!verdict.value) return true
    const glance = glanceAt(head)
    return glance !== null && verdictOf(glance) === verdict.value
  }).sort(compare[order.value]))
  const shown = computed(() => found.value.slice(0, rows.value))
  /** Plans that the checks have not come to yet, where that matters. */
  const unchecked = computed(() =>
    needsAll.value ? matching.value.filter(head => !head.trouble && !isLookedAt(head)).length : 0)
  watch(looked, run, { immediate: true })

  return { wanted, order, onBoard, verdict, found, shown, unchecked, glanceAt,
    showMore: () => void (rows.value += MORE_ROWS) }
}
