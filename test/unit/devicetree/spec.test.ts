/**
 * Clauses of the Devicetree Specification v0.4, chapters 2, 5 and 6, one at a time; each source is taken through the
 * reference compiler as well.
 */
import { describe, expect, it } from 'vitest'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { BINDING_CONSTANTS } from '../../../core/devicetree/source/constants'
import { compileText } from '../../../core/devicetree/source/compile'
import { printSource } from '../../../core/devicetree/source/print'
import { DeviceTreeError, nodeAt, propertyOf, walk } from '../../../core/devicetree/types'
import { dtcCompile, dtcPrint } from '../../devicetree'

const source = (body: string) => `/dts-v1/;\n/ { ${body} };\n`
const tree = (body: string) => compileText(source(body))
const value = (body: string, path = '/', name = 'x') => [...propertyOf(nodeAt(tree(body).root, path)!, name)!.value]
/** published: what the reference compiler makes of the same source. */
const same = (text: string) => expect(dtcPrint(writeBlob(compileText(text)))).toBe(dtcPrint(dtcCompile(text)))
const paths = (text: string) => [...walk(compileText(text).root)].map(({ path }) => path)

// Chapter 6.3, node and property definitions; 6.4, expressions.
const VALUES: [clause: string, body: string, bytes: number[]][] = [
  ['cells are 32 bit, big-endian', 'x = <1 0xdeadbeef>;', [0, 0, 0, 1, 0xDE, 0xAD, 0xBE, 0xEF]],
  ['64-bit values are two cells', 'x = <0x1 0x00000002>;', [0, 0, 0, 1, 0, 0, 0, 2]],
  ['strings end with a zero byte', 'x = "ab";', [0x61, 0x62, 0]],
  ['a list of strings is one after the other', 'x = "a", "b";', [0x61, 0, 0x62, 0]],
  ['bytes stand in square brackets, with or without blanks', 'x = [0a 0B0c];', [10, 11, 12]],
  ['pieces of all kinds may follow each other', 'x = "a", <1>, [02];', [0x61, 0, 0, 0, 0, 1, 2]],
  ['an empty property is there and holds nothing', 'x;', []],
  ['/bits/ 8 makes bytes of a list', 'x = /bits/ 8 <1 2 0xff>;', [1, 2, 255]],
  ['/bits/ 16 makes halves', 'x = /bits/ 16 <0x0102 3>;', [1, 2, 0, 3]],
  ['/bits/ 64 makes doubles', 'x = /bits/ 64 <0x100000002>;', [0, 0, 0, 1, 0, 0, 0, 2]],
  ['characters are their codes', 'x = <\'A\' \'\\n\'>;', [0, 0, 0, 65, 0, 0, 0, 10]],
  ['escapes in strings are those of C', 'x = "\\x41\\102\\n\\"";', [65, 66, 10, 34, 0]],
  ['arithmetic stands in brackets', 'x = <(2 + 3 * 4)>;', [0, 0, 0, 14]],
  ['shifts and masks', 'x = <((1 << 4) | 3)>;', [0, 0, 0, 19]],
  ['comparison and choice', 'x = <((3 > 2) ? 7 : 8)>;', [0, 0, 0, 7]],
  ['logic gives one or zero', 'x = <(1 && 0) (1 || 0) (!5)>;', [0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0]],
  ['division and rest', 'x = <(17 / 5) (17 % 5)>;', [0, 0, 0, 3, 0, 0, 0, 2]],
  ['a negative number fills its cell', 'x = <(-1)>;', [255, 255, 255, 255]],
  ['complement', 'x = <(~0xff & 0xfff)>;', [0, 0, 0x0F, 0]],
  ['labels within values are passed over', 'x = l1: <1 l2: 2> l3:;', [0, 0, 0, 1, 0, 0, 0, 2]],
  ['numbers may end in U and L', 'x = <1U 2UL 3LL>;', [0, 0, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3]],
  ['octal numbers begin with 0', 'x = <010>;', [0, 0, 0, 8]],
]

describe('a value', () => {
  it.each(VALUES)('%s', (_, body, bytes) => {
    expect(value(body)).toEqual(bytes)
    same(source(body))
  })
})

