/**
 * Shapes of projects gone through by hand where something is chosen: board, screen, supply, card, image, case, files,
 * prices. What is expected is common practice of the trade; prices are the catalogue's, made up.
 */
import { describe, expect, it } from 'vitest'
import { tryBoard, tryBoards } from '../../../core/choose/boards'
import { tryPart } from '../../../core/choose/parts'
import { totalsOf } from '../../../core/choose/totals'
import { tryWays } from '../../../core/choose/ways'
import { evaluate, evaluateFacts } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { smallFilesOf } from '../../../core/host'
import { hostBudgets } from '../../../core/host/budgets'
import { textOf } from '../../../core/host/types'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import type { Host } from '../../../core/plan/host-shape'
import type { Plan } from '../../../core/plan/types'
import { placed, written } from '../../generated'
import { catalogue, codesOf, findingsOf, planOf } from '../../plans'

const told = (plan: Plan, host: Partial<Host>): Plan => ({ ...plan, host: { ...plan.host, ...host } })
const found = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const labels = (plan: Plan, code: string) => found(plan, code)?.fixes.map(({ label }) => label)
const taking = (plan: Plan, code: string, nth = 0): Plan =>
  applyEdit(plan, { edit: 'all', edits: found(plan, code)!.fixes[nth]!.edits as Edit[] }).plan
const stops = (plan: Plan) => findingsOf(plan).filter(({ severity }) => severity === 'stop').map(({ code }) => code)
const filesOf = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  return smallFilesOf(facts, evaluateFacts(facts).expected)
}
const partOf = (type: string) => catalogue.parts.get(type)!

describe('first set-up of a current board', () => {
  const kit = (supply: string) => planOf('forty-io-bridge', {
    cooler: 'cooler-active', box: 'case-closed', card: 'card-memory-32', panel: 'panel-video-7',
    stick: 'modem-wide-stick',
  }, { supply: { type: supply } })

  it('the small supply leaves USB 600 mA, the large one 1600 mA, and the way out says so', () => {
    expect(found(kit('adapter-5v-3a'), 'usb.small-supply')!.title)
      .toBe('USB sockets give 600 mA together with this supply')
    expect(labels(kit('adapter-5v-3a'), 'usb.small-supply'))
      .toEqual(['Take Mains adapter, USB-C, 5 V 5 A: 1.6 A for USB'])
    expect(codesOf(kit('adapter-5v-5a'))).not.toContain('usb.small-supply')
  })

  it('the cooler does not go under the lid; each way out ends it', () => {
    const fixes = found(kit('adapter-5v-5a'), 'thing.under-lid')!.fixes
    expect(fixes.length).toBe(2)
    for (const nth of [0,
      1]) expect(codesOf(taking(kit('adapter-5v-5a'), 'thing.under-lid', nth))).not.toContain('thing.under-lid')
  })

  it('a cooler with a plug on a board without its socket: one without, or none; each ends it', () => {
    const plan = planOf('forty-usb-c', { cooler: 'cooler-active', box: 'case-closed' },
      { supply: { type: 'adapter-5v-3a' } })
    expect(labels(plan, 'sockets.exceeded')).toEqual(['Take Small heat sinks, glued on', 'Without cooler'])
    for (const nth of [0, 1]) expect(stops(taking(plan, 'sockets.exceeded', nth))).toEqual([])
  })

  it('the small video socket wants an adapter, which is in the price of the board', () => {
    const trial = tryBoard(planOf(null, { panel: 'panel-video-7' }), catalogue.boards.get('forty-io-bridge')!,
      catalogue)
    expect(trial.added.map(({ type }) => type)).toContain('adapter-video-micro')
  })
})

describe('an older board from a kit, then without screen and keyboard', () => {
  const kit = planOf('forty-classic', { sensor: 'pressure-humidity-i2c', card: 'card-memory-16' },
    { supply: { type: 'adapter-5v-2a4' } })
  const plan = told(kit, {
    name: 'shed', user: 'keeper', remote: true, radio: { network: 'garden', country: 'IT' },
    record: { passwordAt: 'in the green book', address: '192.168.7.20' },
  })
  it('first settings, each with where it goes, when it counts, and what it opens; the key of the network is nowhere',
    () => {
      const files = filesOf(plan)
      expect(files.map(({ after }) => after.is)).toContain('first start')
      const all = files.map(textOf).join('\n')
      expect(all).toContain('shed')
      expect(all).not.toContain('green book')
      expect(files.some(({ opens }) => /remote|log in|shell/i.test(opens ?? ''))).toBe(true)
      expect(files.some(({ secret }) => secret !== undefined)).toBe(true)
    })
  it('the card is large enough, a small one is said to be small', () => {
    expect(codesOf(plan)).not.toContain('card.small')
  })
})

