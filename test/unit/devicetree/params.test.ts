import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parametersOf, setParameter } from '../../../core/devicetree/overlay/params'
import { compileText } from '../../../core/devicetree/source/compile'
import { cellsOf, DeviceTreeError, nodeAt, propertyOf, stringsOf } from '../../../core/devicetree/types'
import { draws } from '../../random'

const tree = (overrides: string, body = '') => compileText(
  `/dts-v1/;\n/ {\n\tdev: dev@68 { reg = <0x68>; status = "disabled"; cells = <1 2>; text = "a"; ${body} };\n\t__overrides__ { `
  + `${overrides} };\n};\n`,
  { symbols: true },
)
const dev = (made: ReturnType<typeof tree>) => made.root.children.find(node => node.name.startsWith('dev@'))!
const bytes = (made: ReturnType<typeof tree>, name: string) => [...propertyOf(dev(made), name)!.value]

// Forms of the parameters: memory, as loaders of the key-value dialect read them.
describe('a parameter of a tree', () => {
  it.each([
    ['status on', 'p = <&dev>,"status";', 'on', 'status', [...Buffer.from('okay\0')]],
    ['status off', 'p = <&dev>,"status";', 'off', 'status', [...Buffer.from('disabled\0')]],
    ['a text', 'p = <&dev>,"text";', 'b c', 'text', [...Buffer.from('b c\0')]],
    ['a cell', 'p = <&dev>,"cells:4";', '0x102', 'cells', [0, 0, 0, 1, 0, 0, 1, 2]],
    ['half a cell', 'p = <&dev>,"cells;2";', '515', 'cells', [0, 0, 2, 3, 0, 0, 0, 2]],
    ['a byte', 'p = <&dev>,"cells.3";', '9', 'cells', [0, 0, 0, 9, 0, 0, 0, 2]],
    ['two cells', 'p = <&dev>,"cells#0";', '4294967297', 'cells', [0, 0, 0, 1, 0, 0, 0, 1]],
    ['a cell beyond the end', 'p = <&dev>,"cells:8";', '3', 'cells', [0, 0, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3]],
    ['a negative cell', 'p = <&dev>,"cells:0";', '-1', 'cells', [255, 255, 255, 255, 0, 0, 0, 2]],
    ['a fixed value', 'p = <&dev>,"cells:0=7";', '', 'cells', [0, 0, 0, 7, 0, 0, 0, 2]],
    ['fixed bytes', 'p = <&dev>,"cells[0a0b]";', '', 'cells', [10, 11]],
    ['a flag', 'p = <&dev>,"there?";', 'on', 'there', []],
  ])('sets %s', (_, overrides, value, name, expected) => {
    const made = tree(overrides)
    expect(parametersOf(made)).toEqual(['p'])
    setParameter(made, 'p', value)
    expect(bytes(made, name)).toEqual(expected)
  })

  it('takes a flag away, changes several nodes, and moves the unit address with reg', () => {
    const made = tree('off = <&dev>,"there?"; both = <&dev>,"cells:0",<&dev>,"cells:4"; addr = <&dev>,"reg:0";',
      'there;')
    setParameter(made, 'off', 'no')
    expect(propertyOf(dev(made), 'there')).toBeUndefined()
    setParameter(made, 'both', '5')
    expect(cellsOf(propertyOf(dev(made), 'cells')!.value)).toEqual([5, 5])
    setParameter(made, 'addr', '0x76')
    expect(nodeAt(made.root, '/dev@76')).not.toBe(null)
  })

  it('switches fragments of an overlay on and off', () => {
    const overlay = compileText(
      '/dts-v1/;\n/plugin/;\n/ { fragment@0 { target-path = "/"; __overlay__ { a; }; }; fragment@1 { target-path = "/"; __dormant__ { b; '
      + '}; }; __overrides__ { swap = <0>,"-0+1"; same = <0>,"=0!1"; }; };',
    )
    const state = () =>
      overlay.root.children.filter(node => node.name.startsWith('fragment')).map(node => node.children[0]!.name)
    setParameter(overlay, 'swap', 'on')
    expect(state()).toEqual(['__dormant__', '__overlay__'])
    setParameter(overlay, 'same', 'yes')
    expect(state()).toEqual(['__overlay__', '__dormant__'])
  })

  it.each([
    ['there is none of the name', '', 'p', 'x'], ['it is no number', 'p = <&dev>,"cells:0";', 'p', 'many'],
    ['it is neither on nor off', 'p = <&dev>,"there?";', 'p', 'maybe'],
    ['its node is not there', 'p = <99>,"cells:0";', 'p', '1'], ['its list is cut short', 'p = [00 00];', 'p', '1'],
    ['it writes far outside', 'p = <&dev>,"cells:99999999";', 'p', '1'],
    ['its fragment is not there', 'p = <0>,"+7";', 'p', 'on'],
  ])('is refused with a typed error when %s', (_, overrides, name, value) => {
    expect(() => setParameter(tree(overrides), name, value)).toThrow(DeviceTreeError)
  })

  it('of any shape is set or refused, never anything else', () => {
    fc.assert(fc.property(fc.stringMatching(/^[ -~]{0,14}$/)
      .filter(text => !/["\\]/.test(text)), fc.string({ maxLength: 8 }), (form, value) => {
      const made = tree(`p = <&dev>,"${form}";`)
      try {
        setParameter(made, 'p', value)
      }
      catch (error) {
        if (!(error instanceof DeviceTreeError)) throw error
      }
      expect(stringsOf(propertyOf(dev(made), 'text')?.value ?? new Uint8Array([0])).length).toBeGreaterThan(0)
    }), { numRuns: draws(300) })
  })
})
