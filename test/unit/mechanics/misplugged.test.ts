/**
 * What meets what when a board is pushed on wrong: against a netlist that is joined by hand, pin by pin, with a
 * geometry of its own.
 */
import { describe, expect, it } from 'vitest'
import { gatherFacts } from '../../../core/facts/gather'
import { coverOf } from '../../../core/facts/seats'
import { holeOver, misplugged, WAYS, type WrongWay } from '../../../core/mechanics/plugged'
import { placed, placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'
import type { Plan } from '../../../core/plan/types'

/** Millimetres, the header lying: x along it, y across; the socket is moved as a stiff body. */
const PITCH = 2.54
const spotOf = (position: number) => [Math.floor((position - 1) / 2) * PITCH, (position - 1) % 2 * PITCH] as const
const moved = ([x, y]: readonly [number, number], way: WrongWay,
  [left, right]: readonly [number, number]): [number, number] => ({
  'column up': [x + PITCH, y] as [number, number], 'column down': [x - PITCH, y] as [number, number],
  'row in': [x, y - PITCH] as [number, number], 'row out': [x, y + PITCH] as [number, number],
  'turned': [left + right - x, PITCH - y] as [number, number], 'mirrored': [x, PITCH - y] as [number, number],
})[way]

function underHole(hole: number, way: WrongWay, from: number, to: number): number | null {
  const [x, y] = moved(spotOf(hole), way, [spotOf(from)[0], spotOf(to)[0]])
  for (let position = 1; position <= 40; position++) {
    const [px, py] = spotOf(position)
    if (Math.hypot(px - x, py - y) < 0.1) return position
  }
  return null
}

/** Harm of a way, from nets joined one contact after the other. */
function harmByHand(plan: Plan, partId: string, way: WrongWay): string {
  const facts = gatherFacts(plan, catalogue)
  const owner = facts.parts.find(({ id }) => id === partId)!
  const { from, to } = coverOf(owner)!
  const header = facts.board!.header
  const kindAt = (position: number) => {
    const kind = header.find(entry => entry.position === position)?.kind
    return kind === '5V' || kind === '3V3' || kind === 'ground' ? kind : `line ${position}`
  }
  const wired = new Map(facts.terminals.filter(({ owner: mine, place }) =>
    mine.id === partId && place?.kind === 'header')
    .map(terminal => [(terminal.place as { position: number }).position, terminal]))
  const needs = (rail: string) => owner.supplies.some(supply => supply.from === 'header' && supply.rail === rail)
  const names = new Set<string>()
  for (let hole = from; hole <= to; hole++) {
    const kind = kindAt(hole)
    const terminal = wired.get(hole)
    const inside = terminal?.is === 'signal'
      ? `own signal ${terminal.label}`
      : kind === 'ground' && owner.grounds.length
        ? 'own return'
        : (kind === '5V' || kind === '3V3') && needs(kind) ? `own ${kind}` : null
    const pin = underHole(hole, way, from, to)
    if (!inside || pin === null || pin > header.length) continue
    names.add(inside).add(kindAt(pin))
  }
  // Each net of the pushed-on board by itself: what meets only by way of a board's rail is fed as it should be.
  const nets = [...names].filter(name => name.startsWith('own')).map(own => ({
    own, on: [...names].filter(name => !name.startsWith('own') && contactsOf(own).has(name)),
  }))
  function contactsOf(own: string): Set<string> {
    const on = new Set<string>()
    for (let hole = from; hole <= to; hole++) {
      const kind = kindAt(hole)
      const terminal = wired.get(hole)
      const inside = terminal?.is === 'signal'
        ? `own signal ${terminal.label}`
        : kind === 'ground' && owner.grounds.length
          ? 'own return'
          : (kind === '5V' || kind === '3V3') && needs(kind) ? `own ${kind}` : null
      const pin = underHole(hole, way, from, to)
      if (inside === own && pin !== null && pin <= header.length) on.add(kindAt(pin))
    }
    return on
  }
  const lines = (on: string[]) => on.filter(name => name.startsWith('line'))
  const ground = nets.find(({ own }) => own === 'own return')?.on ?? []
  const breaks = nets.some(({ own,
    on }) => (on.includes('5V') && (on.includes('ground') || on.includes('3V3') || lines(on).length > 0
      || own === 'own 3V3' || own.startsWith('own signal'))) || (on.includes('3V3') && on.includes('ground')))
    || ((ground.includes('5V') || ground.includes('3V3')) && !ground.includes('ground')
      && nets.some(({ own, on }) => (own === 'own 5V' || own === 'own 3V3') && on.includes('ground')
        && !on.includes('5V')
        && !on.includes('3V3')))
  if (breaks) return 'breaks'
  const may = nets.some(({ own,
    on }) => (lines(on).length > 0 && (on.includes('3V3') || on.includes('ground') || lines(on).length > 1
      || own === 'own 5V' || own === 'own 3V3')) || (own.startsWith('own signal') && on.includes('3V3')))
  return may ? 'may break' : 'dead'
}

const SEATED = [...catalogue.parts.values()].filter(({ seat }) => seat).map(({ id }) => id)

describe('a board that is pushed on wrong', () => {
  it('lies where a stiff body lies that is shifted, turned or mirrored', () => {
    for (const [from, to] of [[1, 40], [1, 26],
      [1, 10]] as const) for (const way of WAYS) for (let hole = from; hole <= to; hole++) {
      expect(holeOver(hole, way, from, to, 40), `${hole} ${way} of ${from} to ${to}`)
        .toBe(underHole(hole, way, from, to))
    }
  })

  it.each(SEATED.filter(type => type !== 'ribbon-breakout-40'))('does what the pins say that meet: %s', (type) => {
    for (const board of ['forty-classic', 'forty-usb-c', 'early-26']) {
      const plan = placed(planOf(board, { it: type }))
      if (!plan) continue
      const found = misplugged(gatherFacts(plan, catalogue))
      expect(found.map(({ way }) => way).sort()).toEqual([...WAYS].sort())
      for (const { way, harm, meetings } of found) {
        expect(harm, `${board} ${way}`).toBe(harmByHand(plan, 'it', way))
        expect(meetings.length > 0).toBe(harm !== 'dead')
      }
    }
  })

  it('that is a ribbon brings what hangs behind it', () => {
    const plan = placed(planOf('forty-usb-c',
      { ribbon: 'ribbon-breakout-40', relay: 'relay-board-1', air: 'pressure-humidity-i2c' }))!
    const found = misplugged(gatherFacts(plan, catalogue)).filter(({ partId }) => partId === 'ribbon')
    expect(found).toHaveLength(WAYS.length)
    const turned = found.find(({ way }) => way === 'turned')!
    expect(turned.harm).toBe('breaks')
    expect(found.find(({ way }) => way === 'column up')!.measure).toContain('positions 4 and 6')
    const bare = placed(planOf('forty-usb-c', { ribbon: 'ribbon-breakout-40' }))!
    expect(misplugged(gatherFacts(bare, catalogue)).every(({ harm }) => harm === 'dead')).toBe(true)
  })

  it('by any plan: harm first, each way once for each board, a measurement only where there is a short '
    + 'between two positions', () => {
    for (const plan of placedPlans(60)) {
      const facts = gatherFacts(plan, catalogue)
      const found = misplugged(facts)
      const seated = facts.parts.filter(({ part }) => part.seat).length
      expect(found.length).toBeLessThanOrEqual(seated * WAYS.length)
      const order = found.map(({ harm }) => ['breaks', 'may break', 'dead'].indexOf(harm))
      expect(order).toEqual([...order].sort((a, b) => a - b))
      for (const { measure, meetings } of found) {
        if (measure) expect(measure).toMatch(/positions \d+ and \d+/)
        expect(measure === null).toBe(!meetings.some(({ words }) => words.endsWith(': a short')))
      }
    }
  })

  it('one column towards the far end with 5 V on it is a short that the meter finds: worked by hand', () => {
    // Holes 2 and 4 come over positions 4 (5 V) and 6 (return).
    const plan = placed(planOf('forty-usb-c', { it: 'relay-add-on-3' }))!
    const up = misplugged(gatherFacts(plan, catalogue)).find(({ way }) => way === 'column up')!
    expect(up.measure).toBe('Near 0 Ω between positions 4 and 6: do not switch on.')
    expect(up.harm).toBe('breaks')
  })
})
