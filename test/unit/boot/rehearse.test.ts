import { describe, expect, it } from 'vitest'
import { bundleOf, textOfBundle, unzip, zipOf } from '../../../core/boot/bundle'
import { base64Of, bytesOf } from '../../../core/boot/bytes'
import { startDevices } from '../../../core/boot/rehearse/kernel'
import { baseFor, rehearse } from '../../../core/boot/rehearse/rehearse'
import { readBlob } from '../../../core/devicetree/blob/read'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { compileText } from '../../../core/devicetree/source/compile'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { treeOf } from '../../../core/overlays/write'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { boardOf } from '../../bootfiles'
import { placedPlans } from '../../generated'
import { catalogue, fixedAt, planOf } from '../../plans'
import { judgedAtLeast } from '../../random'

const story = (plan: Plan) => rehearse(gatherFacts(plan, catalogue))
const withFile = (text: string, more: Partial<Plan['boot'] & object> = {}, board = 'forty-usb-c') => ({
  ...planOf(board, {}), boot: { text, ...more },
})
const paths = (plan: Plan) => story(plan).devices.map(device => device.path)
const failures = (plan: Plan) => story(plan).steps.filter(step => step.outcome === 'failed')
  .map(step => `${step.line ?? ''} ${step.title}: ${step.detail}`)

