/** Joins a plan with the catalogue. Nothing here judges; the rules do. */
import { terminalNames } from '../plan/ids'
import type { Board, Catalogue, Condition, Part, Signal } from '../catalogue/types'
import { BOARD_KEY, measuredBoard, measuredPart } from './measured'
import type { Assignment, Plan, PlanPart, SoftwareBus } from '../plan/types'
import { gatherGroups, listBuses } from './buses'
import { heatFacts } from './heat'
import { isMet } from './conditions'
import { selectNumbersOf, selectPlansOf } from './selects'
import type { Bus, Facts, I2cDevice, Place, ResolvedPart, Terminal } from './types'

/** The shipped catalogue with the maker's own boards and parts, which win over shipped ones of the same id. */
export function catalogueOf(plan: Pick<Plan, 'own'>, shipped: Catalogue): Catalogue {
  const { boards, parts } = plan.own
  if (!boards.length && !parts.length) return shipped
  const added = <T extends { id: string }>(base: ReadonlyMap<string, T>, own: T[]) => new Map([
    ...base, ...own.map(entry => [entry.id, entry] as const),
  ])
  return { ...shipped, boards: added(shipped.boards, boards), parts: added(shipped.parts, parts) }
}

/** All that the rules and engines need of `plan`, in plan order. */
export function gatherFacts(plan: Plan, shipped: Catalogue): Facts {
  const catalogue = catalogueOf(plan, shipped)
  const board = measuredBoard(plan.board ? catalogue.boards.get(plan.board) ?? null : null,
    plan.build.measured[BOARD_KEY])
  const supply = plan.supply ? catalogue.supplies.get(plan.supply.type) ?? null : null
  const parts: ResolvedPart[] = []
  const unknownParts: PlanPart[] = []
  plan.parts.forEach((inPlan, index) => {
    const resolved = resolvePart(inPlan, index, catalogue, plan.limits, plan.build.measured[inPlan.id])
    if (resolved) parts.push(resolved)
    else unknownParts.push(inPlan)
  })
  const terminals = parts.flatMap(owner => terminalsOf(owner, plan, board, parts))
  const groups = gatherGroups(terminals, board, plan.softwareBuses.map(bus => softwareBus(bus)))
  const busOf = (owner: ResolvedPart) =>
    groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus?.id ?? null
  const atPosition = new Map<number, Terminal[]>()
  for (const terminal of terminals) {
    if (terminal.place?.kind !== 'header') continue
    const there = atPosition.get(terminal.place.position)
    if (there) there.push(terminal)
    else atPosition.set(terminal.place.position, [terminal])
  }
  const selectPlans = selectPlansOf({ groups, atPosition, board })
  return {
    plan, catalogue, board, supply,
    supplyMa: supply ? plan.limits['supply.currentMa']?.value ?? plan.supply?.currentMa ?? supply.currentMa : null,
    parts, unknownParts, terminals,
    byKey: new Map(terminals.map(terminal => [terminal.key, terminal])),
    atPosition, groups,
    buses: listBuses(groups),
    devices: parts.flatMap(owner => i2cDevice(owner, busOf(owner))),
    selectPlans, selectNumbers: selectNumbersOf({ groups, atPosition, board }, selectPlans),
    stack: stackOf(plan, parts), heat: heatFacts(plan.power.heat, board, parts),
  }
}

/**
 * The part with its options filled in and the terminals that those options leave; null when the catalogue has
 * no such type.
 */
export function resolvePart(
  inPlan: PlanPart, index: number, catalogue: Catalogue, limits: Plan['limits'] = {},
  sizes?: Plan['build']['measured'][string],
): ResolvedPart | null {
  const file = catalogue.parts.get(inPlan.type)
  if (!file) return null
  const part = measuredPart(file, sizes)
  const options = Object.fromEntries((part.options ?? []).map(option =>
    [option.id, inPlan.options?.[option.id] ?? option.default]))
  const active = <T extends { when?: Condition }>(entries: T[]) => entries.filter(entry => isMet(entry.when, options))
  return {
    id: inPlan.id, name: inPlan.name || part.name, index, inPlan, part, options,
    signals: shifted(active(part.signals).flatMap(signal => repeated(signal, options)), part, options)
      .map(signal => withOwnLimits(signal, inPlan.id, limits)),
    supplies: shifted(active(part.supplies), part, options), grounds: shifted(active(part.grounds), part, options),
  }
}

/** A signal's levels that the maker can replace, each under `part.signal.level` in the plan's limits. */
const SIGNAL_LIMITS = ['inputHighMinV', 'inputMaxV', 'outputHighV'] as const

