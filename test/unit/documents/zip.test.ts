import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { readZip, zipOf, ZipError } from '../../../core/documents/zip'

const LIMITS = { maxBytes: 1024 * 1024, maxFiles: 20 }
const text = (content: string) => new TextEncoder().encode(content)
/** Where a local header holds the size before packing. Published: ZIP file format specification 4.3.7. */
const SIZE_AT = 22

describe('zips', () => {
  it('give back what was put in, folders left out', () => {
    const files = [{ path: 'a.txt', bytes: text('hello') }, {
      path: 'b/c.bin', bytes: new Uint8Array(70_000).fill(7),
    }, { path: 'empty', bytes: new Uint8Array() }]
    expect(readZip(zipOf(files), LIMITS)).toEqual(files)
    expect(
      readZip(zipSync({ 'folder/': new Uint8Array(), 'stored': [text('x'), { level: 0 }] }), LIMITS)
        .map(file => file.path),
    ).toEqual(['stored'])
    expect(readZip(zipOf([]), LIMITS)).toEqual([])
  })

  it('are bounded by what comes out, whatever they say of it', () => {
    const bomb = zipSync({ zeros: new Uint8Array(60 * 1024 * 1024) }, { level: 9 })
    expect(bomb.length).toBeLessThan(100_000)
    expect(() => readZip(bomb, LIMITS)).toThrow(/holds more than is read/)
    const lying = Uint8Array.from(bomb)
    new DataView(lying.buffer).setUint32(SIZE_AT, 100, true)
    expect(() => readZip(lying, LIMITS)).toThrow(/holds more than is read/)
    const small = zipOf([{ path: 'a', bytes: text('hello '.repeat(50)) }])
    new DataView(small.buffer).setUint32(SIZE_AT, 3, true)
    expect(() => readZip(small, LIMITS)).toThrow(/has 300 bytes where it says 3/)
    const many = zipOf(Array.from({ length: 21 }, (_, i) => ({ path: `f${i}`, bytes: new Uint8Array() })))
    expect(() => readZip(many, LIMITS)).toThrow(/over 20 files/)
  })

  it('that are cut short, damaged or none are told', () => {
    const whole = zipOf([{ path: 'a', bytes: text(Array.from({ length: 500 }, (_, i) => `${i * 7919}`).join(' ')) }])
    expect(() => readZip(whole.subarray(0, whole.length >> 1), LIMITS)).toThrow(ZipError)
    // Without its closing record it is cut short, though every file in it is whole.
    expect(() => readZip(whole.subarray(0, whole.length - 1), LIMITS)).toThrow(/cut short/)
    expect(() => readZip(new Uint8Array([0x50, 0x4B, 3, 4, 0, 0]), LIMITS)).toThrow(/cut short/)
    expect(() => readZip(text('not a zip at all'), LIMITS)).toThrow(/it is no zip/)
    expect(() => readZip(new Uint8Array(), LIMITS)).toThrow(/it is no zip/)
    const twisted = Uint8Array.from(whole)
    twisted.fill(0xFF, 40, 80)
    expect(() => readZip(twisted, LIMITS)).toThrow(ZipError)
  })
})