// Device nodes by their drivers and names of buses: memory, as handbooks of the kernel describe them.
describe('a rehearsal of a file', () => {
  it('brings the buses and ports that its lines switch on', () => {
    expect(paths(withFile(''))).not.toContain('/dev/i2c-1')
    const on = paths(withFile('dtparam=i2c_arm=on\ndtparam=spi=on\nenable_uart=1\ndtoverlay=i2c3\ndtoverlay=uart2\n'))
    for (const path of ['/dev/i2c-1', '/dev/i2c-3', '/dev/spidev0.0', '/dev/spidev0.1', '/dev/ttyS0', '/dev/ttyAMA2']) {
      expect(on).toContain(path)
    }
  })

  it('takes the device for programs away where a part has its select', () => {
    const on = paths(withFile('dtparam=spi=on\ndtoverlay=mcp2515-can0,oscillator=16000000,interrupt=25\n'))
    expect(on).toContain('/dev/spidev0.1')
    expect(on).not.toContain('/dev/spidev0.0')
    expect(on).toContain('/sys/class/net/can0')
  })

  it('brings clocks, keys, screens and frame buffers by their drivers', () => {
    const on = paths(
      withFile(
        'dtparam=i2c_arm=on\ndtparam=spi=on\ndtoverlay=i2c-rtc,ds3231\ndtoverlay=gpio-key,gpio=17\n'
        + 'dtoverlay=vc4-kms-v3d\ndtoverlay=ssd1306\n',
      ),
    )
    for (const path of ['/dev/rtc0', '/dev/input/event*', '/dev/dri/card0', '/dev/fb0',
      '/dev/fb1']) expect(on).toContain(path)
  })

  it('tells what does not load, with the line and the reason', () => {
    expect(failures(withFile('dtoverlay=nonesuch\n'))).toEqual(
      ['1 Overlay nonesuch: The file nonesuch.dtbo is neither in the library nor among your files. The loader '
        + 'goes on without it.'],
    )
    expect(failures(withFile(
      'gpu_mem=64\ndtoverlay=i2c3\n', {}, 'forty-classic',
    ))[0]).toMatch(/^2 Overlay i2c3: The base has no label "i2c3"/)
    expect(failures(withFile('dtparam=i2c_amr=on\n'))[0]).toContain('no parameter "i2c_amr"')
    expect(failures(withFile('dtoverlay=w1-gpio,gpiopn=4\n'))[0]).toContain('no parameter "gpiopn"')
  })

  it('leaves out what a section hides, and says so', () => {
    const steps = story(withFile('[pi5]\ndtparam=i2c_arm=on\n[gpio4=1]\ndtparam=spi=on\n')).steps
    expect(steps.filter(step => step.outcome === 'skipped').map(step => step.line)).toEqual([2, 4])
    expect(paths(withFile('[pi4]\ndtparam=i2c_arm=on\n'))).toContain('/dev/i2c-1')
  })

  it('meets collisions as the kernel would: a line, an address, a select', () => {
    const line = story(withFile('dtoverlay=gpio-fan,gpiopin=18\ndtoverlay=gpio-ir,gpio_pin=18\n'))
    expect(line.collisions).toMatchObject([{ what: 'line', where: '18' }])
    expect(line.collisions[0]!.sentence)
      .toMatch(/pin gpio18 is already requested by .*gpio_fan; .*ir-receiver@12 cannot claim it/)
    expect(story(withFile('dtoverlay=i2c-rtc,ds3231\ndtoverlay=mpu6050\n')).collisions).toMatchObject([{
      what: 'address', where: 'i2c1 0x68',
    }])
    expect(story(withFile('dtoverlay=mcp2515-can0,interrupt=25\ndtoverlay=enc28j60,int_pin=24\n')).collisions)
      .toMatchObject([{
        what: 'select', where: 'spi0.0',
      }])
    expect(story(withFile('dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\ndtoverlay=w1-gpio\n')).collisions).toEqual([])
  })

  it('applies the maker\'s own overlays, source and blob, with their own parameters', () => {
    const source = '/dts-v1/;\n/plugin/;\n&i2c1 {\n\tstatus = "okay";\n\tclock: rtc@68 { compatible = "maxim,ds3231"; reg = <0x68>; '
      + '};\n};\n/ { __overrides__ { addr = <&clock>,"reg:0"; }; };\n'
    const blob = base64Of(writeBlob(compileText(source, { symbols: true })))
    for (const own of [
      { name: 'my-clock', kind: 'source' as const, content: source },
      { name: 'my-clock', kind: 'blob' as const, content: blob },
    ]) {
      const plan = withFile('dtoverlay=my-clock,addr=0x69\n', { overlays: [own] })
      expect(failures(plan)).toEqual([])
      expect(story(plan).devices.find(device => device.path === '/dev/rtc0')!.node).toMatch(/rtc@69$/)
    }
    expect(failures(withFile(
      'dtoverlay=broken\n',
      { overlays: [{ name: 'broken', kind: 'source', content: '/dts-v1/;\n/plugin/;\n&i2c1 { oops' }] },
    ))[0]).toMatch(/broken\.dts:3/)
  })

  it('runs on a base tree of the maker\'s own', () => {
    const base = compileText(
      '/dts-v1/;\n/ { model = "Garden board"; compatible = "garden"; #address-cells = <1>; #size-cells = <1>; aliases { i2c7 = &bus; }; '
      + 'bus: i2c@1000 { compatible = "garden-i2c"; reg = <0x1000 4>; #address-cells = <1>; #size-cells = <0>; status = "disabled"; }; '
      + '};',
      { symbols: true },
    )
    const overlay = { name: 'on', kind: 'source' as const,
      content: '/dts-v1/;\n/plugin/;\n&bus { status = "okay"; };\n' }
    const plan = withFile('dtoverlay=on\n',
      { base: { name: 'garden.dtb', content: base64Of(writeBlob(base)) }, overlays: [overlay] })
    expect(story(plan).steps[0]!.detail).toContain('Garden board')
    expect(paths(plan)).toEqual(['/dev/i2c-7'])
  })

  it('reads a menu file and an environment list as well', () => {
    const overlay = {
      name: 'clock', kind: 'source' as const,
      content: '/dts-v1/;\n/plugin/;\n&i2c1 { status = "okay"; rtc@68 { compatible = "maxim,ds3231"; reg = <0x68>; }; };\n',
    }
    expect(paths(withFile(
      'default a\nlabel a\n linux /x\n fdtoverlays /overlays/clock.dtbo\n',
      { dialect: 'extlinux', overlays: [overlay] },
    ))).toContain('/dev/rtc0')
    expect(paths(withFile(
      'default b\nlabel a\n linux /x\n fdtoverlays /overlays/clock.dtbo\nlabel b\n linux /x\n',
      { dialect: 'extlinux', overlays: [overlay] },
    ))).not.toContain('/dev/rtc0')
    expect(paths(withFile('user_overlays=clock\n', { dialect: 'environment', overlays: [overlay] })))
      .toContain('/dev/rtc0')
  })
})

