/**
 * The supply engines against published figures, textbook formulas and worked examples. The source stands
 * beside each check.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../plans'
import { drawShare } from '../../core/facts/board'
import {
  blowsWithinS, carriesForS, fittingFuseMa, FUSES_MA, shortMa, STEADY_SHARE, warmShare,
} from '../../core/power/front/fuse'
import { capacitorForF, capacitorHoldS, gateHoldS } from '../../core/power/front/hold'
import { capacitorForUf, rectifierFigures, stepDownInputMa } from '../../core/power/front/rectifier'
import { COOLERS, ENCLOSURES } from '../../core/power/heat/coolers'
import { chipKw, fanPercentAt, runHeat, secondsTo, steadyC, type HeatTask } from '../../core/power/heat/run'
import { along, capacityOf, cellsInSeries, restV, temperatureShare } from '../../core/power/store/capacity'
import { dayOf, packHours } from '../../core/power/store/hours'
import { clearDayWh, simulateWeek, sunAt, type WeekTask } from '../../core/power/store/week'
import {
  areaMm2, bundleShare, diameterMm, GAUGES, measuredOhm, milliohmPerM, pairOhm, thinnestGauge, wireFigures, wireMostMa,
} from '../../core/netlist/copper'
import { draws } from '../random'

describe('copper wire', () => {
  it('has the resistance of its gauge', () => {
    // published: ASTM B258 and IEC 60028: mΩ per metre at 20 °C
    for (const [awg, milliohm] of [[18, 20.95], [20, 33.31], [22, 52.96], [24, 84.21], [26, 133.9], [28, 212.9],
      [30, 338.6]] as const) {
      expect(milliohmPerM(awg)).toBeCloseTo(milliohm, milliohm < 100 ? 1 : 0)
    }
  })

  it('has the diameter that the standard fixes at its two ends', () => {
    // published: ASTM B258: 0.127 mm is gauge 36, and gauge 0000 (−3) is 11.684 mm
    expect(diameterMm(36)).toBeCloseTo(0.127, 9)
    expect(diameterMm(-3)).toBeCloseTo(11.684, 3)
    expect(areaMm2(24)).toBeCloseTo(0.2047, 3)
  })

  it('counts there and back, and by measured drop', () => {
    expect(pairOhm(24, 1)).toBeCloseTo(0.16842, 4)
    // arithmetic: 5.10 V without, 4.70 V at 2 A: 0.2 Ω
    expect(measuredOhm(5.1, 4.7, 2000)).toBeCloseTo(0.2, 9)
    expect(measuredOhm(5, 5.1, 1000)).toBeNull()
    expect(measuredOhm(5, 4.9, 0)).toBeNull()
  })

  it('carries less in a bundle', () => {
    // published: IEC 60364-5-52 table B.52.17, first row, from memory
    expect([1, 2, 3, 6, 9, 20, 40].map(bundleShare)).toEqual([1, 0.8, 0.7, 0.57, 0.5, 0.38, 0.38])
    expect(wireMostMa(24, 2)).toBeCloseTo(0.8 * wireMostMa(24), 9)
  })

  it('the thinnest gauge that does, does; the next thinner one does not', () => {
    fc.assert(fc.property(fc.record({
      supplyV: fc.constantFrom(5.1, 12), currentMa: fc.integer({ min: 50, max: 6000 }),
      lengthM: fc.double({ min: 0.1, max: 5, noNaN: true }), leastV: fc.constantFrom(4.5, 4.75),
      bundledPairs: fc.integer({ min: 1, max: 6 }), contactOhm: fc.constant(0.02),
    }), (task) => {
      const awg = thinnestGauge(task)
      if (awg === null) {
        expect(GAUGES.some(gauge => wireFigures(gauge, task).holds)).toBe(false)
        return
      }
      const figures = wireFigures(awg, task)
      expect(figures.loadV).toBeGreaterThanOrEqual(task.leastV)
      expect(figures.maxMa).toBeGreaterThanOrEqual(task.currentMa)
      for (const thinner of GAUGES.filter(gauge => gauge > awg)) expect(wireFigures(thinner, task).holds).toBe(false)
    }))
  })
})

describe('an AC front end', () => {
  it('gives 11.33 V from 9 V with 0.7 V diodes', () => {
    // textbook: peak = U·√2 − 2·Ud
    expect(rectifierFigures({ acV: 9, dropV: 1.4, currentMa: 0, hz: 50, capacitanceUf: 4700 }).peakV)
      .toBeCloseTo(11.33, 2)
  })

  it('ripples by I ÷ (2·f·C), and the capacitor for a ripple gives that ripple', () => {
    // textbook: 1 A, 50 Hz, 4700 µF: 2.13 V
    expect(rectifierFigures({ acV: 9, dropV: 1.4, currentMa: 1000, hz: 50, capacitanceUf: 4700 }).rippleV)
      .toBeCloseTo(2.128, 3)
    fc.assert(fc.property(fc.integer({ min: 50, max: 3000 }), fc.double({ min: 0.2, max: 3, noNaN: true }),
      (ma, rippleV) => {
        const uf = capacitorForUf(ma, 50, rippleV)
        expect(rectifierFigures({ acV: 24, dropV: 1.4, currentMa: ma, hz: 50, capacitanceUf: uf }).rippleV)
          .toBeCloseTo(rippleV, 9)
      }))
  })

  it('a step-down takes more as its input falls', () => {
    // textbook: I_in = P_out ÷ (η·U_in): 5 W at 0.9 from 10 V: 556 mA
    expect(stepDownInputMa(5, 0.9, 10)).toBeCloseTo(555.6, 1)
    expect(stepDownInputMa(5, 0.9, 5)).toBeCloseTo(2 * stepDownInputMa(5, 0.9, 10), 9)
  })
})

describe('after switch-off', () => {
  it('a capacitor holds a constant power for C·(U0² − U1²) ÷ 2P, and the capacitor for a time holds that time', () => {
    // textbook: 10 F from 5 V to 4.63 V at 2 W: 8.9 s
    expect(capacitorHoldS(10, 5, 4.63, 2)).toBeCloseTo(10 * (25 - 4.63 ** 2) / 4, 9)
    expect(capacitorHoldS(10, 4.5, 4.63, 2)).toBe(0)
    fc.assert(fc.property(fc.double({ min: 0.1, max: 60, noNaN: true }), fc.double({ min: 0.5, max: 10, noNaN: true }),
      (holdS, powerW) => {
        expect(capacitorHoldS(capacitorForF(holdS, 12, 7, powerW)!, 12, 7, powerW)).toBeCloseTo(holdS, 6)
      }))
    expect(capacitorForF(1, 4, 5, 1)).toBeNull()
  })

  it('a gate lets go after R·C·ln(U0 ÷ Uth)', () => {
    // textbook: 1 MΩ, 10 µF, 5 V to 1.5 V: 12.04 s
    expect(gateHoldS(1e6, 10e-6, 5, 1.5)).toBeCloseTo(12.04, 2)
    expect(gateHoldS(1e6, 10e-6, 1, 1.5)).toBe(0)
  })
})

describe('fuses', () => {
  it('blow by multiples of their rating', () => {
    // published: IEC 60127-2 sheet 2, quick acting, from memory
    expect([1.5, 2.1, 2.75, 4, 10].map(times => blowsWithinS(1000, 1000 * times)))
      .toEqual([Infinity, 1800, 2, 0.3, 0.02])
  })

  it('between the points of the standard the time falls with the current, in logarithms', () => {
    // published: IEC 60127-2 sheet 2: 2.75 times: 50 ms to 2 s; 4 times: 10 to 300 ms; 1.5 times: an hour at least;
    // from memory
    expect([1, 1.5, 2.75, 4].map(times => carriesForS(1000, 1000 * times))).toEqual([Infinity, 3600, 0.05, 0.01])
    expect(blowsWithinS(1000, 1000 * Math.sqrt(2.75 * 4))).toBeCloseTo(Math.sqrt(2 * 0.3), 3)
    fc.assert(fc.property(fc.double({ min: 1.5, max: 12, noNaN: true }),
      fc.double({ min: 1.001, max: 2, noNaN: true }), (times, more) => {
        expect(blowsWithinS(100, 100 * times * more)).toBeLessThanOrEqual(blowsWithinS(100, 100 * times))
        expect(carriesForS(100, 100 * times)).toBeLessThanOrEqual(blowsWithinS(100, 100 * times))
      }))
  })

  it('in the warmth a polymer lets go much sooner than a wire melts', () => {
    // memory, as data sheets draw them: a polymer keeps some 60 % at 70 °C, a wire some 85 %
    expect(warmShare('fuse-resettable', 70)).toBeCloseTo(0.58, 2)
    expect(warmShare('fuse', 70)).toBeCloseTo(0.86, 2)
    expect([warmShare('fuse', 23), warmShare('fuse-resettable', 23)]).toEqual([1, 1])
  })

  it('one that fits carries the current without ageing, stands the surge and blows in a short', () => {
    fc.assert(fc.property(
      fc.integer({ min: 10, max: 6000 }), fc.integer({ min: 0, max: 12_000 }), fc.integer({ min: 100, max: 60_000 }),
      fc.constantFrom(0.005, 0.02, 0.3), fc.integer({ min: -10, max: 70 }),
      (steadyMa, surgeMa, fault, surgeS, temperatureC) => {
        const fitting = fittingFuseMa({ steadyMa, surgeMa, surgeS, shortMa: fault, temperatureC })
        // memory: 0.3 % a kelvin from 23 °C
        const warm = Math.min(1.3, 1 - 0.003 * (temperatureC - 23))
        const fits = (ma: number) => steadyMa <= STEADY_SHARE * ma * warm && carriesForS(ma, surgeMa) >= surgeS
          && blowsWithinS(ma, fault) <= 2
        if (fitting !== null) expect(fits(fitting)).toBe(true)
        else expect(FUSES_MA.some(fits)).toBe(false)
      },
    ))
  })

  it('a short draws the voltage over the resistance, or what the source lets out', () => {
    expect(shortMa(12, 0.1, null)).toBeCloseTo(120_000, 6)
    expect(shortMa(5, 0.1, 3900)).toBe(3900)
  })
})

describe('energy stores', () => {
  it('12 000 mAh carry 3.77 W for ten hours', () => {
    // practice: 12 Ah × 3.7 V × 0.85 ÷ 10 h = 3.77 W
    expect(packHours(12_000, 3.7, 0.85, 3.774)).toBeCloseTo(10, 6)
  })

  it('gives less in the cold, and all of it at room temperature', () => {
    // memory: typical of their kind
    for (const chemistry of ['lithium', 'lead'] as const) {
      expect(temperatureShare(chemistry, 20)).toBe(1)
      expect(temperatureShare(chemistry, -10)).toBeLessThan(temperatureShare(chemistry, 0))
      expect(temperatureShare(chemistry, -60)).toBe(temperatureShare(chemistry, -20))
    }
  })

  it('knows its cells in series and their rest voltage', () => {
    // practice: 4.2 V a full lithium cell, 2.13 V a full lead cell
    expect([cellsInSeries('lithium', 4.2), cellsInSeries('lithium', 12.6), cellsInSeries('lead', 12.8)])
      .toEqual([1, 3, 6])
    expect(restV('lithium', 3, 1)).toBeCloseTo(12.6, 9)
    expect(along([[0, 0], [10, 5]], 4)).toBe(2)
  })

  it('a converter that lets go early leaves energy in the pack', () => {
    const unit = catalogue.supplies.get('cell-lithium-1')!
    const at = (leastV: number) => capacityOf({ unit, capacityMah: 3000, temperatureC: 20, currentMa: 500, leastV })
    expect(at(0).leftShare).toBe(0)
    expect(at(3.4).leftShare).toBeGreaterThan(0.05)
    expect(at(4.3).leftShare).toBe(1)
    expect(at(3.4).usableWh).toBeLessThan(at(3.2).usableWh)
    expect(at(0).usableWh).toBeCloseTo(11.1, 6) // arithmetic: 3 Ah × 3.7 V
  })

  it('a pack under load reaches the cut-off earlier, by what its own resistance takes', () => {
    const unit = { ...catalogue.supplies.get('cell-lithium-1')!, ohm: 0.1 }
    const left = (currentMa: number, leastV: number) =>
      capacityOf({ unit, capacityMah: 3000, temperatureC: 20, currentMa, leastV }).leftShare
    // Ohm's law: 2 A through 0.1 Ω are 0.2 V, which the cut-off sees less than the pack has at rest
    expect(left(2000, 3.3)).toBe(left(0, 3.5))
    expect(left(2000, 3.3)).toBeGreaterThan(left(0, 3.3) + 0.05)
  })

  it('a day is covered once, whatever the parts say', () => {
    const hour = fc.integer({ min: 0, max: 24 })
    fc.assert(fc.property(fc.array(
      fc.record({ fromH: hour, toH: hour, step: fc.constantFrom('idle', 'peak', 'typical') }), { maxLength: 6 },
    ), (parts) => {
      const day = dayOf(parts)
      expect(day[0]!.fromH).toBe(0)
      expect(day.at(-1)!.toH).toBe(24)
      day.slice(1).forEach((part, i) => expect(part.fromH).toBe(day[i]!.toH))
    }))
    expect(dayOf([{ fromH: 22, toH: 6, step: 'peak' }])).toEqual([
      { fromH: 0, toH: 6, step: 'peak' }, { fromH: 6, toH: 22, step: 'idle' }, { fromH: 22, toH: 24, step: 'peak' },
    ])
  })
})

describe('a week with a panel', () => {
  const task = (more: Partial<WeekTask>): WeekTask => ({
    usableWh: 100, efficiency: 1, startShare: 1, panelW: 0, dayLengthH: 12, weather: [1, 1, 1, 1, 1, 1, 1],
    loadW: () => 5, ...more,
  })

  it('without sun it is empty when energy ÷ power says so', () => {
    // arithmetic: 100 Wh at 5 W: 20 h
    const week = simulateWeek(task({}))
    expect(week.emptyAtH).toBeCloseTo(20, 0)
    expect(week.endShare).toBe(0)
  })

  it('a clear day brings 2/π of the peak over its length', () => {
    // textbook: the mean of half a sine is 2/π
    const week = simulateWeek(task({ panelW: 20, loadW: () => 0 }))
    // memory: 70 % of the peak arrives: 20 W · 0.7 · 12 h · 2/π = 106.95 Wh
    expect(week.sunWh / 7).toBeCloseTo(106.95, 1)
    expect(clearDayWh(20, 12)).toBeCloseTo(106.95, 2)
    expect([sunAt(12, 12), sunAt(6, 12), sunAt(0, 12), sunAt(9, 0)]).toEqual([1, 0, 0, 0])
  })

  it('keeps the energy that comes in: used, kept, unused or lost in charging', () => {
    fc.assert(fc.property(fc.record({
      usableWh: fc.integer({ min: 5, max: 400 }), startShare: fc.double({ min: 0, max: 1, noNaN: true }),
      panelW: fc.integer({ min: 0, max: 80 }), dayLengthH: fc.integer({ min: 0, max: 18 }),
      weather: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 7, maxLength: 7 }),
      load: fc.double({ min: 0, max: 15, noNaN: true }),
    }), ({ load, ...more }) => {
      const week = simulateWeek(task({ ...more, loadW: () => load }))
      for (const point of week.points) expect(point.share >= -1e-9 && point.share <= 1 + 1e-9).toBe(true)
      const kept = (week.endShare - more.startShare) * more.usableWh
      const balance = week.sunWh - week.loadWh - kept - week.unusedWh
      // What is missing is the loss of charging: between nothing and 8 % of the sun.
      expect(balance).toBeGreaterThan(-1e-6)
      expect(balance).toBeLessThanOrEqual(week.sunWh * 0.08 + 1e-6)
    }), { numRuns: draws(150) })
  })
})

describe('heat', () => {
  const heat = { bareKw: 12, storeJk: 30, chipShare: 0.8, slowsC: 80, stopsC: 85, origin: 'memory' }
  const task: HeatTask = {
    heat, cooler: COOLERS.none, enclosure: ENCLOSURES.open, ambientC: 25, fan: { mode: 'none' }, boardW: 4, idleW: 1,
    otherW: 0,
    minutes: 120,
  }

  it('settles at T = Ta + P·Rth and gets there by its time constant', () => {
    // textbook: first order, τ = R·C
    const end = 25 + 4 * 0.8 * 12
    const run = runHeat(task)
    expect(run.points.at(-1)!.temperatureC).toBeCloseTo(end, 1)
    expect(run.steadyC).toBeCloseTo(end, 9)
    const start = 25 + 0.8 * 12
    const tau = 12 * 30
    const at = run.points.find(point => point.second === 360)!
    expect(at.temperatureC).toBeCloseTo(end + (start - end) * Math.exp(-360 / tau), 1)
  })

  it('slows when the closed form of the rise says so', () => {
    // textbook: t = τ·ln((T∞ − T0) ÷ (T∞ − T)); until clocks fall the power is constant
    const hot = { ...task, boardW: 7, idleW: 2 }
    const run = runHeat(hot)
    // 25 + 7·0.8·12 = 92.2 °C from 44.2 °C, τ = 360 s: 360·ln(48 ÷ 12.2) = 493 s
    expect(run.slowsAtS).toBeGreaterThan(488)
    expect(run.slowsAtS).toBeLessThan(498)
    expect(secondsTo(44.2, 92.2, 80, 12, 30)).toBeCloseTo(493.1, 0)
    expect(secondsTo(20, 60, 80, 12, 30)).toBe(Infinity)
    expect(secondsTo(90, 60, 80, 12, 30)).toBe(0)
  })

  it('never gets past the hard limit by more than the throttle allows, and a throttled board runs slower', () => {
    const run = runHeat({ ...task, boardW: 15, idleW: 3 })
    expect(run.hottestC).toBeLessThan(heat.stopsC)
    expect(run.endClockPercent).toBeLessThan(100)
  })

  it('a fan with hysteresis stays between its two temperatures', () => {
    const run = runHeat({ ...task, boardW: 6, fan: { mode: 'threshold', onC: 60, hysteresisC: 8 } })
    const late = run.points.filter(point => point.second > 1800)
    expect(Math.max(...late.map(point => point.temperatureC))).toBeLessThan(61)
    expect(Math.min(...late.map(point => point.temperatureC))).toBeGreaterThan(44)
    expect(run.fanStarts).toBeGreaterThan(0)
  })

  it('goes down only by the hysteresis', () => {
    const fan = { mode: 'threshold', onC: 60, hysteresisC: 10 } as const
    expect([
      fanPercentAt(fan, 59, 0), fanPercentAt(fan, 60, 0), fanPercentAt(fan, 51, 100), fanPercentAt(fan, 50, 100),
    ]).toEqual([0, 100, 100, 0])
    const curve = {
      mode: 'curve', hysteresisC: 5, points: [{ temperatureC: 50, percent: 30 }, { temperatureC: 70, percent: 100 }],
    } as const
    const speeds = (percent: number) =>
      [45, 52, 71, 68, 64].map(celsius => fanPercentAt({ ...curve, points: [...curve.points] }, celsius, percent))
    expect(speeds(0)).toEqual([0, 30, 100, 30, 30])
    expect(speeds(100)).toEqual([30, 30, 100, 100, 30])
  })

  it('every cooler and every opening cools, and a fan cools further', () => {
    for (const cooler of Object.values(COOLERS)) {
      expect(chipKw(heat, cooler, 100)).toBeLessThan(chipKw(heat, cooler, 0))
      expect(chipKw(heat, cooler, 50)).toBeLessThan(chipKw(heat, cooler, 0))
    }
    const at = (enclosure: keyof typeof ENCLOSURES) => steadyC({ ...task, enclosure: ENCLOSURES[enclosure] }, 0)
    expect(at('open')).toBeLessThan(at('vented'))
    expect(at('vented')).toBeLessThan(at('closed'))
  })
})

describe('a lower clock', () => {
  it('takes its dynamic part by clock × voltage²', () => {
    const clocking = { coreMhz: 1000, leastMhz: 500, coreV: 1, dynamicShare: 0.6, stepsLeast: -4, origin: 'memory' }
    // textbook: P = C·U²·f: half the clock at 0.9 V: 0.4 + 0.6 · 0.5 · 0.81
    expect(drawShare(clocking, { coreMhz: 500, voltageSteps: -4 })).toBeCloseTo(0.4 + 0.6 * 0.5 * 0.81, 9)
    expect(drawShare(clocking, { coreMhz: null, voltageSteps: 0 })).toBe(1)
  })
})

describe('figures of the catalogue against their origin', () => {
  it('ports and adapters give what is published or practised', () => {
    const ma = (id: string) => catalogue.supplies.get(id)!.currentMa
    expect([ma('usb-port-2'), ma('usb-port-3')]).toEqual([500, 900]) // published: USB 2.0 §7.2, USB 3.2
    expect([ma('usb-c-1a5'), ma('usb-c-3a')]).toEqual([1500, 3000]) // published: USB Type-C R2 §4
    expect(ma('adapter-5v-1a2')).toBe(1200) // practice: 6 W, the least of an early board
    for (const id of ['usb-port-2', 'usb-port-3']) {
      const { voltageV, ohm } = catalogue.supplies.get(id)!
      // published: USB 2.0 §7.2: VBUS 4.75 to 5.25 V at the source of a high-power port
      expect(voltageV - ohm! * ma(id) / 1000).toBeGreaterThanOrEqual(4.75)
    }
  })

  it('an early board wants 6 W and advises 12 W', () => {
    const early = catalogue.boards.get('early-26')!
    expect([early.power!.leastSupplyMa * 5, early.advisedSupplyMa.value * 5]).toEqual([6000, 12_000]) // practice
    for (const board of catalogue.boards.values()) {
      expect(board.power!.signV).toBe(4.63) // memory
      expect([board.heat!.slowsC, board.heat!.stopsC]).toEqual([80, 85]) // memory
    }
    const newest = catalogue.boards.get('forty-io-bridge')!
    expect([newest.power!.usbSmallSupply!.budgetMa, newest.limits.usbBudgetMa.value]).toEqual([600, 1600]) // memory
  })
})
