import { describe, expect, it } from 'vitest'
import { partSchema } from '../../../core/catalogue/schemas'
import { baseFor } from '../../../core/boot/rehearse/rehearse'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { compileText } from '../../../core/devicetree/source/compile'
import { cellsOf, nodeAt, propertyOf, stringsOf, walk, type TreeNode } from '../../../core/devicetree/types'
import { gatherFacts } from '../../../core/facts/gather'
import { needsOf } from '../../../core/overlays/asks/needs'
import { overlayBlob, overlayForPart, overlaysForParts, treeOf } from '../../../core/overlays/write'
import { boardOf } from '../../bootfiles'
import { bindings, catalogue, fixedAt, planOf } from '../../plans'

/** The overlay of a part placed by hand, as source and as tree. */
function made(part: string | [string, Record<string, string>], places: Record<string, number>, board = 'forty-usb-c') {
  const facts = gatherFacts(
    planOf(
      board, { p: part },
      { assignments: fixedAt(Object.fromEntries(Object.entries(places)
        .map(([terminal, position]) => [`p.${terminal}`, position]))) },
    ),
    catalogue,
  )
  const overlay = overlayForPart(facts, facts.parts[0]!)
  if (!overlay.ok) throw new Error(overlay.why)
  return { ...overlay, root: compileText(overlay.source, { symbols: true }).root }
}

/** The first node with a `compatible` that begins so. */
function device(root: TreeNode, compatible: string): TreeNode {
  for (const { node } of walk(root)) {
    const property = propertyOf(node, 'compatible')
    if (property && stringsOf(property.value)[0] === compatible) return node
  }
  throw new Error(`no ${compatible}`)
}
const cells = (node: TreeNode, name: string) => cellsOf(propertyOf(node, name)!.value)
const text = (node: TreeNode, name: string) => stringsOf(propertyOf(node, name)!.value)[0]
const pinGroup = (root: TreeNode) => [...walk(root)].map(({ node }) => node)
  .find(node => propertyOf(node, 'brcm,pins') ?? propertyOf(node, 'pins'))!

