import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lintBoot, MAX_FINDINGS, planSide } from '../../../core/boot/lint'
import { editOf, asFinding } from '../../../core/boot/lint/edits'
import { nearest } from '../../../core/boot/lint/near'
import { applyChanges } from '../../../core/boot/lint/types'
import { textOf } from '../../../core/boot/lint/words'
import { effectiveOf } from '../../../core/boot/scope/effective'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit } from '../../../core/plan/edits'
import { anyBootText, boardOf, codes, fixed, lint } from '../../bootfiles'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

/**
 * A file with one fault, the code it gets, and the file after the first fix. Faults of the trade:
 * practice; figures: memory.
 */
const FAULTS: [what: string, text: string, code: string, after: string | null, more?: Parameters<typeof lint>[1]][] = [
  ['a key with a letter too few', 'max_framebuffer=2\n', 'boot.key-unknown', 'max_framebuffers=2\n'],
  ['a key with two letters exchanged', 'enable_uatr=1\n', 'boot.key-unknown', 'enable_uart=1\n'],
  ['a key in capitals', 'Enable_UART=1\n', 'boot.key-unknown', 'enable_uart=1\n'],
  ['a parameter written as a setting', 'i2c_arm=on\n', 'boot.key-unknown', 'dtparam=i2c_arm=on\n'],
  ['a misspelt parameter of the base', 'dtparam=i2c_amr=on\n', 'boot.param-unknown', 'dtparam=i2c_arm=on\n'],
  ['a misspelt overlay', 'dtoverlay=w1-gpoi,gpiopin=4\n', 'overlay.unknown', 'dtoverlay=w1-gpio,gpiopin=4\n'],
  ['an overlay with its ending', 'dtoverlay=w1-gpio.dtbo\n', 'overlay.unknown', 'dtoverlay=w1-gpio\n'],
  ['a misspelt parameter of an overlay', 'dtoverlay=w1-gpio,gpiopn=4\n', 'overlay.param-unknown',
    'dtoverlay=w1-gpio,gpiopin=4\n'],
  [
    'an overlay that does not say which part', 'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc\n', 'overlay.nothing-chosen',
    'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\n',
  ],
  ['a value out of range', 'gpu_mem=2000\n', 'boot.value-off', 'gpu_mem=944\n'],
  ['a value that is no number', 'gpu_mem=64M\n', 'boot.value-off', 'gpu_mem=64\n'],
  ['a switch that is said in words', 'enable_uart=on\n', 'boot.value-off', 'enable_uart=1\n'],
  [
    'a line that the header does not have, but a position', 'dtoverlay=gpio-ir,gpio_pin=40\n', 'boot.value-off',
    'dtoverlay=gpio-ir,gpio_pin=21\n',
  ],
  ['a line written with letters', 'dtoverlay=gpio-ir,gpio_pin=GPIO18\n', 'boot.value-off',
    'dtoverlay=gpio-ir,gpio_pin=18\n'],
  ['a parameter without its value', 'dtoverlay=w1-gpio,gpiopin\n', 'boot.value-off', 'dtoverlay=w1-gpio,gpiopin=4\n'],
  ['a comment at the end of a line', 'gpu_mem=64 # enough\n', 'boot.comment-in-value', 'gpu_mem=64\n'],
  [
    'a parameter below an overlay that neither it nor the base has',
    'dtoverlay=gpio-fan,gpiopin=18\ndtparam=tmep=60000\n',
    'overlay.param-unknown', 'dtoverlay=gpio-fan,gpiopin=18\ndtparam=temp=60000\n',
  ],
  [
    'a base parameter in the line of an overlay', 'dtoverlay=vc4-kms-v3d,spi=on\n', 'boot.param-captured',
    'dtparam=spi=on\ndtoverlay=vc4-kms-v3d\n',
  ],
  ['an overlay\'s parameter above it', 'dtparam=gpiopin=17\ndtoverlay=w1-gpio\n', 'boot.param-too-early',
    'dtoverlay=w1-gpio,gpiopin=17\n'],
  [
    'the same overlay twice', 'dtoverlay=w1-gpio,gpiopin=4\ndtoverlay=w1-gpio,gpiopin=4\n', 'boot.repeated',
    'dtoverlay=w1-gpio,gpiopin=4\n',
  ],
  ['a key said both ways', 'gpu_mem=64\ngpu_mem=128\n', 'boot.contradicts', 'gpu_mem=128\n'],
  ['a parameter said both ways under two names', 'dtparam=i2c_arm=on\ndtparam=i2c=off\n', 'boot.contradicts',
    'dtparam=i2c=off\n'],
  ['a line under another board\'s section', '[pi5]\ndtparam=i2c_arm=on\n', 'boot.filtered',
    '[pi5]\n[all]\ndtparam=i2c_arm=on\n'],
  ['a section that no firmware knows', '[alll]\ngpu_mem=64\n', 'boot.filter-unknown', '[all]\ngpu_mem=64\n'],
  ['a heading without its bracket', '[all\ngpu_mem=64\n', 'boot.line-unknown', '[all]\ngpu_mem=64\n'],
  [
    'two overlays on one line', 'dtoverlay=gpio-fan,gpiopin=18\ndtoverlay=i2s-dac\n', 'overlay.line-twice',
    'dtoverlay=gpio-fan,gpiopin=18\n#dtoverlay=i2s-dac\n',
  ],
  [
    'two parts at one address', 'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\ndtoverlay=mpu6050\n',
    'overlay.address-twice',
    'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\n#dtoverlay=mpu6050\n',
  ],
  [
    'two overlays of one circuit', 'dtoverlay=pwm,pin=12,func=4\ndtoverlay=audremap,pins_18_19\n', 'overlay.fight',
    'dtoverlay=pwm,pin=12,func=4\n#dtoverlay=audremap,pins_18_19\n',
  ],
  [
    'both display drivers', 'dtoverlay=vc4-kms-v3d\ndtoverlay=vc4-fkms-v3d\n', 'overlay.fight',
    'dtoverlay=vc4-kms-v3d\n#dtoverlay=vc4-fkms-v3d\n',
  ],
  [
    'an overlay on a line of SPI', 'dtparam=spi=on\ndtoverlay=w1-gpio,gpiopin=9\n', 'overlay.line-twice',
    'dtparam=spi=on\n#dtoverlay=w1-gpio,gpiopin=9\n',
  ],
  [
    'a bus that is switched off below its part', 'dtoverlay=i2c-rtc,ds3231\ndtparam=i2c_arm=off\n', 'bus.never-on',
    'dtoverlay=i2c-rtc,ds3231\ndtparam=i2c_arm=on\n',
  ],
  ['an empty device_tree', 'device_tree=\ndtoverlay=i2c-rtc,ds3231\n', 'boot.tree-off',
    '#device_tree=\ndtoverlay=i2c-rtc,ds3231\n'],
  [
    'a comment behind a parameter', 'dtparam=i2c_arm=on # for the clock\n', 'boot.comment-in-value',
    'dtparam=i2c_arm=on\n',
  ],
  ['a line that does not exist', 'gpio=60=op\n', 'boot.value-off', null],
  ['a word that gpio= does not know', 'gpio=17=output\n', 'boot.value-off', null],
  ['two words of one kind', 'gpio=17=op,dh,dl\n', 'boot.value-off', null],
  ['a serial port that the chip does not lead out', 'dtoverlay=uart3\n', 'bus.not-on-board', null,
    { board: 'forty-classic' }],
  ['a bus that the board does not have', 'dtoverlay=i2c-rtc,ds3231,i2c6\n', 'bus.not-on-board', null,
    { board: 'forty-classic' }],
  [
    'a screen line that the full driver does not read', 'dtoverlay=vc4-kms-v3d\nhdmi_group=2\n',
    'screen.without-effect',
    'dtoverlay=vc4-kms-v3d\n#hdmi_group=2\n',
  ],
  [
    'a rotation that the full driver does not read', 'dtoverlay=vc4-kms-v3d\ndisplay_rotate=1\n',
    'screen.without-effect',
    'dtoverlay=vc4-kms-v3d\n#display_rotate=1\n',
  ],
  ['a clock that no such board runs at', 'arm_freq=2900\n', 'clock.out-of-range', 'arm_freq=1500\n'],
  ['a voltage that no board stands', 'over_voltage=8\n', 'clock.out-of-range', 'over_voltage=0\n'],
  ['full clock all the time', 'force_turbo=1\n', 'clock.forced', ''],
  [
    'a line too long',
    `dtoverlay=mcp2515-can0,oscillator=16000000,spimaxfrequency=10000000,interrupt=25,spimaxfrequency=${'1'.repeat(30)}\n`,
    'boot.line-too-long', null,
  ],
  ['an equals sign forgotten', 'dtparam i2c_arm=on\n', 'boot.sign-missing', 'dtparam=i2c_arm=on\n'],
  ['an overlay\'s name alone', 'w1-gpio\n', 'boot.sign-missing', 'dtoverlay=w1-gpio\n'],
  ['a comment of another language', '// mine\n', 'boot.line-unknown', '# mine\n'],
  ['a line of the environment list', 'overlays=i2c1 w1-gpio\n', 'boot.wrong-dialect',
    'dtoverlay=i2c1\ndtoverlay=w1-gpio\n'],
  ['a word for the kernel', 'rootwait=1\n', 'boot.wrong-file', '#rootwait=1\n'],
  ['a setting that an overlay replaced', 'disable_bt=1\n', 'boot.line-without-effect', 'dtoverlay=disable-bt\n'],
  ['an include that is not there', 'include extra.txt\n', 'boot.include-missing', '#include extra.txt\n'],
]

