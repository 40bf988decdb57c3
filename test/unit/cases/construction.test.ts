/**
 * Shapes of projects gone through by hand where something is built. What is expected is common practice of the trade.
 */
import { describe, expect, it } from 'vitest'
import { partLabelsOf, endLabelsOf } from '../../../core/construction/labels'
import { stepsOf } from '../../../core/construction/from-facts'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { screwVerdicts } from '../../../core/mechanics/fasteners'
import { flatCableFor, type FlatConnector } from '../../../core/mechanics/flat-cable'
import { fixingsOf } from '../../../core/mechanics/panel'
import { misplugged } from '../../../core/mechanics/plugged'
import type { Plan } from '../../../core/plan/types'
import { placed, written } from '../../generated'
import { catalogue, findingsOf, planOf } from '../../plans'

const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const steps = (plan: Plan) => stepsOf(factsOf(plan)).steps
const at = (plan: Plan, start: string) => {
  const index = steps(plan).findIndex(({ id }) => id === start || id.startsWith(`${start}:`))
  expect(index, start).toBeGreaterThan(-1)
  return index
}
const step = (plan: Plan, start: string) => steps(plan)[at(plan, start)]!
const codes = (plan: Plan) => findingsOf(plan).map(({ code }) => code)
const built = (plan: Plan, build: Partial<Plan['build']>): Plan => ({ ...plan, build: { ...plan.build, ...build } })
const inOrder = (plan: Plan, ...ids: string[]) => {
  const places = ids.map(id => at(plan, id))
  expect(places).toEqual([...places].sort((a, b) => a - b))
}

describe('a current board in its case', () => {
  it('a cooler that stands higher than the lid lies is told; it starts open before the lid closes, and the '
    + 'supply is last', () => {
    const plan = written(planOf('forty-io-bridge',
      { cool: 'cooler-active', box: 'case-closed', card: 'card-memory-32' }))
    expect(codes(plan)).toContain('thing.under-lid')
    inOrder(plan, 'cool', 'case', 'supply', 'trial', 'lid')
    inOrder(plan, 'shorts', 'supply')
    inOrder(plan, 'image', 'card', 'supply')
    expect(step(plan, 'trial').hold).toBe(true)
    expect(step(plan, 'supply').undo).toContain('Shut down in order')
  })
})

describe('a panel and its board in a machine', () => {
  it('touch and picture are plugs, in after the wires; both are fed before the supply goes in', () => {
    const plan = placed(planOf('forty-usb-c', { panel: 'panel-video-7', relay: 'relay-board-1' }))!
    inOrder(plan, 'part:relay', 'part:panel', 'shorts', 'supply')
    const wires = evaluate(plan, catalogue).wires.filter(({ partId }) => partId === 'panel')
    expect(wires.every(({ position }) => position === undefined)).toBe(true)
    expect(wires.map(({ kind }) => kind)).toContain('plug')
  })
})

describe('small things in a tower', () => {
  const board: FlatConnector = { ways: 15, pitchMm: 1, contacts: 'right', opens: 'up', looks: 'up', first: 'near' }
  it('a flat cable: its kind, its way round, its length with the bends, and what the other kind does', () => {
    const answer = flatCableFor(board, { ...board, opens: 'left', contacts: 'bottom' }, 80)
    expect(answer).toMatchObject({ fits: true, straight: true, lengthMm: 100 })
    expect(answer.reasons.join(' '))
      .toMatch(/contacts at its ends on the same side.*One of the other kind .* nothing works/)
    // Way 1 on the other side: a supply would meet whatever lies there.
    expect(flatCableFor(board, { ...board, opens: 'left', contacts: 'bottom', first: 'far' }, 80))
      .toMatchObject({ fits: false })
    const panel = planOf('forty-classic', { panel: 'panel-flat-7' })
    expect(step(panel, 'part:panel').how.join(' '))
      .toMatch(/Open the latch.*line is covered, close the latch. Never crease it/)
  })

  it('standoffs and screws: the spacer is over what hangs below, and each length says why', () => {
    const plan = built(planOf('forty-usb-c', { fan: 'fan-5v' }),
      { mount: { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false } })
    expect(step(plan, 'mount').how.join(' ')).toMatch(/4 × Spacer, M2\.5.*4 × Screw/)
    expect(step(plan, 'mount').how.join(' ')).toContain('All screws loosely first')
  })
})

