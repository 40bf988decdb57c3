/** Device trees: compile, decompile, apply, board, overlay. Blobs travel in base64. */
import Joi from 'joi'
import { bytesOf } from '../../core/boot/bytes'
import { readBlob } from '../../core/devicetree/blob/read'
import { writeBlob } from '../../core/devicetree/blob/write'
import { boardFromTree } from '../../core/devicetree/board/catalogue'
import { PADS } from '../../core/devicetree/board/pads'
import { positionsFromNames, readPositions } from '../../core/devicetree/board/positions'
import { profileOf } from '../../core/devicetree/board/profile'
import { applyOverlay } from '../../core/devicetree/overlay/apply'
import { compileText } from '../../core/devicetree/source/compile'
import { givenFiles } from '../../core/devicetree/source/files'
import { printSource } from '../../core/devicetree/source/print'
import type { Facts } from '../../core/facts/types'
import { overlayBlob, overlaysForParts } from '../../core/overlays/write'
import { bodyFrom, treeWork } from './bodies'
import { unusable } from './problem'

const blobField = Joi.string().base64()
const fromBase64 = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'base64'))
const toBase64 = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64')

interface ToCompile {
  source: string
  file?: string
  symbols?: boolean
  files?: Record<string, string>
  binaries?: Record<string, string>
}

const toCompile = Joi.object<ToCompile>({
  source: Joi.string().required(), file: Joi.string().max(300), symbols: Joi.boolean(),
  files: Joi.object().pattern(Joi.string(), Joi.string().allow('')),
  binaries: Joi.object().pattern(Joi.string(), Joi.string().base64()),
})

/**
 * `{ source, symbols?, files?, binaries? }` → `{ blob }` in base64. `files` are those that it includes, by name;
 * `binaries` those of `/incbin/`, in base64.
 */
export function compileJob(body: string) {
  const { source, file = 'source.dts', symbols = false, files = {}, binaries = {} } = bodyFrom(body, toCompile)
  const given = givenFiles(
    new Map(Object.entries(files)),
    new Map(Object.entries(binaries).map(([name, content]) => [name, bytesOf(content)])),
  )
  return { blob: toBase64(treeWork('source', () => writeBlob(compileText(source, { symbols, file, files: given })))) }
}

const toDecompile = Joi.object<{ blob: string }>({ blob: blobField.required() })

/** `{ blob }` in base64 → `{ source }`. */
export function decompileJob(body: string) {
  const { blob } = bodyFrom(body, toDecompile)
  return { source: treeWork('blob', () => printSource(readBlob(fromBase64(blob)), { labels: true })) }
}

const toApply = Joi.object<{ base: string, overlays: string[] }>({
  base: blobField.required(), overlays: Joi.array().items(blobField.required()).min(1).max(100).required(),
})

/** `{ base, overlays }` in base64 → `{ blob }`. 422 when one does not go on. */
export function applyJob(body: string) {
  const { base, overlays } = bodyFrom(body, toApply)
  let tree = treeWork('base', () => readBlob(fromBase64(base)))
  overlays.forEach((overlay,
    i) => tree = treeWork(`overlays.${i}`, () => applyOverlay(tree, readBlob(fromBase64(overlay)))))
  return { blob: toBase64(treeWork('base', () => writeBlob(tree))) }
}

const toBoard = Joi.object<{ blob: string, positions?: string, name?: string }>({
  blob: blobField.required(), positions: Joi.string().allow('').max(20_000), name: Joi.string().max(100),
})

/** `{ blob, positions? }` → `{ profile }`, and `{ board }` with a table of positions, one a line: `3 PA12`. */
export function boardJob(body: string) {
  const { blob, positions, name = '' } = bodyFrom(body, toBoard)
  const profile = treeWork('blob', () => profileOf(readBlob(fromBase64(blob)), { pads: PADS }))
  const { rows, problems } = positions === undefined
    ? { rows: positionsFromNames(profile), problems: [] }
    : readPositions(positions)
  if (problems.length) {
    throw unusable('positions', problems.map(({ line, message }) => ({ path: `positions, line ${line}`, message })))
  }
  return { profile, ...(rows.length > 1 && boardFromTree(profile, rows, { id: 'own-board', name })) }
}

/** Overlays made for the plan's parts: source and blob, or why there is none. */
export const overlayJob = (facts: Facts) => overlaysForParts(facts)
  .map(overlay => overlay.ok ? { ...overlay, blob: toBase64(overlayBlob(overlay.source)) } : overlay)
