/** The loader's part of a start: parameters set and overlays laid on the base, in the order of the files. */
import type { Board } from '../../catalogue/types'
import { readBlob } from '../../devicetree/blob/read'
import { applyOverlay } from '../../devicetree/overlay/apply'
import { parametersOf, setParameter } from '../../devicetree/overlay/params'
import { compileText } from '../../devicetree/source/compile'
import {
  DeviceTreeError, childOf, nodeAt, propertyOf, setProperty, stringBytes, stringsOf, type DeviceTree, type TreeNode,
} from '../../devicetree/types'
import { appearsOf, isOn, listedName, overlayNamed, resolveOverlay, SETTING_SPECS,
  sourceOf } from '../../overlays/library'
import { bytesOf } from '../bytes'
import type { Appears } from '../../overlays/library/types'
import { nearest } from '../lint/near'
import { effectiveOf, type Asked, type BootFiles, type Effective } from '../scope/effective'
import type { OwnOverlay } from '../scope/ownership'
import type { BootStep } from './types'

export interface Loaded {
  tree: DeviceTree
  steps: BootStep[]
  effective: Effective
  /** Overlays that went on, by name, each with what the library says appears. */
  on: { name: string, appears: Appears[] }[]
  /** Overlays that were asked for and did not go on, with the reason. */
  failed: Map<string, string>
}

