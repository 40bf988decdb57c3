import { base64Of } from '~~/core/boot/bytes'
import { tellFile } from '~~/core/boot/dialects/tell'
import { overlayName } from '~~/core/boot/scope/effective'
import type { BootFile } from '~~/core/plan/types'
import { compileText } from '~~/core/devicetree/source/compile'
import { readBlob } from '~~/core/devicetree/blob/read'
import { writeBlob } from '~~/core/devicetree/blob/write'
import { DeviceTreeError } from '~~/core/devicetree/types'
import { overlaysForParts, overlayBlob } from '~~/core/overlays/write'
import { overlayFileName } from '~~/core/overlays/asks/write'

/** Larger files are none that a boot folder holds. */
const MOST_BYTES = 8 * 1024 * 1024
/** A plan keeps no more of one file. */
const MOST_TEXT = 1_000_000

interface Taken { next: Partial<BootFile>, said: string[], refused: string[] }

/**
 * Files that are dropped or chosen sort themselves: boot file, command line, included files, overlays, base tree, or all of them in a zip.
 */
export function useBootIntake() {
  const project = useProjectStore()
  const view = useViewStore()
  const { boot, replaceFiles } = useBoot()

  async function take(list: Iterable<File>): Promise<void> {
    const files: { name: string, bytes: Uint8Array }[] = []
    const taken: Taken = { next: {}, said: [], refused: [] }
    for (const file of list) {
      if (file.size > MOST_BYTES) {
        taken.refused.push(`${file.name} has ${(file.size / 1024 / 1024).toFixed(1)} MiB; a boot folder holds nothing of that size`)
        continue
      }
      const bytes = new Uint8Array(await file.arrayBuffer())
      if (bytes[0] === 0x50 && bytes[1] === 0x4B) await unpack(file.name, bytes, files, taken)
      else files.push({ name: file.name, bytes })
    }
    for (const file of files) sort(file, taken)
    if (Object.keys(taken.next).length) {
      replaceFiles(taken.next, `Read ${taken.said.length === 1 ? taken.said[0]!.split(':')[0] : `${taken.said.length} files`}`)
    }
    const refused = taken.refused.length ? ` Not read: ${taken.refused.join('; ')}.` : ''
    if (!taken.said.length && !taken.refused.length) return
    view.say(
      `${taken.said.length ? `${taken.said.join('; ')}.` : 'Nothing was read.'}${refused}`,
      {
        ...(taken.refused.length && { tone: 'stop' as const }), ...(taken.said.length && { action: { label: 'Undo', run: project.undo } }),
      },
    )
  }

  async function unpack(name: string, bytes: Uint8Array, files: { name: string, bytes: Uint8Array }[], { refused }: Taken): Promise<void> {
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
    if (bytes.length > MOST_TEXT && kind !== 'tree-blob') {
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
      case 'tree-source': return keepSource(base, decoded().text, taken)
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
    taken.said.push(`${name}: made for ${project.facts!.parts.find(part => overlayFileName(part.id) === name)?.name ?? 'a part'}`)
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

  function keepSource(base: string, text: string, taken: Taken): void {
    const name = base.replace(/\.dtso?$/, '').replace(/-overlay$/, '')
    reading(base, taken, () => {
      if (/\/plugin\//.test(text)) {
        const blob = writeBlob(compileText(text, { symbols: true, file: base }))
        // Beside its blob the source of the same overlay says the same.
        if (isMade(name, blob, taken)) return void taken.said.pop()
        addOverlay({ name, kind: 'source', content: text }, taken)
      }
      else keepBase(base, writeBlob(compileText(text, { symbols: true, file: base })), taken)
    })
  }

  function keepBase(base: string, bytes: Uint8Array, taken: Taken): void {
    reading(base, taken, () => {
      readBlob(bytes)
      if (bytes.length > 740_000) {
        return void taken.refused.push(`${base} has ${Math.round(bytes.length / 1000)} kB; a plan keeps base trees of up to 740`)
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

const includedNames = (text: string) => [...text.matchAll(/^\s*include\s+(\S+)/gm)].map(match => match[1]!)
