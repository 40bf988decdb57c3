import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boardSchema } from '../../../core/catalogue/schemas'
import { boardFromTree } from '../../../core/devicetree/board/catalogue'
import { lineOf } from '../../../core/devicetree/board/pins'
import { positionsFromNames, readPositions } from '../../../core/devicetree/board/positions'
import { overlayTarget, profileOf } from '../../../core/devicetree/board/profile'
import { baseSource } from '../../../core/devicetree/bases/base'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { compileText } from '../../../core/devicetree/source/compile'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { overlayForPart } from '../../../core/overlays/write'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import { boardOf } from '../../bootfiles'
import { anyTree } from '../../devicetree'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

/**
 * A made-up board with a pin controller of the given binding, an I²C bus on lines 11 and 12 and a serial port
 * on 4 and 5.
 */
const board = (i2c: string, uart: string,
  controller = 'gpio-controller; #gpio-cells = <2>;') => profileOf(compileText(`/dts-v1/;
/ {
  model = "Potting shed board"; compatible = "made-up,shed", "made-up,soc"; #address-cells = <1>; #size-cells = <1>;
  aliases { i2c0 = &i2c0; serial1 = &uart1; };
  pio: pinctrl@1000 { compatible = "made-up,pinctrl"; reg = <0x1000 0x100>; ${controller}
    i2c0_pins: i2c0-pins { ${i2c} };
    uart1_pins: uart1-pins { ${uart} };
    cfg: cfg { bias-disable; };
  };
  i2c0: i2c@2000 {
    compatible = "made-up,i2c"; reg = <0x2000 0x100>; pinctrl-names = "default"; pinctrl-0 = <&i2c0_pins>; status = "disabled";
  };
  uart1: serial@3000 { compatible = "ns16550a"; reg = <0x3000 0x100>; pinctrl-names = "default"; pinctrl-0 = <&uart1_pins>; };
};`, { symbols: true }))

// published: Linux kernel, bindings/pinctrl, one binding each
const BINDINGS: [name: string, i2c: string, uart: string, pins: string[], lines: (number | null)[]][] = [
  ['numbered', 'brcm,pins = <11 12>; brcm,function = <4>;', 'brcm,pins = <4 5>; brcm,function = <4>;',
    ['gpio11', 'gpio12'], [11, 12]],
  ['named', 'pins = "PA11", "PA12"; function = "i2c0";', 'pins = "PA4", "PA5"; function = "uart1";', ['PA11', 'PA12'],
    [11, 12]],
  [
    'grouped', 'mux { groups = "i2c0_sda_a", "i2c0_sck_a"; function = "i2c0"; };',
    'mux { groups = "uart1_tx", "uart1_rx"; function = "uart1"; };', ['i2c0_sda_a', 'i2c0_sck_a'], [null, null],
  ],
  ['banked', 'rockchip,pins = <1 11 2 &cfg>, <1 12 2 &cfg>;', 'rockchip,pins = <0 4 1 &cfg>, <0 5 1 &cfg>;', [
    'GPIO1_B3', 'GPIO1_B4',
  ], [43, 44]],
  [
    'padded', 'fsl,pins = <0x1bc 0x424 0x4a4 0x0 0x3 0x400001c3>, <0x1c0 0x428 0x4a8 0x0 0x3 0x400001c3>;',
    'fsl,pins = <0x234 0x49c 0 0 0 0x140>;', ['pad-0x1bc', 'pad-0x1c0'], [null, null],
  ],
  [
    'offset', 'pinctrl-single,pins = <0x188 0x30>, <0x18c 0x30>;', 'pinctrl-single,pins = <0x170 0x30>;',
    ['pad-0x188', 'pad-0x18c'],
    [null, null],
  ],
  ['packed', 'pins { pinmux = <0xb05>, <0xc05>; };', 'pins { pinmux = <0x401>, <0x501>; };', ['pin11', 'pin12'],
    [11, 12]],
  ['lettered', 'samsung,pins = "gpb-0", "gpb-1"; samsung,pin-function = <2>;', 'samsung,pins = "gpa-0";',
    ['gpb-0', 'gpb-1'], [null, null]],
]

