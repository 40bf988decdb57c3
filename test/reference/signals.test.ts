/** The signal engines against published figures and worked examples. The source stands beside each check. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { designDivider, dividedV, judgeDivider } from '../../core/signals/divider'
import { ledResistor, mosfetStage, pulledV, transistorStage } from '../../core/signals/drive'
import { busyShare, minPullUpOhm, messageS, MODES, modeOf, maxPullUpOhm, reachableMode,
  riseTimeS } from '../../core/signals/i2c'
import { matrixFigures, smallestMatrix } from '../../core/signals/matrix'
import { oneWirePullUp } from '../../core/signals/onewire'
import {
  bitsPerByte, bytesPerSecond, framesPerSecond, i2sClock, partSerialRate, pwmSteps, serialRate, spiClock, spiStepAbove,
} from '../../core/signals/rates'
import { decadeOf, nextAbove, nextBelow, parallelOhm, valuesBetween } from '../../core/signals/series'
import { frameTimeS, spiClockForStrip } from '../../core/signals/strip'
import { draws } from '../random'

describe('I²C pull-ups', () => {
  it('are the worked examples of the bus manual', () => {
    // published: NXP UM10204 §7.1: Rmin = (VDD − VOL) ÷ IOL; 3.3 V, 0.4 V, 3 mA: 967 Ω
    expect(minPullUpOhm(3.3, 0.4, 3)).toBeCloseTo(966.7, 1)
    // published: UM10204 §7.1: Rmax = tr ÷ (0.8473 · Cb)
    expect(maxPullUpOhm(1000e-9, 400)).toBeCloseTo(2951, 0)
    expect(maxPullUpOhm(300e-9, 200)).toBeCloseTo(1770, 0)
    expect(maxPullUpOhm(300e-9, 100)).toBeCloseTo(3541, 0)
    expect(maxPullUpOhm(120e-9, 550)).toBeCloseTo(257.5, 1)
  })

  it('lie side by side', () => {
    expect(parallelOhm([1800, 10_000, 10_000])).toBeCloseTo(1323.5, 1) // arithmetic
    expect(parallelOhm([])).toBe(Infinity)
  })

  it('rise in the time that their most allows, exactly at the most', () => {
    fc.assert(fc.property(fc.integer({ min: 20, max: 550 }), fc.constantFrom(...MODES), (pf, mode) => {
      expect(riseTimeS(maxPullUpOhm(mode.riseS, pf), pf)).toBeCloseTo(mode.riseS, 12)
    }))
  })

  it('reach the fastest mode whose rise and capacitance they keep', () => {
    expect(reachableMode({ pullUpOhm: 1800, capacitancePf: 100 })?.clockHz).toBe(400_000)
    expect(reachableMode({ pullUpOhm: 10_000, capacitancePf: 100 })?.clockHz).toBe(100_000)
    expect(reachableMode({ pullUpOhm: 10_000, capacitancePf: 400 })).toBeNull()
    // published: UM10204 table 10: 400 pF in standard and fast mode, 550 pF in fast plus
    expect(MODES.map(mode => [mode.clockHz, mode.maxPf])).toEqual([[100_000, 400], [400_000, 400], [1_000_000, 550]])
    expect(modeOf(100_000).name).toBe('standard')
    expect(modeOf(100_001).name).toBe('fast')
  })

  it('messages take nine clocks a byte, and a busy bus adds up', () => {
    expect(messageS(1, 100_000)).toBeCloseTo(110e-6, 9) // arithmetic: 9 clocks, start and stop
    expect(busyShare([{ hz: 100, bytes: 16 }, { hz: 10, bytes: 6 }], 100_000))
      .toBeCloseTo((100 * 146 + 10 * 56) / 100_000, 9)
  })
})

describe('serial rates', () => {
  const full = (sourceHz: number) => ({ sourceHz, divider: 'fractional-64' as const })

  it('are the worked example of the controller\'s manual', () => {
    // published: Arm DDI 0183, worked example: 4 MHz, 230 400 baud: integer 1, fraction 5
    expect(serialRate(full(4e6), 230_400)!.divider).toBe('divider 1 + 5/64')
  })

  it('are off by what the divider cannot do', () => {
    // arithmetic, from the divider of DDI 0183
    expect(serialRate(full(48e6), 115_200)!.rateHz).toBeCloseTo(115_176.96, 1)
    expect(serialRate(full(48e6), 115_200)!.error * 100).toBeCloseTo(-0.02, 3)
    expect(serialRate(full(48e6), 921_600)!.rateHz).toBeCloseTo(923_076.9, 1)
    expect(serialRate(full(48e6), 921_600)!.error * 100).toBeCloseTo(0.16, 2)
    // memory: small port, core clock ÷ 8·(n+1), 250 MHz: n = 270, 115 313.7 (+0.099 %)
    const small = serialRate({ sourceHz: 250e6, divider: 'eighth' }, 115_200)!
    expect(small).toMatchObject({ divider: 'n = 270' })
    expect(small.rateHz).toBeCloseTo(115_313.65, 1)
    expect(small.error * 100).toBeCloseTo(0.099, 3)
  })

  it('have no step below the least divider', () => {
    expect(serialRate(full(4e6), 4e6)).toBeNull()
    expect(serialRate({ sourceHz: 250e6, divider: 'eighth' }, 100e6)).toBeNull()
  })

  it('never miss the nearest step', () => {
    fc.assert(fc.property(fc.integer({ min: 300, max: 921_600 }), (baud) => {
      const rate = serialRate(full(48e6), baud)!
      const steps = Math.round(48e6 * 4 / rate.rateHz)
      for (const other of [steps - 1, steps + 1]) {
        expect(Math.abs(48e6 * 4 / baud - steps)).toBeLessThanOrEqual(Math.abs(48e6 * 4 / baud - other) + 1e-6)
      }
    }))
  })

  it('of a common small controller at 16 MHz are off by two per cent at 115 200, and fine at 57 600', () => {
    // memory: clock ÷ 8·(n+1)
    expect(partSerialRate({ sourceHz: 16e6, divider: 'eighth' }, 115_200).error * 100).toBeCloseTo(2.12, 2)
    expect(partSerialRate({ sourceHz: 16e6, divider: 'eighth' }, 57_600).error * 100).toBeCloseTo(-0.79, 2)
  })

  it('carry a byte in ten bit times as 8N1, eleven with parity', () => {
    expect(bytesPerSecond(115_200, '8N1')).toBe(11_520) // practice: 8N1 is 10 bit times
    expect(bitsPerByte('8E1')).toBe(11)
    expect(bitsPerByte('7E1')).toBe(10)
  })
})

describe('SPI, screens, PWM and strips', () => {
  it('step down by even numbers on the classic families', () => {
    const clock = { sourceHz: 250e6, divider: 'even' as const }
    expect(spiClock(clock, 32e6).rateHz).toBeCloseTo(31.25e6, 0) // arithmetic: 250 ÷ 8
    expect(spiClock(clock, 62.5e6).rateHz).toBe(62.5e6)
    expect(spiClock(clock, 200e6).rateHz).toBe(125e6)
    expect(spiStepAbove(clock, 31.25e6)).toBeCloseTo(250e6 / 6, 0)
    expect(spiStepAbove(clock, 125e6)).toBeNull()
  })

  it('never run a device faster than it stands', () => {
    fc.assert(fc.property(fc.integer({ min: 10_000, max: 200_000_000 }), fc.constantFrom(
      'even' as const, 'whole' as const,
    ), (max, divider) => {
      const { rateHz } = spiClock({ sourceHz: 250e6, divider }, max)
      expect(rateHz).toBeLessThanOrEqual(max * (1 + 1e-9))
      const above = spiStepAbove({ sourceHz: 250e6, divider }, rateHz)
      if (above !== null) expect(above).toBeGreaterThan(max * (1 - 1e-9))
    }))
  })

  it('show as many pictures as the bits allow', () => {
    // arithmetic: clock ÷ (w·h·bits)
    expect(framesPerSecond(32e6, 320, 240, 16)).toBeCloseTo(26.0, 1)
    expect(framesPerSecond(32e6, 480, 320, 16)).toBeCloseTo(13.0, 1)
    expect(framesPerSecond(62.5e6, 240, 240, 16)).toBeCloseTo(67.8, 1)
  })

  it('have fewer steps of duty the faster they pulse', () => {
    expect(pwmSteps(54e6, 25_000))
      .toBe(2160) // published: 25 kHz, 4-wire PWM fan specification rev 1.3; the clock from memory
    expect(pwmSteps(19.2e6, 50)).toBe(384_000)
  })

  it('take 1.25 µs a bit and a pause a picture', () => {
    // memory: 800 kbit/s class, 24 bits × 1.25 µs a pixel, pause 280 µs
    expect(frameTimeS({ pixels: 144, bitsPerPixel: 24, bitUs: 1.25, pauseUs: 280 }) * 1000).toBeCloseTo(4.6, 2)
    expect(spiClockForStrip(1.25)).toBeCloseTo(2.4e6, 0)
  })

  it('make sound clocks evenly where the clock divides', () => {
    // arithmetic: 1536 MHz is a whole multiple of 48 kHz × 64, and not of 44.1 kHz × 64
    expect(i2sClock({ sourceHz: 1536e6 }, 48_000, 32)).toMatchObject({ even: true, error: 0 })
    expect(i2sClock({ sourceHz: 1536e6 }, 44_100, 32).even).toBe(false)
    expect(Math.abs(i2sClock({ sourceHz: 1536e6 }, 44_100, 32).error)).toBeLessThan(1e-6)
  })
})

describe('preferred values', () => {
  it('are the series of IEC 60063', () => {
    // published: IEC 60063
    expect(decadeOf('E12')).toEqual([10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82])
    expect(decadeOf('E24')).toHaveLength(24)
    expect(decadeOf('E96').slice(0, 6)).toEqual([10, 10.2, 10.5, 10.7, 11, 11.3])
    expect(decadeOf('E96').at(-1)).toBe(97.6)
    for (const value of decadeOf('E12')) expect(decadeOf('E24')).toContain(value)
  })

  it('bracket any resistance', () => {
    fc.assert(fc.property(fc.double({ min: 1, max: 1e6, noNaN: true }), fc.constantFrom(
      'E12' as const, 'E24' as const, 'E96' as const,
    ), (ohm, series) => {
      expect(nextAbove(series, ohm)).toBeGreaterThanOrEqual(ohm * (1 - 1e-9))
      expect(nextBelow(series, ohm)).toBeLessThanOrEqual(ohm * (1 + 1e-9))
      expect(valuesBetween(series, nextBelow(series, ohm), nextAbove(series, ohm)).length).toBeLessThanOrEqual(2)
    }))
  })

  it('make a divider that keeps every limit asked of it', () => {
    fc.assert(fc.property(fc.double({
      min: 3.7, max: 24, noNaN: true,
    }), fc.constantFrom('E12' as const, 'E24' as const), fc.integer({ min: 1200, max: 1_000_000 }),
    (inputV, series, bitHz) => {
      const found = designDivider({ inputV, aimV: 3.3, mostV: 3.6, leastV: 2, series, mostMa: 5, bitS: 1 / bitHz })
      if (!found) return
      expect(found.tapV).toBeLessThanOrEqual(3.6)
      expect(found.tapV).toBeGreaterThanOrEqual(2)
      expect(found.currentMa).toBeLessThanOrEqual(5)
      expect(found.edgeS).toBeLessThanOrEqual(0.1 / bitHz)
      expect(found.tapV).toBeCloseTo(dividedV(inputV, found.upperOhm, found.lowerOhm), 9)
    }), { numRuns: draws(40) })
    // textbook: 5 V over 1.8 kΩ and 3.3 kΩ leaves 3.235 V and draws 0.98 mA
    expect(judgeDivider(5, 1800, 3300, 50))
      .toMatchObject({ tapV: expect.closeTo(3.235, 3), currentMa: expect.closeTo(0.98, 2) })
  })
})

describe('what drives a load', () => {
  it('an LED takes the next resistor above (U − Uf) ÷ I', () => {
    // textbook; series published: IEC 60063
    expect(ledResistor({
      supplyV: 3.3, forwardV: 2, currentMa: 8, series: 'E12',
    })).toMatchObject({ exactOhm: expect.closeTo(162.5, 6), ohm: 180 })
    expect(ledResistor({
      supplyV: 5, forwardV: 2, currentMa: 20, series: 'E24',
    })).toMatchObject({ exactOhm: expect.closeTo(150, 6), ohm: 150 })
    expect(ledResistor({ supplyV: 3, forwardV: 3.2, currentMa: 5, series: 'E12' })).toBeNull()
  })

  it('a transistor\'s base gets five times the coil\'s current over the gain', () => {
    // practice: I_C ÷ β × 2…10; 72 mA, β 100: 3.6 mA through (3.3 − 0.75) V
    const stage = transistorStage({ lineV: 3.3, loadMa: 72, loadV: 5, inductive: true, series: 'E12' })
    expect(stage).toMatchObject({ baseOhm: 680, diode: true, fits: true })
    expect(stage.baseMa).toBeGreaterThanOrEqual(72 / 100 * 2)
    expect(stage.baseMa).toBeLessThanOrEqual(72 / 100 * 10)
    expect(transistorStage({
      lineV: 3.3, loadMa: 1200, loadV: 12, inductive: false, series: 'E12',
    })).toMatchObject({ fits: false, diode: false })
  })

  it('a gate resistor keeps the line within its current, and loss is I²·R', () => {
    const stage = mosfetStage({ lineV: 3.3, loadMa: 2000, loadV: 12, inductive: true, series: 'E12' }, 16)
    expect(3.3 / stage.gateOhm * 1000).toBeLessThanOrEqual(16)
    expect(stage.lossMw).toBeCloseTo(2 * 2 * 0.05 * 1000, 3) // textbook
    expect(mosfetStage(
      { lineV: 3.3, loadMa: 2000, loadV: 12, inductive: true, switchingHz: 25_000, series: 'E12' }, 16,
    ).lossMw).toBeGreaterThan(stage.lossMw)
  })

  it('an inner pull of 50 kΩ against 10 kΩ to ground reads low; a fixed 1.8 kΩ does not', () => {
    expect(pulledV(3.3, 50_000, 10_000)).toBeCloseTo(0.55, 2) // textbook
    expect(pulledV(3.3, 1800, 10_000)).toBeCloseTo(2.8, 1)
  })
})

describe('keys and 1-Wire', () => {
  it('rows and columns save lines, and without diodes only two keys are sure', () => {
    expect(matrixFigures({ rows: 8, columns: 8, diodes: false })).toMatchObject({
      keys: 64, lines: 16, saved: 48, toldApart: 2,
    }) // arithmetic; ghosting is common practice
    expect(matrixFigures({ rows: 8, columns: 8, diodes: true }).toldApart).toBe(64)
    expect(matrixFigures({ rows: 1, columns: 4, diodes: false }).toldApart).toBe(4)
  })

  it('the smallest split takes no more lines than any other', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 160 }), (keys) => {
      const { rows, columns } = smallestMatrix(keys)
      expect(rows * columns).toBeGreaterThanOrEqual(keys)
      for (let other = 1; other <= keys; other++) expect(rows + columns)
        .toBeLessThanOrEqual(other + Math.ceil(keys / other))
    }))
  })

  it('more sensors and more wire want a stronger pull-up than 4.7 kΩ', () => {
    const short = oneWirePullUp(1, 1)
    const long = oneWirePullUp(8, 20)
    expect(short.maxOhm).toBeGreaterThan(4700) // practice: 4.7 kΩ serves a short line
    expect(long.maxOhm).toBeLessThan(4700)
  })
})
