import { PADS } from '../core/devicetree/board/pads'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parseArgs } from 'node:util'
import { readBlob } from '../core/devicetree/blob/read'
import { writeBlob } from '../core/devicetree/blob/write'
import { applyOverlay } from '../core/devicetree/overlay/apply'
import { compileText } from '../core/devicetree/source/compile'
import type { Files } from '../core/devicetree/source/types'
import { printSource } from '../core/devicetree/source/print'
import { DeviceTreeError, type DeviceTree } from '../core/devicetree/types'
import { boardFromTree } from '../core/devicetree/board/catalogue'
import { readPositions } from '../core/devicetree/board/positions'
import { profileOf, type BoardProfile } from '../core/devicetree/board/profile'
import { baseSource } from '../core/devicetree/bases/base'
import { overlayBlob, overlayForPart, overlaysForParts } from '../core/overlays/write'
import { gatherFacts } from '../core/facts/gather'
import { shippedCatalogue } from '../core/catalogue'
import { readPlanFile, UnusableInput } from './input'

const read = (file: string): Buffer => {
  try {
    return readFileSync(file === '-' ? 0 : file)
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${file} cannot be read: ${(error as Error).message}`)
  }
}

/** What cannot be worked on is unusable input, told with its file. */
function working<T>(file: string, work: () => T): T {
  try {
    return work()
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    throw new UnusableInput(error.at.place ? error.message : `${file}: ${error.message}`)
  }
}

/** Files beside the one that wants them, then in the folders given, in their order. */
function folders(given: readonly string[]): Files {
  const find = (name: string,
    from: string) => [dirname(from), ...given].map(folder => join(folder, name)).find(path => existsSync(path))
  return {
    read: (name, from) => {
      const file = find(name, from)
      return file === undefined ? null : { text: read(file).toString('utf8'), file }
    },
    bytes: (name, from) => {
      const file = find(name, from)
      return file === undefined ? null : read(file)
    },
  }
}

const blobOf = (file: string): DeviceTree => working(file, () => readBlob(read(file)))

function profileInWords(profile: BoardProfile): string {
  const named = profile.lines.filter(line => line.name)
  return [
    `${profile.model || 'no model'} (${profile.compatible.join(', ')})`,
    profile.hasSymbols
      ? `${profile.labels.length} labels that overlays can name`
      : 'built without labels: overlays can only go on by path',
    `pin groups: ${profile.groups.length}${profile.bindings.length ? ` (${profile.bindings.join(', ')})` : ''}; `
    + `named lines: ${named.length}`,
    ...profile.controllers.map(({ kind, labels, path, status, groups, device }) =>
      `${kind.padEnd(8)} ${status.padEnd(8)} ${(labels[0] ?? '-').padEnd(16)} `
      + `${path}${device ? `  ${device}` : ''}${groups.length
        ? `  ${groups.flatMap(group => group.pins.map(pin => pin.name)).join(' ')}`
        : ''}`),
    '',
  ].join('\n')
}

/**
 * Device tree work: compile, decompile, apply, board, base, overlay. 1 when an overlay does not go onto the base, 2 for
 * files that cannot be used.
 */
export function dt(args: string[]): number {
  let parsed
  try {
    parsed = parseArgs({
      args, allowPositionals: true,
      options: {
        output: { type: 'string', short: 'o' }, symbols: { type: 'boolean', short: '@' }, positions: { type: 'string' },
        include: { type: 'string', short: 'I', multiple: true }, json: { type: 'boolean' }, part: { type: 'string' },
      },
    })
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${(error as Error).message}`)
  }
  const [verb, ...files] = parsed.positionals
  const { output, symbols } = parsed.values
  const put = (content: string | Uint8Array) => {
    if (output !== undefined) writeFileSync(output, content)
    else process.stdout.write(content)
  }
  const one = () => {
    const [file, ...more] = files
    if (!file || more.length) throw new UnusableInput(`voltaris dt ${verb}: give one file.`)
    return file
  }
  switch (verb) {
    case 'compile': {
      const file = one()
      put(working(
        file, () => writeBlob(compileText(
          read(file).toString('utf8'), { symbols: symbols === true, file, files: folders(parsed.values.include ?? []) },
        )),
      ))
      return 0
    }
    case 'decompile':
      put(printSource(blobOf(one()), { labels: true }))
      return 0
    case 'apply': {
      const [base, ...overlays] = files
      if (!base || !overlays.length) throw new UnusableInput('voltaris dt apply: give a base and one overlay or more.')
      let tree = blobOf(base)
      for (const file of overlays) {
        const overlay = blobOf(file)
        try {
          tree = applyOverlay(tree, overlay)
        }
        catch (error) {
          if (!(error instanceof DeviceTreeError) || error.fault !== 'overlay') throw error
          console.error(`${file}: ${error.message}`)
          return 1
        }
      }
      put(writeBlob(tree))
      return 0
    }
    case 'board': {
      const profile = profileOf(blobOf(one()), { pads: PADS })
      const { positions } = parsed.values
      if (positions !== undefined) {
        const { rows, problems } = readPositions(read(positions).toString('utf8'))
        if (problems.length) throw new UnusableInput(problems.map(problem =>
          `${positions}:${problem.line}: ${problem.message}`).join('\n'))
        if (rows.length < 2) throw new UnusableInput(`${positions}: name at least two positions, one a line: 3 PA12`)
        put(`${JSON.stringify(boardFromTree(profile, rows, { id: 'own-board', name: profile.model }).board, null, 2)}\n`)
        return 0
      }
      put(parsed.values.json || output !== undefined
        ? `${JSON.stringify(profile, null, 2)}\n`
        : profileInWords(profile))
      return 0
    }
    case 'base': {
      const id = one()
      const board = shippedCatalogue.boards.get(id)
      if (!board) {
        throw new UnusableInput(`voltaris dt base: there is no board "${id}". Boards: `
          + `${[...shippedCatalogue.boards.keys()].join(', ')}.`)
      }
      put(output?.endsWith('.dtb') ? writeBlob(compileText(baseSource(board), { symbols: true })) : baseSource(board))
      return 0
    }
    case 'overlay': {
      const facts = gatherFacts(readPlanFile(one()), shippedCatalogue)
      const { part } = parsed.values
      const owner = part === undefined ? null : facts.parts.find(entry => entry.id === part)
      if (part !== undefined && !owner) {
        throw new UnusableInput(
          `voltaris dt overlay: the plan has no part "${part}". Parts: `
          + `${facts.parts.map(entry => entry.id).join(', ')}.`,
        )
      }
      const overlays = owner ? [overlayForPart(facts, owner)] : overlaysForParts(facts)
      for (const overlay of overlays) {
        if (!overlay.ok) console.error(`${overlay.partId}: ${overlay.why}`)
        else if (output === undefined) process.stdout.write(overlay.source)
        else {
          mkdirSync(output, { recursive: true })
          writeFileSync(join(output, `${overlay.name}.dts`), overlay.source)
          writeFileSync(join(output, `${overlay.name}.dtbo`), overlayBlob(overlay.source))
        }
      }
      return overlays.every(overlay => overlay.ok) ? 0 : 1
    }
    default:
      throw new UnusableInput(
        `voltaris dt: ${verb ? `there is no "${verb}"` : 'say what to do'}: compile, decompile, apply, board, `
        + 'base or overlay.',
      )
  }
}