describe('a fault in a boot file', () => {
  it.each(FAULTS)('%s is found where it stands', (_, text, code, after, more) => {
    const found = lint(text, more).find(finding => finding.code === code)
    expect(codes(lint(text, more))).toContain(code)
    expect(found!.from).toBeLessThanOrEqual(found!.to)
    expect(found!.line).toBe(text.slice(0, found!.from).split('\n').length)
    if (after === null) return
    expect(fixed(text, found!.fixes[0]!)).toBe(after)
    expect(codes(lint(after, more)).filter(other => other === code)).toEqual([])
  })

  it.each([
    ['dtparam=i2c_arm=on\ndtparam=spi=on\ndtparam=audio=on\ncamera_auto_detect=1\ndisplay_auto_detect=1\nauto_initramfs=1\n'
      + 'dtoverlay=vc4-kms-v3d\nmax_framebuffers=2\ndisable_fw_kms_setup=1\narm_64bit=1\n'
      + 'disable_overscan=1\narm_boost=1\n[all]\nenable_uart=1\n'],
    ['dtoverlay=w1-gpio,gpiopin=4\ndtoverlay=w1-gpio,gpiopin=17\n'],
    ['dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\ndtoverlay=i2c-sensor,sht3x\n'],
    ['dtoverlay=spi1-3cs\ndtparam=speed=1\n'.replace('dtparam=speed=1\n', '')],
    ['gpio=4,17=op,dh\ngpio=22=ip,pu\ninitramfs initrd.img followkernel\n'],
    ['dtparam=spi=on\ndtoverlay=mcp2515-can0,oscillator=16000000,interrupt=25\ndtoverlay=mcp2515-can1,oscillator=16000000,interrupt=24\n'],
  ])('is not seen in a file that has none',
    text => expect(lint(text).filter(finding => finding.severity !== 'note')).toEqual([]))

  it('of sections for other boards says nothing where [all] follows, as images ship it, and a word where they '
    + 'hide all the rest', () => {
    expect(lint('[cm4]\notg_mode=1\n[cm5]\ndtoverlay=dwc2,dr_mode=host\n[all]\n')).toEqual([])
    expect(lint('[cm4]\notg_mode=1\n').map(finding => [finding.code, finding.severity]))
      .toEqual([['boot.filtered', 'caution']])
    expect(lint('[pi4]\narm_boost=1\n')).toEqual([])
  })

  it('of what no board reads says it once, and judges it no further', () => {
    expect(lint('[none]\ndtoverlay=nosuch\ndtparam=x=y\nhdmi_grup=1\ngpio=99=zz\n[all]\n').map(finding =>
      [finding.code, finding.fixes.length]))
      .toEqual([['boot.filtered', 0]])
  })

  it('takes a setting for one of two screens, lines in ranges, and overlays that switch their bus on, for what they are', () => {
    // memory: the firmware's own pages; overlays for parts on a bus set the bus's status
    for (const text of [
      'hdmi_group:1=2\nhdmi_mode:0=82\n', 'gpio=17,22-25=op,dl\ngpio=4=ip,pu\ngpio=5=a5\n',
      'dtoverlay=i2c-rtc,ds3231\n',
      'dtoverlay=mcp2515-can0,oscillator=16000000,interrupt=25\n', 'dtparam=i2c_arm=off\ndtoverlay=i2c-rtc,ds3231\n',
    ]) expect(lint(text).map(finding => finding.code), text).toEqual([])
  })

  it('in clock and voltage says what a lower clock saves, by clock × voltage²', () => {
    // textbook: dynamic power goes with f·V²; the board's figures are memory.
    const [found] = lint('arm_freq=600\nover_voltage=-4\n')
    expect(found).toMatchObject({ code: 'boot.clock-lowered', severity: 'note' })
    const saved = Number(found!.figures.find(figure => figure.label === 'saved at peak')!.value)
    const board = boardOf('forty-usb-c')
    const share = 0.6 * (1 - 600 / 1500 * ((0.88 - 0.1) / 0.88) ** 2)
    expect(saved).toBeCloseTo((board.draw.peakMa - board.draw.idleMa) * share, -1)
  })

  it('keeps every file\'s findings in order and within bounds', () => {
    const many = lint('gpu_mem=9999\n'.repeat(3000))
    expect(many).toHaveLength(MAX_FINDINGS)
    expect([...many].sort((a, b) => a.from - b.from)).toEqual(many)
  })

  it('speaks of the copy that nobody reads, and of a path of the other generation', () => {
    expect(
      codes(lint('DO NOT EDIT THIS FILE\nThe file has moved to /boot/firmware/config.txt\n')),
    ).toEqual(expect.arrayContaining(['boot.wrong-copy']))
    expect(codes(lint('gpu_mem=64\n', { path: '/boot/config.txt', image: 'newer' }))).toContain('boot.wrong-path')
    expect(codes(lint('gpu_mem=64\n',
      { path: '/boot/firmware/config.txt', image: 'newer' }))).not.toContain('boot.wrong-path')
    expect(codes(lint('gpu_mem=64\n', { path: '/boot/firmware/config.txt', image: 'older' })))
      .toContain('boot.wrong-path')
    expect(codes(lintBoot({
      files: { dialect: 'extlinux', text: 'label a\n linux /x\n' }, board: boardOf('forty-classic'),
    }))).toContain('boot.wrong-dialect')
  })

  it('in an included file is told with that file', () => {
    const found = lint('include more.txt\n', { includes: { 'more.txt': '\ngpu_mme=64\n' } }).at(-1)
    expect(found).toMatchObject({ code: 'boot.key-unknown', file: 'more.txt', line: 2 })
  })
})

