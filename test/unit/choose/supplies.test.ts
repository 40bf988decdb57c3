import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { emptyPlan } from '../../../core/plan/create'
import { supplyChoices, trySupply } from '../../../core/choose/supplies'
import { catalogue, planOf } from '../../plans'
import type { Plan } from '../../../core/plan/types'

const choicesFor = (plan: Plan) =>
  supplyChoices([...catalogue.supplies.values()].map(supply => trySupply(plan, supply, catalogue)))
const on = (board: string): Plan => ({ ...emptyPlan('x'), board })

describe('supplies for a board', () => {
  it('has every supply once, those that fit first', () => {
    for (const board of catalogue.boards.keys()) {
      const choices = choicesFor(on(board))
      expect(new Set(choices.map(({ supply }) => supply.id)).size).toBe(catalogue.supplies.size)
      const ranks = choices.map(({ fit }) => ['fits', 'care', 'converter', 'no'].indexOf(fit))
      expect(ranks).toEqual([...ranks].sort((a, b) => a - b))
      expect(choices[0]!.fit).toBe('fits')
    }
  })

  it('says why not, in the words of the judgement', () => {
    for (const board of catalogue.boards.keys()) {
      for (const { supply, fit, why } of choicesFor(on(board))) {
        const { findings, counts } = evaluate({ ...on(board), supply: { type: supply.id } }, catalogue)
        const titles = findings.map(finding => finding.title)
        expect(why.every(reason => titles.includes(reason)), supply.id).toBe(true)
        if (fit !== 'fits') expect(why.length, supply.id).toBeGreaterThan(0)
        if (fit === 'fits') expect(counts.stops, supply.id).toBe(0)
      }
    }
  })

  it('never calls fitting what puts more than the board stands on its rail', () => {
    for (const board of catalogue.boards.keys()) {
      const fit = new Map(choicesFor(on(board)).map(choice => [choice.supply.id, choice]))
      for (const id of ['adapter-12v-2a', 'network-cable-25w', 'vehicle-12v', 'transformer-9v-ac', 'solar-panel-20w']) {
        expect(fit.get(id)!.fit, `${board} ${id}`).toBe('converter')
      }
      expect(fit.get('adapter-12v-2a')!.why[0]).toMatch(/V on the board's 5 V rail/)
    }
  })

  it('does not hold against a supply what all of them would have', () => {
    // The newest board slows down in its own heat whatever feeds it.
    const best = choicesFor(on('forty-io-bridge')).find(({ supply }) => supply.id === 'adapter-5v-5a')!
    expect(best).toMatchObject({ fit: 'fits', why: [] })
  })

  it('counts what the parts draw: what fits the bare board can be too weak for the plan', () => {
    const heavy = planOf('forty-classic',
      Object.fromEntries(Array.from({ length: 5 }, (_, i) => [`s${i}`, 'servo-small'])), {
        assignments: Object.fromEntries(Array.from({ length: 5 }, (_, i) => [`s${i}.vcc`, { position: 2 }])),
      })
    const fitOf = (plan: Plan) => choicesFor(plan).find(({ supply }) => supply.id === 'adapter-5v-2a4')!.fit
    expect(fitOf(on('forty-classic'))).toBe('fits')
    expect(fitOf(heavy)).toBe('no')
  })
})
