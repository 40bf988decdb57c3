/** Joins a plan with the catalogue. Nothing here judges; the rules do. */
import type { Board, Catalogue, Condition } from '../catalogue/types'
import type { Assignment, Plan, PlanPart } from '../plan/types'
import { gatherGroups, listBuses } from './buses'
import type { Facts, I2cDevice, Place, ResolvedPart, Terminal } from './types'

/** All that the rules and engines need of `plan`, in plan order. */
export function gatherFacts(plan: Plan, catalogue: Catalogue): Facts {
  const board = plan.board ? catalogue.boards.get(plan.board) ?? null : null
  const supply = plan.supply ? catalogue.supplies.get(plan.supply.type) ?? null : null
  const parts: ResolvedPart[] = []
  const unknownParts: PlanPart[] = []
  plan.parts.forEach((inPlan, index) => {
    const resolved = resolvePart(inPlan, index, catalogue)
    if (resolved) parts.push(resolved)
    else unknownParts.push(inPlan)
  })
  const terminals = parts.flatMap(owner => terminalsOf(owner, plan, board, parts))
  const groups = gatherGroups(terminals, board)
  const busOf = (owner: ResolvedPart) => groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus?.id ?? null
  const atPosition = new Map<number, Terminal[]>()
  for (const terminal of terminals) {
    if (terminal.place?.kind !== 'header') continue
    const there = atPosition.get(terminal.place.position)
    if (there) there.push(terminal)
    else atPosition.set(terminal.place.position, [terminal])
  }
  return {
    plan, catalogue, board, supply,
    supplyMa: supply ? plan.limits['supply.currentMa']?.value ?? plan.supply?.currentMa ?? supply.currentMa : null,
    parts, unknownParts, terminals,
    byKey: new Map(terminals.map(terminal => [terminal.key, terminal])),
    atPosition, groups,
    buses: listBuses(groups),
    devices: parts.flatMap(owner => i2cDevice(owner, busOf(owner))),
  }
}

/** The part with its options filled in and the terminals that those options leave; null when the catalogue has no such type. */
export function resolvePart(inPlan: PlanPart, index: number, catalogue: Catalogue): ResolvedPart | null {
  const part = catalogue.parts.get(inPlan.type)
  if (!part) return null
  const options = Object.fromEntries((part.options ?? []).map(option => [option.id, inPlan.options?.[option.id] ?? option.default]))
  const active = <T extends { when?: Condition }>(entries: T[]) => entries.filter(entry => holds(entry.when, options))
  return {
    id: inPlan.id, name: inPlan.name || part.name, index, inPlan, part, options,
    signals: active(part.signals), supplies: active(part.supplies), grounds: active(part.grounds),
  }
}

/** True when every option named in the condition has the value it asks for. */
export function holds(when: Condition | undefined, options: Record<string, string>): boolean {
  return Object.entries(when ?? {}).every(([id, value]) => options[id] === value)
}

function terminalsOf(owner: ResolvedPart, plan: Plan, board: Board | null, parts: ResolvedPart[]): Terminal[] {
  const make = (id: string, label: string, is: Terminal['is'], more: Partial<Terminal>): Terminal => {
    const key = `${owner.id}.${id}`
    // An add-on board lies where it lies, from the moment it is in the plan.
    const claim = (more.signal ?? more.supply ?? more.ground)?.claimsPosition
    const assignment = claim !== undefined ? { position: claim } : Object.hasOwn(plan.assignments, key) ? plan.assignments[key] : undefined
    return { key, owner, label, is, assignment, place: assignment ? findPlace(assignment, board, parts) : null, between: plan.between[key], ...more }
  }
  return [
    ...owner.signals.map(signal => make(signal.id, signal.label, 'signal', { signal })),
    ...owner.supplies.filter(supply => supply.from === 'header').map(supply => make(supply.id, supply.label, 'supply', { supply })),
    ...owner.grounds.map(ground => make(ground.id, ground.label, 'ground', { ground })),
  ]
}

function findPlace(assignment: Assignment, board: Board | null, parts: ResolvedPart[]): Place | null {
  if (assignment.position !== undefined) {
    const header = board?.header.find(entry => entry.position === assignment.position)
    if (!header) return { kind: 'nowhere', text: `position ${assignment.position}` }
    return { kind: 'header', position: header.position, header, line: board!.lines.find(line => line.line === header.line) }
  }
  if (assignment.terminal !== undefined) {
    const [partId, terminal] = assignment.terminal.split('.')
    const owner = parts.find(part => part.id === partId)
    const offer = owner?.part.offers?.find(entry => Object.values(entry.terminals).includes(terminal ?? ''))
    if (!owner || !offer) return { kind: 'nowhere', text: assignment.terminal }
    return { kind: 'terminal', owner, offer, terminal: terminal! }
  }
  return null
}

function i2cDevice(owner: ResolvedPart, busId: string | null): I2cDevice[] {
  const i2c = owner.part.i2c
  if (!i2c || !holds(i2c.when, owner.options)) return []
  const text = i2c.addressOption ? owner.options[i2c.addressOption] : i2c.address
  return [{ owner, address: Number(text), optionId: i2c.addressOption, busId }]
}