describe('a touch panel in a machine', () => {
  const plan = planOf('forty-classic', { panel: 'panel-video-7' }, { supply: { type: 'din-rail-5v-5a' } })

  it('is held against ready-made ones by price, the one with its own parts named first', () => {
    const [own, ...others] = totalsOf(plan, catalogue)
    expect(own!.price.total).toBeLessThan(others[0]!.price.total)
    expect(others.map(({ kind }) => kind)).toEqual(['ready-made', 'ready-made'])
  })

  it('touch by USB takes no line of the header', () => {
    expect(tryPart(planOf('forty-classic', {}), partOf('panel-video-7'), catalogue).lines.taken).toBe(0)
  })

  it('a page that starts by itself, keys on the screen and a fixed address, each in its file', () => {
    const files = filesOf(told(plan, {
      user: 'keeper', runs: [{ id: 'r', name: 'panel', how: 'page', command: 'http://localhost:8080' }],
      screenKeys: '/usr/bin/keys',
      address: { interface: 'eth0', address: '192.168.7.20/24', gateway: '192.168.7.1' },
    }))
    const texts = new Map(files.map(file => [file.what, textOf(file)]))
    expect(texts.get('A page with the desktop')).toContain('http://localhost:8080')
    expect(texts.get('Keys on the screen')).toContain('/usr/bin/keys')
    expect(texts.get('A fixed address')).toContain('192.168.7.20/24')
  })
})

describe('a desktop case with screen, strip, fan and button', () => {
  it('the boot lines that make all of it work are written, and nothing stays dark', () => {
    const plan = placed(planOf('forty-io-bridge', {
      screen: 'oled-i2c', strip: ['strip-addressable', { pixels: '12' }], fan: 'fan-socket', button: 'button-1',
    }, { supply: { type: 'adapter-5v-5a' } }))!
    expect(codesOf(plan)).toContain('bus.not-enabled')
    expect(codesOf(written(plan))).not.toContain('bus.not-enabled')
    expect(codesOf(written(plan))).not.toContain('start.dark')
    expect(labels(plan, 'level.too-low')![0]).toMatch(/^Level shifter/)
  })
})

describe('a tiny board without header', () => {
  const parts = { screen: 'oled-i2c', keys: 'keyboard-usb' }

  it('adapters and their price against a dearer board that wants none', () => {
    const trials = tryBoards(planOf(null, parts, { supply: { type: 'adapter-5v-2a4' } }), catalogue)
    const [tiny, classic] = ['tiny-unpopulated', 'forty-classic'].map(id =>
      trials.find(({ boardId }) => boardId === id)!)
    expect(tiny!.added.every(({ price }) => price !== null)).toBe(true)
    expect(classic!.added).toEqual([])
    expect(tiny!.price.total).toBeLessThan(classic!.price.total)
  })

  it('which way the header goes, and which of two like sockets carries data', () => {
    const plan = placed(planOf('tiny-unpopulated', parts, { supply: { type: 'adapter-5v-2a4' } }))!
    expect(found(plan, 'header.missing')!.sentence)
      .toContain('on the side with the parts: from below every position is mirrored')
    expect(found(plan, 'socket.power-only')!.sentence).toContain('the inner one')
    expect(codesOf(taking(plan, 'header.missing'))).not.toContain('header.missing')
  })

  it('an image from before the board does not start it; one of the month does', () => {
    const bare = planOf('tiny-unpopulated', {}, { supply: { type: 'adapter-5v-2a4' } })
    const dated = (imageDate: string) => stops(told(bare, { record: { imageDate } }))
    expect(dated('2016-05-27')).toEqual(['image.too-old'])
    expect(dated('2017-02')).toEqual([])
    expect(dated('2026-05-01')).toEqual([])
    expect(dated('the one from the drawer')).toEqual([])
  })

  it('the plug of the supply that is there is told, and what goes between is in the price', () => {
    const trial = tryBoard(planOf(null, {}, { supply: { type: 'adapter-5v-2a4' } }),
      catalogue.boards.get('forty-usb-c')!, catalogue)
    expect(trial.added.map(({ type }) => type)).toEqual(['adapter-plug-usb-c'])
    expect(trial.cautions.join('\n')).not.toContain('does not fit')
  })
})

describe('a status screen inside a computer', () => {
  const plan = planOf('forty-classic', { screen: 'screen-spi-24' }, { supply: { type: 'internal-usb-500' } })
  it('a larger supply or a lower clock, both with figures', () => {
    const ways = labels(plan, 'supply.too-small')!
    expect(ways.some(label => /^Take .* of \d/.test(label))).toBe(true)
    expect(ways.some(label => /^Clock 600 MHz.*mA less/.test(label))).toBe(true)
  })
})

