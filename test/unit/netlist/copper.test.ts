/** Copper wires beside published values. */
import { describe, expect, it } from 'vitest'
import { areaMm2, bundleShare, diameterMm, milliohmPerM, pairOhm, wireMostMa } from '../../../core/netlist/copper'

describe('copper', () => {
  // published: ASTM B258, table 1 (nominal diameters in mil, here in mm); resistance of annealed copper at 20 °C
  it.each([[30, 0.2548, 338.6], [24, 0.5105, 84.2], [18, 1.024, 20.95], [12, 2.053, 5.211]])('AWG %i',
    (awg, mm, milliohm) => {
      expect(diameterMm(awg)).toBeCloseTo(mm, 3)
      expect(milliohmPerM(awg) / milliohm).toBeCloseTo(1, 2)
    })

  it('three gauges halve the area, and a pair counts both ways', () => {
    // published: ASTM B258: the ratio of areas over three gauges is 92^(6/39), 2.005
    expect(areaMm2(21) / areaMm2(24)).toBeCloseTo(2.005, 3)
    expect(pairOhm(24, 1.5)).toBeCloseTo(3 * 0.0842, 3)
  })

  it.each([[1, 1], [2, 0.8], [3, 0.7], [6, 0.57], [9, 0.5], [10, 0.5], [11, 0.5], [12, 0.45], [15, 0.45], [16, 0.41],
    [30, 0.38], [0, 1]])(
    'a bundle of %i circuits carries %f of what one does in open air', (pairs, share) => {
      // published: IEC 60364-5-52 table B.52.17, first row, from memory
      expect(bundleShare(pairs)).toBe(share)
    },
  )

  it('a wire in a bundle carries less, not more', () => {
    expect(wireMostMa(24, 4)).toBeCloseTo(0.65 * wireMostMa(24), 6)
    // practice: 10 A per mm² for short wires in open air
    expect(wireMostMa(24)).toBeCloseTo(2047, 0)
  })
})
