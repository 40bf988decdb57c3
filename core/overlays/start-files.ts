/**
 * Files of start commands for screens on SPI whose driver is told by one: `/lib/firmware/NAME.bin`, where NAME is the node's first
 * `compatible`. Without it the driver ends at once (`request_firmware` of drivers/gpu/drm/tiny/panel-mipi-dbi.c, Linux 6.1).
 */
import { tableOf } from '../table'
import type { Facts, ResolvedPart } from '../facts/types'
import { startFileName } from './asks/placeholders'
import { isMade, overlaysAsked } from './asks/fit'

/** A command with its parameters, or milliseconds to wait. */
type Command = { wait: number } | readonly [command: number, ...parameters: number[]]

/** Bits of the address mode (command 0x36) by which a picture is turned. Published: MIPI DCS, set_address_mode. */
const MY = 0x80, MX = 0x40, MV = 0x20, BGR = 0x08

interface Controller { commands: readonly Command[], turns: Record<string, number> }

/** Published: Linux 6.1, drivers/gpu/drm/tiny/ili9341.c: commands and turns of its first panel. */
const ILI9341: Controller = {
  commands: [
    [0x28], [0xCF, 0x00, 0xC1, 0x30], [0xED, 0x64, 0x03, 0x12, 0x81], [0xE8, 0x85, 0x00, 0x78], [0xCB, 0x39, 0x2C, 0x00, 0x34, 0x02],
    [0xF7, 0x20], [0xEA, 0x00, 0x00], [0xC0, 0x23], [0xC1, 0x10], [0xC5, 0x3E, 0x28], [0xC7, 0x86], [0x3A, 0x55], [0xB1, 0x00, 0x1B],
    [0xF2, 0x00], [0x26, 0x01],
    [0xE0, 0x0F, 0x31, 0x2B, 0x0C, 0x0E, 0x08, 0x4E, 0xF1, 0x37, 0x07, 0x10, 0x03, 0x0E, 0x09, 0x00],
    [0xE1, 0x00, 0x0E, 0x14, 0x03, 0x11, 0x07, 0x31, 0xC1, 0x48, 0x08, 0x0F, 0x0C, 0x31, 0x36, 0x0F], [0xB7, 0x07],
    [0xB6, 0x08, 0x82, 0x27, 0x00], [0x11], { wait: 100 }, [0x29], { wait: 100 },
  ],
  turns: { 0: MX | BGR, 90: MV | BGR, 180: MY | BGR, 270: MV | MY | MX | BGR },
}

/** Published: Linux 6.1, drivers/staging/fbtft/fb_st7789v.c, its defaults; that square panels are shown inverted: memory. */
const ST7789V: Controller = {
  commands: [
    [0x11], { wait: 120 }, [0x3A, 0x55], [0xB2, 0x08, 0x08, 0x00, 0x22, 0x22], [0xB7, 0x35], [0xC2, 0x01, 0xFF], [0xC3, 0x0B], [0xC4, 0x20],
    [0xBB, 0x20], [0xC5, 0x20], [0xD0, 0xA4, 0xA1], [0x21], [0x29],
  ],
  turns: { 0: 0, 90: MV | MX, 180: MX | MY, 270: MV | MY },
}

const CONTROLLERS = tableOf<Controller>({ 'screen-spi-24': ILI9341, 'screen-spi-13': ST7789V })

/** Head of the file. Published: Linux 6.1, drivers/gpu/drm/tiny/panel-mipi-dbi.c, `panel_mipi_dbi_magic` and version 1. */
const HEAD = [...'MIPI DBI'].map(letter => letter.charCodeAt(0)).concat([0, 0, 0, 0, 0, 0, 0, 1])

/** The default of the library's overlay. memory */
const USUAL_NAME = 'panel'

export interface StartFile { name: string, bytes: Uint8Array }

/** The file of start commands that a part's driver reads; null for parts without one. */
export function startFileOf(owner: ResolvedPart, facts: Facts): StartFile | null {
  const controller = CONTROLLERS[owner.part.id]
  if (!controller) return null
  const commands: Command[] = [...controller.commands, [0x36, controller.turns[owner.options.rotation ?? '0'] ?? controller.turns[0]!]]
  return {
    // The library's overlay asks for its usual name.
    name: `${isMade(owner, facts) ? startFileName(owner.id) : USUAL_NAME}.bin`,
    bytes: Uint8Array.from([
      ...HEAD,
      // A command, how many parameters, the parameters; nothing (0x00) with one parameter waits so many milliseconds.
      ...commands.flatMap(command => 'wait' in command ? [0x00, 1, command.wait] : [command[0], command.length - 1, ...command.slice(1)]),
    ]),
  }
}

/** Files of all parts of a plan whose driver the boot files load. */
export const startFilesOf = (facts: Facts): StartFile[] => facts.parts.flatMap(owner =>
  overlaysAsked(owner).length || isMade(owner, facts) ? startFileOf(owner, facts) ?? [] : [])
