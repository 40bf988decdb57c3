/**
 * Rehearses a start: the loader lays the files on the base tree, the kernel starts what is on, and each part of the
 * plan comes alive or stays dark, with the line that is missing. Nothing is run; it is worked out from trees.
 */
import type { Board } from '../../catalogue/types'
import { baseSource } from '../../devicetree/bases/base'
import { readBlob } from '../../devicetree/blob/read'
import { compileText } from '../../devicetree/source/compile'
import { DeviceTreeError, propertyOf, stringsOf, type DeviceTree } from '../../devicetree/types'
import type { Facts } from '../../facts/types'
import { overlaysForParts, treeOf } from '../../overlays/write'
import { needsOf } from '../../overlays/asks/needs'
import { overlayFileName } from '../../overlays/asks/write'
import { filesOf } from '../files'
import { lintBoot, planSide } from '../lint'
import { mergedFile } from '../own/file'
import type { BootFiles } from '../scope/effective'
import { bytesOf } from '../bytes'
import { loadFiles, type Loaded } from './load'
import { startDevices, type StartedDevices } from './kernel'
import { outcomesOf, type OtherTree } from './outcomes'
import { isMet } from '../../facts/conditions'
import type { DeviceNode, Rehearsal, BootStep } from './types'

/**
 * The base tree: the maker's own where there is one, else that of the board's class. Throws `DeviceTreeError` for a
 * blob that is none.
 */
export function baseOf(facts: Pick<Facts, 'plan' | 'board'>): DeviceTree {
  const own = facts.plan.boot?.base
  if (own) return readBlob(bytesOf(own.content))
  return baseFor(facts.board)
}

export const baseFor = (board: Board | null): DeviceTree => compileText(
  baseSource(board ?? EMPTY_BOARD), { symbols: true, file: 'base.dts' },
)

const EMPTY_BOARD = {
  id: 'no-board', name: 'No board chosen', header: [], lines: [], controllers: [], sockets: { usb: 0, video: 0 },
} as unknown as Board

/**
 * What a start comes to before any part is asked for: it depends on the files, the board and the overlays made, and on
 * nothing else of a plan.
 */
export interface Start {
  loaded: Loaded
  started: StartedDevices
}

/** Starts kept: a plan changes far more often than its files do. The oldest goes first. */
const kept = new Map<string, Start>()
const MAX_KEPT = 12

/**
 * Loads the files on the base tree and starts what is on. The same question is answered from memory. Throws
 * `DeviceTreeError` for a base that cannot be read.
 */
export function rehearsedStart(facts: Facts): Start {
  const files = filesOf(facts.plan, facts.board)
  const made = madeOverlays(facts, files)
  const key = JSON.stringify([
    files, facts.board?.id, facts.plan.own.boards.find(board => board.id === facts.plan.board), facts.plan.boot?.base,
    [...made],
  ])
  const before = kept.get(key)
  if (before) return before
  const loaded = loadFiles(files, facts.board, baseOf(facts), made)
  const start = { loaded, started: startDevices(loaded.tree, facts.board ? treeOf(facts.board).chips : undefined) }
  if (kept.size >= MAX_KEPT) kept.delete(kept.keys().next().value!)
  kept.set(key, start)
  return start
}

/** Sources of the overlays made for parts that the files load, by name. */
function madeOverlays(facts: Facts, files: BootFiles): Map<string, string> {
  if (!files.text.includes(overlayFileName(''))) return new Map()
  return new Map(overlaysForParts(facts)
    .flatMap(overlay => overlay.ok ? [[overlay.name, overlay.source] as const] : []))
}

/**
 * The whole story. `onStep` is told how far it is; throws `DeviceTreeError` when the maker's own base cannot be read.
 */
