/**
 * What becomes of each part of the plan in a start: its driver binds, its bus is there for its program, or it stays
 * dark and why.
 */
import { drivenByProgram } from '../../facts/roles'
import { writeNeed } from '../../overlays/asks/write'
import type { Need } from '../../overlays/asks/needs'
import type { BusGroup, Facts, ResolvedPart } from '../../facts/types'
import { startFileOf } from '../../overlays/start-files'
import type { Edit } from '../../plan/edits'
import { editOf } from '../lint/edits'
import type { LintFinding } from '../lint/types'
import { parseBoot, type BootLine } from '../dialects/key-value'
import { dialectOf } from '../files'
import { mergedFile, rewriteEdit } from '../own/file'
import { isOff, type MergedFile } from '../own/merge'
import { stateOf } from '../own/state'
import { filtersOf } from '../scope/filters'
import type { StartedDevices } from './kernel'
import type { Loaded } from './load'
import type { DarkCause, PartOutcome } from './types'

/** All that the outcomes are read from. */
export interface OutcomeTask {
  facts: Facts
  needs: readonly Need[]
  lint: readonly LintFinding[]
  merged: MergedFile
  loaded: Loaded
  started: StartedDevices
  /** The base tree is none of this board's; then nothing that is laid on it says anything of the plan. */
  otherTree: OtherTree | null
}

export interface OtherTree { why: string, fix: NonNullable<PartOutcome['fix']> }

export function outcomesOf(task: OutcomeTask): PartOutcome[] {
  const { plan, board } = task.facts
  const lines = dialectOf(plan.boot, board) === 'key-value' ? parseBoot(plan.boot?.text ?? '', filtersOf(board)) : null
  return task.facts.parts.map(owner => outcomeOf(owner, task, lines))
}

/** `lines` are those of a key-value file, null in the other dialects. */
function outcomeOf(owner: ResolvedPart, task: OutcomeTask, lines: readonly BootLine[] | null): PartOutcome {
  const { facts, loaded, started } = task
  const { board, plan } = facts
  const common = { partId: owner.id, name: owner.name }
  const needs = task.needs.filter(need => need.partIds.includes(owner.id))
  const dark = (cause: DarkCause, why: string, fix?: PartOutcome['fix']): PartOutcome => ({
    ...common, state: 'dark', cause, why, ...(fix && { fix }),
  })
  if (!board) return dark('no-board', 'No board is chosen.')
  if (task.otherTree
    && (needs.length || owner.part.kernel)) return dark('other-tree', task.otherTree.why, task.otherTree.fix)
  const open = facts.terminals.filter(terminal =>
    terminal.owner === owner && terminal.signal && !terminal.signal.optional && !terminal.place)
  if (open.length) {
    return dark('unplaced',
      `${open.map(terminal => terminal.label).join(', ')} ${open.length === 1 ? 'has' : 'have'} no place yet.`)
  }
  if (plan.boot?.off?.includes(owner.id)) return dark('off', 'Its lines are switched off in the boot file.',
    switchOn(task, owner))
  const blocked = missingNeed(task, needs, lines)
  if (blocked) return dark('missing-line', blocked.why, blocked.fix)
  const failed = needs.find(need => need.need.kind === 'overlay' && loaded.failed.has(need.need.name))
  if (failed) return dark('overlay-failed',
    `The overlay ${failed.need.name} did not go on: ${loaded.failed.get(failed.need.name)}.`)
  for (const group of facts.groups.filter(entry => entry.owner === owner && entry.bus)) {
    const trouble = busTrouble(group, started)
    if (trouble) return dark('bus-off', trouble)
  }
  const own = new Set(facts.terminals.flatMap(terminal => terminal.owner === owner && terminal.place?.kind === 'header'
    && terminal.place.line
    ? terminal.place.line.line
    : []))
  const fight = started.collisions.find(collision =>
    collision.what === 'line' && own.has(Number(collision.where)) && !sharedBus(facts, owner, Number(collision.where)))
  if (fight) return dark('line-taken', fight.sentence, lintFix(task, owner, fight.where))
  const twin = twinOf(facts, owner)
  if (twin) {
    return dark(
      'address-twin', `${owner.name} and ${twin.name} answer at one address of one bus: whatever is read there is `
      + 'read from both.',
    )
  }
  const seat = started.collisions.find(collision => collision.what !== 'line' && mySeat(facts, owner, collision.where)
    // Loaded twice for one part, by two overlays: the first driver has it.
    && !started.nodes.get(collision.first)?.compatible.includes(owner.part.kernel?.compatible ?? ''))
  if (seat) return dark('seat-taken', seat.sentence, lintFix(task, owner, seat.where))
  const held = task.lint.find(entry => entry.code === 'serial.console' && entry.partIds.includes(owner.id))
  if (held) return dark('console', held.sentence, asFix(task, held))
  const wants = wantsOf(facts, owner, started)
  if (wants) return dark('driver-wants', `Its node is there, but ${wants}.`)
  if (!needs.length && !owner.part.kernel) {
    return { ...common, state: 'no-driver', why: owner.signals.length
      ? 'A program moves its lines itself; nothing has to be loaded.'
      : 'It needs nothing of the boot files.' }
  }
  const overlay = needs.find(need => need.need.kind === 'overlay' && !need.busId)
  const file = startFileOf(owner, facts)
  if (overlay) {
    const reads = file
      ? ` It reads its start commands from /lib/firmware/${file.name}, which the zip of these files holds: `
      + 'without it it ends.'
      : ''
    return { ...common, state: 'alive', why: `Its driver is loaded by ${writeNeed(overlay.need)}.${reads}` }
  }
  const bus = facts.groups.find(group => group.owner === owner && group.bus)?.bus
  return bus
    ? {
        ...common, state: 'alive',
        why: `${bus.label} is `
          + `on${bus.controller?.device ? `; its program opens ${bus.controller.device.replace('{select}', '0')}` : ''}.`,
      }
    : { ...common, state: 'no-driver', why: 'A program moves its lines itself; nothing has to be loaded.' }
}

