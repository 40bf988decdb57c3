/**
 * Device tree sources and blobs by themselves: faults with their place, hostile input, laws of printing and
 * merging, the command.
 */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readBlob } from '../../../core/devicetree/blob/read'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { compileText } from '../../../core/devicetree/source/compile'
import { printSource, printValue } from '../../../core/devicetree/source/print'
import { cellsOf, DeviceTreeError, nodeAt, propertyOf, stringsOf,
  type DeviceTree } from '../../../core/devicetree/types'
import { anyBase, anyOverlay, anyTree } from '../../devicetree'
import { draws, judgedAtLeast } from '../../random'

const faultOf = (work: () => unknown): DeviceTreeError => {
  try {
    work()
  }
  catch (error) {
    if (error instanceof DeviceTreeError) return error
    throw error
  }
  throw new Error('nothing was refused')
}
const cells = (source: string) => cellsOf(propertyOf(compileText(`/dts-v1/; / { x = ${source}; };`).root, 'x')!.value)

describe('faults in a source', () => {
  it.each<[string, string, number, number, RegExp]>([
    ['no version', '/ { };', 1, 1, /expected \/dts-v1\//],
    ['no root', '/dts-v1/;\n', 2, 1, /expected the root node/],
    ['a missing semicolon', '/dts-v1/;\n/ {\n  a = <1>\n  b;\n};', 4, 3, /expected , or ; after the value, found/],
    ['an unknown word', '/dts-v1/; / { a = <SOMETHING>; };', 1, 20, /neither a number nor a macro/],
    ['a property after a node', '/dts-v1/; / {\n n { };\n a;\n};', 3, 2, /properties stand before nodes/],
    ['a label that is nowhere', '/dts-v1/; / { a = <&nobody>; };', 1, 20, /no node has the label nobody/],
    ['too large a number', '/dts-v1/; / { a = <0x100000000>; };', 1, 20, /does not fit into 32 bits/],
    ['an open comment', '/dts-v1/; /* / { };', 1, 11, /comment has no end/],
    ['an open string', '/dts-v1/; / { a = "x; };', 1, 19, /string has no end/],
    ['a file that is not there', '/dts-v1/; /include/ "board.dtsi"', 1, 11, /"board.dtsi" is not at hand/],
    ['a label twice', '/dts-v1/; / { a: b { }; a: c { }; };', 1, 28, /the label a stands twice/],
    ['half a byte', '/dts-v1/; / { a = [1]; };', 1, 20, /two hexadecimal digits/],
    ['a conditional without its end', '/dts-v1/;\n#if FOO > 2\n/ { };', 2, 1, /no #endif/],
  ])('%s: with line, column and what was expected', (_, source, line, column, words) => {
    const fault = faultOf(() => compileText(source))
    expect(fault.message).toMatch(words)
    expect(fault.at.place).toEqual({ file: 'source.dts', line, column })
  })
})

describe('values', () => {
  it('are worked out as in C, on 64 bits', () => {
    // arithmetic
    expect(
      cells(
        '<(1 + 2 * 3) (7 / 2) (7 % 4) (1 << 31) (0xf0 >> 4) (5 & 3) (5 | 3) (5 ^ 3) (1 ? 2 : 3) (0 || 4) (1 && 0) (3 '
        + '== 3) (3 != 3) (-1) (~0xf) (!7)>',
      ),
    )
      .toEqual([7, 3, 3, 0x80000000, 15, 1, 7, 6, 2, 1, 0, 1, 0, 0xFFFFFFFF, 0xFFFFFFF0, 0])
  })

  it('know macros, binding constants and included files', () => {
    const files = { read: (name: string) =>
      name === 'more.dtsi' ? { text: '/ { added = <FIVE>; };', file: name } : null }
    const tree = compileText(
      '/dts-v1/;\n#include <dt-bindings/gpio/gpio.h>\n#define FIVE 5\n#define LONG (FIVE \\\n + 1)\n#ifdef FIVE\n/ { a = <FIVE LONG '
      + 'GPIO_ACTIVE_LOW>; };\n#else\nnonsense\n#endif\n#include "more.dtsi"\n',
      { files },
    )
    expect(cellsOf(propertyOf(tree.root, 'a')!.value)).toEqual([5, 6, 1])
    expect(cellsOf(propertyOf(tree.root, 'added')!.value)).toEqual([5])
  })

  it('a macro or an include that leads to itself ends', () => {
    expect(faultOf(() => compileText('/dts-v1/;\n#define A B\n#define B A\n/ { x = <A>; };')).message)
      .toMatch(/"A" is neither/)
    const doubling = Array.from({ length: 31 }, (_, n) => `#define M${n + 1} M${n} M${n}`).join('\n')
    expect(faultOf(() => compileText(`/dts-v1/;\n#define M0 1\n${doubling}\n/ { x = <M31>; };`)).fault).toBe('limit')
    const ring = { read: (file: string) => ({ text: `#include "${file === 'a' ? 'b' : 'a'}"\n`, file }) }
    expect(
      faultOf(() => compileText('/dts-v1/;\n#include "a"\n', { files: ring })).message,
    ).toMatch(/include each other.*a → b → a|b → a → b/)
    expect(
      faultOf(() => compileText('/dts-v1/; /include/ "me"',
        { files: { read: file => ({ text: '/include/ "me"', file }) } })).fault,
    ).toBe('limit')
  })

  it('print as text where they are text', () => {
    const bytes = (text: string) => Uint8Array.from(text, letter => letter.charCodeAt(0))
    expect([
      printValue(bytes('okay\0')), printValue(bytes('a\0b\0')), printValue(bytes('\0')),
      printValue(bytes('\0\0\0\x05')),
      printValue(bytes('abc')),
    ]).toEqual(['"okay"', '"a", "b"', '[00]', '<0x5>', '[61 62 63]'])
  })
})

describe('hostile input', () => {
  const sane = writeBlob(compileText('/dts-v1/; /memreserve/ 1 2; / { a = "b"; r = <&l>; l: n@1 { reg = <1>; deep { x; '
    + '}; }; };'))

  it('thousands of damaged blobs give a typed error or a tree, never anything else', () => {
    let refused = 0
    fc.assert(fc.property(fc.array(
      fc.tuple(fc.nat(sane.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 },
    ), fc.option(fc.nat(sane.length)), (changes, cut) => {
      const blob = sane.slice(0, cut ?? sane.length)
      for (const [at, byte] of changes) if (at < blob.length) blob[at] = byte
      try {
        expect(readBlob(blob).root.children.length).toBeLessThan(100)
      }
      catch (error) {
        expect(error).toBeInstanceOf(DeviceTreeError)
        refused++
      }
    }), { numRuns: draws(4000) })
    expect(refused).toBeGreaterThan(judgedAtLeast(1000))
  })

  it('random bytes behind a true header as well', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 400 }), (noise) => {
      const blob = new Uint8Array(40 + noise.length)
      blob.set(sane.subarray(0, 40))
      blob.set(noise, 40)
      new DataView(blob.buffer).setUint32(4, blob.length)
      try {
        readBlob(blob)
      }
      catch (error) {
        expect(error).toBeInstanceOf(DeviceTreeError)
      }
    }), { numRuns: draws(1500) })
  })

  it('every cut of a blob says that it is cut', () => {
    for (let length = 0; length < sane.length; length++) expect(faultOf(() => readBlob(sane.slice(0, length))).fault)
      .toBe('blob')
  })

  it('damaged sources give a typed error or a tree', () => {
    const source = '/dts-v1/;\n/plugin/;\n&a { l: n@1 { reg = <1 (2 + 3) &b>; s = "x\\n", [00 ff], &l; /delete-property/ q; }; '
      + '};\n#define X 1\n'
    fc.assert(fc.property(fc.array(
      fc.tuple(
        fc.nat(source.length),
        fc.constantFrom('', '{', '}', ';', '<', '>', '"', '&', '(', ')', '/*', '\\', '#', '\0', '=', ',', '0',
          '\n#define X X\n'),
      ),
      { minLength: 1, maxLength: 5 },
    ), (changes) => {
      const damaged = changes.reduce((text, [at, put]) => text.slice(0, at) + put + text.slice(at + (put ? 0 : 3)),
        source)
      try {
        compileText(damaged)
      }
      catch (error) {
        expect(error).toBeInstanceOf(DeviceTreeError)
      }
    }), { numRuns: draws(3000) })
  })

  it('nesting has an end, in sources, blobs and expressions', () => {
    expect(faultOf(() => compileText(`/dts-v1/; / { ${'a { '.repeat(200)}${'}; '.repeat(200)}};`)).fault).toBe('limit')
    expect(faultOf(() => compileText(`/dts-v1/; / { x = <${'('.repeat(5000)}1${')'.repeat(5000)}>; };`)).fault)
      .toBe('limit')
    const deep = (levels: number): DeviceTree['root'] => ({ name: 'a', properties: [],
      children: levels ? [deep(levels - 1)] : [] })
    expect(faultOf(() => writeBlob({ reservations: [], root: deep(100), bootCpu: 0 })).fault).toBe('limit')
  })
})

