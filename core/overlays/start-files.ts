/**
 * Files of start commands for screens on SPI whose driver is told by one: `/lib/firmware/NAME.bin`, where NAME is the
 * node's first `compatible`; the commands stand in the part's folder, `kernel.startFile`. Without it the driver ends at
 * once (`request_firmware` of drivers/gpu/drm/tiny/panel-mipi-dbi.c, Linux 6.1).
 */
import type { Facts, ResolvedPart } from '../facts/types'
import { startFileName } from './asks/placeholders'
import { isMade, overlaysAsked } from './asks/fit'

/**
 * Head of the file. Published: Linux 6.1, drivers/gpu/drm/tiny/panel-mipi-dbi.c, `panel_mipi_dbi_magic` and version 1.
 */
const HEAD = [...'MIPI DBI'].map(letter => letter.charCodeAt(0)).concat([0, 0, 0, 0, 0, 0, 0, 1])

/** The default of the library's overlay. memory */
const USUAL_NAME = 'panel'

export interface StartFile { name: string, bytes: Uint8Array }

/** A command, how many parameters, the parameters; nothing (0x00) with one parameter waits so many milliseconds. */
function encoded(command: string): number[] {
  const wait = /^wait (\d+)$/.exec(command)
  if (wait) return [0x00, 1, Number(wait[1])]
  const [code = 0, ...parameters] = command.split(' ').map(byte => Number.parseInt(byte, 16))
  return [code, parameters.length, ...parameters]
}

/** The file of start commands that a part's driver reads; null for parts without one. */
export function startFileOf(owner: ResolvedPart, facts: Facts): StartFile | null {
  const source = owner.part.kernel?.startFile
  if (!source) return null
  const { addressModes } = source
  const turned = addressModes[owner.options.rotation ?? '0'] ?? addressModes['0']
  return {
    // The library's overlay asks for its usual name.
    name: `${isMade(owner, facts) ? startFileName(owner.id) : USUAL_NAME}.bin`,
    bytes: Uint8Array.from([
      ...HEAD,
      ...source.commands.flatMap(encoded),
      ...turned === undefined ? [] : encoded(`36 ${turned}`),
    ]),
  }
}

/** Files of all parts of a plan whose driver the boot files load. */
export const startFilesOf = (facts: Facts): StartFile[] => facts.parts.flatMap(owner =>
  overlaysAsked(owner).length || isMade(owner, facts) ? startFileOf(owner, facts) ?? [] : [])