export function rehearse(facts: Facts, onStep: (done: number, of: number) => void = () => {}): Rehearsal {
  onStep(0, 3)
  const { loaded, started } = rehearsedStart(facts)
  onStep(1, 3)
  const needs = needsOf(facts)
  const lint = lintBoot({ files: filesOf(facts.plan, facts.board), board: facts.board, plan: planSide(facts, needs) })
  onStep(2, 3)
  const otherTree = otherTreeOf(facts)
  const parts = outcomesOf({ facts, needs, lint, merged: mergedFile(facts, needs), loaded, started, otherTree })
  onStep(3, 3)
  return {
    steps: [
      ...otherTree ? [{ outcome: 'failed' as const, title: 'The tree of another board', detail: otherTree.why }] : [],
      ...loaded.steps, ...kernelSteps(loaded, started),
    ], claims: started.claims, collisions: started.collisions,
    devices: [...appeared(loaded, started), ...plugged(facts)].sort((a, b) => a.path.localeCompare(b.path)), parts,
    tree: loaded.tree,
  }
}

/**
 * The maker's own base tree, when it is of another chip's family than the plan's board: told before anything else, as
 * nothing that is laid on it says anything of the plan. A tree that does not say what it is for is taken as it is.
 */
export function otherTreeOf({ plan, board }: Pick<Facts, 'plan' | 'board'>): OtherTree | null {
  const base = plan.boot?.base
  if (!base || !board) return null
  let tree
  try {
    tree = readBlob(bytesOf(base.content))
  }
  catch (error) {
    // A base that cannot be read has a finding of its own.
    if (error instanceof DeviceTreeError) return null
    throw error
  }
  const of = (name: string) => {
    const property = propertyOf(tree.root, name)
    return property ? stringsOf(property.value) : []
  }
  const compatible = of('compatible')
  const wanted = treeOf(board).compatible
  // Boards that ship are known by their chips' family, one of the maker's own by what its tree says.
  const same = (name: string) => name === wanted || (!board.tree && name.split(',')[0] === wanted.split(',')[0])
  if (!compatible.length || compatible.some(same)) return null
  const { base: _, ...boot } = plan.boot!
  return {
    why: `The base tree ${base.name} is that of ${of('model')[0] ?? 'another board'} (${compatible.join(', ')}), `
      + `not of ${board.name}: its lines and buses are others. Drop the tree of this board, or rehearse on the `
      + 'one of its class.',
    fix: { label: 'Rehearse on the tree of the board\'s class', line: '', edits: [{ edit: 'set-boot', boot }] },
  }
}

function kernelSteps({ effective }: Loaded, { nodes, collisions }: StartedDevices): BootStep[] {
  const up = [...nodes.values()].filter(node => node.refused === null).length
  const consoles = effective.words.filter(word => word.name === 'console').map(word => word.value)
  return [
    ...consoles.length
      ? [{
          outcome: 'note' as const, file: 'cmdline.txt', line: 1, title: `Console on ${consoles.join(' and ')}`,
          detail: 'Messages and a login go there; a serial port among them is held.',
        }]
      : [],
    ...collisions.map(({ sentence, where, what }) => ({ outcome: 'failed' as const, title: what === 'line'
      ? `Line ${where}`
      : where, detail: sentence })),
    {
      outcome: 'done', title: 'The kernel starts',
      detail: `${up} nodes of the tree have what they ask for${collisions.length ? `, ${nodes.size - up} do not` : ''}.`,
    },
  ]
}

/** What appears when the parts with a plug are plugged in: their drivers need no line of any file. */
const plugged = (facts: Facts): DeviceNode[] => facts.parts.flatMap((owner) => {
  const isPlugged = (owner.part.plugs ?? []).some(plug =>
    (plug.socket === 'usb' || plug.socket === 'display') && isMet(plug.when, owner.options))
  return isPlugged
    ? (owner.part.nodes ?? [])
        .filter(node => isMet(node.when, owner.options))
        .map(node => ({ path: node.path, what: `${node.what}, when ${owner.name} is plugged in`, node: 'plug' }))
    : []
})

/** Nodes by their drivers, and what the library says of overlays that went on and whose nodes started. */
function appeared({ on }: Loaded, { devices, collisions }: StartedDevices): Rehearsal['devices'] {
  const found = [...devices]
  if (!collisions.length) {
    for (const { name,
      appears } of on) for (const { path, what } of appears) if (!found.some(entry => entry.path === path)) {
      found.push({ path, what, node: `overlay ${name}` })
    }
  }
  return found
}