describe('a tiny board without a header', () => {
  const plan = placed(planOf('tiny-unpopulated',
    { pins: 'header-forty', air: 'pressure-humidity-i2c', plug: 'adapter-usb-micro',
      keys: 'keyboard-usb' }))!
  it('its pins go in from the side of the parts and are soldered from below, before all that is sensitive; there '
    + 'is no way back', () => {
    const header = step(plan, 'header')
    expect(header).toMatchObject({ side: 'bottom', tool: 'iron', undo: null, hold: true })
    expect(header.how.join(' '))
      .toMatch(/side of the parts.*Tack the two ends, look from the side whether it stands straight and flat/)
    expect(header.check).toContain('no neighbour is bridged')
    inOrder(plan, 'header', 'part:air', 'shorts')
  })

  it('the adapter is in before the plug', () => {
    inOrder(plan, 'adapter', 'part:keys')
  })
})

describe('a ribbon to a breadboard', () => {
  const plan = placed(planOf('forty-classic', { ribbon: 'ribbon-breakout-40' }))!
  it('every way to push it on wrong is worked out, harm first, with the look or the measurement before power', () => {
    const ways = misplugged(factsOf(plan))
    expect(new Set(ways.map(({ way }) => way)).size).toBeGreaterThan(3)
    const rank = ['breaks', 'may break', 'dead']
    const harms = ways.map(({ harm }) => rank.indexOf(harm))
    expect(harms).toEqual([...harms].sort((a, b) => a - b))
    for (const { look } of ways) expect(look.length).toBeGreaterThan(10)
  })

  it('stripe, labels, bent pins and static are said where it is pushed on; it holds there, and power comes last',
    () => {
      const seat = step(plan, 'seat:ribbon')
      expect(seat.cautions.join(' ')).toMatch(/stripe.*[Ll]abels.*bent pins.*earthed/)
      expect(seat.hold).toBe(true)
      inOrder(plan, 'seat:ribbon', 'shorts', 'supply')
    })
})

describe('a programming adapter on a desk', () => {
  it('everything is in before power', () => {
    const plan = written(placed(planOf('forty-classic',
      { tool: 'device-usb', card: 'card-memory-32', relay: 'relay-board-1' }))!)
    const last = at(plan, 'supply')
    for (const id of ['part:tool', 'part:relay', 'card', 'image', 'shorts']) expect(at(plan, id)).toBeLessThan(last)
  })
})

describe('relays on lines that the software dictates', () => {
  const plan = placed(planOf('forty-classic', { relays: 'relay-board-4' }))!
  it('line to position and back, returns first, each end labelled, and power off before one is moved', () => {
    const wires = evaluate(plan, catalogue).wires.filter(({ partId }) => partId === 'relays')
    expect(wires[0]!.role).toBe('ground')
    for (const { to, toLabel, role } of wires) if (role === 'signal') expect(to).toContain(`(${toLabel})`)
    expect(new Set(wires.map(({ role, colour }) => role === 'ground' ? colour : 'black'))).toEqual(new Set(['black']))
    const labels = endLabelsOf(wires)
    expect(labels).toHaveLength(2 * wires.length)
    expect(step(plan, 'part:relays').undo).toContain('supply unplugged')
  })
})

