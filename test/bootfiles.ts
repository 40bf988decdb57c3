/** Boot files as they come, for tests: generated ones of every dialect, and small helpers. */
import fc from 'fast-check'
import { shippedCatalogue } from '../core/catalogue'
import { lintBoot } from '../core/boot/lint'
import { applyChanges } from '../core/boot/lint/types'
import type { BootFiles } from '../core/boot/scope/effective'
import type { LintInput, LintFinding, TextFix } from '../core/boot/lint/types'

const line = fc.oneof(
  fc.constantFrom(
    '', '  ', '# a note', '[all]', '[none]', '[pi4]', '[pi5]', '[gpio4=1]', '[edid=screen]', '[wild',
    'dtparam=i2c_arm=on',
    'dtparam=i2c_arm=off', 'dtparam=i2c1', 'dtparam=spi=on,i2c=on', 'dtparam=audio', 'dtoverlay=',
    'dtoverlay=w1-gpio,gpiopin=4', 'dtoverlay=w1-gpio,gpiopin=17', 'dtoverlay=i2c-rtc,ds3231', 'dtoverlay=i2c-rtc',
    'dtoverlay=vc4-kms-v3d', 'dtoverlay=gpio-fan,gpiopin=18,tmep=60000', 'dtparam=temp=50000',
    'enable_uart=0', 'enable_uart=1', 'enable_uart=yes', 'hdmi_group=2', 'display_rotate=1', 'arm_freq=9000',
    'over_voltage=-20',
    'gpu_mem=abc', 'include extra.txt', 'initramfs initrd followkernel', '   spaced = out  ', 'what is this',
    'label a', '  linux /vmlinuz', '  fdtoverlays /o/a.dtbo,/o/b.dtbo', 'default b', 'append root=/dev/x quiet',
    'overlays=i2c0 i2c0',
    'user_overlays=a.dtbo', 'verbosity=9', 'param_x=1', 'console=serial', 'overlay_prefix=a',
  ),
  fc.string({ maxLength: 24 }).filter(text => !/[\r\n]/.test(text)),
)

/** Lines that say something, in any order, with either ending and with or without a last one. */
export const anyBootText: fc.Arbitrary<string> = fc.record({
  mark: fc.constantFrom('', '', '\uFEFF'),
  lines: fc.array(fc.tuple(line, fc.constantFrom('\n', '\r\n')), { maxLength: 14 }),
  last: fc.option(line),
})
  .map(({ mark, lines, last }) => mark + lines.map(([text, ending]) => text + ending).join('') + (last ?? ''))

export const boardOf = (id: string) => shippedCatalogue.boards.get(id)!

/** Findings on a key-value file. */
export function lint(text: string, {
  board = 'forty-usb-c', ...more
}: Partial<Omit<LintInput, 'board' | 'files'>> & Partial<BootFiles> & { board?: string
  | null } = {}): LintFinding[] {
  const { image, plan, ...files } = more
  return lintBoot({
    files: { dialect: 'key-value', text, ...files }, board: board === null ? null : boardOf(board),
    ...(image && { image }),
    ...(plan && { plan }),
  })
}

export const codes = (findings: LintFinding[]) => findings.map(finding => finding.code)

/** The text with a fix of a finding made. */
export const fixed = (text: string, fix: TextFix) => applyChanges(text, fix.changes)