/** Runs the files against a base tree. Faults of overlays are steps of the story, never thrown. */
export function loadFiles(files: BootFiles, board: Board | null, base: DeviceTree,
  made: ReadonlyMap<string, string>): Loaded {
  const effective = effectiveOf(files, board)
  const steps: BootStep[] = []
  const on: Loaded['on'] = []
  const failed = new Map<string, string>()
  let tree = copyOf(base)
  const known = new Set(parametersOf(tree))
  const own = new Map(files.overlays?.map(overlay => [overlay.name, overlay]))
  steps.push({
    outcome: 'done', title: 'Base tree',
    detail: `${modelOf(tree.root)}: `
      + `${childOf(tree.root, '__symbols__')
        ? `${childOf(tree.root, '__symbols__')!.properties.length} labels that overlays can name`
        : 'without labels, so that overlays can only go on by path'}.`,
  })
  for (const asked of effective.asked) {
    const at = { file: asked.where.file, line: asked.where.line }
    const told = tellSkipped(asked)
    if (told) {
      steps.push({ outcome: 'skipped', ...at, title: titleOf(asked), detail: told })
      continue
    }
    try {
      if (asked.kind === 'param') {
        if (!known.has(asked.name)) throw new DeviceTreeError('overlay', `the base has no parameter "${asked.name}"`)
        setParameter(tree, asked.name, asked.value)
        steps.push({ outcome: 'done', ...at, title: titleOf(asked), detail: 'Set in the base tree.' })
      }
      else if (asked.kind === 'overlay') {
        const { overlay, how } = overlayOf(asked, own, made, board)
        const copy = copyOf(overlay)
        if (how !== 'library') for (const param of asked.params) setParameter(copy, param.name, param.value)
        tree = applyOverlay(tree, copy)
        on.push({ name: asked.name,
          appears: how === 'library' ? appearsOf(resolveOverlay(overlayNamed(asked.name)!, asked.params)) : [] })
        steps.push({
          outcome: 'done', ...at, title: titleOf(asked),
          detail: `Laid `
            + `on${targets(copy.root)}.${how === 'library'
              ? ' As the library has it.'
              : how === 'made'
                ? ' Made for the part.'
                : ' Your own file.'}`,
        })
      }
      else if (asked.kind === 'setting') {
        const done = settingOnTree(tree, asked)
        if (done) steps.push({ outcome: 'done', ...at, title: titleOf(asked), detail: done })
        else if (files.dialect === 'key-value' && !SETTING_SPECS.has(asked.name)) {
          steps.push({
            outcome: 'note', ...at, title: titleOf(asked),
            detail: 'Not known to the library; the loader passes over keys it does not know.',
          })
        }
      }
      else steps.push({
        outcome: 'note', ...at, title: `include ${asked.name}`,
        detail: 'The file is not here; what it says is missing from this rehearsal.',
      })
    }
    catch (error) {
      if (!(error instanceof DeviceTreeError)) throw error
      if (asked.kind === 'overlay') failed.set(asked.name, error.message)
      steps.push({
        outcome: 'failed', ...at, title: titleOf(asked),
        detail: `${error.at.place ? error.message : upper(error.message)}. The loader goes on without it.`,
      })
    }
  }
  return { tree, steps, effective, on, failed }
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

function titleOf(asked: Asked): string {
  if (asked.kind === 'overlay') {
    return `Overlay `
      + `${asked.name}${asked.params.length
        ? ` (${asked.params.map(param => param.value ? `${param.name}=${param.value}` : param.name).join(', ')})`
        : ''}`
  }
  if (asked.kind === 'param') return `Parameter ${asked.name}${asked.value ? `=${asked.value}` : ''}`
  return asked.kind === 'setting' ? `${asked.name}=${asked.value}` : asked.name
}

function tellSkipped(asked: Asked): string | null {
  if (asked.applies === 'always') return null
  return asked.applies === 'never'
    ? 'A section above it does not let this board through.'
    : 'It depends on a condition that a rehearsal cannot know; it is left out.'
}

function overlayOf(
  asked: Extract<Asked, { kind: 'overlay' }>, own: ReadonlyMap<string, OwnOverlay>, made: ReadonlyMap<string, string>,
  board: Board
    | null,
): { overlay: DeviceTree, how: 'own' | 'made' | 'library' } {
  const mine = own.get(asked.name)
  if (mine) {
    return { overlay: mine.kind === 'source'
      ? compileText(mine.content, { symbols: true, file: `${mine.name}.dts` })
      : readBlob(bytesOf(mine.content)), how: 'own' }
  }
  const source = made.get(asked.name)
  if (source) return { overlay: compileText(source, { symbols: true }), how: 'made' }
  const spec = overlayNamed(asked.name)
  if (!spec) throw new DeviceTreeError('overlay',
    `the file ${asked.name}.dtbo is neither in the library nor among your files`)
  // A slip of the pen is none; what is only not known here may well be there.
  const unknown = asked.params.find(param => !spec.params.some(entry => entry.name === listedName(spec, param.name))
    && nearest(param.name, spec.params.map(entry => entry.name)))
  if (unknown) throw new DeviceTreeError('overlay', `there is no parameter "${unknown.name}"`)
  if (spec.choices && !resolveOverlay(spec, asked.params).chosen) {
    throw new DeviceTreeError('overlay',
      `it does not say which part: ${Object.keys(spec.choices).slice(0, 4).join(', ')} …`)
  }
  return { overlay: compileText(sourceOf(resolveOverlay(spec, asked.params), board), { symbols: true }),
    how: 'library' }
}

function targets(root: TreeNode): string {
  const labels = childOf(root, '__fixups__')?.properties.map(property => property.name) ?? []
  return labels.length ? ` (names ${labels.slice(0, 5).join(', ')}${labels.length > 5 ? ' …' : ''})` : ''
}

/** Settings that change the tree: the first serial port. */
function settingOnTree(tree: DeviceTree, asked: Extract<Asked, { kind: 'setting' }>): string | null {
  if (asked.name !== 'enable_uart') return null
  const alias = propertyOf(childOf(tree.root, 'aliases') ?? { name: '', properties: [], children: [] }, 'serial0')
  const node = alias && nodeAt(tree.root, stringsOf(alias.value)[0] ?? '')
  if (!node) return null
  setProperty(node, 'status', stringBytes(isOn(asked.value) ? 'okay' : 'disabled'))
  return `The first serial port is ${isOn(asked.value) ? 'on' : 'off'} (${node.name}).`
}

const modelOf = (root: TreeNode) =>
  stringsOf(propertyOf(root, 'model')?.value ?? stringBytes('a tree without a model'))[0]!

/** A copy whose values can be written into. */
export function copyOf(tree: DeviceTree): DeviceTree {
  const copy = ({ name, properties, children }: TreeNode): TreeNode => ({
    name, properties: properties.map(property => ({ name: property.name, value: property.value.slice() })),
    children: children.map(copy),
  })
  return { ...tree, root: copy(tree.root) }
}
