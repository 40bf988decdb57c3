import { base64Of } from '~~/core/boot/bytes'
import { tellFile } from '~~/core/boot/dialects/tell'
import { overlayName } from '~~/core/boot/scope/effective'
import type { BootFile } from '~~/core/plan/types'
import { compileText } from '~~/core/devicetree/source/compile'
import { givenFiles } from '~~/core/devicetree/source/files'
import { NO_FILES } from '~~/core/devicetree/source/parse'
import type { Files } from '~~/core/devicetree/source/types'
import { readBlob } from '~~/core/devicetree/blob/read'
import { writeBlob } from '~~/core/devicetree/blob/write'
import { DeviceTreeError } from '~~/core/devicetree/types'
import { overlaysForParts, overlayBlob } from '~~/core/overlays/write'
import { overlayFileName } from '~~/core/overlays/asks/write'

/** Larger files are none that a boot folder holds. */
const MAX_BYTES = 8 * 1024 * 1024
/** A plan keeps no more of one file. */
const MAX_TEXT = 1_000_000

/** Pieces of a source that cannot stand alone, by their ending. */
const PIECE = /\.(?:dtsi|h|inc)$/i
const INCLUDES = /^\s*(?:#\s*include|\/include\/)\s*["<](?:[^">]*\/)?([^">/]+)[">]/gm

interface Taken {
  next: Partial<BootFile>
  said: string[]
  refused: string[]
  /** The other files that came with these, for sources that include them. */
  beside: Files
  /** Names of those that a source has included. */
  included: Set<string>
}

/**
 * Files that are dropped or chosen sort themselves: boot file, command line, included files, overlays, base tree, or
 * all of them in a zip.
 */
export function useBootIntake() {
  const project = useProjectStore()
  const view = useViewStore()
  const { boot, replaceFiles } = useBoot()

  async function take(list: Iterable<File>): Promise<void> {
    const files: { name: string, bytes: Uint8Array }[] = []
    const included = new Set<string>()
    const taken: Taken = { next: {}, said: [], refused: [], beside: NO_FILES, included }
    for (const file of list) {
      if (file.size > MAX_BYTES) {
        taken.refused.push(`${file.name} has ${(file.size / 1024 / 1024).toFixed(1)} MiB; a boot folder holds nothing `
          + 'of that size')
        continue
      }
      const bytes = new Uint8Array(await file.arrayBuffer())
      if (bytes[0] === 0x50 && bytes[1] === 0x4B) await unpack(file.name, bytes, files, taken)
      else files.push({ name: file.name, bytes })
    }
    taken.beside = besideOf(files, included)
    const wanted = new Set(files.flatMap(({ name, bytes }) => /\.(?:dtso?|dtsi|h|inc)$/i.test(name)
      ? [...new TextDecoder().decode(bytes).matchAll(INCLUDES)].map(match => match[1]!)
      : []))
    const isPiece = (name: string) => PIECE.test(name) || wanted.has(name.split('/').at(-1)!)
    for (const file of files) if (!isPiece(file.name)) sort(file, taken)
    for (const { name } of files) {
      if (isPiece(name) && !included.has(name)) taken.refused.push(`${name}: no source among these files includes it`)
    }
    if (Object.keys(taken.next).length) {
      replaceFiles(taken.next,
        `Read ${taken.said.length === 1 ? taken.said[0]!.split(':')[0] : `${taken.said.length} files`}`)
    }
    const refused = taken.refused.length ? ` Not read: ${taken.refused.join('; ')}.` : ''
    if (!taken.said.length && !taken.refused.length) return
    view.say(
      `${taken.said.length ? `${taken.said.join('; ')}.` : 'Nothing was read.'}${refused}`,
      {
        ...(taken.refused.length && { tone: 'stop' as const }),
        ...(taken.said.length && { action: { label: 'Undo', run: project.undo } }),
      },
    )
  }

  async function unpack(name: string, bytes: Uint8Array, files: { name: string, bytes: Uint8Array }[],
    { refused }: Taken): Promise<void> {
    try {
      const { unzip } = await import('~~/core/boot/bundle')
      files.push(...unzip(bytes).map(entry => ({ name: entry.path, bytes: entry.bytes })))
    }
    catch (error) {
      refused.push(`${name} is no zip that can be read: ${(error as Error).message}`)
    }
  }

  function sort({ name, bytes }: { name: string, bytes: Uint8Array }, taken: Taken): void {
    const base = name.split('/').at(-1)!
    const kind = tellFile(name, bytes)
    const { next, said, refused } = taken
    if (/^how-to/i.test(base)) return
    if (bytes.length > MAX_TEXT && kind !== 'tree-blob') {
      return void refused.push(`${base} has ${Math.round(bytes.length / 1000)} kB, more than such a file has`)
    }
    const decoded = () => decodeBoot(bytes)
    switch (kind) {
      case 'key-value': case 'extlinux': case 'environment': {
        const wanted = includedNames(boot.value?.text ?? next.text ?? '')
        if (next.text !== undefined && wanted.includes(base)) return keepInclude(base, decoded().text, taken)
        if (next.text !== undefined) return void refused.push(`${base}: there is a boot file among them already`)
        Object.assign(next, decoded(), { dialect: kind })
        return void said.push(`${base}: the boot file`)
      }
      case 'command-line':
        next.commandLine = decoded().text
        return void said.push(`${base}: the kernel command line`)
      case 'overlay-blob': return keepOverlay(base, bytes, taken)
      case 'tree-source': return keepSource(name, decoded().text, taken)
      case 'tree-blob': return keepBase(base, bytes, taken)
      case 'plan': return void refused.push(`${base} is a plan: open it from the list of projects`)
      default: {
        if (/\.txt$/i.test(base) || includedNames(next.text ?? boot.value?.text ?? '').includes(base)) {
          return keepInclude(base, decoded().text, taken)
        }
        refused.push(`${base} is neither a boot file, a command line, an overlay nor a tree`)
      }
    }
  }

  function keepInclude(name: string, text: string, { next, said }: Taken): void {
    next.includes = { ...boot.value?.includes, ...next.includes, [name]: text }
    said.push(`${name}: an included file`)
  }

  function addOverlay(entry: NonNullable<BootFile['overlays']>[number], { next, said }: Taken): void {
    const before = next.overlays ?? boot.value?.overlays ?? []
    next.overlays = [...before.filter(other => other.name !== entry.name), entry]
    said.push(`${entry.name}: an overlay of yours`)
  }

  /** An overlay that Voltaris made and nobody changed is made anew each time; a changed one is the maker's. */
  function isMade(name: string, bytes: Uint8Array, taken: Taken): boolean {
    const made = overlaysForParts(project.facts!).find(overlay => overlay.ok && overlay.name === name)
    if (!made?.ok) return false
    const own = overlayBlob(made.source)
    if (own.length !== bytes.length || own.some((byte, i) => byte !== bytes[i])) return false
    const before = taken.next.made ?? boot.value?.made ?? []
    if (!before.includes(made.partId)) taken.next.made = [...before, made.partId]
    taken.said.push(`${name}: made for `
      + `${project.facts!.parts.find(part => overlayFileName(part.id) === name)?.name ?? 'a part'}`)
    return true
  }

  function keepOverlay(base: string, bytes: Uint8Array, taken: Taken): void {
    const name = overlayName(base)
    if (isMade(name, bytes, taken)) return
    reading(base, taken, () => {
      readBlob(bytes)
      addOverlay({ name, kind: 'blob', content: base64Of(bytes) }, taken)
    })
  }

  function keepSource(file: string, text: string, taken: Taken): void {
    const base = file.split('/').at(-1)!
    const name = base.replace(/\.dtso?$/, '').replace(/-overlay$/, '')
    reading(base, taken, () => {
      const before = taken.included.size
      const blob = writeBlob(compileText(text, { symbols: true, file, files: taken.beside }))
      const pieces = taken.included.size - before
      if (!/\/plugin\//.test(text)) return keepBase(base, blob, taken)
      // Beside its blob the source of the same overlay says the same.
      if (isMade(name, blob, taken)) return void taken.said.pop()
      // What was put together from several files is kept as it came out: a plan has no place for its pieces.
      addOverlay(pieces ? { name, kind: 'blob', content: base64Of(blob) } : { name, kind: 'source', content: text },
        taken)
      if (pieces) taken.said.push(`${name}: compiled with ${pieces} ${pieces === 1 ? 'file' : 'files'} that it includes`)
    })
  }

  function keepBase(base: string, bytes: Uint8Array, taken: Taken): void {
    reading(base, taken, () => {
      readBlob(bytes)
      if (bytes.length > 740_000) {
        return void taken.refused.push(`${base} has ${Math.round(bytes.length / 1000)} kB; a plan keeps base trees of `
          + 'up to 740')
      }
      taken.next.base = { name: base, content: base64Of(bytes) }
      taken.said.push(`${base}: the base tree for rehearsing`)
    })
  }

  function reading(base: string, { refused }: Taken, work: () => void): void {
    try {
      work()
    }
    catch (error) {
      if (!(error instanceof DeviceTreeError)) throw error
      refused.push(`${base}: ${error.message}`)
    }
  }

  return { take }
}

/** The files of one drop, as a compiler finds them. */
function besideOf(files: readonly { name: string, bytes: Uint8Array }[], included: Set<string>): Files {
  const text = new TextDecoder()
  const given = givenFiles(
    new Map(files.filter(file => file.bytes.length <= MAX_TEXT).map(file => [file.name, text.decode(file.bytes)])),
    new Map(files.map(file => [file.name, file.bytes])),
  )
  return {
    read: (name, from) => {
      const found = given.read(name, from)
      if (found) included.add(found.file)
      return found
    },
    bytes: (name, from) => given.bytes!(name, from),
  }
}

const includedNames = (text: string) => [...text.matchAll(/^\s*include\s+(\S+)/gm)].map(match => match[1]!)