// Bindings: published, Linux kernel, Documentation/devicetree/bindings; the file stands in the overlay itself.
describe('an overlay for a part', () => {
  it('puts a part on I²C at its address, with its interrupt, supply and pull', () => {
    const { root, source } = made(['motion-i2c', { address: '0x69' }], { sda: 3, scl: 5, int: 11 })
    const node = device(root, 'invensense,mpu6050')
    expect(node.name).toBe('imu@69')
    expect(cells(node, 'reg')).toEqual([0x69])
    expect(cells(node, 'interrupts')).toEqual([17, 1])
    expect(source).toContain('vdd-supply = <&vdd_3v3_reg>;')
    expect(cells(pinGroup(root), 'brcm,pins')).toEqual([17])
    expect(source).toContain('bindings/iio/imu/invensense,mpu6050.yaml')
  })

  it('leaves an interrupt out that is not wired', () => {
    const { root } = made('gesture-i2c', { sda: 3, scl: 5 })
    expect(propertyOf(device(root, 'avago,apds9960'), 'interrupts')).toBeUndefined()
  })

  it('puts a part on the select it is wired to, with clock, crystal and interrupt, and frees that select', () => {
    const { root, source } = made('bus-vehicle-spi', { sck: 23, si: 19, so: 21, select: 26, int: 22 })
    const node = device(root, 'microchip,mcp2515')
    expect(node.name).toBe('can@1')
    expect(cells(node, 'spi-max-frequency')).toEqual([10_000_000])
    expect(cells(node, 'interrupts')).toEqual([25, 8])
    expect(source).toContain('&spidev0_1 {\n\tstatus = "disabled";')
    expect(cells(device(root, 'fixed-clock'), 'clock-frequency')).toEqual([8_000_000])
  })

  it('follows the bus that the part lies on', () => {
    expect(made('humidity-i2c', { sda: 7, scl: 29 }).source).toContain('&i2c3 {')
    expect(made('analog-8-spi', { clk: 40, din: 38, dout: 35, select: 12 }).source).toContain('&spi1 {')
  })

  it('gives every key its line, with a pull and the sense of a contact to ground', () => {
    const { root } = made('joystick-contacts', { up: 11, down: 13, left: 15, right: 16, fire: 18 })
    const keys = device(root, 'gpio-keys').children
    expect(keys.map(key => [text(key, 'label'), cells(key, 'gpios').slice(1), cells(key, 'linux,code')])).toEqual([
      ['Up', [17, 1], [103]], ['Down', [27, 1], [108]], ['Left', [22, 1], [105]], ['Right', [23, 1], [106]],
      ['Fire', [24, 1], [28]],
    ])
    expect(cells(pinGroup(root), 'brcm,pull')).toEqual([2, 2, 2, 2, 2])
  })

  it('reads the rows of a matrix with pulls and drives its columns, each crossing with a key of its own', () => {
    const { root } = made(
      ['keypad-matrix', { rows: '2', columns: '3', diodes: 'no' }],
      { row1: 11, row2: 13, col1: 15, col2: 16, col3: 18 },
    )
    const node = device(root, 'gpio-matrix-keypad')
    expect(cells(node, 'row-gpios').filter((_, i) => i % 3 === 1)).toEqual([17, 27])
    expect(cells(node, 'col-gpios').filter((_, i) => i % 3 === 1)).toEqual([22, 23, 24])
    const map = cells(node, 'linux,keymap')
    expect(map).toHaveLength(6)
    expect(new Set(map.map(entry => entry & 0xFFFF)).size).toBe(6)
    expect(map.map(entry => [entry >>> 24, (entry >>> 16) & 0xFF]))
      .toEqual([[0, 0], [0, 1], [0, 2], [1, 0], [1, 1], [1, 2]])
    const group = pinGroup(root)
    expect([cells(group, 'brcm,function'), cells(group, 'brcm,pull')]).toEqual([[0, 0, 1, 1, 1], [2, 2, 0, 0, 0]])
  })

  it('drives a lamp and listens to a receiver', () => {
    expect(cells(pinGroup(made('led-plain', { a: 11 }).root), 'brcm,function')).toEqual([1])
    expect(cells(pinGroup(made('infrared-receiver', { out: 11 }).root), 'brcm,function')).toEqual([0])
  })

  it('names pins and a function where the board\'s pin controller wants that', () => {
    const board = { ...boardOf('forty-usb-c'), id: 'own-named',
      tree: { ...treeOf(boardOf('forty-usb-c')), binding: 'named' as const } }
    const facts = gatherFacts(
      {
        ...planOf('own-named', { p: 'buttons-4' }), own: { boards: [board], parts: [] },
        assignments: fixedAt({ 'p.b1': 11, 'p.b2': 13, 'p.b3': 15, 'p.b4': 16 }),
      },
      catalogue,
    )
    const overlay = overlayForPart(facts, facts.parts[0]!)
    if (!overlay.ok) throw new Error(overlay.why)
    const group = pinGroup(compileText(overlay.source).root)
    expect([
      stringsOf(propertyOf(group, 'pins')!.value), text(group, 'function'),
      propertyOf(group, 'bias-pull-up') !== undefined,
    ]).toEqual([['gpio17', 'gpio27', 'gpio22', 'gpio23'], 'gpio', true])
  })

  it('behind a hub is written with the hub, so that the two overlays speak of one node in any order', () => {
    const behind = gatherFacts(
      {
        ...planOf('forty-usb-c', { hub: 'hub-8-i2c', p: 'humidity-i2c' }),
        assignments: { ...fixedAt({ 'hub.sda': 3, 'hub.scl': 5 }), 'p.sda': { terminal: 'hub.SD3' },
          'p.scl': { terminal: 'hub.SC3' } },
      },
      catalogue,
    )
    expect(needsOf(behind).flatMap(({ need }) => need.kind === 'overlay' ? need.name : []))
      .toEqual(['voltaris-hub', 'voltaris-p'])
    const [hub, part] = behind.parts.map((owner) => {
      const overlay = overlayForPart(behind, owner)
      if (!overlay.ok) throw new Error(overlay.why)
      return compileText(overlay.source, { symbols: true })
    })
    for (const order of [[hub!, part!], [part!, hub!]]) {
      const tree = order.reduce((now, overlay) => applyOverlay(now, overlay), baseFor(behind.board))
      const muxes = [...walk(tree.root)].filter(({ node }) =>
        propertyOf(node, 'compatible') && text(node, 'compatible') === 'nxp,pca9548')
      expect(muxes.map(({ path }) => path)).toEqual(['/soc/i2c@7e804000/i2c-mux@70'])
      expect(muxes[0]!.node.children.map(child => child.name).sort())
        .toEqual([0, 1, 2, 3, 4, 5, 6, 7].map(n => `i2c@${n}`))
      expect(nodeAt(tree.root, '/soc/i2c@7e804000/i2c-mux@70/i2c@3/humidity@44')).not.toBe(null)
    }
  })

  it('says why a bus that the kernel makes cannot be named', () => {
    const soft = gatherFacts(
      {
        ...planOf('forty-usb-c', { p: 'humidity-i2c' }), softwareBuses: [{ id: 'i2c-soft-1', sda: 16, scl: 18 }],
        assignments: fixedAt({ 'p.sda': 16, 'p.scl': 18 }),
      },
      catalogue,
    )
    expect(overlayForPart(soft, soft.parts[0]!))
      .toMatchObject({ ok: false, why: expect.stringContaining('the kernel makes itself') })
  })

  it('cannot be broken out of by a name', () => {
    const facts = gatherFacts(
      {
        ...planOf('forty-usb-c', { p: 'led-plain' }, { assignments: fixedAt({ 'p.a': 11 }) }),
        parts: [{ id: 'p', type: 'led-plain', name: '*/ evil { };' }],
      },
      catalogue,
    )
    const overlay = overlayForPart(facts, facts.parts[0]!)
    if (!overlay.ok) throw new Error(overlay.why)
    expect(() => compileText(overlay.source)).not.toThrow()
    expect([...walk(compileText(overlay.source).root)].some(({ node }) => node.name === 'evil')).toBe(false)
  })

  it('is the same source and blob each time', () => {
    const once = made('light-i2c', { sda: 3, scl: 5 })
    expect(made('light-i2c', { sda: 3, scl: 5 }).source).toBe(once.source)
    expect([...overlayBlob(once.source)]).toEqual([...overlayBlob(once.source)])
  })
})

