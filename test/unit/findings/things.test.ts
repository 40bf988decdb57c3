/**
 * Things against the board and against each other. What fits what is common practice; heights of coolers and lids are
 * the part files', from memory: the tests hold the comparison, not the figures.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lacksUnderLid, misfitOf, thingKind, thingsFor } from '../../../core/catalogue/things'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit } from '../../../core/plan/edits'
import { thingEdits } from '../../../core/plan/things'
import type { Plan } from '../../../core/plan/types'
import { placed as withPlaces, worn } from '../../generated'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

const BOARDS = [...catalogue.boards.values()]
const THINGS = [...catalogue.parts.values()].filter(part => thingKind(part) !== null)
const found = (plan: Plan) => evaluate(plan, catalogue).findings
const codes = (plan: Plan) => found(plan).map(finding => finding.code)
const placed = (board: string, parts: Record<string, string>) => withPlaces(planOf(board, parts))!
const mended = (plan: Plan, code: string, fix = 0) =>
  applyEdit(plan, { edit: 'all', edits: found(plan).find(finding => finding.code === code)!.fixes[fix]!.edits }).plan

describe('outlines', () => {
  it('a case of another board is a stop, and its way out is one that goes', () => {
    const plan = planOf('tiny-unpopulated', { box: 'case-vented' })
    expect(codes(plan)).toContain('thing.other-board')
    const after = mended(plan, 'thing.other-board')
    expect(codes(after)).not.toContain('thing.other-board')
    expect(after.parts.map(part => part.type)).toEqual(['case-tiny'])
  })

  it.each(BOARDS.map(board => [board.id, board] as const))('%s has a case, a card and a cooler that go with it',
    (_, board) => {
      for (const kind of ['case', 'card',
        'cooler'] as const) expect(thingsFor(kind, board, catalogue).length, kind).toBeGreaterThan(0)
    })

  it('a board that says nothing of its outline refuses nothing', () => {
    const board = { ...BOARDS[0]!, outline: undefined }
    expect(THINGS.filter(part => part.thing!.outlines).every(part => misfitOf(part, board) === null || part.plugs))
      .toBe(true)
  })
})

describe('under a lid', () => {
  it('a cooler with a fan stands higher than a closed case, and both ways out fit', () => {
    const plan = planOf('forty-io-bridge', { cooler: 'cooler-active', box: 'case-closed' })
    const finding = found(plan).find(({ code }) => code === 'thing.under-lid')!
    expect(finding.severity).toBe('stop')
    expect(finding.figures[0]).toMatchObject({ value: 22, limit: 18, unit: 'mm' })
    for (const [i] of finding.fixes.entries()) expect(codes(mended(plan, 'thing.under-lid',
      i))).not.toContain('thing.under-lid')
  })

  it('is said once, whether by the load test\'s settings or by the things', () => {
    const bare = planOf('forty-io-bridge', {})
    const heat = { ...bare.power.heat, cooler: 'active' as const, enclosure: 'closed' as const }
    const withThings = planOf('forty-io-bridge', { cooler: 'cooler-active', box: 'case-closed' })
    for (const plan of [bare, withThings]) {
      const set = { ...plan, power: { ...plan.power, heat } }
      expect(codes(set).filter(code => code.endsWith('.under-lid'))).toHaveLength(1)
    }
  })

  it('a case that is the heat sink leaves no room for another', () => {
    const plan = planOf('forty-classic', { cooler: 'cooler-fins', box: 'case-cooler-body' })
    expect(codes(plan)).toContain('thing.under-lid')
    expect(codes(mended(plan, 'thing.under-lid'))).not.toContain('thing.under-lid')
  })

  it('counts to the millimetre: equal heights fit', () => {
    expect(lacksUnderLid({ heightMm: 18 }, { lidMm: 18 })).toBeNull()
    expect(lacksUnderLid({ heightMm: 18.5 }, { lidMm: 18 })).toBe(0.5)
    expect(lacksUnderLid({}, { lidMm: 18 })).toBeNull()
  })
})

describe('the header', () => {
  it('a closed case shuts in what is on it; a slot, or nothing there, does not', () => {
    const wired = placed('forty-classic', { box: 'case-closed', screen: 'oled-i2c' })
    expect(codes(wired)).toContain('case.header-shut')
    expect(codes(mended(wired, 'case.header-shut'))).not.toContain('case.header-shut')
    expect(codes(planOf('forty-classic', { box: 'case-closed' }))).not.toContain('case.header-shut')
    expect(codes(placed('forty-classic', { box: 'case-vented', screen: 'oled-i2c' }))).not.toContain('case.header-shut')
  })

  it('holes without pins want pins as soon as something is to go on', () => {
    const wired = placed('tiny-unpopulated', { screen: 'oled-i2c' })
    expect(codes(wired)).toContain('header.missing')
    expect(codes(planOf('tiny-unpopulated', { screen: 'oled-i2c' }))).not.toContain('header.missing')
    for (const i of [0, 1]) expect(codes(mended(wired, 'header.missing', i))).not.toContain('header.missing')
    expect(codes(placed('forty-classic', { screen: 'oled-i2c', pins: 'header-forty' }))).toContain('thing.useless')
  })
})

describe('small sockets', () => {
  it('a panel on a small video socket wants an adapter, on a full one none', () => {
    expect(codes(planOf('forty-usb-c', { panel: 'panel-video-7' }))).toContain('adapter.missing')
    expect(codes(planOf('forty-classic', { panel: 'panel-video-7' }))).not.toContain('adapter.missing')
    const after = mended(planOf('forty-usb-c', { panel: 'panel-video-7' }), 'adapter.missing')
    expect(codes(after)).not.toContain('adapter.missing')
    expect(after.parts.at(-1)!.type).toBe('adapter-video-micro')
  })

  it('two panels want two, and the wrong adapter is none', () => {
    const two = planOf('forty-usb-c', {
      left: 'panel-video-7', right: 'panel-video-5', one: 'adapter-video-micro', odd: 'adapter-video-mini',
    })
    expect(found(two).find(finding => finding.code === 'adapter.missing')!.figures[0])
      .toMatchObject({ value: 1, limit: 2 })
    expect(codes(two)).toContain('thing.useless')
  })

  it('says which of two like sockets carries data, when something wants data', () => {
    expect(codes(planOf('tiny-unpopulated', { keys: 'keyboard-usb' }))).toContain('socket.power-only')
    expect(codes(planOf('tiny-unpopulated', {}))).not.toContain('socket.power-only')
    expect(codes(planOf('forty-classic', { keys: 'keyboard-usb' }))).not.toContain('socket.power-only')
  })
})

describe('a hub on a small socket', () => {
  it('wants the adapter for its own plug, and what hangs on it wants none', () => {
    const bare = planOf('tiny-unpopulated', { keys: 'keyboard-usb' })
    const plan: Plan = {
      ...bare, power: {
        ...bare.power, nodes: [{ id: 'hub', type: 'hub-bus', name: 'Small hub', from: '@usb' }],
        feeds: Object.fromEntries(catalogue.parts.get('keyboard-usb')!.supplies.map(({ id }) => [`keys.${id}`, 'hub'])),
      },
    }
    const finding = found(plan).find(({ code }) => code === 'adapter.missing')!
    expect(finding.sentence).toMatch(/^Small hub has a plug/)
    expect(finding.figures[0]).toMatchObject({ value: 0, limit: 1 })
    expect(codes(mended(plan, 'adapter.missing'))).not.toContain('adapter.missing')
  })
})

describe('card and image', () => {
  const old = (board: string) => ({ ...planOf(board, {}), boot: { text: '', image: 'older' as const } }) as Plan
  it('an image from before the board does not start; a current one does', () => {
    expect(codes(old('forty-io-bridge'))).toContain('image.too-old')
    expect(codes(old('forty-usb-c'))).not.toContain('image.too-old')
    expect(codes(mended(old('forty-io-bridge'), 'image.too-old'))).not.toContain('image.too-old')
  })

  it('a card for pictures wears; one for programs does not', () => {
    expect(codes(planOf('forty-classic', { card: 'card-memory-32-plain' }))).toContain('card.wears')
    expect(codes(mended(planOf('forty-classic', { card: 'card-memory-32-plain' }),
      'card.wears'))).not.toContain('card.wears')
  })

  it('two cards are one too many, and either can be kept', () => {
    const two = planOf('forty-classic', { a: 'card-memory-32', b: 'card-memory-64' })
    for (const i of [0, 1]) expect(mended(two, 'thing.twice', i).parts).toHaveLength(1)
  })
})

describe('taking a thing', () => {
  const kinds = ['case', 'cooler', 'card', 'header'] as const

  it('law: what a board carries once is there once, the load test runs with it, nothing else changes, and it '
    + 'is taken back', () => {
    fc.assert(fc.property(fc.nat(1e6), fc.constantFrom(...THINGS), (seed, part) => {
      const plan = worn(seed)
      const kind = thingKind(part)!
      const { plan: after, inverse } = applyEdit(plan, { edit: 'all', edits: thingEdits(plan, kind, part, catalogue) })
      const like = after.parts.filter(({ type }) => thingKind(catalogue.parts.get(type)!) === kind)
      if ((kinds as readonly string[]).includes(kind)) expect(like.map(({ type }) => type)).toEqual([part.id])
      const { set } = gatherFacts(after, catalogue).heat
      const goesOn = misfitOf(part, after.board ? catalogue.boards.get(after.board)! : null) === null
      if (goesOn && part.thing!.cooler) expect(set.cooler).toBe(part.thing!.cooler)
      if (goesOn && part.thing!.enclosure) expect(set.enclosure).toBe(part.thing!.enclosure)
      // And when it goes again by any way, nothing of it stays in the load test.
      const gone = gatherFacts({ ...after, parts: after.parts.filter(({ type }) => type !== part.id) }, catalogue).heat
      if (part.thing!.cooler && kind === 'cooler') expect([gone.cooler, gone.set.cooler]).toEqual([null, 'none'])
      if (kind === 'case' && part.thing!.enclosure) expect([gone.enclosure, gone.set.enclosure]).toEqual([null, 'open'])
      const others = (parts: Plan['parts']) => parts.filter(({ type }) => {
        const is = thingKind(catalogue.parts.get(type)!)
        return is !== kind && is !== 'cooler'
      })
      expect(others(after.parts)).toEqual(others(plan.parts))
      expect(new Set(after.parts.map(({ id }) => id)).size).toBe(after.parts.length)
      expect(applyEdit(after, inverse).plan).toEqual(plan)
    }), { numRuns: draws(60) })
  })

  it('law: a thing offered for a board is never told not to go with it', () => {
    for (const board of BOARDS) {
      for (const kind of ['case', 'cooler', 'adapter', 'header', 'card', 'fan'] as const) {
        for (const part of thingsFor(kind, board, catalogue)) {
          const said = codes(planOf(board.id, { it: part.id }))
          for (const code of ['thing.other-board', 'thing.useless', 'sockets.exceeded']) {
            expect(said, `${board.id} ${part.id}`).not.toContain(code)
          }
        }
      }
    }
  })
})

describe('every fix of a thing', () => {
  const RULES = /^(thing\.|case\.|header\.missing|adapter\.missing|card\.|image\.)/
  const [cases, coolers] = (['case', 'cooler'] as const).map(kind => THINGS.filter(part => thingKind(part) === kind))

  it.each(BOARDS.map(board =>
    board.id))('law, on %s: every case with every cooler; each fix mends and brings no new stop', (board) => {
    for (const box of cases!) for (const cooler of coolers!) {
      const plan = placed(board, { box: box.id, cooler: cooler.id, screen: 'oled-i2c', card: 'card-memory-32-plain' })
      const before = found(plan)
      const stops = new Set(before.filter(({ severity }) => severity === 'stop').map(({ code }) => code))
      for (const finding of before.filter(({ code }) => RULES.test(code))) for (const fix of finding.fixes) {
        const after = found(applyEdit(plan, { edit: 'all', edits: fix.edits }).plan)
        const what = `${box.id} ${cooler.id}: ${finding.id}: ${fix.label}`
        expect(after.map(({ id }) => id), what).not.toContain(finding.id)
        expect(after.filter(({ severity, code }) => severity === 'stop' && !stops.has(code)).map(({ title }) => title),
          what).toEqual([])
      }
    }
  })
})