describe('laws', () => {
  it('what is printed compiles to the same tree, with labels or without', () => {
    fc.assert(fc.property(anyTree, fc.boolean(), (tree, labels) => {
      const again = compileText(printSource(tree, { labels }))
      expect(again.root).toEqual(tree.root)
      expect(again.reservations).toEqual(tree.reservations)
    }), { numRuns: draws(200) })
  })

  it('labels of a base stand before their nodes', () => {
    const text = printSource(compileText('/dts-v1/; / { bus: soc { }; };', { symbols: true }), { labels: true })
    expect(text).toContain('\tbus: soc {')
  })

  it('an overlay changes neither the base nor itself, and an empty one changes nothing', () => {
    fc.assert(fc.property(anyBase, anyOverlay, (base, overlay) => {
      const [below, above] = [compileText(base, { symbols: true }), compileText(overlay)]
      const before = [writeBlob(below), writeBlob(above)]
      try {
        applyOverlay(below, above)
      }
      catch (error) {
        expect(error).toBeInstanceOf(DeviceTreeError)
      }
      expect([writeBlob(below), writeBlob(above)]).toEqual(before)
      expect(applyOverlay(below, compileText('/dts-v1/; /plugin/; / { };')).root).toEqual(below.root)
    }), { numRuns: draws(60) })
  })
})

