/**
 * Cases of the trade rebuilt by hand as plans with their files: what the boot files must say, what is caught, what
 * comes alive. Facts of the trade: practice.
 */
import { describe, expect, it } from 'vitest'
import { screenLines } from '../../../core/boot/display/lines'
import { filesOf } from '../../../core/boot/files'
import { lintBoot, planSide } from '../../../core/boot/lint'
import { applyChanges } from '../../../core/boot/lint/types'
import { needsOf } from '../../../core/overlays/asks/needs'
import { writeNeed } from '../../../core/overlays/asks/write'
import { rehearse } from '../../../core/boot/rehearse/rehearse'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { catalogue, fixedAt, planOf } from '../../plans'

/** The plan with every terminal placed. */
function placed(plan: Plan): Plan {
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
}
/** The plan with its lines written into its file. */
const written = (plan: Plan): Plan => ({ ...plan, boot: { ...plan.boot, text: evaluate(plan, catalogue).boot.text } })
const lines = (plan: Plan) => needsOf(gatherFacts(plan, catalogue)).map(need => writeNeed(need.need))
const story = (plan: Plan) => rehearse(gatherFacts(plan, catalogue))
const dark = (plan: Plan) => story(plan).parts.filter(part => part.state === 'dark').map(part => part.name)
const lint = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  return lintBoot({ files: filesOf(plan, facts.board), board: facts.board, plan: planSide(facts) })
}
const codes = (plan: Plan) => lint(plan).map(finding => finding.code)

/** A file as an image brings it. */
const STOCK = 'dtparam=audio=on\ncamera_auto_detect=1\ndisplay_auto_detect=1\nauto_initramfs=1\n'
  + 'dtoverlay=vc4-kms-v3d\nmax_framebuffers=2\ndisable_fw_kms_setup=1\narm_64bit=1\n'
  + 'disable_overscan=1\narm_boost=1\n\n[cm4]\notg_mode=1\n\n[all]\n'

describe('C02, first set-up of a current board', () => {
  const plan = { ...planOf('forty-io-bridge', {}), boot: { text: STOCK } }

  it('has nothing to mend in the file as the image brings it', () => {
    expect(lint(plan).filter(finding => finding.severity !== 'note')).toEqual([])
    expect(evaluate(plan, catalogue).boot.changes).toEqual([])
  })

  it('sets a screen mode on the kernel command line, because the full driver reads no other', () => {
    expect(screenLines({
      driver: 'full', path: 'video', mode: { width: 1920, height: 1080, rateHz: 60, reduced: true }, rotation: 0,
    }).words).toEqual(['video=HDMI-A-1:1920x1080MR@60'])
    const old = { ...plan, boot: { text: `${STOCK}hdmi_group=1\nhdmi_mode=16\n` } }
    expect(codes(old).filter(code => code === 'screen.without-effect')).toHaveLength(2)
  })
})

describe('C03, first set-up of an older board', () => {
  it('says what each interface that is switched on opens up', () => {
    const appears = (text: string) =>
      story({ ...planOf('early-26', {}), boot: { text } }).devices.map(device => device.path)
    expect(appears('')).not.toContain('/dev/i2c-1')
    expect(appears('dtparam=i2c_arm=on\n')).toContain('/dev/i2c-1')
    expect(appears('dtparam=spi=on\n')).toEqual(expect.arrayContaining(['/dev/spidev0.0', '/dev/spidev0.1']))
    expect(appears('enable_uart=1\n')).toContain('/dev/ttyAMA0')
  })

  it('tells that the file lies in the older place', () => {
    const plan = { ...planOf('early-26', {}),
      boot: { text: 'gpu_mem=64\n', path: '/boot/firmware/config.txt', image: 'older' as const } }
    const facts = gatherFacts(plan, catalogue)
    expect(lintBoot({
      files: filesOf(plan, facts.board), board: facts.board, image: 'older',
    }).map(finding => finding.code)).toEqual(['boot.wrong-path'])
  })
})

describe('C04, touch panel by video cable and USB', () => {
  const plan = placed(planOf('forty-usb-c', { panel: 'panel-video-7' }))

  it('needs no line for its touch: it comes by USB', () => {
    expect(lines(plan)).toEqual([])
    expect(story({ ...plan, boot: { text: STOCK } }).parts).toMatchObject([{ state: 'no-driver' }])
  })

  it('turns with its touch', () => {
    const turned = screenLines({
      driver: 'full', path: 'video', mode: { width: 1024, height: 600, rateHz: 60, reduced: false }, rotation: 180,
      touch: true,
    })
    expect(turned.words).toEqual(['video=HDMI-A-1:1024x600M@60,rotate=180'])
    // published: libinput documentation, calibration matrix
    expect(turned.touchRule).toContain('"-1 0 1 0 -1 1"')
  })
})