describe('a board read from its tree', () => {
  it.each(BINDINGS)('has its buses with the pins of the %s binding', (binding, i2c, uart, pins, lines) => {
    const profile = board(i2c, uart)
    expect(profile).toMatchObject({
      model: 'Potting shed board', compatible: ['made-up,shed', 'made-up,soc'], hasSymbols: true, bindings: [binding],
    })
    const bus = profile.controllers.find(controller => controller.kind === 'i2c')!
    expect(bus).toMatchObject({ labels: ['i2c0'], number: 0, status: 'disabled', device: '/dev/i2c-0' })
    expect(bus.groups.flatMap(group => group.pins.map(pin => pin.name))).toEqual(pins)
    expect(bus.groups.flatMap(group => group.pins.map(pin => pin.line))).toEqual(lines)
    expect(profile.controllers.find(controller => controller.kind === 'serial'))
      .toMatchObject({ status: 'okay', device: '/dev/ttyS1' })
    expect(overlayTarget(profile, bus)).toBe('&i2c0')
  })

  it('without labels is named by path', () => {
    const profile = profileOf(compileText('/dts-v1/; / { soc { i2c@1 { compatible = "x-i2c"; reg = <1>; }; }; };'))
    expect([profile.hasSymbols, overlayTarget(profile, profile.controllers[0]!)]).toEqual([false, '&{/soc/i2c@1}'])
  })

  it('of a base tree that ships has the controllers of its catalogue file', () => {
    for (const shipped of catalogue.boards.values()) {
      const profile = profileOf(compileText(baseSource(shipped), { symbols: true }))
      for (const controller of shipped.controllers.filter(entry => entry.kind === 'i2c' || entry.kind === 'spi')) {
        const read = profile.controllers.find(entry => entry.labels.includes(controller.id))!
        const lines = new Set(read.groups.flatMap(group => group.pins.map(pin => pin.line)))
        for (const line of Object.values(controller.routes[0]!.lines)) {
          expect([shipped.id, controller.id, lines.has(line)]).toEqual([shipped.id, controller.id, true])
        }
      }
    }
  })

  it('is read from any tree that a blob can hold', () => {
    fc.assert(fc.property(anyTree, (tree) => {
      expect(Array.isArray(profileOf(tree).controllers)).toBe(true)
    }), { numRuns: draws(200) })
  })
})

const TABLE = '# position line\n1 3V3\n2,5V\n3\tPA12\n4 5V\n5 PA11\n6 GND\n7 gpio6\n8 PA4\n9 GND\n10 PA5\n11 1-22\n'

describe('a table of positions', () => {
  it('takes names, numbers, banks and rails, by tab, comma or blank', () => {
    const { rows, problems } = readPositions(TABLE)
    expect(problems).toEqual([])
    expect(rows.map(row => [row.position, row.kind, row.line])).toEqual([
      [1, '3V3', undefined], [2, '5V', undefined], [3, 'line', 12], [4, '5V', undefined], [5, 'line', 11],
      [6, 'ground', undefined],
      [7, 'line', 6], [8, 'line', 4], [9, 'ground', undefined], [10, 'line', 5], [11, 'line', 54],
    ])
    expect([lineOf('PC3'), lineOf('GPIO_14'), lineOf('pin7'), lineOf('SDA')]).toEqual([67, 14, 7, null])
    expect(readPositions('5 2B3').rows[0]!.line).toBe(2 * 32 + 8 + 3)
  })

  it('says of each line that it cannot read which and why', () => {
    expect(readPositions('3 PA12\n3 PA13\n999 GND\n4 what\nrow 7\n').problems.map(problem => problem.line))
      .toEqual([2, 3, 4, 5])
    fc.assert(fc.property(fc.string(), text => void readPositions(text)))
  })

  it('is told by line names that hold positions', () => {
    const profile = profileOf(compileText(baseSource(boardOf('forty-usb-c')), { symbols: true }))
    const rows = positionsFromNames(profile)
    expect(rows.find(row => row.position === 3)).toMatchObject({ kind: 'line', line: 2 })
    expect(rows).toHaveLength(28)
    expect(positionsFromNames(board(BINDINGS[0]![1], BINDINGS[0]![2]))).toEqual([])
  })
})

