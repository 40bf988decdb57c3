import { describe, expect, it } from 'vitest'
import { railAsSvg, railAsText } from '../../../core/construction/rail'
import { gatherFacts } from '../../../core/facts/gather'
import { demoPlans } from '../../../demo'
import { catalogue, fixedAt, planOf } from '../../plans'

describe('the header for taking along', () => {
  const facts = gatherFacts(
    planOf('forty-classic', { a: 'light-i2c' },
      { name: 'Attic <1>', assignments: fixedAt({ 'a.sda': 3, 'a.scl': 5, 'a.vcc': 1 }) }),
    catalogue,
  )

  it('as text has a row for each column, odd on the left', () => {
    const lines = railAsText(facts).trimEnd().split('\n')
    expect(lines).toHaveLength(21)
    expect(lines[1]).toMatch(/^a VCC\s+3V3\s+1 \| 2\s+5V$/)
    expect(lines[2]).toMatch(/^a SDA\s+G2\s+3 \| 4\s+5V$/)
    expect(lines[20]).toMatch(/39 \| 40\s+G21$/)
  })

  it('as a picture names every position once, and escapes what a maker wrote', () => {
    const svg = railAsSvg(facts, () => '#2d6a94')
    expect(svg.match(/<title>Position /g)).toHaveLength(40)
    expect(svg).toContain('Attic &lt;1&gt;')
    expect(svg).not.toContain('<1>')
  })

  it('holds for every demo plan', () => {
    for (const plan of demoPlans) {
      const own = gatherFacts(plan, catalogue)
      for (const [position, terminals] of own.atPosition) {
        expect(railAsText(own), String(position)).toContain(`${terminals[0]!.owner.name} ${terminals[0]!.label}`)
      }
    }
  })
})