describe('choosing a display', () => {
  const candidates = [
    'oled-i2c', 'oled-spi-15', 'screen-spi-13', 'screen-spi-24', 'screen-spi-35-touch', 'screen-epaper-29',
    'panel-video-7', 'panel-flat-7',
  ]
  const bare = planOf('forty-classic', {}, { supply: { type: 'adapter-5v-2a4' } })
  const trials = candidates.map(type => tryPart(bare, partOf(type), catalogue))

  it('each with its lines, wires, minutes, current and price', () => {
    for (const trial of trials) {
      expect(trial.placed).toBe(true)
      expect(trial.price).toBeGreaterThan(0)
      expect(trial.peakMa.length).toBeGreaterThan(0)
    }
    const lines = Object.fromEntries(trials.map(({ partId, lines: { taken } }) => [partId, taken]))
    // Data and clock; a bus of three with select, data or command and reset; pictures by video or flat cable take none.
    expect(lines).toMatchObject({ 'oled-i2c': 2, 'oled-spi-15': 5, 'panel-video-7': 0, 'panel-flat-7': 0 })
  })

  it('a text display at 5 V is refused by its levels, not by its size', () => {
    expect(tryPart(bare, partOf('text-display-i2c'), catalogue).stops.some(title => title.startsWith('5 V into')))
      .toBe(true)
  })
})

describe('a programming adapter on a desk', () => {
  it('what the board asks at least and what is advised, and a card of which class', () => {
    const desk = planOf('forty-classic',
      { tool: ['controller-5v-serial', { link: 'usb' }], card: 'card-memory-32-plain' }, {
        supply: { type: 'adapter-usb-2a' },
      })
    expect(found(desk, 'card.wears')!.sentence).toContain('little and often')
    expect(labels(desk, 'card.wears')![0]).toMatch(/^Take Memory card/)
    expect(codesOf(taking(desk, 'card.wears'))).not.toContain('card.wears')
  })
})

describe('an audio board with screen and buttons', () => {
  const parts = { sound: 'audio-add-on', screen: 'screen-spi-13', keys: 'buttons-4', card: 'card-memory-16' }
  const plan = told(written(placed(planOf('forty-classic', parts, { supply: { type: 'adapter-5v-2a4' } }))!), {
    user: 'keeper', memoryMb: 1024, keeps: [{ id: 'k', what: 'samples', memoryMb: 900, cardMb: 14_000 }],
    runs: [{ id: 'r', name: 'drum', how: 'service', command: '/usr/bin/python3 /home/keeper/drum.py', realTime: true }],
  })
  it('samples against memory and card; the larger card ends one of them', () => {
    const { memory, card } = hostBudgets(gatherFacts(plan, catalogue))
    expect([memory.totalMb, memory.availableMb, card.totalMb, card.availableMb]).toEqual([1080, 1024, 17_500, 13_600])
    expect(codesOf(plan)).toContain('memory.short')
    expect(codesOf(taking(plan, 'card.full'))).not.toContain('card.full')
  })
  it('a program with real-time limits is a service that has them', () => {
    expect(filesOf(plan).map(textOf).join('\n')).toMatch(/LimitRTPRIO=\d+/)
  })
  it('by loose wires or as a board, with lines, price and minutes', () => {
    const [loose, addOn] = tryWays(planOf('forty-classic', { sound: 'audio-dac-add-on' }), 'sound', catalogue)!
    expect(loose.trial.price!).toBeLessThan(addOn.trial.price!)
    expect(loose.trial.minutes!).toBeGreaterThan(addOn.trial.minutes!)
    expect(addOn.trial.wires).toBe(0)
  })
})

describe('a stack of receivers', () => {
  it('like parts have names of their own in list and drawer', () => {
    const plan = planOf('forty-classic', { a: 'receiver-wide-stick', b: 'receiver-wide-stick' },
      { supply: { type: 'adapter-5v-2a4' } })
    expect(evaluate(plan, catalogue).partsList.find(({ type }) => type === 'receiver-wide-stick')!.count).toBe(2)
    expect(codesOf(plan)).toContain('sockets.stacked')
  })
})

describe('an old keyboard with new insides', () => {
  it('keys of the matrix, the power key, and the lines of the latch are in files', () => {
    const plan = told(placed(planOf('forty-classic', { k: 'keypad-matrix', l: 'power-latch' },
      { supply: { type: 'adapter-5v-2a4' } }))!, {
      user: 'keeper', powerKey: 'poweroff', matrix: { k: { 1.1: { code: 'KEY_A', types: 'ä' } } },
    })
    const all = filesOf(plan).map(textOf).join('\n')
    expect(all).toContain('HandlePowerKey=poweroff')
    expect(written(plan).boot!.text).toMatch(/gpio-poweroff,gpiopin=\d+/)
    expect(all).toContain('U00E4')
  })
})
