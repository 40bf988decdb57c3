import { isJoinNode } from '~~/core/plan/ids'
import type { Edit } from '~~/core/plan/edits'
import { freeNodeId } from '~~/core/plan/power-edits'
import type { PowerPlan } from '~~/core/plan/power'
import { KINDS } from '~~/core/netlist/supply/kinds'
import { consumerOf, mayFeed } from '~~/core/power/flow'

/** The supply's edits as the power stage gives them, and the lists it chooses from. */
export function usePower() {
  const project = useProjectStore()
  const view = useViewStore()
  const power = computed(() => project.report!.power)
  const items = computed(() => [...project.catalogue.powerItems.values()])
  const supplies = computed(() => [...project.catalogue.supplies.values()])
  const nameOf = (id: string) => power.value.nodes.find(node => node.id === id)?.name ?? id

  /** Items by what they are, for a list with headings. */
  const grouped = (kinds: (kind: string) => boolean) => {
    const groups = new Map<string, typeof items.value>()
    for (const item of items.value.filter(entry => kinds(entry.kind))) {
      const label = KINDS[item.kind].label
      groups.set(label, [...groups.get(label) ?? [], item])
    }
    return [...groups]
  }

  /** The same as entries of a list with headings. */
  const asItems = (groups: readonly (readonly [string, readonly { id: string, name: string }[]])[]) =>
    groups.flatMap(([label, list]) => [
      { type: 'subheader' as const, title: label, value: `heading ${label}` },
      ...list.map(({ id, name }) => ({ value: id, title: name })),
    ])

  /** Nodes that may feed a consumer. */
  const feedsFor = (consumer: string) =>
    power.value.nodes.filter(node =>
      node.role !== 'load' && !node.id.endsWith('@wire') && !isJoinNode(node.id)
      && mayFeed(power.value, consumer, node.id) === null)

  /** What feeds a consumer now, past its own wires. */
  const feedOf = (consumer: string): string | null => {
    const byId = new Map(power.value.nodes.map(node => [node.id, node]))
    const wire = byId.get(`${consumer}@wire`)
    return (wire ?? byId.get(consumer))?.from.find(id => !isJoinNode(id)) ?? null
  }

  function putIn(type: string, before: string): void {
    const entry = project.catalogue.powerItems.get(type)
    if (!entry) return
    const consumer = consumerOf(before)
    const id = freeNodeId(project.plan!.power, type)
    project.edit(
      { edit: 'add-node', node: { id, type, name: entry.name, from: feedOf(consumer) }, before: consumer },
      `Put ${entry.name} before ${nameOf(consumer)}`,
    )
    view.chooseNode(id)
  }

  /** A source or a load of the maker's own. */
  function add(type: string, from: string | null): void {
    const entry = project.catalogue.powerItems.get(type) ?? project.catalogue.supplies.get(type)
    if (!entry) return
    const id = freeNodeId(project.plan!.power, type)
    project.edit({ edit: 'add-node', node: { id, type, name: entry.name, ...from && { from } } }, `Add ${entry.name}`)
    view.chooseNode(id)
  }

  const setPower = (changes: Partial<PowerPlan>, label: string, joinKey?: string) => project.edit(
    { edit: 'set-power', power: changes }, label, joinKey,
  )
  const edit = (change: Edit, label: string, joinKey?: string) => project.edit(change, label, joinKey)
  return { power, items, supplies, nameOf, grouped, asItems, feedsFor, feedOf, putIn, add, setPower, edit }
}
