/** Device tree sources, blobs and overlays against Debian's `dtc` and `fdtoverlay`, which the set-up installs. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readBlob } from '../../core/devicetree/blob/read'
import { writeBlob } from '../../core/devicetree/blob/write'
import { applyOverlay } from '../../core/devicetree/overlay/apply'
import { compileText } from '../../core/devicetree/source/compile'
import { printSource } from '../../core/devicetree/source/print'
import { anyBase, anyOverlay, anyTree, dtcCompile, dtcPrint, dtcWarnings, fdtoverlay } from '../devicetree'
import { draws } from '../random'

const RUNS = { numRuns: draws(60) }

describe('a source', () => {
  it('gives the same blob contents as the reference compiler, phandles and order included', () => {
    fc.assert(fc.property(anyBase, fc.boolean(), (source, symbols) => {
      expect(dtcPrint(writeBlob(compileText(source, { symbols })))).toBe(dtcPrint(dtcCompile(source, symbols)))
    }), RUNS)
  })

  it('of an overlay gives the same fragments, fixups and local fixups', () => {
    fc.assert(fc.property(anyOverlay, fc.boolean(), (source, symbols) => {
      expect(dtcPrint(writeBlob(compileText(source, { symbols })))).toBe(dtcPrint(dtcCompile(source, symbols)))
    }), RUNS)
  })

  it('that the reference refuses is refused here', () => {
    for (const source of [
      '/dts-v1/; / { a = <1 2; };', '/ { };', '/dts-v1/; / { a = <&nobody>; };', '/dts-v1/; / { a = <0x1ffffffff>; };',
      '/dts-v1/; / { a = /bits/ 7 <1>; };', '/dts-v1/; / { a = [0 1 2]; };',
      '/dts-v1/; / { n { }; n { }; };', '/dts-v1/; / { n { } };', '/dts-v1/; / { a = "open; };',
      '/dts-v1/; &nobody { };',
      '/dts-v1/; / { a = <(1 / 0)>; };', '/dts-v1/; / { a = <(1 +)>; };', '/dts-v1/; / { a = /bits/ 8 <256>; };',
    ]) {
      expect(() => dtcCompile(source), source).toThrow()
      expect(() => compileText(source), source).toThrow()
    }
  })

  it('leaves out what nothing refers to, as the reference does', () => {
    const source = '/dts-v1/; / { c = <&b>; /omit-if-no-ref/ a: a { }; /omit-if-no-ref/ b: b { inner { }; }; };'
    expect(dtcPrint(writeBlob(compileText(source)))).toBe(dtcPrint(dtcCompile(source)))
    expect(dtcPrint(writeBlob(compileText(source)))).not.toContain('a {')
  })
})

describe('a blob', () => {
  it('that we write is read by the reference, without a warning that its own would not give', () => {
    fc.assert(fc.property(anyBase, (source) => {
      const ours = writeBlob(compileText(source))
      expect(dtcWarnings(ours)).toBe(dtcWarnings(dtcCompile(source)))
    }), { numRuns: 25 })
  })

  it('that the reference writes is read here: printed and compiled again it is the same tree', () => {
    fc.assert(fc.property(anyBase, (source) => {
      const theirs = dtcCompile(source, true)
      const tree = readBlob(theirs)
      expect(dtcPrint(writeBlob(tree))).toBe(dtcPrint(theirs))
      expect(compileText(printSource(tree)).root).toEqual(tree.root)
    }), RUNS)
  })

  it('of any tree is printed by both so that it reads back the same', () => {
    fc.assert(fc.property(anyTree, (tree) => {
      const blob = writeBlob(tree)
      expect(readBlob(blob)).toEqual(tree)
      expect(compileText(dtcPrint(blob)).root).toEqual(tree.root)
      expect(readBlob(dtcCompile(printSource(tree))).root).toEqual(tree.root)
    }), RUNS)
  })
})

describe('a merge', () => {
  it('is the one of the reference loader', () => {
    fc.assert(fc.property(anyBase, anyOverlay, (base, overlay) => {
      const below = dtcCompile(base, true)
      const above = dtcCompile(overlay, true)
      let theirs: Uint8Array
      try {
        theirs = fdtoverlay(below, above)
      }
      catch {
        // What the reference does not merge is not merged here.
        expect(() => applyOverlay(readBlob(below), readBlob(above))).toThrow()
        return
      }
      expect(dtcPrint(writeBlob(applyOverlay(readBlob(below), readBlob(above))), true)).toBe(dtcPrint(theirs, true))
    }), RUNS)
  })

  it('of two overlays one after the other is the one of the reference as well', () => {
    fc.assert(fc.property(anyBase, anyOverlay, anyOverlay, (base, first, second) => {
      const [below, one, two] = [dtcCompile(base, true), dtcCompile(first, true), dtcCompile(second, true)]
      let theirs: Uint8Array
      try {
        theirs = fdtoverlay(below, one, two)
      }
      catch {
        return
      }
      const merged = applyOverlay(applyOverlay(readBlob(below), readBlob(one)), readBlob(two))
      expect(dtcPrint(writeBlob(merged), true)).toBe(dtcPrint(theirs, true))
    }), { numRuns: 30 })
  })
})