const TREES: [clause: string, text: string, has: string[], hasNot?: string[]][] = [
  ['names carry unit addresses', source('cpus { cpu@0 { }; cpu@1 { }; };'), ['/cpus/cpu@0', '/cpus/cpu@1']],
  ['a node defined twice is merged', '/dts-v1/; / { a { b { }; }; }; / { a { c { }; }; };', ['/a/b', '/a/c']],
  ['a label opens its node again', '/dts-v1/; / { l: a { }; }; &l { b { }; };', ['/a/b']],
  ['a path in braces does too', '/dts-v1/; / { a { }; }; &{/a} { b { }; };', ['/a/b']],
  [
    '/delete-node/ by name takes a node away', '/dts-v1/; / { a { b { }; }; c { }; }; / { a { /delete-node/ b; }; };',
    ['/a', '/c'],
    ['/a/b'],
  ],
  [
    'it does so in order: what is defined before it goes',
    '/dts-v1/; / { a { b { o; }; }; }; / { a { b { n; }; /delete-node/ b; }; };',
    ['/a'], ['/a/b'],
  ],
  [
    'and what is defined behind it stays, without what was there',
    '/dts-v1/; / { a { b { o { }; }; c { }; }; }; / { a { /delete-node/ b; b { n { }; }; }; };', ['/a/b/n', '/a/c'],
    ['/a/b/o'],
  ],
  ['it works at any depth', '/dts-v1/; / { l: a { b { c { }; }; }; }; &l { b { /delete-node/ c; }; };', ['/a/b'],
    ['/a/b/c']],
  [
    'a node taken away by label can be defined anew',
    '/dts-v1/; / { l: a { x { }; }; z { }; }; /delete-node/ &l; / { a { n { }; }; };',
    ['/a/n', '/z'], ['/a/x'],
  ],
  ['/delete-node/ by label does', '/dts-v1/; / { l: a { }; c { }; }; /delete-node/ &l;', ['/c'], ['/a']],
  [
    'a deleted node may come again',
    '/dts-v1/; / { a { old { }; }; }; / { /delete-node/ a; }; / { a { fresh { }; }; };', ['/a/fresh'],
    ['/a/old'],
  ],
  [
    '/omit-if-no-ref/ leaves out what nothing names',
    '/dts-v1/; / { x = <&b>; /omit-if-no-ref/ a: a { }; /omit-if-no-ref/ b: b { }; };',
    ['/b'], ['/a'],
  ],
  ['comments of both kinds are passed over', '/dts-v1/; // one\n/ { /* a { }; */ b { }; };', ['/b'], ['/a']],
  ['names may hold all letters of the table', source('a,b._+-1 { };'), ['/a,b._+-1']],
]