const KERNEL: [what: string, commandLine: string, code: string, after: string | null][] = [
  ['two lines', 'root=/dev/x rootwait\nquiet\n', 'kernel.second-line', 'root=/dev/x rootwait quiet\n'],
  ['a misspelt word', 'rooot=/dev/x root=/dev/x', 'kernel.word-unknown', 'root=/dev/x root=/dev/x'],
  ['no root', 'console=tty1 quiet', 'kernel.no-root', null],
  ['a word twice with two values', 'root=/dev/a root=/dev/b', 'kernel.contradicts', 'root=/dev/b'],
  ['a parameter of the boot file', 'root=/dev/a dtparam=spi=on', 'kernel.wrong-file', 'root=/dev/a'],
  ['a rotation written alone', 'root=/dev/a rotate=90', 'kernel.word-unknown', 'root=/dev/a video=HDMI-A-1:rotate=90'],
]

describe('a fault on the kernel command line', () => {
  it.each(KERNEL)('%s is found and mended', (_, commandLine, code, after) => {
    const found = lint('', { commandLine }).find(finding => finding.code === code)!
    expect(found).toMatchObject({ file: 'cmdline.txt' })
    if (after !== null) expect(applyChanges(commandLine, found.fixes[0]!.changes)).toBe(after)
  })
})

