/** Ids are read as they are written, whatever parts and terminals are called. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  deviceProbeId, headerSpliceKey, isHeaderSpliceKey, isJoinNode, isPositionFeed, isUsbReturnPin, isUsbSupplyPin,
  nodeOfComponent, partOfKey, pathOfProbe, spliceComponent, supplyComponent, supplyPin, terminalKey, terminalNames,
  usbReturnPin, usbSupplyPin, wireEnds, wireKey,
} from '../../../core/plan/ids'
import { evaluate } from '../../../core/evaluate'
import { demoPlans } from '../../../demo'
import { catalogue } from '../../plans'

const name = fc.stringMatching(/^[a-z][a-z0-9-]{0,20}$/)

describe('ids', () => {
  it('are read back as they were written', () => {
    fc.assert(fc.property(name, name, name, (part, terminal, place) => {
      const key = terminalKey(part, terminal)
      expect(terminalNames(key)).toEqual({ partId: part, terminal })
      expect(partOfKey(key)).toBe(part)
      expect(wireEnds(wireKey(key, place))).toEqual({ from: key, to: place })
      expect(nodeOfComponent(supplyComponent(part))).toBe(part)
      expect(supplyPin(part, terminal)).toBe(terminalKey(supplyComponent(part), terminal))
      expect(pathOfProbe(deviceProbeId(`/dev/${part}`))).toBe(`/dev/${part}`)
    }))
  })

  it('of one kind are none of another', () => {
    fc.assert(fc.property(name, (part) => {
      expect([isUsbSupplyPin(usbSupplyPin(part)), isUsbReturnPin(usbSupplyPin(part))]).toEqual([true, false])
      expect([isUsbSupplyPin(usbReturnPin(part)), isUsbReturnPin(usbReturnPin(part))]).toEqual([false, true])
      expect(isHeaderSpliceKey(headerSpliceKey('6'))).toBe(true)
      expect(isHeaderSpliceKey(spliceComponent(part))).toBe(false)
      expect(nodeOfComponent(part)).toBeNull()
      expect(pathOfProbe(`volt:${part}`)).toBeNull()
      expect(isJoinNode('@join1') && isPositionFeed('@P2') && !isJoinNode(part) && !isPositionFeed(part)).toBe(true)
    }))
  })

  it('a key that names a part alone has no terminal, and a key without a place has none', () => {
    expect(terminalNames('oled')).toEqual({ partId: 'oled', terminal: '' })
    expect(wireEnds('oled')).toEqual({ from: 'oled', to: '' })
  })

  it('of the wires of the demo plans name a part, a node or a splice, and where they go', () => {
    for (const plan of demoPlans) {
      const parts = new Set(plan.parts.map(({ id }) => id))
      for (const { key } of evaluate(plan, catalogue).wires) {
        const { from } = wireEnds(key)
        const owner = nodeOfComponent(partOfKey(from)) ?? partOfKey(from)
        const known = isHeaderSpliceKey(key) || parts.has(owner.replace(/#.*$/, '')) || /^(@|stage:)/.test(owner)
          || plan.power.nodes.some(({ id }) => id === owner)
        expect(known, key).toBe(true)
      }
    }
  })
})
