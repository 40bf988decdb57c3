/**
 * Named edits: the only way a plan changes. Each is a value; applying one gives a new plan and the edit that
 * takes it back.
 *
 * Laws: `apply(apply(p, e).plan, apply(p, e).inverse).plan` equals `p`; the plan handed in is never changed; an edit
 * that names something the plan does not have gives the plan back as it is.
 */
import type { Carries } from './wire-colours'
import type { Board, Part } from '../catalogue/types'
import type { Host } from './host-shape'
import { withoutPart } from './mentions'
import type { WireEnd } from './ends'
import { withTook } from './durations'
import { POWER_CHANGES, type PowerEdit } from './power-edits'
import { withText, type TextChange } from './text'
import type { Assignment, Between, BootFile, ContactLoad, HeldProgram, KeptCurve, LogEntry, Plan, PlanPart, Scan,
  SeenOutcome, SetAside,
  SoftwareBus } from './types'

interface WireDress { colour?: string, lengthM?: number, nearEnd?: WireEnd, farEnd?: WireEnd }

export type Edit
  = | { edit: 'rename', name: string }
    | { edit: 'write-notes', notes: string }
    | { edit: 'choose-board', board: string | null }
    | { edit: 'choose-supply', supply: Plan['supply'] }
    | { edit: 'add-part', part: PlanPart }
    | { edit: 'remove-part', id: string }
    | { edit: 'rename-part', id: string, name: string }
    | { edit: 'note-part', id: string, notes: string }
    | { edit: 'set-option', id: string, option: string, value: string }
    | { edit: 'set-loads', id: string, loads: ContactLoad[] }
    | { edit: 'assign', terminal: string, to: Assignment }
    | { edit: 'release', terminal: string }
    | { edit: 'fix', terminal: string, fixed: boolean }
    | { edit: 'place', assignments: Record<string, Assignment> }
    | { edit: 'set-between', terminal: string, between: Between | null }
    | { edit: 'reserve', position: number, reason?: string }
    | { edit: 'unreserve', position: number }
    | { edit: 'choose-circuit', controller: string, variant: string | null }
    | { edit: 'set-clock', bus: string, clockHz: number | null }
    | { edit: 'set-software-buses', buses: SoftwareBus[] }
    | { edit: 'set-stack', stack: string[] }
    | { edit: 'set-weight', weight: string, value: number | null }
    | { edit: 'keep-own-board', board: Board }
    | { edit: 'keep-own-part', part: Part }
    | { edit: 'drop-own', kind: 'boards' | 'parts', id: string }
    | { edit: 'set-limit', key: string, value: number | null }
    | { edit: 'set-boot', boot: BootFile | null }
  /**
   * Changes one of the plan's files: `''` the boot file, `cmdline.txt` the command line, any other name
   * an included file.
   */
    | { edit: 'edit-text', file: string, changes: TextChange[] }
  /** Done, or taken back; `seconds` is what it took, where somebody counted. */
    | { edit: 'wire-done', wire: string, done: boolean, seconds?: number }
  /** The colour of all wires that carry this and have none of their own; null for the usual one. */
    | { edit: 'colour-rule', carries: Carries, colour: string | null }
    | { edit: 'order-steps', order: string[] }
    | { edit: 'set-mount', mount: NonNullable<Plan['build']['mount']> | null }
    | { edit: 'set-spacers', on: boolean }
    | { edit: 'set-flat-cables', flat: Plan['build']['flat'] }
    | { edit: 'place-body', id: string, place: Plan['build']['places'][string] | null }
  /** Sizes measured at a thing; `null` takes the file's again. */
    | { edit: 'measure', id: string, sizes: Plan['build']['measured'][string] | null }
    | { edit: 'set-step-rules', rules: Plan['build']['rules'] }
    | { edit: 'dress-wire', terminal: string } & WireDress
    | { edit: 'keep-scan', scan: Scan }
    | { edit: 'drop-scan', id: string }
  /** What was seen at a probe; null takes it back. */
    | { edit: 'see', id: string, sighting: Omit<SeenOutcome, 'id'> | null }
    | { edit: 'keep-curve', curve: KeptCurve }
    | { edit: 'drop-curve', id: string }
    | { edit: 'keep-program', program: HeldProgram }
    | { edit: 'drop-program', id: string }
  /** Some fields of what the board is told; `undefined` takes one away. */
    | { edit: 'set-host', host: Partial<Host> }
    | { edit: 'log', entry: LogEntry }
    | { edit: 'unlog', id: string }
    | { edit: 'set-aside', entry: SetAside }
    | { edit: 'count-again', id: string }
    | PowerEdit
    | { edit: 'all', edits: Edit[] }
  /** Puts whole top-level fields back; what inverses are made of. `undefined` takes the field away. */
    | { edit: 'put-back', fields: Record<string, unknown> }

export interface Applied {
  plan: Plan
  inverse: Edit
}