describe('the parts of a plan', () => {
  const clock = planOf('forty-usb-c', { clock: 'clock-cell-i2c' },
    { assignments: fixedAt({ 'clock.sda': 3, 'clock.scl': 5 }) })

  it('stay dark without their lines, with the missing one and an edit that writes it', () => {
    const [part] = story({ ...clock, boot: { text: '# mine\n' } }).parts
    expect(part).toMatchObject({ state: 'dark', why: 'The line dtparam=i2c_arm=on is missing.' })
    const mended = applyEdit({ ...clock, boot: { text: '# mine\n' } }, part!.fix!.edits[0]!).plan
    expect(story(mended).parts)
      .toMatchObject([{ state: 'alive', why: 'Its driver is loaded by dtoverlay=i2c-rtc,ds3231.' }])
  })

  it('say which section hides the line, and which says the opposite', () => {
    const good = evaluate(clock, catalogue).boot.text
    expect(story({
      ...clock, boot: { text: 'dtparam=i2c_arm=on\n[none]\ndtoverlay=i2c-rtc,ds3231\n' },
    }).parts[0]!.why).toContain('[none] hides it')
    expect(story({
      ...clock, boot: { text: 'dtparam=i2c_arm=off\n' },
    }).parts[0]!.why).toBe('Line 1 says off, where dtparam=i2c_arm=on is needed.')
    expect(story({ ...clock, boot: { text: good, off: ['clock'] } }).parts[0]!).toMatchObject({
      state: 'dark', fix: { label: 'Switch its lines on' },
    })
    expect(story({
      ...clock, boot: { text: good.replace('dtoverlay=i2c-rtc,ds3231\n', '') },
    }).parts[0]!.fix!.label).toBe('Take the plan\'s line again')
  })

  it('stay dark where another takes their line or address, and where the console holds their port', () => {
    const fan = planOf('forty-usb-c', { fan: 'fan-5v' },
      { assignments: fixedAt({ 'fan.drive': 12, 'fan.vcc': 2, 'fan.gnd': 6 }) })
    const text = `${evaluate(fan, catalogue).boot.text}dtoverlay=gpio-ir,gpio_pin=18\n`
    const [dark] = story({ ...fan, boot: { text } }).parts
    expect(dark!.state).toBe('dark')
    const mended = applyEdit({ ...fan, boot: { text } }, dark!.fix!.edits[0]!).plan
    expect(story(mended).parts[0]!.state).toBe('alive')
    const serial = planOf('forty-usb-c', { gps: 'positioning-serial' },
      { assignments: fixedAt({ 'gps.tx': 10, 'gps.rx': 8 }) })
    const held = { ...serial,
      boot: { text: evaluate(serial, catalogue).boot.text, commandLine: 'console=serial0,115200 root=/dev/x' } }
    const [gps] = story(held).parts
    expect(gps).toMatchObject({ state: 'dark', fix: { label: 'Free the port' } })
    expect(story(applyEdit(held, gps!.fix!.edits[0]!).plan).parts[0]!.state).toBe('alive')
  })

  it('of every demo plan come alive by the fixes alone', () => {
    for (let plan of demoPlans) {
      for (let step = 0; step < 20; step++) {
        const dark = story(plan).parts.find(part => part.state === 'dark' && part.fix)
        if (!dark) break
        plan = dark.fix!.edits.reduce((now, edit) => applyEdit(now, edit).plan, plan)
      }
      expect(story(plan).parts.filter(
        part => part.state === 'dark' && part.cause !== 'address-twin',
      ).map(part => `${plan.name}: ${part.name}: ${part.why}`)).toEqual([])
    }
  })

  it('come out the same twice', () => {
    expect(JSON.stringify(story(demoPlans[0]!))).toBe(JSON.stringify(story(demoPlans[0]!)))
  })
})

describe('the zip for the card', () => {
  const plan = {
    ...planOf('forty-usb-c', { scale: 'scale-two-wire' },
      { assignments: fixedAt({ 'scale.dout': 29, 'scale.sck': 31 }) }),
    boot: { text: '# mine\r\n', commandLine: 'root=/dev/x', made: ['scale'] },
  }
  const files = bundleOf(gatherFacts(plan, catalogue))

  it('holds the boot file with the plan\'s lines, the command line, the overlay as source and blob, and how to use it',
    () => {
      expect(files.map(file => file.path)).toEqual([
        'config.txt', 'cmdline.txt', 'overlays/voltaris-scale.dts', 'overlays/voltaris-scale.dtbo', 'HOW-TO.txt',
      ])
      expect(textOfBundle(files, 'config.txt')).toContain('dtoverlay=voltaris-scale')
      expect(textOfBundle(files, 'HOW-TO.txt')).toContain('Keep the old files')
      const blob = files.find(file => file.path.endsWith('.dtbo'))!.bytes
      expect([...writeBlob(readBlob(blob))]).toEqual([...blob])
      expect(story({ ...plan, boot: { ...plan.boot, text: textOfBundle(files, 'config.txt')! } }).parts)
        .toMatchObject([{ state: 'alive' }])
    })

  it('is the same bytes each time, and comes back as it went in', () => {
    expect([...zipOf(files)]).toEqual([...zipOf(files)])
    expect(unzip(zipOf(files)).map(file => [file.path, [...file.bytes]]))
      .toEqual(files.map(file => [file.path, [...file.bytes]]))
  })

  it('refuses what is no zip, and a zip of too many files, with a reason', () => {
    expect(() => unzip(new Uint8Array([0x50, 0x4B, 3, 4, 0, 0]))).toThrow()
    const many = zipOf(Array.from({ length: 401 }, (_, i) => ({ path: `f${i}`, bytes: new Uint8Array(1) })))
    expect(() => unzip(many)).toThrow(/more than/)
  })

  it('carries bytes through base64 whatever they are', () => {
    const bytes = Uint8Array.from({ length: 70_000 }, (_, i) => i * 7)
    expect([...bytesOf(base64Of(bytes))]).toEqual([...bytes])
  })
})

