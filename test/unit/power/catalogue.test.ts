/** Supply and power item files: their shape, their figures, and that each works by itself. */
import { describe, expect, it } from 'vitest'
import { powerItemSchema, supplySchema } from '../../../core/catalogue/schemas'
import { evaluate } from '../../../core/evaluate'
import { FIGURES, KINDS } from '../../../core/netlist/supply/kinds'
import { catalogue, planOf } from '../../plans'

describe.each([...catalogue.powerItems.values()].map(item => [item.id, item] as const))('%s', (id, item) => {
  it('has the shape of a power item, and only figures that its kind has', () => {
    expect(powerItemSchema.validate(item).error).toBeUndefined()
    expect(item.id).toBe(id)
    for (const [name, value] of Object.entries(item.figures)) {
      expect(KINDS[item.kind].figures, name).toContain(name)
      expect(value >= FIGURES[name]!.min && value <= FIGURES[name]!.max, name).toBe(true)
    }
  })

  it('can be put before the board and taken out again without a trace', () => {
    const plan = planOf('forty-classic', {}, { supply: { type: 'adapter-5v-3a' } })
    const before = evaluate(plan, catalogue)
    if (KINDS[item.kind].role === 'load') {
      const report = evaluate({ ...plan,
        power: { ...plan.power, nodes: [{ id: 'x', type: id, name: 'X', from: '@5V' }] } }, catalogue)
      expect(report.power.nodes.map(node => node.id)).toContain('x')
      return
    }
    const report = evaluate(
      { ...plan, power: { ...plan.power, nodes: [{ id: 'x', type: id, name: 'X', from: '@cable' }],
        feeds: { '@socket': 'x' } } },
      catalogue,
    )
    expect(report.power.problems).toEqual([])
    const typical = report.power.states.find(state => state.id === 'typical')!
    // What stands between two 5 V things takes something, and makes nothing.
    if (!item.figures.setV && item.kind !== 'rectifier') {
      expect(typical.nodes['@5V']!.voltageV).toBeLessThanOrEqual(before.power.states[1]!.nodes['@5V']!.voltageV + 1e-6)
    }
  })
})

describe.each([...catalogue.supplies.values()].map(unit => [unit.id, unit] as const))('%s', (id, unit) => {
  it('has the shape of a supply and keeps its own rating with a small load', () => {
    expect(supplySchema.validate(unit).error).toBeUndefined()
    const { power } = evaluate(
      {
        ...planOf(null, {}), supply: { type: id },
        power: {
          ...planOf(null, {}).power,
          nodes: [{
            id: 'l', type: 'load-current', name: 'L', from: '@cable',
            figures: { typicalMa: 20, peakMa: 20, ratedV: unit.voltageV },
          }],
        },
      },
      catalogue,
    )
    const source = power.sources.find(entry => entry.node === '@supply')!
    expect(source.peakMa).toBeCloseTo(20, 1)
    expect(source.peakW).toBeCloseTo(0.02 * power.states[2]!.nodes['@supply']!.voltageV, 3)
  })
})