/** Applies one edit. Pure; the inverse holds only the top-level fields that changed. */
export function applyEdit(plan: Plan, edit: Edit): Applied {
  const after = change(plan, edit)
  return { plan: after, inverse: { edit: 'put-back', fields: changedFields(after, plan) } }
}

/** Top-level fields of `to` that differ from those of `from`, by identity. */
function changedFields(from: Plan, to: Plan): Record<string, unknown> {
  const names = new Set([...Object.keys(from), ...Object.keys(to)])
  return Object.fromEntries([...names].filter(name => from[name] !== to[name]).map(name => [name, to[name]]))
}

type Of<Name extends Edit['edit']> = Extract<Edit, { edit: Name }>
type Changes = { [Name in Edit['edit']]: (plan: Plan, edit: Of<Name>) => Plan }

const without = <T>(record: Record<string, T>, drop: (key: string) => boolean) =>
  Object.fromEntries(Object.entries(record).filter(([key]) => !drop(key)))

/** The record with one entry set, or taken out when the value is null. */
const withEntry = <T>(record: Record<string, T>, key: string, value: T | null): Record<string, T> =>
  value === null ? without(record, other => other === key) : { ...record, [key]: value }

function editPart(plan: Plan, id: string, to: (part: PlanPart) => PlanPart): Plan {
  return plan.parts.some(part => part.id === id)
    ? { ...plan, parts: plan.parts.map(part => part.id === id ? to(part) : part) }
    : plan
}

