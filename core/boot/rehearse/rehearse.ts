/**
 * Rehearses a start: the loader lays the files on the base tree, the kernel starts what is on, and each part of the plan comes alive or stays
 * dark, with the line that is missing. Nothing is run; it is worked out from trees.
 */
import type { Board } from '../../catalogue/types'
import { baseSource } from '../../devicetree/bases/base'
import { readBlob } from '../../devicetree/blob/read'
import { compileText } from '../../devicetree/source/compile'
import type { DeviceTree } from '../../devicetree/types'
import type { BusGroup, Facts, ResolvedPart } from '../../facts/types'
import { mergedFile } from '../../findings/bootfile'
import { bindingOf } from '../../overlays/bindings'
import { overlaysForParts } from '../../overlays/write'
import { needsOf, writeNeed, type Need } from '../needs'
import { filesOf, lintBoot, planSide } from '../lint'
import { applyChanges } from '../lint/types'
import { isOff } from '../own/merge'
import { parseBoot } from '../dialects/key-value'
import { stateOf } from '../own/state'
import { filtersOf } from '../scope/filters'
import { bytesOf, loadFiles, type Loaded } from './load'
import { startDevices, type Started } from './kernel'
import type { PartOutcome, Rehearsal, Step } from './types'

/** The base tree: the maker's own where there is one, else that of the board's class. Throws `DeviceTreeError` for a blob that is none. */
export function baseOf(facts: Pick<Facts, 'plan' | 'board'>): DeviceTree {
  const own = facts.plan.boot?.base
  if (own) return readBlob(bytesOf(own.content))
  return baseFor(facts.board)
}

export const baseFor = (board: Board | null): DeviceTree => compileText(baseSource(board ?? EMPTY_BOARD), { symbols: true, file: 'base.dts' })

const EMPTY_BOARD = { id: 'no-board', name: 'No board chosen', header: [], lines: [], controllers: [], sockets: { usb: 0, video: 0 } } as unknown as Board

/** The whole story. `onStep` is told how far it is; throws `DeviceTreeError` when the maker's own base cannot be read. */
export function rehearse(facts: Facts, onStep: (done: number, of: number) => void = () => {}): Rehearsal {
  const files = filesOf(facts.plan)
  onStep(0, 4)
  const made = new Map(overlaysForParts(facts).flatMap(overlay => overlay.ok ? [[overlay.name, overlay.source] as const] : []))
  onStep(1, 4)
  const loaded = loadFiles(files, facts.board, baseOf(facts), made)
  onStep(2, 4)
  const started = startDevices(loaded.tree)
  onStep(3, 4)
  const parts = facts.parts.map(owner => outcomeOf(owner, facts, loaded, started))
  onStep(4, 4)
  return { steps: [...loaded.steps, ...kernelSteps(loaded, started)], claims: started.claims, collisions: started.collisions, devices: appeared(loaded, started), parts, tree: loaded.tree }
}

function kernelSteps({ effective }: Loaded, { nodes, collisions }: Started): Step[] {
  const up = [...nodes.values()].filter(node => node.refused === null).length
  const consoles = effective.words.filter(word => word.name === 'console').map(word => word.value)
  return [
    ...consoles.length ? [{ outcome: 'note' as const, file: 'cmdline.txt', line: 1, title: `Console on ${consoles.join(' and ')}`, detail: 'Messages and a login go there; a serial port among them is held.' }] : [],
    ...collisions.map(({ sentence, where, what }) => ({ outcome: 'failed' as const, title: what === 'line' ? `Line ${where}` : where, detail: sentence })),
    { outcome: 'done', title: 'The kernel starts', detail: `${up} nodes of the tree have what they ask for${collisions.length ? `, ${nodes.size - up} do not` : ''}.` },
  ]
}