const OTHERS: [dialect: 'extlinux' | 'environment', what: string, text: string, code: string, after: string
  | null][] = [
  [
    'extlinux', 'a misspelt directive', 'label a\n\tkernle /x\n\tkernel /x\n', 'menu.directive-unknown',
    'label a\n\tkernel /x\n\tkernel /x\n',
  ],
  [
    'extlinux', 'a default that is no entry', 'default main\nlabel man\n\tlinux /x\n', 'menu.no-such-entry',
    'default man\nlabel man\n\tlinux /x\n',
  ],
  [
    'extlinux', 'overlays by commas', 'label a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo,/o/b.dtbo\n', 'menu.commas',
    'label a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo /o/b.dtbo\n',
  ],
  [
    'extlinux', 'overlays on two lines', 'label a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo\n\tfdtoverlays /o/b.dtbo\n',
    'boot.contradicts',
    'label a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo /o/b.dtbo\n',
  ],
  [
    'extlinux', 'an overlay without its ending', 'label a\n\tlinux /x\n\tfdtoverlays /o/a\n', 'menu.ending',
    'label a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo\n',
  ],
  ['extlinux', 'an entry without a kernel', 'label a\n\tappend quiet\n', 'menu.no-kernel', null],
  ['extlinux', 'an equals sign', 'label a\n\tlinux=/x\n', 'menu.sign', 'label a\n\tlinux /x\n'],
  [
    'extlinux', 'a line of the other dialect', 'label a\n\tlinux /x\n\tdtoverlay=w1-gpio\n', 'boot.wrong-dialect',
    'label a\n\tlinux /x\n\t#dtoverlay=w1-gpio\n',
  ],
  ['extlinux', 'a time that is no number', 'timeout soon\nlabel a\n\tlinux /x\n', 'boot.value-off', null],
  ['environment', 'blanks round the sign', 'overlays = i2c0\n', 'environment.blanks', 'overlays=i2c0\n'],
  ['environment', 'a misspelt key', 'overlasy=i2c0\n', 'boot.key-unknown', 'overlays=i2c0\n'],
  ['environment', 'overlays by commas', 'overlays=i2c0,uart1\n', 'environment.commas', 'overlays=i2c0 uart1\n'],
  ['environment', 'an overlay with its ending', 'user_overlays=clock.dtbo\n', 'environment.ending',
    'user_overlays=clock\n'],
  [
    'environment', 'a list that overwrites another', 'overlays=i2c0\nverbosity=1\noverlays=uart1\n', 'boot.contradicts',
    'verbosity=1\noverlays=i2c0 uart1\n',
  ],
  ['environment', 'a prefix twice', 'overlay_prefix=abc\noverlays=abc-i2c0\n', 'environment.prefix',
    'overlay_prefix=abc\noverlays=i2c0\n'],
  ['environment', 'an overlay twice', 'overlays=i2c0 uart1 i2c0\n', 'boot.repeated', 'overlays=i2c0 uart1\n'],
  ['environment', 'a figure out of range', 'verbosity=9\n', 'boot.value-off', 'verbosity=1\n'],
  ['environment', 'a line that is none', 'just words\n', 'boot.line-unknown', '#just words\n'],
]

