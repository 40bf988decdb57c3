/** The Parts stage: what the catalogue offers, sifted, and how a part comes into the plan. */
import { useDebounceFn } from '@vueuse/core'
import { traitsOf, type Link, type Traits } from '~~/core/catalogue/traits'
import type { Part } from '~~/core/catalogue/types'
import { answersTo } from '~~/core/overlays/search'
import { freePartId } from '~~/core/plan/create'

export interface Offer { part: Part, traits: Traits }

/** Pointed at for so long, a part shows what it would take. */
const GHOST_MS = 60

export function useParts() {
  const project = useProjectStore()
  const view = useViewStore()
  const text = ref('')
  const group = ref<Part['group'] | null>(null)
  const link = ref<Link | null>(null)
  const rail = ref<string | null>(null)
  const max = ref<number | null>(null)
  const onlyFitting = ref(false)
  const onlyInDrawer = ref(false)
  const { free, hasStock } = useDrawer()

  const all = computed<Offer[]>(() =>
    [...project.catalogue.parts.values()].map(part => ({ part, traits: traitsOf(part) })))
  const groups = computed(() => [...new Set(all.value.map(({ part }) => part.group))].sort())
  const links = computed(() => [...new Set(all.value.flatMap(({ traits }) => traits.links))].sort())
  const rails = computed(() => [...new Set(all.value.flatMap(({ traits }) => traits.rails))].sort())
  const freeLines = computed(() =>
    project.report ? project.report.lines.available - project.report.lines.used : Infinity)
  const isSifted = computed(
    () => !!(text.value.trim() || group.value || link.value || rail.value || max.value !== null || onlyFitting.value
      || onlyInDrawer.value),
  )

  const offered = computed(() => all.value.filter(({ part, traits }) => (!group.value || part.group === group.value)
    && (!link.value || traits.links.includes(link.value)) && (!rail.value || traits.rails.includes(rail.value))
    && (max.value === null || (traits.price !== null && traits.price <= max.value))
    && (!onlyFitting.value || traits.ownLines <= freeLines.value) && (!onlyInDrawer.value || lies({ part, traits }))
    && answersTo(part, text.value)))
  /** What lies there is offered before what is bought. */
  const ownFirst = (list: Offer[]) => hasStock.value
    ? list.sort((a, b) => Number(lies(b)) - Number(lies(a)))
    : list
  const lies = ({ part }: Offer) => (free.value.get(part.id) ?? 0) > 0
  const byGroup = computed(() => groups.value.map(name => ({ name, list: ownFirst(offered.value.filter(({ part }) =>
    part.group === name)) }))
    .filter(({ list }) => list.length))

  function clear() {
    text.value = ''
    group.value = link.value = rail.value = max.value = null
    onlyFitting.value = onlyInDrawer.value = false
  }

  const fresh = (part: Part) => {
    const id = freePartId(project.plan!, part.id)
    const n = project.plan!.parts.filter(other => other.type === part.id).length
    const short = part.name.split(',')[0]!
    return { id, type: part.id, name: n ? `${short} ${n + 1}` : short }
  }

  function add(part: Part) {
    const added = fresh(part)
    ghost(null)
    view.ghost = null
    project.edit({ edit: 'add-part', part: added }, `Add ${added.name}`)
    view.choosePart(added.id)
    view.say(`${added.name} is in the plan.`, { action: { label: 'Undo', run: project.undo } })
  }

  let pointed: Part | null = null
  const show = useDebounceFn(() => {
    const report = pointed && project.plan && project.preview({ edit: 'add-part', part: fresh(pointed) })
    view.ghost = report ? { label: pointed!.name, report } : null
  }, GHOST_MS)
  /** Shows on the strip what the part would take; null shows nothing. */
  function ghost(part: Part | null) {
    pointed = part
    void show()
  }

  return {
    text, group, link, rail, max, onlyFitting, onlyInDrawer, free, hasStock, groups, links, rails, freeLines, all,
    offered, byGroup,
    isSifted,
    clear, add, ghost,
  }
}