/** Nodes by their drivers, and what the library says of overlays that went on and whose nodes started. */
function appeared({ on }: Loaded, { devices, collisions }: Started): Rehearsal['devices'] {
  const found = [...devices]
  if (!collisions.length) for (const { name, appears } of on) for (const { path, what } of appears) if (!found.some(entry => entry.path === path)) found.push({ path, what, node: `overlay ${name}` })
  return found.sort((a, b) => a.path.localeCompare(b.path))
}

/** What the kernel binds of one part, and what stands in its way. */
function outcomeOf(owner: ResolvedPart, facts: Facts, loaded: Loaded, started: Started): PartOutcome {
  const { board, plan } = facts
  const common = { partId: owner.id, name: owner.name }
  const needs = needsOf(facts).filter(need => need.partIds.includes(owner.id))
  const dark = (why: string, fix?: PartOutcome['fix']): PartOutcome => ({ ...common, state: 'dark', why, ...(fix && { fix }) })
  if (!board) return dark('No board is chosen.')
  const open = facts.terminals.filter(terminal => terminal.owner === owner && terminal.signal && !terminal.signal.optional && !terminal.place)
  if (open.length) return dark(`${open.map(terminal => terminal.label).join(', ')} ${open.length === 1 ? 'has' : 'have'} no place yet.`)
  if (plan.boot?.off?.includes(owner.id)) return dark('Its lines are switched off in the boot file.', switchOn(facts, owner))
  const blocked = missingNeed(facts, needs, loaded)
  if (blocked) return dark(blocked.why, blocked.fix)
  const failed = needs.find(need => need.need.kind === 'overlay' && loaded.failed.has(need.need.name))
  if (failed) return dark(`The overlay ${failed.need.name} did not go on: ${loaded.failed.get(failed.need.name)}.`)
  for (const group of facts.groups.filter(entry => entry.owner === owner && entry.bus)) {
    const trouble = busTrouble(group, started)
    if (trouble) return dark(trouble)
  }
  const lines = new Set(facts.terminals.flatMap(terminal => terminal.owner === owner && terminal.place?.kind === 'header' && terminal.place.line ? terminal.place.line.line : []))
  const fight = started.collisions.find(collision => collision.what === 'line' && lines.has(Number(collision.where)) && !sharedBus(facts, owner, Number(collision.where)))
  if (fight) return dark(fight.sentence, lintFix(facts, owner, fight.where))
  const seat = started.collisions.find(collision => collision.what !== 'line' && mySeat(facts, owner, collision.where))
  if (seat) return dark(seat.sentence, lintFix(facts, owner, seat.where))
  const held = consoleOn(facts, owner)
  if (held) return held
  if (!needs.length && !bindingOf(owner)) return { ...common, state: 'no-driver', why: owner.signals.length ? 'A program moves its lines itself; nothing has to be loaded.' : 'It needs nothing of the boot files.' }
  const overlay = needs.find(need => need.need.kind === 'overlay' && !need.busId)
  if (overlay) return { ...common, state: 'alive', why: `Its driver is loaded by ${writeNeed(overlay.need)}.` }
  const bus = facts.groups.find(group => group.owner === owner && group.bus)?.bus
  return bus ? { ...common, state: 'alive', why: `${bus.label} is on${bus.controller?.device ? `; its program opens ${bus.controller.device.replace('{select}', '0')}` : ''}.` } : { ...common, state: 'no-driver', why: 'A program moves its lines itself; nothing has to be loaded.' }
}