describe('a fault in another dialect', () => {
  it.each(OTHERS)('%s: %s is found and mended', (dialect, _, text, code, after) => {
    const findings = lintBoot({ files: { dialect, text }, board: null })
    const found = findings.find(finding => finding.code === code)
    expect(codes(findings)).toContain(code)
    if (after !== null) expect(fixed(text, found!.fixes[0]!)).toBe(after)
  })
})

describe('files beside a plan', () => {
  const serial = {
    ...planOf(
      'forty-usb-c', { gps: 'positioning-serial', led: 'led-plain' },
      { assignments: fixedAt({ 'gps.tx': 10, 'gps.rx': 8, 'gps.pps': 12, 'led.a': 32 }) },
    ),
  }
  const side = (plan = serial) => planSide(gatherFacts(plan, catalogue))

  it('are told of a console on a port that the plan uses, and the fix lets it go', () => {
    const [found] = lint(
      'enable_uart=1\n', { commandLine: 'console=serial0,115200 root=/dev/x', plan: side() },
    ).filter(finding => finding.code === 'serial.console')
    expect(found).toMatchObject({ severity: 'stop', partIds: ['gps'] })
    expect(applyChanges('console=serial0,115200 root=/dev/x', found!.fixes[0]!.changes)).toBe('root=/dev/x')
    expect(codes(lint('', { commandLine: 'console=serial0,115200 root=/dev/x' }))).not.toContain('serial.console')
  })

  it('are told of an overlay that takes a line which a part has, but not of the part\'s own', () => {
    expect(lint(
      'dtoverlay=gpio-fan,gpiopin=12\n', { plan: side() },
    ).find(finding => finding.code === 'overlay.line-of-part')).toMatchObject({ partIds: ['led'] })
    expect(codes(lint('dtoverlay=pps-gpio,gpiopin=18\n', { plan: side() }))).not.toContain('overlay.line-of-part')
  })

  it('become findings of the plan whose fixes are edits', () => {
    const text = 'max_framebuffer=2\n'
    const plan = { ...serial, boot: { text } }
    const card = asFinding(lint(text)[0]!, plan)
    expect(card).toMatchObject({ stages: ['boot'], subjects: [{ text: { file: '', line: 1 } }] })
    expect(applyEdit(plan, card.fixes[0]!.edits[0]!).plan.boot!.text).toBe('max_framebuffers=2\n')
    const command = { label: '', file: 'cmdline.txt', changes: [{ from: 0, to: 1, insert: 'b' }] }
    expect(applyEdit(
      { ...plan, boot: { text, commandLine: 'a' } }, editOf({ boot: { text, commandLine: 'a' } }, command),
    ).plan.boot).toEqual({ text, commandLine: 'b' })
    const more = editOf({ boot: null }, { ...command, file: 'more.txt', changes: [{ from: 0, to: 0, insert: 'x' }] })
    expect(applyEdit({ ...serial, boot: null }, more).plan.boot).toEqual({ text: '', includes: { 'more.txt': 'x' } })
  })
})