describe('C05, desktop tower with screen, strip, fan and button', () => {
  const plan = placed(planOf('forty-usb-c',
    { oled: 'oled-i2c', fan: 'fan-5v', button: 'power-latch', strip: 'strip-addressable' }))

  it('knows which lines make it all work', () => {
    expect(lines(plan)).toContain('dtparam=i2c_arm=on')
    for (const name of ['gpio-fan', 'gpio-shutdown', 'gpio-poweroff']) {
      expect(lines(plan).filter(line => line.startsWith(`dtoverlay=${name}`))).toHaveLength(1)
    }
    expect(dark(written({ ...plan, boot: { text: STOCK } }))).toEqual([])
  })

  it('is dark with the stock file, each part with the line that is missing', () => {
    const parts = story({ ...plan, boot: { text: STOCK } }).parts.filter(part => part.state === 'dark')
    expect(parts.map(part => part.name).sort()).toEqual(['button', 'fan', 'oled'])
    for (const part of parts) expect(part.fix!.label).toMatch(/^Write (dtparam|dtoverlay)=/)
  })

  it('takes the fan\'s threshold from the plan', () => {
    const warm: Plan = {
      ...plan, power: { ...plan.power,
        heat: { ...plan.power.heat, fan: { mode: 'threshold', onC: 65, hysteresisC: 8 } } },
    }
    expect(lines(warm).find(line => line.startsWith('dtoverlay=gpio-fan'))).toMatch(/temp=65000,hyst=8000/)
  })
})

describe('C08, status screen fed from an internal header', () => {
  const plan = placed(planOf('forty-usb-c', { screen: ['screen-spi-24', { rotation: '90' }] },
    { supply: { type: 'internal-usb-500' } }))
  const slower: Plan = { ...plan, power: { ...plan.power, clock: { coreMhz: 600, voltageSteps: -4 } } }

  it('gets the lower clock and core voltage as lines, and says what they save', () => {
    expect(lines(slower)).toEqual(expect.arrayContaining(['arm_freq=600', 'over_voltage=-4']))
    expect(evaluate(written(slower), catalogue).findings.map(finding => finding.code)).toContain('clock.lowered')
    // In a file whose plan says nothing of it, the file's own rule tells.
    const note = lint({ ...plan, boot: written(slower).boot }).find(finding => finding.code === 'boot.clock-lowered')!
    expect(note.severity).toBe('note')
    expect(Number(note.figures.find(figure => figure.unit === 'mA')!.value)).toBeGreaterThan(200)
  })

  it('stops clocks and voltages that no such board stands, whoever wrote them', () => {
    const wild = { ...plan, boot: { text: 'arm_freq=2900\nover_voltage=8\nforce_turbo=1\n' } }
    expect(codes(wild)).toEqual(expect.arrayContaining(['clock.out-of-range', 'clock.forced']))
  })

  it('loads the screen\'s driver on its bus, with rotation and lines, and comes alive', () => {
    const line = lines(plan).find(entry => entry.startsWith('dtoverlay=mipi-dbi-spi'))!
    expect(line).toContain('spi0-')
    expect(dark(written(plan))).toEqual([])
    expect(story(written(plan)).devices.map(device => device.path)).toContain('/dev/fb0')
  })
})

describe('C12, panel on the display connector', () => {
  it('is found by itself or loaded by its overlay, never both drivers', () => {
    expect(screenLines({ driver: 'full', path: 'connector', rotation: 0 }).boot).toEqual([
      'dtoverlay=vc4-kms-v3d', 'dtoverlay=vc4-kms-dsi-7inch',
    ])
    const both = { ...planOf('forty-usb-c', { panel: 'panel-flat-7' }),
      boot: { text: 'dtoverlay=vc4-kms-v3d\ndtoverlay=vc4-fkms-v3d\n' } }
    expect(codes(both)).toContain('overlay.fight')
  })

  it('is turned by the firmware only where the firmware sets the picture', () => {
    const rotated = (text: string) => codes({ ...planOf('forty-usb-c', { panel: 'panel-flat-7' }), boot: { text } })
    expect(rotated('dtoverlay=vc4-kms-v3d\nlcd_rotate=2\n')).toContain('screen.without-effect')
    expect(rotated('lcd_rotate=2\n')).not.toContain('screen.without-effect')
  })
})

