/**
 * Malformed trees, blobs and sources by the thousand: typed errors only, no hang, no crash, no memory without bound.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readBlob } from '../../../core/devicetree/blob/read'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { baseSource } from '../../../core/devicetree/bases/base'
import { profileOf } from '../../../core/devicetree/board/profile'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { parametersOf, setParameter } from '../../../core/devicetree/overlay/params'
import { compileText } from '../../../core/devicetree/source/compile'
import { printSource } from '../../../core/devicetree/source/print'
import { DeviceTreeError, walk, type DeviceTree } from '../../../core/devicetree/types'
import { startDevices } from '../../../core/boot/rehearse/kernel'
import { rehearse } from '../../../core/boot/rehearse/rehearse'
import { base64Of } from '../../../core/boot/bytes'
import { gatherFacts } from '../../../core/facts/gather'
import { OVERLAYS, resolveOverlay, sourceOf } from '../../../core/overlays/library'
import { anyBase, anyOverlay, anyTree } from '../../devicetree'
import { anyBootText, boardOf } from '../../bootfiles'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

/** What the work gives, or null where it is refused with a typed error; anything else that is thrown fails the test. */
function typed<T>(work: () => T): T | null {
  try {
    return work()
  }
  catch (error) {
    if (error instanceof DeviceTreeError) return null
    throw error
  }
}

const base = compileText(baseSource(boardOf('forty-usb-c')), { symbols: true })
const blob = writeBlob(base)
const overlaySource = sourceOf(resolveOverlay(OVERLAYS.get('i2c-rtc')!, [{ name: 'ds3231', value: '' }]))
const overlay = writeBlob(compileText(overlaySource, { symbols: true }))

/** Blobs with some bytes changed, cells of the header and the tags among them. */
const mutated = (good: Uint8Array) => fc.array(
  fc.record({
    at: fc.oneof(fc.nat(39), fc.nat(good.length - 1)),
    value: fc.oneof(fc.constantFrom(0, 1, 2, 3, 9, 0x7F, 0x80, 0xFF), fc.nat(255)),
  }),
  { minLength: 1, maxLength: 6 },
).map((changes) => {
  const bytes = good.slice()
  for (const { at, value } of changes) bytes[at] = value
  return bytes
})

/** Everything that is done with a tree that could be read. */
function useTree(tree: DeviceTree): void {
  profileOf(tree)
  startDevices(tree)
  typed(() => printSource(tree, { labels: true }))
  for (const name of parametersOf(tree).slice(0, 5)) typed(() => setParameter(tree, name, 'on'))
  typed(() => applyOverlay(tree, compileText(overlaySource)))
  const written = typed(() => writeBlob(tree))
  if (written) expect([...walk(readBlob(written).root)].length).toBe([...walk(tree.root)].length)
}

describe('a blob', () => {
  it('with bytes changed is read and used, or refused with a typed error', () => {
    fc.assert(fc.property(mutated(blob), (bytes) => {
      const tree = typed(() => readBlob(bytes))
      if (tree) useTree(tree)
    }), { numRuns: draws(400) })
    fc.assert(fc.property(mutated(overlay), (bytes) => {
      const tree = typed(() => readBlob(bytes))
      if (tree) typed(() => applyOverlay(base, tree))
    }), { numRuns: draws(2000) })
  })

  it('cut short anywhere is refused', () => {
    for (let length = 0; length < overlay.length; length++) expect(
      typed(() => readBlob(overlay.slice(0, length))), `${length} bytes`,
    ).toBe(null)
  })

  it('of any bytes at all is refused, or is a tree', () => {
    const head = fc.uint8Array({ maxLength: 200 }).map(bytes => Uint8Array.from([0xD0, 0x0D, 0xFE, 0xED, ...bytes]))
    fc.assert(fc.property(fc.oneof(fc.uint8Array({ maxLength: 300 }), head), (bytes) => {
      const tree = typed(() => readBlob(bytes))
      if (tree) useTree(tree)
    }), { numRuns: draws(3000) })
  })

  it('that says it is larger than it is, or has offsets past its end, is refused before anything is set aside for it',
    () => {
      for (const field of [4, 8, 12, 16, 32, 36]) {
        for (const value of [0xFFFFFFFF, 0x7FFFFFFF, blob.length + 4]) {
          const bytes = blob.slice()
          new DataView(bytes.buffer).setUint32(field, value)
          expect(typed(() => readBlob(bytes)), `field ${field} = ${value}`).toBe(null)
        }
      }
    })

  it('of nodes nested without end is refused', () => {
    const open = new Uint8Array(40_000 * 8)
    for (let i = 0; i < 40_000; i++) open.set([0, 0, 0, 1, 0x61, 0, 0, 0], i * 8)
    const bytes = new Uint8Array(56 + open.length)
    const view = new DataView(bytes.buffer)
    ;[0xD00DFEED, bytes.length, 56, bytes.length, 40, 17, 16, 0, 0, open.length].forEach((cell,
      i) => view.setUint32(4 * i, cell))
    bytes.set(open, 56)
    expect(() => readBlob(bytes)).toThrow(DeviceTreeError)
  })
})

