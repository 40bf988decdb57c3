/**
 * Everything for the card in one zip: the boot file with the plan's lines, the command line, overlays as source and
 * blob, and how to use it.
 */
import { strFromU8, strToU8 } from 'fflate'
import type { Facts } from '../facts/types'
import { isMade } from '../overlays/asks/fit'
import { startFilesOf } from '../overlays/start-files'
import { overlayBlob, overlaysForParts } from '../overlays/write'
import { dialectOf } from './files'
import { mergedFile } from './own/file'
import { needsOf } from '../overlays/asks/needs'
import { bytesOf } from './bytes'
import { readZip, type BundledFile } from '../documents/zip'

export { zipOf, type BundledFile } from '../documents/zip'

const bytesFrom = (text: string, encoding: 'utf-8' | 'latin1' = 'utf-8') => encoding === 'latin1'
  ? Uint8Array.from(text, letter => letter.charCodeAt(0))
  : strToU8(text)

/** Name of the boot file: that of its path, or the usual one of its dialect. */
export function bootFileName(facts: Facts): string {
  const path = facts.plan.boot?.path ?? facts.board?.bootPath
  return path?.split('/').at(-1)
    || { 'key-value': 'config.txt', 'extlinux': 'extlinux.conf',
      'environment': 'environment.txt' }[dialectOf(facts.plan.boot, facts.board)]
}

/** The files of the bundle, in order. */
export function bundleOf(facts: Facts): BundledFile[] {
  const boot = facts.plan.boot
  const merged = mergedFile(facts, needsOf(facts))
  const made = overlaysForParts(facts).filter(overlay =>
    overlay.ok && facts.parts.some(owner => owner.id === overlay.partId && isMade(owner, facts)))
  const startFiles = startFilesOf(facts)
  return [
    { path: bootFileName(facts), bytes: bytesFrom(merged.text, boot?.encoding) },
    ...boot?.commandLine ? [{ path: 'cmdline.txt', bytes: bytesFrom(boot.commandLine) }] : [],
    ...Object.entries(boot?.includes ?? {}).map(([path, text]) => ({ path, bytes: bytesFrom(text) })),
    ...made.flatMap(overlay => overlay.ok
      ? [
          { path: `overlays/${overlay.name}.dts`, bytes: bytesFrom(overlay.source) },
          { path: `overlays/${overlay.name}.dtbo`, bytes: overlayBlob(overlay.source) },
        ]
      : []),
    ...(boot?.overlays ?? []).map(({ name, kind, content }) => ({
      path: `overlays/${name}.${kind === 'source' ? 'dts' : 'dtbo'}`,
      bytes: kind === 'source' ? bytesFrom(content) : bytesOf(content),
    })),
    ...startFiles.map(({ name, bytes }) => ({ path: `firmware/${name}`, bytes })),
    { path: 'HOW-TO.txt', bytes: bytesFrom(howTo(facts, made.length > 0, startFiles.length > 0)) },
  ]
}

/** Largest unpacked size of a boot folder that is read, and most files. */
const LIMITS = { maxBytes: 32 * 1024 * 1024, maxFiles: 400 }

/** Reads a zip of boot files. Throws `ZipError`. */
export const unzip = (bytes: Uint8Array): BundledFile[] => readZip(bytes, LIMITS)

export const textOfBundle = (files: readonly BundledFile[], path: string): string | null => {
  const file = files.find(entry => entry.path === path)
  return file ? strFromU8(file.bytes) : null
}

function howTo(facts: Facts, hasOverlays: boolean, hasStartFiles: boolean): string {
  const folder = (facts.board?.bootPath ?? '/boot/firmware/config.txt').replace(/\/[^/]*$/, '/')
  const name = bootFileName(facts)
  return `${facts.plan.name}: boot files
${'='.repeat(facts.plan.name.length + 12)}

1. Shut the board down and take the card to another computer, or log in and work there.
2. Keep the old files: copy ${folder}${name}${facts.plan.boot?.commandLine ? ` and ${folder}cmdline.txt` : ''} to a place of their own.
3. Put ${name}${facts.plan.boot?.commandLine ? ' and cmdline.txt' : ''} into ${folder}
${[
  ...hasOverlays || facts.plan.boot?.overlays?.length
    ? [`Put the .dtbo files of the folder overlays into ${folder}overlays/. The .dts files are their sources, to read and to keep.`]
    : [],
  ...hasStartFiles
    ? ['Start the board once and copy the .bin files of the folder firmware to /lib/firmware/ (sudo cp): the screens\' drivers read them.']
    : [],
  'Start the board once: these files are read at the start only.',
].map((line, i) => `${i + 4}. ${line}`).join('\n')}

Does it not start? Put the old files back: nothing else has been changed.

Lines between "# Voltaris: written for the plan" and "# Voltaris: to here" are the plan's. What you change there by hand is
kept the next time you drop the file into Voltaris. Everything outside is as you had it.

Power down before you move a wire.
`
}
