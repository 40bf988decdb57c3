/**
 * The bench sheet as a PDF, read back by Debian's poppler (`pdftotext`, `pdfinfo`): over the demo projects and plans
 * drawn at random.
 */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createRequire } from 'node:module'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sheetOf, stepsOf } from '../../core/construction/from-facts'
import { asBuiltPaper } from '../../core/share/as-built'
import { runSheetOf } from '../../core/diagnosis/sheet'
import { endLabelsOf, partLabelsOf } from '../../core/construction/labels'
import { wiresOf } from '../../core/construction/wires'
import { gatherFacts } from '../../core/facts/gather'
import type { PaperDocument } from '../../core/documents/paper'
import { netlistOf } from '../../core/netlist/build'
import { completed } from '../../core/plan/create'
import type { Plan } from '../../core/plan/types'
import { powerOf } from '../../core/power/report'
import { placedPlans } from '../generated'
import { catalogue, planOf } from '../plans'

interface Maker {
  addFonts: (fonts: unknown) => void
  setUrlAccessPolicy: (allows: () => boolean) => void
  setLocalAccessPolicy: (allows: (path: string) => boolean) => void
  createPdf: (definition: unknown) => { getBuffer: () => Promise<Uint8Array> }
}
const load = createRequire(import.meta.url)
const maker = load('pdfmake') as Maker
let folder = ''
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'bench-'))
  maker.addFonts(load('pdfmake/fonts/Roboto.js'))
  maker.setUrlAccessPolicy(() => false)
  maker.setLocalAccessPolicy(path => path.includes('Roboto'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const readBack = (plan: Plan, stops: string[] = []) => read(sheetOf(gatherFacts(plan, catalogue), stops))
async function read(paper: PaperDocument): Promise<string> {
  const file = join(folder, 'sheet.pdf')
  writeFileSync(file, await maker.createPdf(paper).getBuffer())
  expect(execFileSync('pdfinfo', [file], { encoding: 'utf8' })).toContain('Page size:       595.28 x 841.89 pts (A4)')
  // Words broken over lines are joined, and so are the spaces of columns.
  return execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' }).replace(/\s+/g, '')
}
const packed = (text: string) => text.replace(/ ?→ ?/g, ' to ').replace(/\s+/g, '')
const demo = (name: string) =>
  completed(JSON.parse(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8')) as Plan)

describe('the bench sheet', () => {
  const plans: [string, Plan][] = [
    ...['beehive-monitor', 'signal-box', 'tool-library-kiosk'].map((name): [string, Plan] => [name, demo(name)]),
    ...placedPlans(4, 300).map((plan, i): [string, Plan] => [`plan ${i} on ${plan.board}`, plan]),
    ['a plan without a board', planOf(null, {})],
  ]
  it.each(plans)('of %s holds every step with its check, every wire, and a stop that is open', async (_, plan) => {
    const facts = gatherFacts(plan, catalogue)
    const text = await readBack(plan, ['5 V reach an input'])
    const { steps } = stepsOf(facts)
    steps.forEach((step, i) => {
      expect(text).toContain(packed(`${i + 1}. ${step.title}`))
      // A check may be broken over two columns of words, never in its first ones.
      expect(text).toContain(packed(step.check).slice(0, 12))
      for (const words of step.cautions) expect(text).toContain(packed(words).slice(0, 24))
    })
    for (const wire of wiresOf(facts,
      netlistOf(facts, powerOf(facts).tree))) expect(text).toContain(packed(wire.from).slice(0, 8))
    expect(text).toContain('Openstop:5Vreachaninput')
  })
})

describe('what stands there, on paper', () => {
  it.each(['beehive-monitor',
    'tool-library-kiosk'])('of %s holds every part, sighting, curve and entry of the logbook', async (name) => {
    const plan = demo(name)
    const facts = gatherFacts(plan, catalogue)
    const text = await read(asBuiltPaper(facts, runSheetOf(facts)))
    for (const part of plan.parts) expect(text).toContain(packed(part.name))
    for (const { name: curve, values } of plan.curves) {
      expect(text).toContain(packed(curve))
      expect(text).toContain(packed(`${values.length} readings`))
    }
    for (const entry of plan.log) expect(text).toContain(packed(entry.text).slice(0, 30))
    for (const { at } of plan.seen) expect(text).toContain(packed(at.slice(0, 10)))
  })
})

describe('labels', () => {
  it('law: every wire has two, each of them with both places, and none else has any', () => {
    for (const plan of placedPlans(20, 40)) {
      const facts = gatherFacts(plan, catalogue)
      const wires = wiresOf(facts, netlistOf(facts, powerOf(facts).tree))
      const labels = endLabelsOf(wires)
      wires.forEach((wire, i) => {
        const mine = labels.filter(({ number }) => number === i + 1)
        expect(mine).toHaveLength(wire.kind === 'wire' ? 2 : 0)
        if (mine.length) expect([mine[0]!.here, mine[0]!.there]).toEqual([mine[1]!.there, mine[1]!.here])
      })
    }
  })

  it('like parts have one each, told apart by what is set differently on them', () => {
    const facts = gatherFacts(planOf('forty-classic', {
      porch: ['oled-i2c', { address: '0x3c' }], hall: ['oled-i2c', { address: '0x3d' }], clock: 'clock-cell-i2c',
    }), catalogue)
    expect(partLabelsOf(facts)).toEqual([
      { partId: 'porch', name: 'porch', told: 'Address strap: 0x3c' },
      { partId: 'hall', name: 'hall', told: 'Address strap: 0x3d' },
    ])
  })
})
