import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { shippedStarters } from '../../../core/catalogue'
import { starterSchema } from '../../../core/catalogue/schemas'
import { firstPlan } from '../../../core/choose/starters'
import { supplyChoices, trySupply } from '../../../core/choose/supplies'
import { emptyPlan } from '../../../core/plan/create'
import { catalogue } from '../../plans'

const suitable = (board: string) => supplyChoices(
  [...catalogue.supplies.values()].map(supply => trySupply({ ...emptyPlan('x'), board }, supply, catalogue)),
)
  .find(choice => choice.fit === 'fits')!.supply.id

describe('starters', () => {
  it('have the shape of their files, and name parts that there are', () => {
    for (const starter of shippedStarters) {
      expect(starterSchema.validate(starter).error).toBeUndefined()
      expect(starter.parts.filter(({ type }) => !catalogue.parts.has(type))).toEqual([])
    }
  })
})

describe.each([...catalogue.boards.keys()])('a first plan on %s', (board) => {
  it.each(shippedStarters.map(starter => [starter.id, starter] as const))('%s is placed whole, without a stop',
    (_, starter) => {
      const plan = firstPlan({ name: 'First', board, supply: suitable(board), starter }, catalogue)
      const report = evaluate(plan, catalogue)
      expect(plan.parts.map(part => part.type)).toEqual(starter.parts.map(({ type }) => type))
      expect(report.findings.filter(finding => finding.severity === 'stop').map(finding => finding.title)).toEqual([])
      expect(report.findings.map(finding => finding.code)).not.toContain('terminal.unplaced')
    })
})