describe('overlays that do not go on', () => {
  const base = compileText('/dts-v1/; / { i2c: i2c@1 { status = "disabled"; }; plain { }; };', { symbols: true })
  const overlay = (text: string) => compileText(`/dts-v1/; /plugin/; ${text}`)

  it.each([
    ['a label the base does not have', '&spi { status = "okay"; };', /no label "spi"/],
    ['a path the base does not have', '&{/nowhere} { x; };', /no node \/nowhere/],
    ['a fragment without a target', '/ { fragment@0 { __overlay__ { x; }; }; };', /has no target/],
  ])('%s: said', (_, text, words) => {
    const fault = faultOf(() => applyOverlay(base, overlay(text)))
    expect([fault.fault, fault.message]).toEqual(['overlay', expect.stringMatching(words)])
  })

  it('a base without labels is told from one without this label', () => {
    expect(faultOf(() => applyOverlay(
      compileText('/dts-v1/; / { i2c: i2c@1 { }; };'), overlay('&i2c { x; };'),
    )).message).toMatch(/no __symbols__/)
  })

  it('what goes on lies where it should, with its references filled in and its labels added', () => {
    const above = compileText(
      '/dts-v1/; /plugin/; &i2c { status = "okay"; s: sensor@76 { reg = <0x76>; parent = <&i2c>; me = <&s>; }; };',
      { symbols: true },
    )
    const { root } = applyOverlay(base, above)
    const sensor = nodeAt(root, '/i2c@1/sensor@76')!
    const phandle = cellsOf(propertyOf(nodeAt(root, '/i2c@1')!, 'phandle')!.value)
    expect(stringsOf(propertyOf(nodeAt(root, '/i2c@1')!, 'status')!.value)).toEqual(['okay'])
    expect(cellsOf(propertyOf(sensor, 'parent')!.value)).toEqual(phandle)
    expect(propertyOf(sensor, 'me')!.value).toEqual(propertyOf(sensor, 'phandle')!.value)
    expect(stringsOf(propertyOf(nodeAt(root, '/__symbols__')!, 's')!.value)).toEqual(['/i2c@1/sensor@76'])
  })
})

describe('voltaris dt', () => {
  const folder = mkdtempSync(join(tmpdir(), 'voltaris-dt-cli-'))
  const run = (...args: string[]) => spawnSync(
    'bin/voltaris', ['dt', ...args], { encoding: 'utf8' },
  )
  const file = (name: string, text: string) => {
    writeFileSync(join(folder, name), text)
    return join(folder, name)
  }

  it('compiles, applies and prints, with the exit codes of the other commands', () => {
    const base = file('base.dts', '/dts-v1/; /include/ "part.dtsi"')
    file('part.dtsi', '/ { i2c: i2c@1 { status = "disabled"; }; };')
    const over = file('over.dts', '/dts-v1/; /plugin/; &i2c { status = "okay"; };')
    const stray = file('stray.dts', '/dts-v1/; /plugin/; &spi { status = "okay"; };')
    const out = (name: string) => join(folder, name)
    expect(run('compile', base, '-@', '-o', out('base.dtb')).status).toBe(0)
    expect(run('compile', over, '-o', out('over.dtbo')).status).toBe(0)
    expect(run('compile', stray, '-o', out('stray.dtbo')).status).toBe(0)
    expect(run('apply', out('base.dtb'), out('over.dtbo'), '-o', out('merged.dtb')).status).toBe(0)
    expect(run('decompile', out('merged.dtb')).stdout).toContain('status = "okay"')
    expect(run('apply', out('base.dtb'), out('stray.dtbo')))
      .toMatchObject({ status: 1, stderr: expect.stringContaining('no label "spi"') })
    expect(readBlob(readFileSync(out('merged.dtb'))).root.children.length).toBeGreaterThan(0)
  })

  it('ends with 2 for what cannot be used, and says where', () => {
    expect(run('compile', file('bad.dts', '/dts-v1/;\n/ { a = <1; };'))).toMatchObject({
      status: 2, stderr: expect.stringContaining('bad.dts:2:11'),
    })
    expect(run('decompile', file('bad.dtb', 'no blob')))
      .toMatchObject({ status: 2, stderr: expect.stringContaining('header') })
    for (const args of [['fly'], [], ['compile'], ['apply', 'x'], ['decompile', join(folder, 'none')]]) {
      expect(run(...args).status, args.join(' ')).toBe(2)
    }
  })
})