describe('a panel on the display connector', () => {
  const plan = placed(planOf('forty-usb-c', { panel: 'panel-flat-7' }))!
  it('feeds by two header wires, and which side the contacts look is said', () => {
    const wires = evaluate(plan, catalogue).wires.filter(({ partId, kind }) => partId === 'panel' && kind === 'wire')
    expect(wires).toHaveLength(2)
    expect([2, 4]).toContain(wires.find(({ role }) => role === '5V')!.position)
    expect(steps(plan).flatMap(({ how }) => how).join(' ')).toContain('the bare contacts look')
  })

  it('the depth of its threads fixes the screw: too short holds nothing, too long hits the panel', () => {
    const clamped = built(plan, { places: { panel: { on: 'table', clampedMm: 4 } } })
    const [fixing] = fixingsOf(factsOf(clamped))
    const verdicts = new Map(screwVerdicts({ ...fixing!, clampedMm: 4 }).map(({ lengthMm, is }) => [lengthMm, is]))
    expect([verdicts.get(6), verdicts.get(8), verdicts.get(12)]).toEqual(['too short', 'right', 'hits'])
    expect(fixing!.screwMm).toBe(8)
  })
})

describe('a header for a board that is set on another', () => {
  it('it is soldered before it is seated, and looked at along the header before it is pressed', () => {
    const plan = placed(planOf('tiny-unpopulated', { pins: 'header-forty', voice: 'audio-dac-add-on' }))!
    inOrder(plan, 'header', 'seat:voice', 'shorts')
    expect(step(plan, 'seat:voice').how.join(' '))
      .toMatch(/not one row or column off, not turned.*from the side before you press/)
    expect(step(plan, 'seat:voice').check).toContain('No pin of the header stands free')
  })
})

describe('a stack of receivers', () => {
  const plan = placed(planOf('forty-usb-c',
    { one: 'receiver-wide-stick', two: 'receiver-wide-stick', clock: 'clock-add-on', fan: 'fan-5v',
      box: 'case-vented' }))!
  it('like parts get labels, and wide sticks are told of where they do not fit beside each other', () => {
    expect(partLabelsOf(factsOf(plan)).map(({ partId }) => partId).sort()).toEqual(['one', 'two'])
    const three = placed(planOf('forty-usb-c',
      { a: 'receiver-wide-stick', b: 'receiver-wide-stick', c: 'receiver-wide-stick' }))!
    expect(codes(three).some(code => code.startsWith('sockets.'))).toBe(true)
  })

  it('a fan put over what stands there is in it, and the way out ends it', () => {
    const over = built(plan, { places: { fan: { on: 'board' } } })
    const [clash] = findingsOf(over).filter(({ code, id }) => code === 'room.clash' && id.includes('fan'))
    expect(clash?.fixes.length).toBeGreaterThan(0)
  })
})

describe('an old keyboard with new insides', () => {
  it('the chain of the supply is joined from the load towards the source, after the wires and before power', () => {
    const plan = placed(planOf('tiny-unpopulated',
      { pins: 'header-forty', keys: 'keypad-matrix', latch: 'power-latch' }))!
    inOrder(plan, 'header', 'part:keys', 'shorts', 'supply')
    const matrix = evaluate(plan, catalogue).wires.filter(({ partId }) => partId === 'keys')
    expect(new Set(matrix.map(({ position }) => position)).size).toBe(matrix.length)
  })
})

describe('a handheld shell', () => {
  const shell = { cool: 'cooler-block', panel: 'panel-flat-7', voice: 'audio-add-on', box: 'case-tall' }
  const plan = built(placed(planOf('forty-usb-c', shell))!, {
    mount: { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false, onto: 'panel' }, spacers: true,
    places: { panel: { on: 'table', clampedMm: 2 } },
  })
  it('pads without films, then what covers them, cables before the board over their slots, the lid after all', () => {
    expect(step(plan, 'cool').how.join(' ')).toContain('Films come off both sides of the pad of 1 mm')
    inOrder(plan, 'cool', 'flat:panel', 'seat:voice', 'shorts', 'trial', 'lid')
    expect(step(plan, 'cool').undo).toContain('wants a new one')
  })

  it('screws of different lengths, each with where it goes', () => {
    const items = evaluate(plan, catalogue).partsList.filter(({ kind }) => kind === 'fastener').map(({ what }) => what)
    expect(items.filter(what => what.startsWith('Screw')).length).toBeGreaterThan(1)
    expect(items.some(what => /stud/.test(what))).toBe(true)
  })
})