describe('a tree', () => {
  it.each(TREES)('%s', (_, text, has, hasNot = []) => {
    const found = paths(text)
    for (const path of has) expect(found).toContain(path)
    for (const path of hasNot) expect(found).not.toContain(path)
    same(text)
  })

  it('gives a node one phandle, however often it is named, and writes paths out', () => {
    const text = '/dts-v1/; / { x = <&a &a>; y = &a; z = <&{/a}>; a: a { }; };'
    const { root } = compileText(text)
    const at = (name: string) => [...propertyOf(root, name)!.value]
    expect(at('x')).toEqual([0, 0, 0, 1, 0, 0, 0, 1])
    expect(at('z')).toEqual([0, 0, 0, 1])
    expect(String.fromCharCode(...at('y'))).toBe('/a\0')
    same(text)
  })

  it('keeps a phandle that the source fixes, and numbers past it', () => {
    const text = '/dts-v1/; / { x = <&a &b>; a: a { phandle = <1>; }; b: b { }; };'
    expect([...propertyOf(compileText(text).root, 'x')!.value]).toEqual([0, 0, 0, 1, 0, 0, 0, 2])
    same(text)
  })

  it('deletes properties and takes the last of two', () => {
    expect(propertyOf(compileText('/dts-v1/; / { x; y; }; / { /delete-property/ x; };').root, 'x')).toBeUndefined()
    expect([...propertyOf(compileText('/dts-v1/; / { x = <1>; }; / { x = <2>; };').root, 'x')!.value])
      .toEqual([0, 0, 0, 2])
  })

  it.each([
    '/ { x; y; /delete-property/ x; };', '/ { x; }; / { /delete-property/ x; x = <2>; };',
    '/ { x; }; / { x = <2>; /delete-property/ x; };',
    '/ { /delete-property/ x; x; };',
  ])('takes properties away in the order of the reference: %s', body => same(`/dts-v1/;\n${body}\n`))

  it.each([
    '/ { a { b { }; /delete-node/ b; }; };', '/ { a { /delete-node/ b; x; }; };',
  ])('refuses, as the reference does, a node defined and deleted in one place and a property behind a deletion: %s',
    (body) => {
      expect(() => dtcCompile(`/dts-v1/;\n${body}\n`)).toThrow()
      expect(() => compileText(`/dts-v1/;\n${body}\n`)).toThrow(DeviceTreeError)
    })

  it('keeps memory free as /memreserve/ says', () => {
    const text = '/dts-v1/;\n/memreserve/ 0x1000 0x2000;\n/memreserve/ 0x100000000 0x10;\n/ { };\n'
    expect(compileText(text).reservations)
      .toEqual([{ address: 0x1000n, size: 0x2000n }, { address: 0x100000000n, size: 0x10n }])
    same(text)
  })

  it('reads other files where /include/ and #include name them, once for each time', () => {
    const files: Record<string, string> = { 'soc.dtsi': '/ { soc { }; };', 'board.h': '#define LED 5\n' }
    const made = compileText(
      '/dts-v1/;\n/include/ "soc.dtsi"\n#include "board.h"\n#include <dt-bindings/gpio/gpio.h>\n/ { x = <LED GPIO_ACTIVE_LOW>; };',
      { files: { read: name => files[name] === undefined ? null : { text: files[name], file: name } } },
    )
    expect(nodeAt(made.root, '/soc')).not.toBe(null)
    expect([...propertyOf(made.root, 'x')!.value]).toEqual([0, 0, 0, 5, 0, 0, 0, 1])
    expect(() => compileText('/dts-v1/;\n/include/ "gone.dtsi"\n')).toThrow(/gone\.dtsi.*not at hand/)
  })

  it('works simple macros out, and what #ifdef hides is hidden', () => {
    const made = compileText(
      '/dts-v1/;\n#define A 1\n#ifdef A\n/ { yes; };\n#else\n/ { no; };\n#endif\n#ifndef A\n/ { never; };\n#endif\n#undef A\n#ifdef A\n/ '
      + '{ gone; };\n#endif\n',
    )
    expect(made.root.properties.map(property => property.name)).toEqual(['yes'])
  })
})

describe('an overlay', () => {
  const overlay = '/dts-v1/;\n/plugin/;\n&bus { dev: dev@1 { reg = <1>; other = <&dev &far>; }; };\n&{/leds} { on; };\n/ { fragment@9 { '
    + 'target-path = "/"; __overlay__ { y; }; }; };\n'

  it('has a fragment for each reference, fixups for what the base has, local ones for what it has itself', () => {
    const { root } = compileText(overlay, { symbols: true })
    const of = (path: string) => nodeAt(root, path)?.properties.map(property => property.name) ?? []
    expect(root.children.map(node => node.name)).toEqual(expect.arrayContaining([
      'fragment@0', 'fragment@1', 'fragment@9', '__symbols__', '__fixups__', '__local_fixups__',
    ]))
    expect(of('/__fixups__')).toEqual(expect.arrayContaining(['bus', 'far']))
    expect(of('/__local_fixups__/fragment@0/__overlay__/dev@1')).toEqual(['other'])
    expect(of('/__symbols__')).toEqual(['dev'])
    expect(dtcPrint(writeBlob(compileText(overlay, { symbols: true })))).toBe(dtcPrint(dtcCompile(overlay, true)))
  })
})