function withOwnLimits(signal: Signal, partId: string, limits: Plan['limits']): Signal {
  const own = SIGNAL_LIMITS.flatMap((name) => {
    const limit = limits[`${partId}.${signal.id}.${name}`]
    return limit ? [[name, { value: limit.value, origin: limit.origin ?? 'yours' }] as const] : []
  })
  return own.length ? { ...signal, ...Object.fromEntries(own) } : signal
}

/** A signal that stands once for each unit of a count option: `row` → `row1`, `row2`, … */
function repeated(signal: Signal, options: Record<string, string>): Signal[] {
  if (!signal.repeat) return [signal]
  const count = Math.max(0, Math.min(64, Math.floor(Number(options[signal.repeat])) || 0))
  return Array.from({ length: count },
    (_, i) => ({ ...signal, id: `${signal.id}${i + 1}`, label: `${signal.label}${i + 1}` }))
}

/** An add-on board shifted along the header takes positions that many columns further on. */
function shifted<T extends { claimsPosition?: number }>(entries: T[], { seat }: Part,
  options: Record<string, string>): T[] {
  const columns = seat?.shiftOption ? Math.floor(Number(options[seat.shiftOption])) || 0 : 0
  return columns
    ? entries.map(entry =>
        entry.claimsPosition === undefined ? entry : { ...entry, claimsPosition: entry.claimsPosition + 2 * columns })
    : entries
}

/** The kernel numbers software buses as it is told; ours start here, above every controller. */
const FIRST_SOFTWARE_BUS = 10

function softwareBus({ id, sda, scl }: SoftwareBus): Bus {
  const n = Number(id.slice(id.lastIndexOf('-') + 1))
  return { id, kind: 'i2c', label: `Software I²C ${n}`, software: { sda, scl, number: FIRST_SOFTWARE_BUS + n } }
}

function stackOf(plan: Plan, parts: ResolvedPart[]): ResolvedPart[] {
  const boards = parts.filter(owner => owner.part.isAddOn)
  const rank = (owner: ResolvedPart) =>
    plan.stack.includes(owner.id) ? plan.stack.indexOf(owner.id) : plan.stack.length + owner.index
  return boards.sort((a, b) => rank(a) - rank(b))
}

function terminalsOf(owner: ResolvedPart, plan: Plan, board: Board | null, parts: ResolvedPart[]): Terminal[] {
  const make = (id: string, label: string, is: Terminal['is'], more: Partial<Terminal>): Terminal => {
    const key = `${owner.id}.${id}`
    // An add-on board lies where it lies, from the moment it is in the plan.
    const claim = (more.signal ?? more.supply ?? more.ground)?.claimsPosition
    let assignment
    if (claim !== undefined) assignment = { position: claim }
    else assignment = Object.hasOwn(plan.assignments, key) ? plan.assignments[key] : undefined
    return {
      key, owner, label, is, assignment, place: assignment ? findPlace(assignment, board, parts) : null,
      between: plan.between[key],
      ...more,
    }
  }
  return [
    ...owner.signals.map(signal => make(signal.id, signal.label, 'signal', { signal })),
    ...owner.supplies.filter(supply => supply.from === 'header')
      .map(supply => make(supply.id, supply.label, 'supply', { supply })),
    ...owner.grounds.map(ground => make(ground.id, ground.label, 'ground', { ground })),
  ]
}

function findPlace(assignment: Assignment, board: Board | null, parts: ResolvedPart[]): Place | null {
  if (assignment.position !== undefined) {
    const header = board?.header.find(entry => entry.position === assignment.position)
    if (!header) return { kind: 'nowhere', text: `position ${assignment.position}` }
    return { kind: 'header', position: header.position, header,
      line: board!.lines.find(line => line.line === header.line) }
  }
  if (assignment.terminal !== undefined) {
    const { partId, terminal } = terminalNames(assignment.terminal)
    const owner = parts.find(part => part.id === partId)
    const offer = owner?.part.offers?.find(entry => Object.values(entry.terminals).includes(terminal))
    if (!owner || !offer) return { kind: 'nowhere', text: assignment.terminal }
    return { kind: 'terminal', owner, offer, terminal: terminal! }
  }
  return null
}

function i2cDevice(owner: ResolvedPart, busId: string | null): I2cDevice[] {
  const i2c = owner.part.i2c
  if (!i2c || !isMet(i2c.when, owner.options)) return []
  const text = i2c.addressOption ? owner.options[i2c.addressOption] : i2c.address
  return [
    { owner, address: Number(text), optionId: i2c.addressOption, busId },
    ...(i2c.also ?? []).map(entry => ({ owner, address: Number(entry.address), also: entry.what, busId })),
  ]
}
