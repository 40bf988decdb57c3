/** Supply figures in words: the unit that fits, no more digits than matter. */
import { describe, expect, it } from 'vitest'
import { amps, hours, ma, nodeSubject, seconds, v, volts, watts } from '../../../core/findings/power/words'

describe('figures in words', () => {
  it('currents', () => {
    expect([0.4, 9.96, 310.4, 1240, 12_000].map(amps)).toEqual(['0.4 mA', '10 mA', '310 mA', '1.24 A', '12 A'])
    expect([0.04, 12.6, -0.004].map(ma)).toEqual([0, 13, 0])
    expect(Object.is(ma(-0.004), 0)).toBe(true)
  })

  it('voltages and powers', () => {
    expect([volts(4.5833), volts(12)]).toEqual(['4.58 V', '12.00 V'])
    expect([0.04, 0.3, 7.625, 27.04].map(watts)).toEqual(['40 mW', '0.3 W', '7.63 W', '27 W'])
    expect(Object.is(v(-0.001), 0)).toBe(true)
  })

  it('times', () => {
    expect([0.5, 10, 71, 96].map(hours)).toEqual(['30 min', '10 h', '71 h', '4 days'])
    expect([0.25, 12, 60, 500, 7200].map(seconds)).toEqual(['0.3 s', '12 s', '1 min', '8 min 20 s', '2 h'])
  })

  it('a node is the subject with its part, its terminal and its position', () => {
    expect(nodeSubject({ id: '@P2' })).toEqual({ node: '@P2', position: 2 })
    expect(nodeSubject({ id: 'fan.vcc', partId: 'fan' }))
      .toEqual({ node: 'fan.vcc', partId: 'fan', terminal: 'fan.vcc' })
    expect(nodeSubject({ id: 'fan.vcc@wire', partId: 'fan' })).toEqual({ node: 'fan.vcc@wire', partId: 'fan' })
  })
})