const CHANGES: Changes = {
  ...POWER_CHANGES,
  'rename': (plan, { name }) => ({ ...plan, name }),
  'write-notes': (plan, { notes }) => ({ ...plan, notes }),
  'choose-board': (plan, { board }) => board === plan.board ? plan : withoutMeasuredHeat({ ...plan, board }),
  'choose-supply': (plan, { supply }) => ({ ...plan, supply }),
  'add-part': (plan,
    { part }) => plan.parts.some(other => other.id === part.id) ? plan : { ...plan, parts: [...plan.parts, part] },
  'remove-part': (plan, { id }) => withoutPart(plan, id),
  'rename-part': (plan, { id, name }) => editPart(plan, id, part => ({ ...part, name })),
  'note-part': (plan, { id, notes }) => editPart(plan, id, part => ({ ...part, notes })),
  'set-option': (plan,
    { id, option, value }) => editPart(plan, id, part => ({ ...part, options: { ...part.options, [option]: value } })),
  'set-loads': (plan, { id, loads }) => editPart(plan, id, part => ({ ...part, loads })),
  'assign': (plan, { terminal, to }) => ({ ...plan, assignments: { ...plan.assignments, [terminal]: to } }),
  'release': (plan, { terminal }) => plan.assignments[terminal]
    ? { ...plan, assignments: without(plan.assignments, key => key === terminal) }
    : plan,
  'fix': (plan, { terminal, fixed }) => {
    const now = plan.assignments[terminal]
    if (!now) return plan
    const { fixed: _, ...loose } = now
    return { ...plan, assignments: { ...plan.assignments, [terminal]: fixed ? { ...loose, fixed } : loose } }
  },
  'place': (plan, { assignments }) => ({ ...plan, assignments }),
  'set-between': (plan, { terminal, between }) => ({ ...plan, between: between
    ? { ...plan.between, [terminal]: between }
    : without(plan.between, key => key === terminal) }),
  'reserve': (plan, { position, reason }) => ({
    ...plan, reserved: [...plan.reserved.filter(entry => entry.position !== position),
      { position, ...(reason && { reason }) }],
  }),
  'unreserve': (plan,
    { position }) => ({ ...plan, reserved: plan.reserved.filter(entry => entry.position !== position) }),
  'set-limit': (plan, { key, value }) => ({ ...plan, limits: value === null
    ? without(plan.limits, k => k === key)
    : { ...plan.limits, [key]: { value, origin: 'yours' } } }),
  'choose-circuit': (plan,
    { controller, variant }) => ({ ...plan, controllers: withEntry(plan.controllers, controller, variant) }),
  'set-clock': (plan, { bus, clockHz }) => ({ ...plan, clocks: withEntry(plan.clocks, bus, clockHz) }),
  'set-software-buses': (plan, { buses }) => ({ ...plan, softwareBuses: buses }),
  'set-stack': (plan, { stack }) => ({ ...plan, stack }),
  'set-weight': (plan, { weight, value }) => ({ ...plan, weights: withEntry(plan.weights, weight, value) }),
  'keep-own-board': (plan, { board }) => ({
    ...plan, own: { ...plan.own, boards: [...plan.own.boards.filter(other => other.id !== board.id), board] },
  }),
  'keep-own-part': (plan, { part }) => ({
    ...plan, own: { ...plan.own, parts: [...plan.own.parts.filter(other => other.id !== part.id), part] },
  }),
  'drop-own': (plan,
    { kind, id }) => ({ ...plan, own: { ...plan.own, [kind]: plan.own[kind].filter(entry => entry.id !== id) } }),
  'set-boot': (plan, { boot }) => ({ ...plan, boot }),
  'edit-text': (plan, { file, changes }) => withText(plan, file, changes),
  'wire-done': (plan, { wire, done, seconds }) => {
    const others = plan.build.done.filter(key => key !== wire)
    const took = withEntry(plan.build.took, wire, done ? seconds ?? null : null)
    return { ...plan, build: withTook({ ...plan.build, done: done ? [...others, wire] : others }, took) }
  },
  'colour-rule': (plan, { carries, colour }) => ({
    ...plan, build: { ...plan.build, colours: withEntry(plan.build.colours, carries, colour) },
  }),
  'order-steps': (plan, { order }) => ({ ...plan, build: { ...plan.build, order } }),
  'set-mount': (plan, { mount }) => {
    const { mount: _, ...rest } = plan.build
    return { ...plan, build: mount ? { ...rest, mount } : rest }
  },
  'set-spacers': (plan, { on }) => {
    const { spacers: _, ...rest } = plan.build
    return { ...plan, build: on ? { ...rest, spacers: true } : rest }
  },
  'set-flat-cables': (plan, { flat }) => ({ ...plan, build: { ...plan.build, flat } }),
  'place-body': (plan,
    { id, place }) => ({ ...plan, build: { ...plan.build, places: withEntry(plan.build.places, id, place) } }),
  'measure': (plan, { id, sizes }) => ({ ...plan,
    build: { ...plan.build, measured: withEntry(plan.build.measured, id, sizes) } }),
  'set-step-rules': (plan, { rules }) => ({ ...plan, build: { ...plan.build, rules } }),
  'dress-wire': (plan, { terminal, colour, lengthM, nearEnd, farEnd }) => ({
    ...plan,
    build: {
      ...plan.build,
      wires: {
        ...plan.build.wires,
        [terminal]: {
          ...plan.build.wires[terminal], ...(colour !== undefined && { colour }),
          ...(lengthM !== undefined && { lengthM }),
          ...(nearEnd !== undefined && { nearEnd }), ...(farEnd !== undefined && { farEnd }),
        },
      },
    },
  }),
  'keep-scan': (plan, { scan }) => ({ ...plan, scans: [...plan.scans.filter(other => other.id !== scan.id), scan] }),
  'drop-scan': (plan, { id }) => ({ ...plan, scans: plan.scans.filter(scan => scan.id !== id) }),
  'see': (plan, { id, sighting }) => ({
    ...plan, seen: [...plan.seen.filter(other => other.id !== id), ...sighting ? [{ id, ...sighting }] : []],
  }),
  'keep-curve': (plan, { curve }) => ({ ...plan, curves: plan.curves.some(other => other.id === curve.id)
    ? plan.curves.map(other => other.id === curve.id ? curve : other)
    : [...plan.curves, curve] }),
  'drop-curve': (plan, { id }) => plan.curves.some(curve => curve.id === id)
    ? { ...plan, curves: plan.curves.filter(curve => curve.id !== id) }
    : plan,
  'keep-program': (plan, { program }) => ({ ...plan, programs: plan.programs.some(other => other.id === program.id)
    ? plan.programs.map(other => other.id === program.id ? program : other)
    : [...plan.programs, program] }),
  'drop-program': (plan, { id }) => plan.programs.some(program => program.id === id)
    ? { ...plan, programs: plan.programs.filter(program => program.id !== id) }
    : plan,
  'set-host': (plan, { host }) => ({
    ...plan, host: Object.fromEntries(Object.entries({ ...plan.host, ...host }).filter(([, value]) =>
      value !== undefined)) as unknown as Host,
  }),
  'log': (plan, { entry }) => ({ ...plan, log: [...plan.log.filter(other => other.id !== entry.id), entry] }),
  'unlog': (plan, { id }) => ({ ...plan, log: plan.log.filter(entry => entry.id !== id) }),
  'set-aside': (plan, { entry }) => ({ ...plan, aside: [...plan.aside.filter(other => other.id !== entry.id), entry] }),
  'count-again': (plan, { id }) => plan.aside.some(entry => entry.id === id)
    ? { ...plan, aside: plan.aside.filter(entry => entry.id !== id) }
    : plan,
  'all': (plan, { edits }) => edits.reduce((current, edit) => change(current, edit), plan),
  'put-back': (plan, { fields }) => {
    const after: Record<string, unknown> = { ...plan, ...fields }
    return Object.fromEntries(Object.entries(after)
      .filter(([name, value]) => value !== undefined || !(name in fields))) as unknown as Plan
  },
}

function change(plan: Plan, edit: Edit): Plan {
  const apply = CHANGES[edit.edit] as (plan: Plan, edit: Edit) => Plan
  return apply(plan, edit)
}

/** What a load test of one board gave is no figure of another. */
function withoutMeasuredHeat(plan: Plan): Plan {
  const { measured, ...heat } = plan.power.heat
  return measured === undefined ? plan : { ...plan, power: { ...plan.power, heat } }
}