describe('any file at all', () => {
  const dialect = fc.constantFrom('key-value' as const, 'extlinux' as const, 'environment' as const)

  it('is judged without an error, each finding within the text, said in words, its fixes changing what they name',
    () => {
      fc.assert(fc.property(fc.oneof(anyBootText, fc.string()), fc.option(
        fc.string({ maxLength: 40 }), { nil: undefined },
      ), dialect, fc.constantFrom(null, 'forty-usb-c', 'early-26', 'forty-io-bridge'),
      (text, commandLine, kind, board) => {
        const files = { dialect: kind, text, ...(commandLine !== undefined && { commandLine }) }
        for (const finding of lintBoot({ files, board: board === null ? null : boardOf(board) })) {
          const file = textOf(files, finding.file)
          expect(finding.from).toBeGreaterThanOrEqual(0)
          expect(finding.to).toBeLessThanOrEqual(file.length)
          expect(finding.from).toBeLessThanOrEqual(finding.to)
          expect(finding.title.length).toBeGreaterThan(3)
          expect(finding.sentence).not.toMatch(/undefined|NaN|\[object/)
          for (const figure of finding.figures) if (figure.limit !== undefined) expect(figure.origin).toBeTruthy()
          for (const fix of finding.fixes) expect(applyChanges(textOf(files, fix.file),
            fix.changes)).not.toBe(textOf(files, fix.file))
        }
      }), { numRuns: draws(400) })
    })

  it('is mended for good: first fixes, one after another, come to an end, and leave nothing that has a fix', () => {
    fc.assert(fc.property(anyBootText, dialect, (start, kind) => {
      let text = start
      for (let step = 0; step < 120; step++) {
        const [next] = lintBoot({
          files: { dialect: kind, text }, board: boardOf('forty-usb-c'),
        }).filter(finding => finding.fixes[0]?.file === '')
        if (!next) return
        text = fixed(text, next.fixes[0]!)
      }
      expect.fail(
        `no end in sight:\n${text}\n${codes(lintBoot({ files: { dialect: kind, text }, board: boardOf('forty-usb-c') })).join(' ')}`,
      )
    }), { numRuns: draws(300) })
  })
})

describe('the nearest name', () => {
  it('is one within a slip or two, never another word', () => {
    expect(nearest('gpiopn', ['gpiopin', 'pullup'])).toBe('gpiopin')
    expect(nearest('i2c-arm', ['i2c_arm'])).toBe('i2c_arm')
    expect(nearest('sip', ['spi', 'i2c'])).toBe('spi')
    expect(nearest('elephant', ['gpiopin'])).toBe(null)
    expect(nearest('on', ['off'])).toBe(null)
  })
})

describe('files that include files', () => {
  const board = boardOf('forty-classic')
  const lintWith = (text: string,
    includes: Record<string, string>) => lintBoot({ files: { dialect: 'key-value', text, includes }, board })

  it('in a ring are told at the line that closes it, and the good line stays', () => {
    const [ring, ...more] = lintWith('include a.txt\n',
      { 'a.txt': 'include b.txt\ndtparam=i2c_arm=on\n', 'b.txt': 'include a.txt\n' })
    expect(more).toEqual([])
    expect(ring).toMatchObject({ code: 'boot.include-ring', file: 'b.txt', line: 1, fixes: [{ file: 'b.txt' }] })
  })

  it('that include themselves many times are read once, and so is a tree of them that doubles at every step', () => {
    const self = lintWith('include a.txt\n', { 'a.txt': 'include a.txt\n'.repeat(20) })
    expect(new Set(self.map(finding => finding.code))).toEqual(new Set(['boot.include-ring']))
    const names = Array.from({ length: 8 }, (_, i) => `f${i}.txt`)
    const tree = Object.fromEntries(names.map((name, i) => [name, `include ${names[i + 1] ?? 'end.txt'}\n`.repeat(20)]))
    // 20 to the 8th power of readings would never end: what is read is bounded, and the rest is said once.
    const effective = effectiveOf({ dialect: 'key-value', text: 'include f0.txt\n'.repeat(20), includes: tree }, board)
    expect(effective.asked.length).toBeLessThan(2000)
    expect(lintWith('arm_freq=600\ninclude f0.txt\n', tree).filter(finding => finding.title === 'Too many files are '
    + 'included')).toHaveLength(1)
  })

  it('twice over have their findings once, and a line is not called its own double', () => {
    const twice = lintWith('dtparam=audio=on\ninclude a.txt\ninclude a.txt\n',
      { 'a.txt': 'arm_freq=900\nhdmi_grup=1\n' })
    expect(twice.map(finding => finding.code).sort()).toEqual([...new Set(twice.map(finding => finding.code))].sort())
    expect(twice.map(finding => finding.code)).not.toContain('boot.repeated')
  })
})

describe('overlays of other boards', () => {
  it('of the newest family are told on boards of another, with the plain name as the way out, and take nothing there',
    () => {
      const text = 'dtoverlay=uart2-pi5\ndtoverlay=spi2-1cs-pi5\n'
      const told = lint(text)
      expect(codes(told)).toEqual(['overlay.other-family', 'overlay.other-family'])
      expect(fixed(text, told[0]!.fixes[0]!)).toBe('dtoverlay=uart2\ndtoverlay=spi2-1cs-pi5\n')
      // What this board has under no name at all is made a comment.
      expect(fixed(text, told[1]!.fixes[0]!)).toBe('dtoverlay=uart2-pi5\n#dtoverlay=spi2-1cs-pi5\n')
      expect(codes(lint('dtoverlay=uart2-pi5\n', { board: 'forty-io-bridge' }))).toEqual([])
      expect(fixed('dtoverlay=spi2-1cs\n', lint('dtoverlay=spi2-1cs\n')[0]!.fixes[0]!)).toBe('#dtoverlay=spi2-1cs\n')
      expect(codes(lint('dtoverlay=uart1\n'))).toEqual([])
    })

  it('two cameras on two connectors are no fight; two on one are', () => {
    expect(codes(lint('dtoverlay=imx477\ndtoverlay=ov9281,cam0\n', { board: 'forty-io-bridge' }))).toEqual([])
    expect(codes(lint('dtoverlay=imx477\ndtoverlay=ov9281\n', { board: 'forty-io-bridge' }))).toEqual(['overlay.fight'])
  })

  it('in an environment list are those of other families: nothing is said of what they take', () => {
    const found = lint('verbosity=1\noverlays=i2c0 uart1\nrootfstype=ext4\n', { dialect: 'environment', board: null })
    expect(codes(found).filter(code => code.startsWith('overlay.line'))).toEqual([])
  })
})

describe('a parameter that is not in the library', () => {
  it('is a note where nothing is near, since the library is from memory, and a caution with its near miss', () => {
    expect(
      lint('dtoverlay=ads7846,sensitivity=3\n').map(finding => [finding.code, finding.severity]),
    ).toEqual([['overlay.param-unknown', 'note']])
    expect(
      lint('dtoverlay=ads7846,penriq=3\n').map(finding => [finding.code, finding.severity]),
    ).toEqual([['overlay.param-unknown', 'caution']])
    // As it stands in many a forum's post.
    expect(lint('dtoverlay=ads7846,cs=1,penirq=25,keep_vref_on=0,xohms=150\n')).toEqual([])
  })
})
