import { describe, expect, it } from 'vitest'
import { compareParts, traitsOf } from '../../../core/catalogue/traits'
import { catalogue } from '../../plans'

const part = (id: string) => catalogue.parts.get(id)!

describe('what a part is chosen by', () => {
  it('tells the ways it connects, in the terms of the field', () => {
    expect(traitsOf(part('pressure-humidity-i2c')).links).toEqual(['I²C'])
    expect(traitsOf(part('panel-video-7')).links).toEqual(expect.arrayContaining(['Video', 'USB']))
    expect(traitsOf(part('panel-flat-7')).links).toContain('Flat cable')
    expect(traitsOf(part('probe-onewire')).links).toEqual(['1-Wire'])
    expect(traitsOf(part('case-closed')).links).toEqual(['Nothing'])
    for (const each of catalogue.parts.values()) {
      const { links } = traitsOf(each)
      expect(links.length, each.id).toBeGreaterThan(0)
      expect(links.every(link => typeof link === 'string'), each.id).toBe(true)
    }
  })

  it('counts lines of its own beside those of a shared bus', () => {
    // Two wires that every part on I²C shares: common practice, and the bus's own standard (NXP UM10204).
    expect(traitsOf(part('pressure-humidity-i2c')).ownLines).toBe(0)
    expect(traitsOf(part('relay-board-8')).ownLines).toBe(8)
    expect(traitsOf(part('buttons-4')).ownLines).toBe(4)
    for (const each of catalogue.parts.values()) expect(traitsOf(each).ownLines)
      .toBeLessThanOrEqual(each.signals.length)
  })

  it('sums what its supplies draw', () => {
    for (const each of catalogue.parts.values()) {
      const traits = traitsOf(each)
      expect(traits.peakMa, each.id).toBeGreaterThanOrEqual(traits.typicalMa)
      expect(traits.rails.length === 0, each.id).toBe(each.supplies.length === 0)
    }
  })
})

describe('parts side by side', () => {
  it('has a value for each part in each row, and marks what differs', () => {
    const rows = compareParts([part('clock-cell-i2c'), part('clock-plain-i2c')])
    expect(rows.every(row => row.values.length === 2)).toBe(true)
    expect(rows.find(row => row.label === 'connects by')).toMatchObject({ values: ['I²C', 'I²C'], differs: false })
    expect(rows.find(row => row.label === 'what it is')!.differs).toBe(true)
  })

  it('leaves out what none of them has', () => {
    const labels = compareParts([part('relay-board-4'), part('relay-board-8')]).map(row => row.label)
    expect(labels).toContain('contacts')
    expect(labels).not.toContain('picture')
    expect(labels).not.toContain('address')
  })

  it('holds for every three of a kind', () => {
    const all = [...catalogue.parts.values()]
    const groups = [...new Set(all.map(each => each.group))].map(name => all.filter(each => each.group === name))
    expect(groups.length).toBeGreaterThan(5)
    for (const group of groups) {
      for (const row of compareParts(group.slice(0, 3))) {
        expect(row.values).toHaveLength(Math.min(3, group.length))
        expect(row.values.every(value => value.length > 0)).toBe(true)
        expect(row.differs).toBe(new Set(row.values).size > 1)
      }
    }
  })
})