/** A need of the part that the files do not meet, with the edit that meets it. */
function missingNeed(
  { facts, needs: all, merged, loaded }: OutcomeTask, needs: readonly Need[], lines: readonly BootLine[] | null,
): { why: string, fix: PartOutcome['fix'] }
  | null {
  const { plan } = facts
  for (const need of needs) {
    if (isOff(need, plan.boot?.off ?? [])) continue
    let state
    if (lines) state = stateOf(lines, need.need)
    else state = need.need.kind !== 'overlay' || loaded.on.some(entry => entry.name === need.need.name)
      ? { state: 'met' as const, line: 1 }
      : { state: 'absent' as const }
    if (state.state === 'met') continue
    const line = writeNeed(need.need)
    const hand = merged.byHand.find(entry => entry.wanted === line)
    const text = hand ? mergedFile(facts, all, [hand.line]).text : merged.text
    return {
      why: state.state === 'differs'
        ? `Line ${state.line} says ${state.found || 'on'}, where ${line} is needed.`
        : state.state === 'filtered'
          ? `Line ${state.line} has it, but the section [${state.filter}] hides it from this board.`
          : `The line ${line} is missing.`,
      fix: { label: hand
        ? 'Take the plan\'s line again'
        : merged.changes.length > 1
          ? `Write ${line} and the rest of the plan's lines`
          : `Write ${line}`, line, edits: [rewriteEdit(facts, text)] },
    }
  }
  return null
}

function switchOn({ facts, needs }: OutcomeTask, owner: ResolvedPart): PartOutcome['fix'] {
  const boot = facts.plan.boot!
  const off = boot.off!.filter(id => id !== owner.id)
  const { text } = mergedFile({ board: facts.board, plan: { ...facts.plan, boot: { ...boot, off } } }, needs)
  return { label: 'Switch its lines on', line: '', edits: [{ edit: 'set-boot', boot: { ...boot, off, text } }] }
}