describe('a source', () => {
  const pieces = fc.constantFrom(
    '/dts-v1/;', '/plugin/;', '/ {', '};', '{', '}', ';', '<', '>', '=', 'a', 'reg', 'x@1', '&l', '&{/x}', 'l:', '1',
    '0xFFFFFFFFFF',
    '"s"', '"', '[', ']', '0g', '/bits/ 8', '/bits/ 65', '/include/ "x"', '#define A A\n', '#include <y>\n',
    '#ifdef A\n', '#endif\n',
    '/delete-node/', '/delete-property/', '/omit-if-no-ref/', '/memreserve/', '(1 + ', ')', '?', ':', '/*', '*/', '//',
    '\\', '\'c\'',
    '<< 70', '/ 0', '\u0000', '\uFEFF',
  )

  it('of any pieces is compiled, or refused with place and reason', () => {
    fc.assert(fc.property(fc.array(pieces, { maxLength: 24 }), (list) => {
      const text = list.join(' ')
      try {
        compileText(text)
      }
      catch (error) {
        expect(error).toBeInstanceOf(DeviceTreeError)
        expect((error as DeviceTreeError).message.length).toBeGreaterThan(5)
        if ((error as DeviceTreeError).fault === 'syntax') expect((error as DeviceTreeError).at.place).toBeDefined()
      }
    }), { numRuns: draws(3000) })
  })

  it('with letters changed, left out or doubled is compiled or refused', () => {
    const good = baseSource(boardOf('forty-classic'))
    fc.assert(fc.property(fc.nat(good.length - 1), fc.nat(6), fc.constantFrom(
      '', ';', '{', '}', '"', '<', '&', '/', '0', '\n', '*/', '/*',
    ), (at, drop, put) => {
      typed(() => compileText(good.slice(0, at) + put + good.slice(at + drop)))
    }), { numRuns: draws(500) })
  })

  it('of macros that lead to each other, of files that include each other, of brackets without end comes to an end',
    () => {
      const files = { read: (file: string) => ({ text: '/include/ "again.dtsi"\n', file }) }
      for (const text of [
        `#define A B\n#define B A\n/dts-v1/; / { x = <A>; };`, `/dts-v1/; / { x = <${'('.repeat(100_000)}1>; };`,
        `/dts-v1/; ${'/ { a {'.repeat(20_000)}`, `/dts-v1/; / { x = <${'1 ?'.repeat(50_000)} 1>; };`,
        `/dts-v1/; / { x = <${'~'.repeat(100_000)}1>; };`,
      ]) {
        expect(typed(() => compileText(text))).toBe(null)
      }
      expect(typed(() => compileText('/dts-v1/;\n/include/ "again.dtsi"\n', { files }))).toBe(null)
    })

  it('grown from a grammar survives its own printing', () => {
    fc.assert(fc.property(fc.oneof(anyBase, anyOverlay), (source) => {
      const tree = compileText(source, { symbols: true })
      expect([...writeBlob(compileText(printSource(tree)))]).toEqual([...writeBlob({
        ...tree, bootCpu: compileText(printSource(tree)).bootCpu,
      })])
    }), { numRuns: draws(100) })
  })
})

describe('an overlay', () => {
  it('of any tree is laid onto any other, or refused', () => {
    fc.assert(fc.property(anyTree, anyTree, (first, second) => {
      typed(() => applyOverlay(first, second))
      typed(() => applyOverlay(
        base,
        {
          ...second,
          root: {
            name: '', properties: [],
            children: [
              { name: 'fragment@0', properties: [], children: [{ ...second.root, name: '__overlay__' }] },
              { ...first.root, name: '__fixups__' }, { ...first.root, name: '__local_fixups__' },
            ],
          },
        },
      ))
    }), { numRuns: draws(400) })
  })

  it('leaves base and overlay as they were, whether it goes on or not', () => {
    const before = writeBlob(base)
    const laid = compileText(overlaySource, { symbols: true })
    const beforeOverlay = writeBlob(laid)
    applyOverlay(base, laid)
    typed(() => applyOverlay(base, compileText('/dts-v1/; /plugin/; &nobody { };')))
    expect([...writeBlob(base)]).toEqual([...before])
    expect([...writeBlob(laid)]).toEqual([...beforeOverlay])
  })
})

describe('a rehearsal', () => {
  it('of any files tells a story, whatever is in them', () => {
    const own = fc.option(
      fc.record({
        name: fc.constantFrom('mine', 'w1-gpio'), kind: fc.constantFrom('source' as const, 'blob' as const),
        content: fc.oneof(fc.string(),
          fc.constantFrom(overlaySource, base64Of(overlay), base64Of(overlay.slice(0, 90)))),
      }),
      { nil: undefined },
    )
    fc.assert(fc.property(anyBootText, own, fc.constantFrom(
      'key-value' as const, 'extlinux' as const, 'environment' as const,
    ), (text, mine, dialect) => {
      const overlays = mine ? [mine] : []
      const plan = { ...planOf('forty-usb-c', { a: 'led-plain' }),
        boot: { text: `${text}\ndtoverlay=mine\n`, dialect, overlays } }
      const story = rehearse(gatherFacts(plan, catalogue))
      expect(story.steps.length).toBeGreaterThan(1)
      for (const step of story.steps) expect(step.detail).not.toMatch(/undefined|NaN/)
    }), { numRuns: draws(150) })
  })
})