describe('a board made from a tree', () => {
  const profile = board(BINDINGS[1]![1], BINDINGS[1]![2], 'gpio-controller; #gpio-cells = <3>;')
  const made = boardFromTree(profile, readPositions(TABLE).rows, { id: 'own-shed', name: '' })

  it('is a board file, and says what it had to assume', () => {
    expect(boardSchema.validate(made.board).error).toBeUndefined()
    expect(made.board).toMatchObject({
      name: 'Potting shed board',
      tree: { compatible: 'made-up,soc', binding: 'named', chips: [{ label: 'pio', first: 0, cells: 3 }] },
    })
    expect(made.board.controllers.map(controller => [controller.id, controller.routes[0]!.lines])).toEqual([
      ['i2c0', { scl: 11, sda: 12 }], ['uart1', { tx: 4, rx: 5 }],
    ])
    expect(made.assumed.join(' ')).toContain('i2c0')
  })

  it('is planned on like a shipped one: placed, judged, and given an overlay that its tree takes', () => {
    const start = { ...planOf('own-shed', { air: 'humidity-i2c' }), own: { boards: [made.board], parts: [] } }
    const result = placePlan(start, catalogue, { scope: 'rest' })
    if (!result.ok) throw new Error(result.sentence)
    const plan = applyEdit(start, { edit: 'all', edits: placementEdits(start, result) }).plan
    expect(plan.assignments['air.sda']).toMatchObject({ position: 3 })
    const report = evaluate(plan, catalogue)
    expect(report.findings.filter(finding => finding.severity === 'stop')).toEqual([])
    const facts = gatherFacts(plan, catalogue)
    const overlay = overlayForPart(facts, facts.parts[0]!)
    if (!overlay.ok) throw new Error(overlay.why)
    expect(overlay.source).toContain('&i2c0 {')
    const tree = compileText(
      '/dts-v1/; / { #address-cells = <1>; #size-cells = <1>; i2c0: i2c@2000 { reg = <0x2000 4>; status = '
      + '"disabled"; }; };',
      { symbols: true },
    )
    expect(() => applyOverlay(tree, compileText(overlay.source))).not.toThrow()
  })

  it('names lines by bank where its chip wants that', () => {
    const start = {
      ...planOf('own-shed', { keys: 'led-plain' }), own: { boards: [made.board], parts: [] },
      assignments: { 'keys.a': { position: 7 } },
    }
    const facts = gatherFacts(start, catalogue)
    const overlay = overlayForPart(facts, facts.parts[0]!)
    if (!overlay.ok) throw new Error(overlay.why)
    expect(overlay.source).toContain('gpios = <&pio 0 6 0>;')
    expect(overlay.source).toContain('pins = "PA6";')
  })

  it('says when its tree has no labels to name', () => {
    const bare = { ...made.board, tree: { ...made.board.tree!, symbols: false } }
    const facts = gatherFacts(
      { ...planOf('own-shed', { keys: 'led-plain' }), own: { boards: [bare], parts: [] },
        assignments: { 'keys.a': { position: 7 } } },
      catalogue,
    )
    expect(overlayForPart(facts, facts.parts[0]!))
      .toMatchObject({ ok: false, why: expect.stringContaining('without labels') })
  })
})

describe('an overlay for a part', () => {
  const facts = (parts: Parameters<typeof planOf>[1],
    more = {}) => gatherFacts(planOf('forty-usb-c', parts, more), catalogue)
  const first = (made: ReturnType<typeof facts>) => overlayForPart(made, made.parts[0]!)

  it('is not made where something is missing, and says what', () => {
    expect(first(facts({ a: 'humidity-i2c' })))
      .toMatchObject({ ok: false, why: expect.stringContaining('on no I²C bus yet') })
    expect(first(facts({ a: 'led-plain' })))
      .toMatchObject({ ok: false, why: expect.stringContaining('no line of the header yet') })
    expect(first(facts({ a: 'fan-socket' })))
      .toMatchObject({ ok: false, why: expect.stringContaining('no kernel binding') })
    expect(first(gatherFacts(planOf(null, { a: 'led-plain' }), catalogue))).toMatchObject({
      ok: false, why: expect.stringContaining('board first'),
    })
  })

  it('of the maker\'s own part comes from the part\'s file', () => {
    const own = {
      ...catalogue.parts.get('light-i2c')!, id: 'own-light',
      kernel: { node: 'light', compatible: 'made-up,light', on: 'i2c' as const, origin: 'yours',
        properties: ['gain = <2>;'] },
    }
    const overlay = first(gatherFacts(
      {
        ...planOf('forty-usb-c', { a: 'own-light' }), own: { boards: [], parts: [own] },
        assignments: { 'a.sda': { position: 3 }, 'a.scl': { position: 5 } },
      },
      catalogue,
    ))
    expect(overlay).toMatchObject({ ok: true, source: expect.stringContaining('compatible = "made-up,light";') })
  })
})
