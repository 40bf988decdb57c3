/** Screen lines and the display driver that reads them, or does not. */
import { overlayNamed, SETTING_SPECS } from '../../overlays/library'
import type { Asked } from '../scope/effective'
import type { LintContext, LintFinding, LintRule } from './types'
import { commentOut, dropLine, fix, found, quoted } from './words'

export type DisplayDriver = 'full' | 'firmware' | 'legacy'

const WORDS: Readonly<Record<DisplayDriver, string>> = {
  full: 'the full display driver (vc4-kms-v3d)', firmware: 'the firmware display driver (vc4-fkms-v3d)',
  legacy: 'the firmware alone',
}

/** Who sets screen modes: told by the overlay that is loaded. */
export function displayDriverOf({ effective }: Pick<LintContext, 'effective'>): DisplayDriver {
  const loaded = effective.asked.filter(asked => asked.kind === 'overlay' && asked.applies !== 'never')
    .map(asked => overlayNamed((asked as Extract<Asked, { kind: 'overlay' }>).name)?.name)
  if (loaded.includes('vc4-kms-v3d')) return 'full'
  return loaded.includes('vc4-fkms-v3d') ? 'firmware' : 'legacy'
}

/** Rotation of the older settings in degrees; null for flips. */
const DEGREES: Readonly<Record<string, number | null>> = { '0': 0, '1': 90, '2': 180, '3': 270, '0x10000': null,
  '0x20000': null }

export const screenProblems: LintRule = (context) => {
  const { effective, files } = context
  if (files.dialect !== 'key-value') return []
  const driver = displayDriverOf(context)
  return effective.asked.flatMap((asked): LintFinding[] => {
    if (asked.kind !== 'setting' || asked.applies === 'never') return []
    // Settings of the second socket end in :1.
    const spec = SETTING_SPECS.get(asked.name.replace(/:[01]$/, ''))
    if (!spec?.displayDrivers || spec.displayDrivers.includes(driver)) return []
    const degrees = /rotate$/.test(asked.name) ? DEGREES[asked.value] : undefined
    const figures = [{ label: 'display driver', value: driver, limit: spec.displayDrivers.join(' or '),
      origin: spec.origin }]
    const common = { figures,
      fixes: [commentOut('Make it a comment', files, asked.where), dropLine('Take it out', files, asked.where)] }
    if (degrees) {
      const socket = asked.name === 'lcd_rotate' || asked.name === 'display_lcd_rotate' ? 'DSI-1' : 'HDMI-A-1'
      const line = files.commandLine?.trimEnd() ?? ''
      return [found('screen.without-effect', 'caution', asked.where,
        `${asked.name} turns nothing under ${WORDS[driver]}`, 'The kernel sets the picture, and does not read '
        + `${quoted(asked.name)}. The text console turns with video=${socket}:rotate=${degrees} on the kernel command `
        + 'line; a desktop has a setting of its own, and the touch needs its matrix turned with it.', {
          ...common,
          fixes: [...common.fixes, ...line
            ? [fix(
                `Turn the console by ${degrees}° on the command line`, { file: 'cmdline.txt' },
                { from: line.length, to: line.length, insert: ` video=${socket}:rotate=${degrees}` },
              )]
            : []],
        })]
    }
    return [found(
      'screen.without-effect', 'caution', asked.where, `${asked.name} does nothing under ${WORDS[driver]}`,
      `The kernel asks the screen itself and does not read ${quoted(asked.name)}. `
      + `${/^hdmi_(group|mode|cvt|timings)$/.test(asked.name)
        ? 'A mode is set on the kernel command line instead: video=HDMI-A-1:WIDTHxHEIGHT@RATE.'
        : asked.name === 'hdmi_force_hotplug'
          ? 'On the kernel command line video=HDMI-A-1:…D does it.'
          : 'Take it out, or load the other driver where the image still has it.'}`,
      common,
    )]
  })
}
