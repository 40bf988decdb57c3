/**
 * Serial frames bit by bit. Published: ITU-T V.4 and the handbook's arithmetic of rates: at half the rate each byte
 * comes as two, at double as half as many. The reference tests hold them against a decoder of somebody else's.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameSetting, receiveFrames, sendFrames, transferred, type FrameSetting } from '../../../core/simulated/frames'

const setting = (frame: string, baud = 9600) => frameSetting(baud, frame)
const FRAMES = ['8N1', '7E1', '7O2', '8E1', '5N2', '8N2']

describe('frames', () => {
  it('carry every byte at one setting, without errors', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 40 }), fc.constantFrom(...FRAMES),
      (bytes, frame) => {
        const at = setting(frame)
        const mask = (1 << at.bits) - 1
        const found = receiveFrames(sendFrames(bytes, at), at)
        expect(found).toEqual(bytes.map(byte => ({ byte: byte & mask, frameError: false, parityError: false })))
      }))
  })

  it('a rate three per cent off still carries every byte, one that is ten off does not', () => {
    // Half a bit in nine and a half: a good five per cent. Textbook.
    const bytes = Array.from({ length: 256 }, (_, i) => i)
    for (const share of [0.97,
      1.03]) expect(transferred(bytes, setting('8N1'), setting('8N1', 9600 * share))).toEqual(bytes)
    for (const share of [0.9,
      1.1]) expect(transferred(bytes, setting('8N1'), setting('8N1', 9600 * share))).not.toEqual(bytes)
  })

  it('read at half the rate there are fewer, read at double there are more', () => {
    const bytes = [...'Hello, world'].map(sign => sign.charCodeAt(0))
    const slow = transferred(bytes, setting('8N1', 19_200), setting('8N1', 9600))
    const quick = transferred(bytes, setting('8N1', 4800), setting('8N1', 9600))
    expect(slow.length).toBeLessThanOrEqual(bytes.length * 0.6)
    expect(quick.length).toBeGreaterThan(bytes.length * 1.5)
    // By hand: start and U from its least bit, 0 10101010, then stop: each level is two of the reader's bits long, 00
    // 11 00 11 … It reads a start and 01100110, finds 0 where its stop should be, waits for the next fall, and reads
    // 0110011 and the line at rest.
    expect(transferred([0x55], setting('8N1', 4800), setting('8N1', 9600))).toEqual([0b0110_0110, 0b1110_0110])
  })

  it('even parity read as odd is told, and a start where a stop should be', () => {
    const marks = (to: FrameSetting) => receiveFrames(sendFrames([0x41], setting('7E1')), to)
    expect(marks(setting('7O1'))).toMatchObject([{ byte: 0x41, parityError: true }])
    expect(receiveFrames([{ at: 0, high: true }, { at: 0.01, high: false }, { at: 0.02, high: true }], setting('8N1')))
      .toMatchObject([{ byte: 0, frameError: true }])
  })

  it('what is no frame is refused', () => {
    for (const frame of ['9N1', '8X1', '8N3', '']) expect(() => frameSetting(9600, frame)).toThrow(RangeError)
  })
})