describe('what a driver wants beyond its node', () => {
  const overlay = (body: string) => ({
    name: 'mine', kind: 'source' as const,
    content: `/dts-v1/;\n/plugin/;\n/ { compatible = "brcm,bcm2835"; };\n${body}`,
  })
  const wantsOf = (body: string) => {
    const board = boardOf('forty-usb-c')
    const on = '&i2c1 { status = "okay"; };\n&spi0 { status = "okay"; };\n&spidev0_0 { status = "disabled"; };\n'
    const tree = applyOverlay(baseFor(board), compileText(overlay(on + body).content, { symbols: true }))
    return [...startDevices(tree, treeOf(board).chips).nodes.values()].flatMap(({ wants }) => wants ?? [])
  }

  // published: Linux 6.1, bindings and drivers named in core/boot/rehearse/demands.ts
  it.each<[string, string, RegExp | null]>([
    [
      'a fan that no step turns on',
      '&{/} { f: fan-x { compatible = "gpio-fan"; gpios = <&gpio 4 0>; gpio-fan,speed-map = <0 0>, <1 1>; }; };',
      /never turns/,
    ],
    [
      'a fan that a step turns on',
      '&{/} { f: fan-x { compatible = "gpio-fan"; gpios = <&gpio 4 0>; }; };\n&cpu_thermal { trips { t: t { }; }; cooling-maps { m { '
      + 'trip = <&t>; '
      + 'cooling-device = <&f 1 1>; }; }; };', null,
    ],
    [
      'a vehicle bus without its crystal',
      '&spi0 { can@0 { compatible = "microchip,mcp2515"; reg = <0>; interrupt-parent = <&gpio>; interrupts = <25 '
      + '8>; }; };', /wants clocks/,
    ],
    [
      'an expander\'s mask of one byte',
      '&spi0 { g@0 { compatible = "microchip,mcp23s17"; reg = <0>; microchip,spi-present-mask = /bits/ 8 <1>; }; };',
      /no cell of 32 bits/,
    ],
    [
      'keys that are low by their flags alone',
      '&{/} { k { compatible = "gpio-matrix-keypad"; row-gpios = <&gpio 4 1>; col-gpios = <&gpio 5 1>; linux,keymap = '
      + '<1>; }; };',
      /gpio-activelow/,
    ],
    [
      'a small screen without its width of bus', '&spi0 { s@0 { compatible = "sitronix,st7789v"; reg = <0>; }; };',
      /wants buswidth or port/,
    ],
    [
      'a touch chip that nothing asks',
      '&i2c1 { t@5a { compatible = "fsl,mpr121-touchkey"; reg = <0x5a>; linux,keycodes = <2>; }; };',
      /interrupts or interrupts-extended or poll-interval/,
    ],
    [
      'a scale without its reference',
      '&{/} { h { compatible = "avia,hx711"; dout-gpios = <&gpio 5 0>; sck-gpios = <&gpio 6 0>; }; };',
      /wants avdd-supply/,
    ],
  ])('%s', (_, body, words) => {
    const [wants] = wantsOf(body)
    if (words) expect(wants).toMatch(words)
    else expect(wants).toBeUndefined()
  })

  it('leaves a part dark with that reason, and the overlay that is made for it has all of it', () => {
    const plan = planOf('forty-usb-c', { scale: 'scale-two-wire' },
      { assignments: fixedAt({ 'scale.dout': 29, 'scale.sck': 31 }) })
    const bare = overlay('&{/} { h { compatible = "avia,hx711"; dout-gpios = <&gpio 5 0>; sck-gpios = <&gpio 6 '
      + '0>; }; };')
    const [dark] = story({ ...plan, boot: { text: 'dtoverlay=mine\n', overlays: [bare] } }).parts
    expect(dark).toMatchObject({ state: 'dark', cause: 'driver-wants', why: expect.stringContaining('avdd-supply') })
    const [alive] = story({ ...plan, boot: { text: 'dtoverlay=voltaris-scale\n', made: ['scale'] } }).parts
    expect(alive).toMatchObject({ state: 'alive' })
  })
})

