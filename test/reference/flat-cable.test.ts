/**
 * Flat cables against a model that carries a strip along its way in small steps (parallel transport, Bishop, "There
 * is more than one way to frame a curve", American Mathematical Monthly 82, 1975): every pair of connectors, every
 * side, every direction.
 */
import { describe, expect, it } from 'vitest'
import { flatCableFor, FLAT_LENGTHS_MM, type Direction, type FlatConnector } from '../../core/mechanics/flat-cable'

type V = [number, number, number]
const DIRECTIONS: Direction[] = ['left', 'right', 'near', 'far']
const axis = (direction: Direction): V => ({ left: [-1, 0, 0], right: [1, 0, 0], near: [0, -1, 0], far: [0, 1,
  0] } as const)[direction].slice() as V
const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
const length = (a: V) => Math.hypot(...a)
const scaled = (a: V, by: number): V => [a[0] * by, a[1] * by, a[2] * by]
const sum = (a: V, b: V): V => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]

const cross = (a: V, b: V): V => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
const rounded = (a: V): V => a.map(value => Math.round(value)) as V

/**
 * The strip's tangent turns about its width from one direction to the other; its face is carried along and kept
 * square to it.
 */
function faceAtEnd(from: V, to: V, width: V, start: V): V {
  const steps = 400
  const side = cross(width, from)
  const turn = Math.atan2(dot(to, side), dot(to, from))
  let face = start
  for (let i = 0; i <= steps; i++) {
    const angle = turn * i / steps
    const tangent = sum(scaled(from, Math.cos(angle)), scaled(side, Math.sin(angle)))
    face = sum(face, scaled(tangent, -dot(face, tangent)))
    face = scaled(face, 1 / length(face))
  }
  return rounded(face)
}

const away = (end: FlatConnector): V => end.looks === 'up' ? [0, 0, 1] : [0, 0, -1]
const opening = (end: FlatConnector): V => end.opens === 'up' ? away(end) : axis(end.opens)
const contacts = (end: FlatConnector): V => end.contacts === 'top'
  ? away(end)
  : end.contacts === 'bottom' ? scaled(away(end), -1) : axis(end.contacts)

function* connectors(): Generator<FlatConnector> {
  for (const looks of ['up', 'down'] as const) for (const first of DIRECTIONS) {
    for (const opens of DIRECTIONS) for (const side of ['top', 'bottom'] as const) {
      if (dot(axis(opens), axis(first)) === 0) yield { ways: 15, pitchMm: 1, contacts: side, opens, looks, first }
    }
    for (const side of DIRECTIONS) if (dot(axis(side), axis(first)) === 0) {
      yield { ways: 15, pitchMm: 1, contacts: side, opens: 'up', looks, first }
    }
  }
}

describe('a flat cable', () => {
  it('is the one that a strip carried from slot to slot asks for', () => {
    let tried = 0
    for (const one of connectors()) {
      if (one.looks === 'down') continue
      for (const two of connectors()) {
        const answer = flatCableFor(one, two, 60)
        // Its width is where its ways lie: where the two differ it would have to be folded.
        if (Math.abs(dot(axis(one.first), axis(two.first))) < 0.5) {
          expect(answer).toMatchObject({ fits: false, kind: null })
          continue
        }
        tried++
        const face = faceAtEnd(opening(one), scaled(opening(two), -1), axis(one.first), contacts(one))
        // The face that lies on the first contacts lies on the second ones as well, or its back does.
        expect(answer.kind).toBe(dot(face, contacts(two)) > 0.5 ? 'same' : 'opposite')
        // It bends about its width alone: a way stays on its side.
        expect(answer.straight).toBe(one.first === two.first)
        expect(answer.fits).toBe(one.first === two.first)
      }
    }
    expect(tried).toBe(576)
  })

  it('by hand: face to face on one board, contacts below, it has them on the same side; looped back, on opposite ones',
    () => {
      const one: FlatConnector = { ways: 15, pitchMm: 1, contacts: 'bottom', opens: 'right', looks: 'up',
        first: 'near' }
      expect(flatCableFor(one, { ...one, opens: 'left' }, 80))
        .toMatchObject({ fits: true, kind: 'same', lengthMm: 100 })
      expect(flatCableFor(one, one, 80)).toMatchObject({ fits: true, kind: 'opposite', lengthMm: 100 })
      expect(flatCableFor(one, { ...one, opens: 'left', first: 'far' }, 80))
        .toMatchObject({ fits: false, straight: false })
    })

  it('says why none fits', () => {
    const one: FlatConnector = { ways: 15, pitchMm: 1, contacts: 'bottom', opens: 'right', looks: 'up', first: 'near' }
    expect(flatCableFor(one, { ...one, ways: 22, pitchMm: 0.5 }, 80).reasons[0]).toContain('15 ways, the other 22')
    expect(flatCableFor(one, { ...one, pitchMm: 0.5 }, 80).reasons[0]).toContain('1 and 0.5 mm apart')
    expect(flatCableFor(one, { ...one, opens: 'far', first: 'left' }, 80).reasons[0]).toContain('right angle')
    expect(flatCableFor(one, { ...one, opens: 'left' }, 2000)).toMatchObject({ fits: false, lengthMm: null })
    expect(flatCableFor({ ...one, first: 'left' }, one, 80).fits).toBe(false)
  })

  it('reaches, and is the shortest that does', () => {
    const one: FlatConnector = { ways: 22, pitchMm: 0.5, contacts: 'top', opens: 'far', looks: 'up', first: 'left' }
    for (let apart = 10; apart < 900; apart += 7) {
      const { lengthMm } = flatCableFor(one, { ...one, opens: 'near' }, apart)
      if (lengthMm === null) continue
      expect(lengthMm).toBeGreaterThan(apart)
      const shorter = FLAT_LENGTHS_MM.filter(entry => entry < lengthMm).at(-1)
      if (shorter !== undefined) expect(shorter).toBeLessThan(apart * 1.15)
    }
  })
})