describe('C13, audio board with screen and buttons', () => {
  const plan = planOf('forty-usb-c', { audio: 'audio-add-on' })

  it('has its overlay, which takes the sound bus and an address', () => {
    expect(lines(plan).some(line => line.startsWith('dtoverlay=wm8960-soundcard'))).toBe(true)
    expect(dark(written(plan))).toEqual([])
    expect(story(written(plan)).devices.map(device => device.path)).toContain('/proc/asound/cards')
  })

  it('finds the example\'s wrong number: a second function on the sound clock silences it', () => {
    const wrong = written(plan)
    const text = `${wrong.boot!.text}dtoverlay=gpio-fan,gpiopin=18\n`
    const clash = lint({ ...wrong, boot: { text } }).find(finding => finding.code === 'overlay.line-twice')!
    expect(clash).toMatchObject({ severity: 'stop', figures: [{ label: 'line', value: 18 }] })
    expect(dark({ ...wrong, boot: { text } })).toEqual(['audio'])
    expect(story({ ...wrong, boot: { text } }).collisions.map(collision => collision.where)).toEqual(['18'])
    expect(story({ ...wrong, boot: { text: applyChanges(text, clash.fixes[0]!.changes) } }).collisions).toEqual([])
  })

  it('knows where the file lies on newer images', () => {
    expect(codes({
      ...plan, boot: { text: 'DO NOT EDIT THIS FILE\nIt has moved to /boot/firmware/config.txt\n' },
    })).toContain('boot.wrong-copy')
  })
})

describe('C16, I²C sensor', () => {
  const plan = {
    ...planOf('forty-usb-c', { air: ['humidity-i2c', { address: '0x45' }] },
      { assignments: fixedAt({ 'air.sda': 3, 'air.scl': 5 }) }),
  }

  it('is loaded at the address it is strapped to', () => {
    expect(lines(plan)).toContain('dtoverlay=i2c-sensor,sht3x,addr=0x45')
    expect(story(written(plan)).claims.length).toBeGreaterThan(1)
    expect(dark(written(plan))).toEqual([])
  })

  it('fights with a second part at that address', () => {
    const text = `${written(plan).boot!.text}dtoverlay=i2c-sensor,sht4x,addr=0x45\n`
    expect(codes({ ...plan, boot: { text } })).toContain('overlay.address-twice')
    expect(story({ ...plan, boot: { text } }).collisions).toMatchObject([{ what: 'address', where: 'i2c1 0x45' }])
  })

  it('does not come alive from a line that a filter hides', () => {
    const hidden = { ...plan, boot: { text: '[pi5]\ndtparam=i2c_arm=on\ndtoverlay=i2c-sensor,sht3x,addr=0x45\n' } }
    expect(dark(hidden)).toEqual(['air'])
    const finding = lint(hidden).filter(entry => entry.code === 'boot.filtered')
    expect(finding.map(entry => [entry.line, entry.severity, entry.partIds]))
      .toEqual([[2, 'caution', ['air']], [3, 'caution', ['air']]])
    const mended = { ...plan, boot: { text: applyChanges(hidden.boot.text, finding[0]!.fixes[0]!.changes) } }
    expect(dark(mended)).toEqual([])
  })
})

describe('a line that stands there as a comment', () => {
  const lived = (text: string) => {
    const plan = placed(planOf('forty-classic', { l: 'light-i2c' }))!
    return { ...plan, boot: { ...plan.boot, text } } as Plan
  }
  const finding = (plan: Plan) => evaluate(plan, catalogue).findings.find(entry => entry.code === 'bus.not-enabled')

  it('is offered to be switched on, and that ends the finding without a second line', () => {
    const plan = lived('# mine\r\n# dtparam=i2c_arm=on\r\n')
    const [fix] = finding(plan)!.fixes
    expect(fix!.label).toBe('Switch line 2 on, which stands there as a comment')
    const mended = applyEdit(plan, { edit: 'all', edits: fix!.edits }).plan
    expect(mended.boot!.text).toBe('# mine\r\ndtparam=i2c_arm=on\r\n')
    expect(finding(mended)).toBeUndefined()
  })

  it('is not offered where it would change nothing: under another board\'s heading', () => {
    const { fixes } = finding(lived('[pi4]\n#dtparam=i2c_arm=on\n'))!
    expect(fixes.map(fix => fix.label)).toEqual(['Write all of it into the boot file'])
  })
})