describe('a tree of another kind of board', () => {
  const base = {
    name: 'other.dtb', content: base64Of(
      writeBlob(compileText('/dts-v1/; / { model = "Garden board"; compatible = "made-up,garden", "made-up,soc"; };')),
    ),
  }
  const plan = planOf('forty-usb-c', { clock: 'clock-cell-i2c', lamp: 'mosfet-board' }, {
    assignments: fixedAt({ 'clock.sda': 3, 'clock.scl': 5, 'lamp.in': 11 }),
  })
  const with_ = { ...plan, boot: { text: 'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\n', base } }

  it('is told before anything else, and its way out leads back to the tree of the class', () => {
    const told = story(with_)
    expect(told.steps[0]).toMatchObject({ outcome: 'failed', title: 'The tree of another board' })
    expect(told.parts.map(part => part.cause)).toEqual(['other-tree', undefined])
    const finding = evaluate(with_, catalogue).findings.find(entry => entry.code === 'boot.base-other')!
    expect(finding.sentence).toMatch(/Garden board \(made-up,garden, made-up,soc\), not of Forty-position board/)
    const mended = applyEdit(with_, { edit: 'all', edits: finding.fixes[0]!.edits }).plan
    expect(story(mended).parts[0]!.state).toBe('alive')
    expect(evaluate(mended, catalogue).findings.map(entry => entry.code)).not.toContain('boot.base-other')
  })

  it('is not told of a tree that is the board\'s own class', () => {
    const own = {
      ...with_, boot: { ...with_.boot,
        base: { name: 'own.dtb', content: base64Of(writeBlob(baseFor(boardOf('forty-usb-c')))) } },
    }
    expect(story(own).steps[0]!.title).toBe('Base tree')
  })
})

describe('two parts for one place', () => {
  it('at one address are not both alive', () => {
    const plan = planOf(
      'forty-usb-c', { a: 'light-i2c', b: 'light-i2c' },
      { assignments: fixedAt({ 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }) },
    )
    const { parts } = story({ ...plan, boot: { text: evaluate(plan, catalogue).boot.text } })
    expect(parts.map(part => [part.state, part.cause])).toEqual([['dark', 'address-twin'], ['dark', 'address-twin']])
  })

  it('one part loaded by its own overlay and by the library\'s is told, and the way out keeps the one that '
    + 'the plan wants', () => {
    const start = planOf('forty-usb-c', { clock: 'clock-cell-i2c' },
      { assignments: fixedAt({ 'clock.sda': 3, 'clock.scl': 5 }) })
    for (const made of [[], ['clock']]) {
      const plan = { ...start,
        boot: { text: 'dtparam=i2c_arm=on\ndtoverlay=i2c-rtc,ds3231\ndtoverlay=voltaris-clock\n', made } }
      const twice = evaluate(plan, catalogue).findings.find(finding => finding.code === 'overlay.part-twice')!
      expect(twice.title).toBe('clock is loaded twice')
      const { plan: mended } = applyEdit(plan, { edit: 'all', edits: twice.fixes[0]!.edits })
      expect(mended.boot!.text).toContain(made.length ? '#dtoverlay=i2c-rtc' : '#dtoverlay=voltaris-clock')
      expect(evaluate(mended, catalogue).findings.filter(finding => finding.severity !== 'note')
        .map(finding => finding.code)).toEqual([])
      expect(story(mended).parts[0]!.state).toBe('alive')
    }
  })
})

describe('lines that drivers ask for', () => {
  it('go the way that the part at their other end says, over generated plans', () => {
    let compared = 0
    for (const plan of [...demoPlans, ...placedPlans(80, 3000, 6)]) {
      const facts = gatherFacts(plan, catalogue)
      for (const { line, as, direction, clash, node } of rehearse(facts).claims) {
        if (as !== 'gpio') {
          expect(direction).toBeUndefined()
          continue
        }
        const there = facts.terminals.filter(({ place, signal }) =>
          signal && place?.kind === 'header' && place.line?.line === line)
        if (clash || there.length !== 1 || there[0]!.signal!.direction === 'both') continue
        compared++
        expect([node, there[0]!.key, direction])
          .toEqual([node, there[0]!.key, there[0]!.signal!.direction === 'in' ? 'out' : 'in'])
      }
    }
    expect(compared).toBeGreaterThan(judgedAtLeast(30))
  })
})
