/**
 * Every shipped part by itself: it can be placed, judged, booted, wired and looked for, on every board that has
 * what it needs.
 */
import { cautionsOf } from '../../../core/catalogue/cautions'
import { describe, expect, it } from 'vitest'
import { evaluate, type Report } from '../../../core/evaluate'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { refOf } from '../../../core/placement/refs'
import { applyEdit } from '../../../core/plan/edits'
import { gatherFacts } from '../../../core/facts/gather'
import { netlistOf } from '../../../core/netlist/build'
import { powerOf } from '../../../core/power/report'
import { readPlan } from '../../../core/plan/read'
import type { Plan } from '../../../core/plan/types'
import { faultsOf } from '../../checker'
import { catalogue, planOf } from '../../plans'

const boards = [...catalogue.boards.keys()]
const parts = [...catalogue.parts.values()]
/** Parts that need a converter beside them, and the one to take. */
const COMPANION: Record<string, Record<string, string>> = {
  'gas-analog': { c: 'analog-4-i2c' }, 'probe-tank-analog': { c: 'analog-8-spi' },
}

const placedOn = (board: string, type: string): { plan: Plan, report: Report } | null => {
  const plan = planOf(board, { p: type, ...COMPANION[type] })
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) return null
  expect(
    faultsOf(
      { ...plan, softwareBuses: result.softwareBuses },
      Object.fromEntries(Object.entries(result.assignments).map(([key, to]) => [key, refOf(to)])),
    ),
    type,
  ).toEqual([])
  const after = applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
  return { plan: after, report: evaluate(after, catalogue) }
}

describe.each(parts.map(part => part.id))('%s', (type) => {
  const part = catalogue.parts.get(type)!
  const found = placedOn('forty-io-bridge', type)

  it('finds its places on the newest board, proved by the checker', () => {
    expect(found, type).not.toBeNull()
  })

  it('has no stop that wiring by the book leaves open, but for levels, drives, supplies and sockets that '
    + 'want a decision', () => {
    // A strip at full white wants thicker wires than jumpers; a screen on USB wants more than the sockets give with a
    // 15 W supply; a battery board wants the adapter in its own socket; a case is made for one outline.
    const decisions = [
      'level.', 'line.driven-straight', 'serial.no-parity', 'lines.', 'supply.', 'sockets.', 'path.over-rating',
      'rail.over-budget',
      'rail.two-sources', 'thing.other-board',
    ]
    const stops = found!.report.findings.filter(finding => finding.severity === 'stop').map(finding => finding.code)
    expect(stops.filter(code => !decisions.some(decision => code.startsWith(decision)))).toEqual([])
  })

  it('leaves no blank in its boot lines and nodes', () => {
    const texts = [...found!.report.boot.needs.map(need => need.line),
      ...found!.report.expected.nodes.map(node => node.path)]
    expect(texts.filter(text => /[{}]|undefined|NaN/.test(text))).toEqual([])
    // Overlays that the part's file asks for are there, once each of its terminals has a place.
    const asked = (part.boot ?? []).filter(need => need.kind === 'overlay' && !need.when).map(need => need.name)
    for (const name of asked) {
      expect(found!.report.boot.needs.some(need => need.line.startsWith(`dtoverlay=${name.replace(/\{.*/, '')}`)), name)
        .toBe(true)
    }
  })

  it('has everything of it joined: each placed terminal to its place, each plug to a socket, an add-on board as a whole', () => {
    const facts = gatherFacts(found!.plan, catalogue)
    const { netOf, conductors } = netlistOf(facts, powerOf(facts).tree)
    for (const terminal of facts.terminals) if (terminal.place?.kind === 'header') {
      expect(netOf.get(terminal.key)!.pins, terminal.key).toContain(`@P${terminal.place.position}`)
    }
    const keys = conductors.map(conductor => conductor.id)
    for (const plug of (part.plugs ?? []).filter(entry =>
      !entry.when)) if ((facts.board!.sockets[plug.socket] ?? 0) > 0) {
      expect(keys).toContain(`p@${plug.socket}`)
    }
    if (part.isAddOn) expect(keys).toContain('p@seat')
    expect(found!.report.wires.map(wire => wire.key).sort()).toEqual([...keys].sort())
  })

  it('reads back from a file as it is', () => {
    const read = readPlan(JSON.parse(JSON.stringify(found!.plan)))
    expect(read.ok && read.plan).toEqual(found!.plan)
  })
})

describe('every board', () => {
  it.each(boards)('%s takes most parts, and says of each other one why not', (board) => {
    const refused = parts.flatMap((part) => {
      const plan = planOf(board, { p: part.id, ...COMPANION[part.id] })
      const result = placePlan(plan, catalogue, { scope: 'rest' })
      if (result.ok) return []
      expect(result.sentence.length, part.id).toBeGreaterThan(20)
      expect(result.conflict.length, part.id).toBeGreaterThan(0)
      return [part.id]
    })
    // The short header has no I²S and not enough positions for boards that lie on forty.
    expect(refused.length).toBeLessThanOrEqual(board === 'early-26' ? 9 : 0)
  })
})

describe('cautions', () => {
  const of = (id: string) => cautionsOf(catalogue.parts.get(id)!)

  it('of contacts say what mains are, where they stand it, and what happens when the program hangs', () => {
    expect(of('relay-board-1')).toEqual([expect.stringContaining('mains'), expect.stringContaining('program hangs')])
    expect(of('mosfet-board')).toEqual([expect.stringContaining('program hangs')])
  })

  it('of other parts are those of their files', () => {
    for (const part of catalogue.parts.values()) if (!part.contacts) expect(cautionsOf(part))
      .toEqual(part.cautions ?? [])
  })
})