/** A need of the part that the files do not meet, with the edit that meets it. */
function missingNeed(facts: Facts, needs: readonly Need[], loaded: Loaded): { why: string, fix: PartOutcome['fix'] } | null {
  const { plan, board } = facts
  const dialect = plan.boot?.dialect ?? board?.bootDialect ?? 'key-value'
  const lines = parseBoot(plan.boot?.text ?? '', filtersOf(board))
  for (const need of needs) {
    if (isOff(need, plan.boot?.off ?? [])) continue
    const state = dialect === 'key-value' ? stateOf(lines, need.need) : need.need.kind !== 'overlay' || loaded.on.some(entry => entry.name === need.need.name) ? { state: 'met' as const, line: 1 } : { state: 'absent' as const }
    if (state.state === 'met') continue
    const line = writeNeed(need.need)
    const allNeeds = needsOf(facts)
    const plain = mergedFile(facts, allNeeds)
    const hand = plain.byHand.find(entry => entry.wanted === line)
    const text = hand ? mergedFile(facts, allNeeds, [hand.line]).text : plain.text
    return {
      why: state.state === 'differs' ? `Line ${state.line} says ${state.found || 'on'}, where ${line} is needed.` : state.state === 'filtered' ? `Line ${state.line} has it, but the section [${state.filter}] hides it from this board.` : `The line ${line} is missing.`,
      fix: { label: hand ? 'Take the plan\'s line again' : plain.changes.length > 1 ? `Write ${line} and the rest of the plan's lines` : `Write ${line}`, line, edits: [{ edit: 'set-boot', boot: { ...plan.boot, text } }] },
    }
  }
  return null
}

function switchOn(facts: Facts, owner: ResolvedPart): PartOutcome['fix'] {
  const boot = facts.plan.boot!
  const off = boot.off!.filter(id => id !== owner.id)
  const text = mergedFile({ board: facts.board, plan: { ...facts.plan, boot: { ...boot, off } } }, needsOf(facts)).text
  return { label: 'Switch its lines on', line: '', edits: [{ edit: 'set-boot', boot: { ...boot, off, text } }] }
}

/** Whether the bus of a group is on, and came up. */
function busTrouble({ bus }: BusGroup, { nodes, controllers }: Started): string | null {
  if (!bus?.controller) return null
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

/** A line that the part shares with others because its bus is shared. */
const sharedBus = (facts: Facts, owner: ResolvedPart, line: number) => facts.groups.some(group => group.owner === owner && (group.kind === 'i2c' || group.kind === 'spi') && group.terminals.some(terminal => terminal.place?.kind === 'header' && terminal.place.line?.line === line && terminal.signal!.role !== 'spi.select'))

function mySeat(facts: Facts, owner: ResolvedPart, where: string): boolean {
  const device = facts.devices.find(entry => entry.owner === owner)
  return !!device?.busId && where === `${device.busId} 0x${device.address.toString(16)}`
}

/** A fix of lint for the same trouble, as an edit of the plan. */
function lintFix(facts: Facts, owner: ResolvedPart, where: string): PartOutcome['fix'] {
  const files = filesOf(facts.plan)
  const finding = lintBoot({ files, board: facts.board, plan: planSide(facts) }).find(entry => entry.fixes[0]?.file === '' && (entry.code === 'overlay.line-twice' || entry.code === 'overlay.line-of-part' || entry.code === 'overlay.address-twice' || entry.code === 'overlay.fight') && (entry.partIds.includes(owner.id) || entry.figures.some(figure => String(figure.value) === where || where.endsWith(String(figure.value)))))
  const fix = finding?.fixes[0]
  return fix ? { label: fix.label, line: '', edits: [{ edit: 'set-boot', boot: { ...facts.plan.boot!, text: applyChanges(files.text, fix.changes) } }] } : undefined
}

function consoleOn(facts: Facts, owner: ResolvedPart): PartOutcome | null {
  const files = filesOf(facts.plan)
  const finding = lintBoot({ files, board: facts.board, plan: planSide(facts) }).find(entry => entry.code === 'serial.console' && entry.partIds.includes(owner.id))
  const fix = finding?.fixes[0]
  if (!finding || !fix) return null
  const boot = facts.plan.boot!
  const edited = fix.file === '' ? { ...boot, text: applyChanges(files.text, fix.changes) } : { ...boot, commandLine: applyChanges(files.commandLine ?? '', fix.changes) }
  return { partId: owner.id, name: owner.name, state: 'dark', why: finding.sentence, fix: { label: fix.label, line: '', edits: [{ edit: 'set-boot', boot: edited }] } }
}
