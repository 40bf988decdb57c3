import { readFileSync, writeFileSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { parseArgs } from 'node:util'
import { readBlob } from '../core/devicetree/blob/read'
import { writeBlob } from '../core/devicetree/blob/write'
import { applyOverlay } from '../core/devicetree/overlay/apply'
import { compileText } from '../core/devicetree/source/compile'
import { printSource } from '../core/devicetree/source/print'
import { DeviceTreeError, type DeviceTree } from '../core/devicetree/types'
import { UnusableInput } from './input'

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

const blobOf = (file: string): DeviceTree => working(file, () => readBlob(read(file)))

/** Device tree work: compile, decompile, apply. 1 when an overlay does not go onto the base, 2 for files that cannot be used. */
export function dt(args: string[]): number {
  let parsed
  try {
    parsed = parseArgs({ args, allowPositionals: true, options: { output: { type: 'string', short: 'o' }, symbols: { type: 'boolean', short: '@' } } })
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
      const beside = (name: string) => {
        try {
          return readFileSync(join(dirname(file), name), 'utf8')
        }
        catch {
          // A file that is not there is told by the parser, with the line that wants it.
          return null
        }
      }
      put(working(file, () => writeBlob(compileText(read(file).toString('utf8'), { symbols: symbols === true, file: basename(file), files: { read: beside } }))))
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
    default:
      throw new UnusableInput(`voltaris dt: ${verb ? `there is no "${verb}"` : 'say what to do'}: compile, decompile or apply.`)
  }
}