describe('the table of bindings', () => {
  it('names parts that ship, signals that they have, and says where each is from', () => {
    for (const [id, binding] of Object.entries(bindings)) {
      const part = catalogue.parts.get(id)!
      expect(part, id).toBeDefined()
      const known = new Set(part.signals.map(signal => signal.id))
      const wanted = [
        ...(binding.gpios ?? []).map(entry => entry.signal), ...binding.gpioList?.signals ?? [],
        ...binding.interrupt ? [binding.interrupt.signal] : [],
        ...(binding.children ?? []).flatMap(child => child.signal ?? []),
        ...binding.gpioRows ? [binding.gpioRows.rows, binding.gpioRows.columns] : [],
      ]
      for (const signal of wanted) expect(known.has(signal), `${id}: ${signal}`).toBe(true)
      expect([id, /^(published|memory)/.test(binding.origin), binding.on === 'i2c'
        ? !!part.i2c
        : binding.on === 'spi'
          ? !!part.spi
          : true]).toEqual([id, true, true])
    }
  })

  it('has the shape that a part of one\'s own may bring', () => {
    for (const [id, kernel] of Object.entries(bindings)) {
      expect([id, partSchema.validate({ ...catalogue.parts.get(id)!, kernel }).error?.message]).toEqual([id, undefined])
    }
    expect(partSchema.validate({
      ...catalogue.parts.get('led-plain')!, kernel: { node: 'a b', compatible: 'x', on: 'lines', origin: 'yours' },
    }).error?.message).toContain('a name of the device tree')
  })

  it('makes an overlay, or says what is missing, for every part of a plan', () => {
    const facts = gatherFacts(
      planOf('forty-usb-c',
        Object.fromEntries([...catalogue.parts.keys()].slice(0, 60).map((type, i) => [`p${i}`, type]))), catalogue,
    )
    for (const overlay of overlaysForParts(facts)) expect(overlay.ok
      ? overlay.source.length > 100
      : overlay.why.length > 20).toBe(true)
    expect(nodeAt(compileText('/dts-v1/; / { };').root, '/nowhere')).toBe(null)
  })
})