describe('an error in a source', () => {
  it.each([
    ['a missing semicolon', '/dts-v1/;\n/ {\n\ta = <1>\n\tb = <2>;\n};\n', 4, 2, /expected .*;/],
    ['a label that nobody has', '/dts-v1/;\n/ {\n\ta = <&nobody>;\n};\n', 3, 7, /no node has the label nobody/],
    ['a number too large for its cell', '/dts-v1/;\n/ {\n\ta = <0x100000000>;\n};\n', 3, 7, /./],
    ['a division by zero', '/dts-v1/;\n/ {\n\ta = <(1 / 0)>;\n};\n', 3, 0, /zero/],
    ['a string without its end', '/dts-v1/;\n/ {\n\ta = "open;\n};\n', 3, 6, /no end/],
    ['a comment without its end', '/dts-v1/;\n/* open\n/ { };\n', 2, 1, /no end/],
    ['a property after a node', '/dts-v1/;\n/ {\n\tn { };\n\ta = <1>;\n};\n', 4, 2, /properties stand before nodes/],
    ['the first line forgotten', '/ { };\n', 1, 1, /dts-v1/],
    ['a macro with one argument too many', '/dts-v1/;\n#define F(x) x\n/ { a = <F(1, 2)>; };\n', 3, 1,
      /takes 1 argument, and 2 stand here/],
    ['a condition without its end', '/dts-v1/;\n#if 1\n/ { };\n', 2, 1, /no #endif/],
    ['a condition that is none', '/dts-v1/;\n#if (1\n/ { };\n#endif\n', 2, 1, /expected "\)"/],
    ['a source that stops itself', '/dts-v1/;\n#ifndef BOARD\n#error give BOARD\n#endif\n/ { };\n', 3, 1,
      /stops here by itself: give BOARD/],
    ['a marker of another line', '/dts-v1/;\n# 1200 "mine.dts" 2 3\n/ { a = <&nobody>; };\n', 1200, 0, /nobody/],
    ['a file of bytes', '/dts-v1/;\n/ { a = /incbin/("x"); };\n', 2, 9, /incbin/],
  ])('%s has its place and what was expected', (_, text, line, column, words) => {
    try {
      compileText(text, { file: 'mine.dts' })
      expect.fail('it was compiled')
    }
    catch (error) {
      if (!(error instanceof DeviceTreeError)) throw error
      expect(error.message).toMatch(words)
      expect(error.at.place).toMatchObject({ file: 'mine.dts', line, ...column && { column } })
    }
  })
})

describe('what is printed', () => {
  const text = source(
    'compatible = "made-up,shed", "made-up"; #address-cells = <1>; bytes = [01 02 03]; empty; leds { led-0 { gpios = '
    + '<1 2 3>; }; };',
  )

  it('is indented, text as text, cells as cells, bytes as bytes', () => {
    expect(printSource(compileText(text))).toBe(
      '/dts-v1/;\n\n/ {\n\tcompatible = "made-up,shed", "made-up";\n\t#address-cells = <0x1>;\n\tbytes = [01 02 03];\n\tempty;\n\n\tleds '
      + '{\n\t\tled-0 {\n\t\t\tgpios = <0x1 0x2 0x3>;\n\t\t};\n\t};\n};\n',
    )
  })

  it('has labels before the nodes that symbols name, and compiles to the same', () => {
    const labelled = compileText('/dts-v1/; / { bus: i2c@1 { reg = <1>; }; };', { symbols: true })
    const printed = printSource(labelled, { labels: true })
    expect(printed).toContain('bus: i2c@1 {')
    expect([...writeBlob(compileText(printed))]).toEqual([...writeBlob(labelled)])
  })
})

describe('the table of binding constants', () => {
  // published: Linux kernel 6.1, include/dt-bindings; a few of each header held here by hand
  it('has the common headers\' values', () => {
    const known: Record<string, number | string> = {
      GPIO_ACTIVE_HIGH: 0, GPIO_ACTIVE_LOW: 1, GPIO_OPEN_DRAIN: 6, GPIO_PULL_UP: 16, IRQ_TYPE_EDGE_BOTH: 3,
      IRQ_TYPE_LEVEL_LOW: 8,
      GIC_SPI: 0, GIC_PPI: 1, KEY_ENTER: 28, KEY_POWER: 116, BTN_LEFT: 272, EV_KEY: 1, LED_COLOR_ID_GREEN: 2,
      LED_FUNCTION_STATUS: 'status',
      PWM_POLARITY_INVERTED: 1, BCM2835_FSEL_ALT0: 4, RK_PA0: 0, RK_PB3: 11, RK_FUNC_GPIO: 0,
    }
    for (const [name, expected] of Object.entries(known)) expect([name, BINDING_CONSTANTS[name]])
      .toEqual([name, expected])
    expect(Object.keys(BINDING_CONSTANTS).length).toBeGreaterThan(1000)
  })

  it('stands for numbers and for text', () => {
    expect(value('x = <KEY_POWER (IRQ_TYPE_EDGE_BOTH + 1)>;')).toEqual([0, 0, 0, 116, 0, 0, 0, 4])
    expect(String.fromCharCode(...value('x = LED_FUNCTION_STATUS;'))).toBe('status\0')
  })
})