/** Whether the bus of a group is on, and came up. */
function busTrouble({ bus, terminals }: BusGroup, { nodes, controllers }: StartedDevices): string | null {
  if (!bus?.controller || drivenByProgram(terminals, bus)) return null
  const id = bus.controller.id.replace(/\.\d+$/, '')
  const controller = controllers.find(entry => entry.labels.includes(id))
  if (!controller) return null
  const node = nodes.get(controller.path)
  // The first serial port of some boards is served by either of two circuits.
  const other = id === 'uart0' ? controllers.find(entry => entry.labels.includes('uart1')) : undefined
  if (!node && other && nodes.get(other.path)?.refused === null) return null
  if (!node) return bus.kind === 'pwm' ? null : `${bus.label} is off in the tree that the kernel gets.`
  return node.refused ? `${bus.label} does not start: ${node.refused}.` : null
}

/** Another part that answers at the address of this one, on the same bus. */
function twinOf(facts: Facts, owner: ResolvedPart): ResolvedPart | null {
  const mine = facts.devices.find(entry => entry.owner === owner && !entry.also)
  if (!mine?.busId || Number.isNaN(mine.address)) return null
  return facts.devices.find(
    entry => entry.owner !== owner && entry.busId === mine.busId && entry.address === mine.address && !entry.also,
  )?.owner ?? null
}

/** What the driver of a part's node wants and does not find. */
function wantsOf(facts: Facts, owner: ResolvedPart, { nodes, claims, controllers }: StartedDevices): string | null {
  const own = new Set(facts.terminals.flatMap(terminal => terminal.owner === owner && terminal.place?.kind === 'header'
    && terminal.place.line && terminal.signal && !/^(i2c|spi)\./.test(terminal.signal.role)
    ? terminal.place.line.line
    : []))
  const device = facts.devices.find(entry => entry.owner === owner && !entry.also)
  const bus = device && controllers.find(controller => controller.labels.includes(device.busId ?? ''))
  const paths = [
    ...claims.flatMap(claim => claim.line !== null && own.has(claim.line) ? claim.node : []),
    ...bus
      ? [...nodes.keys()].filter(path =>
          path.startsWith(`${bus.path}/`) && path.endsWith(`@${device.address.toString(16)}`))
      : [],
  ]
  return paths.map(path => nodes.get(path)?.wants).find(text => text) ?? null
}

/** A line that the part shares with others because its bus is shared. */
const sharedBus = (facts: Facts, owner: ResolvedPart, line: number) =>
  facts.groups.some(group => group.owner === owner && (group.kind === 'i2c' || group.kind === 'spi')
    && group.terminals.some(terminal =>
      terminal.place?.kind === 'header' && terminal.place.line?.line === line
      && terminal.signal!.role !== 'spi.select'))

function mySeat(facts: Facts, owner: ResolvedPart, where: string): boolean {
  const device = facts.devices.find(entry => entry.owner === owner)
  if (device?.busId && where === `${device.busId} 0x${device.address.toString(16)}`) return true
  const group = facts.groups.find(entry => entry.owner === owner && entry.kind === 'spi')
  return !!group?.bus?.route && group.terminals.some((terminal) => {
    if (terminal.signal!.role !== 'spi.select' || terminal.place?.kind !== 'header') return false
    const line = terminal.place.line?.line
    const select = Object.entries(group.bus!.route!.lines)
      .find(([signal, at]) => signal.startsWith('select') && at === line)?.[0]
    return select !== undefined && where === `${group.bus!.id}.${select.replace('select', '')}`
  })
}

const FIGHTS: ReadonlySet<string> = new Set([
  'overlay.line-twice', 'overlay.line-of-part', 'overlay.address-twice', 'overlay.fight', 'overlay.select-twice',
])

/** A fix of lint for the same trouble. */
function lintFix(task: OutcomeTask, owner: ResolvedPart, where: string): PartOutcome['fix'] {
  const finding = task.lint.find(entry => entry.fixes[0] && FIGHTS.has(entry.code)
    && (entry.partIds.includes(owner.id)
      || entry.figures.some(figure => String(figure.value) === where || where.endsWith(String(figure.value)))))
  return finding && asFix(task, finding)
}

function asFix({ facts }: OutcomeTask,
  { fixes: [fix] }: LintFinding): { label: string, line: string, edits: Edit[] } | undefined {
  return fix && { label: fix.label, line: '', edits: [editOf(facts.plan, fix)] }
}
