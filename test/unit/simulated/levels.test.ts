/**
 * Volts and ohms at single pins of the simulated board, on small plans by hand. Positions and lines are those of
 * the table of the header in the handbook; figures of resistors are those of the part files; what a divider gives
 * is Ohm's law.
 */
import { describe, expect, it } from 'vitest'
import { pinByName, pinsToMeasure } from '../../../core/simulated/levels'
import { Machine } from '../../../core/simulated/machine'
import { gatherFacts } from '../../../core/facts/gather'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'

const machineOf = (plan: Plan) => new Machine(gatherFacts(plan, catalogue))
const supply = { type: 'adapter-5v-3a' }
const keys = () => machineOf(planOf('forty-usb-c', { keys: ['buttons-4', {}], lamp: ['led-plain', {}] }, {
  supply,
  assignments: {
    'keys.b1': { position: 11 }, 'keys.b2': { position: 13 }, 'keys.b3': { position: 15 }, 'keys.b4': { position: 16 },
    'keys.gnd': { position: 14 }, 'lamp.a': { position: 22 }, 'lamp.k': { position: 20 },
  },
}))
const volts = (machine: Machine, pin: string) => {
  const level = machine.levels.at(pin)
  return 'volts' in level ? level.volts : null
}

describe('volts at a pin', () => {
  it('are those of the rails at the rails, and none at a return', () => {
    const machine = keys()
    expect(volts(machine, '@P1')).toBeCloseTo(3.3, 1)
    expect(volts(machine, '@P2')).toBeGreaterThan(4.75)
    for (const ground of [6, 9, 14, 20, 25, 30, 34, 39]) expect(volts(machine, `@P${ground}`)).toBe(0)
  })

  it('of a line that nobody drives are those of its inner pull after a reset, and what a program chose later', () => {
    const machine = keys()
    // Line 17, position 11, is pulled down after a reset; line 4, position 7, is pulled up: memory.
    expect([volts(machine, '@P11'), volts(machine, '@P7')]).toEqual([0, 3.3])
    machine.bias.set(17, 'up')
    expect(volts(machine, '@P11')).toBeCloseTo(3.3, 6)
    machine.bias.set(17, 'none')
    expect(volts(machine, '@P11')).toBeNull()
  })

  it('of a key are low while it is pressed, whatever pulls it up', () => {
    const machine = keys()
    machine.bias.set(17, 'up')
    machine.active.add('keys.b1')
    expect([volts(machine, '@P11'), volts(machine, 'keys.b1')]).toEqual([0, 0])
    expect(volts(machine, '@P13')).toBe(0)
    machine.active.clear()
    expect(volts(machine, '@P11')).toBeCloseTo(3.3, 6)
  })

  it('of a line that a program sets are high or low, at the part as at the header', () => {
    const machine = keys()
    // Position 22 is line 25.
    machine.outputs.set(25, 1)
    expect([volts(machine, '@P22'), volts(machine, 'lamp.a')]).toEqual([3.3, 3.3])
    machine.outputs.set(25, 0)
    expect([volts(machine, '@P22'), machine.level(25)]).toEqual([0, 0])
  })

  it('of a bus at rest are high: its resistors pull it up', () => {
    const machine = machineOf(demoPlans[0]!)
    for (const pin of ['@P3', '@P5', 'porch.sda', 'air.scl']) expect(volts(machine, pin)).toBeCloseTo(3.3, 6)
  })

  it('with the power off are none that a meter could tell', () => {
    const machine = new Machine(gatherFacts(demoPlans[0]!, catalogue),
      { changes: [{ change: 'flag', flag: 'no-supply' }] })
    expect(machine.levels.between('@P1', '@P6')).toBeNull()
    expect(machine.isUp).toBe(false)
  })

  it('from one pin to the other are a difference with its sign, and nothing where one hangs free', () => {
    const machine = keys()
    expect(machine.levels.between('@P1', '@P6')).toBeCloseTo(3.3, 1)
    expect(machine.levels.between('@P6', '@P1')).toBeCloseTo(-3.3, 1)
    machine.bias.set(17, 'none')
    expect(machine.levels.between('@P11', '@P6')).toBeNull()
  })
})

describe('ohms with the power off', () => {
  it('are near none along a wire and over a pin itself, open between what is apart', () => {
    const { levels } = keys()
    expect(levels.ohms('@P11', 'keys.b1')).toBeLessThan(1)
    expect(levels.ohms('@P11', '@P11')).toBeLessThan(1)
    expect(levels.ohms('@P11', '@P13')).toBeNull()
    expect(levels.ohms('@P6', '@P39')).toBeLessThan(1)
  })

  it('of a bus line to its rail are those of its resistors side by side', () => {
    // 1.8 kΩ on the board; in the demo three parts have 10 kΩ each: 1 / (1/1800 + 3/10000).
    const machine = machineOf(demoPlans[0]!)
    const parts = machine.facts.parts.filter(({ part }) => part.i2c?.pullUpOhm)
    const sum = parts.reduce((total, { part }) => total + 1 / part.i2c!.pullUpOhm!, 1 / 1800)
    expect(machine.levels.ohms('@P3', '@P1')).toBeCloseTo(1 / sum, 6)
    expect(machine.levels.ohms('@P1', '@P3')).toBeCloseTo(1 / sum, 6)
  })

  it('between a rail and ground are those of a board that is well, or of a short', () => {
    const facts = gatherFacts(demoPlans[0]!, catalogue)
    expect(new Machine(facts).levels.ohms('@P2', '@P6')).toBeGreaterThan(100)
    const shorted = new Machine(facts, { changes: [{ change: 'bridge', pins: ['@P4', '@P6'] }] })
    expect([shorted.levels.ohms('@P2', '@P6')! < 1, shorted.isUp, shorted.world.isPowered])
      .toEqual([true, false, false])
  })
})

describe('pins', () => {
  it('are called by their position, by part and terminal, or not known', () => {
    const { bench } = keys()
    expect([pinByName('11', bench), pinByName('keys.b1', bench), pinByName('@socket', bench)])
      .toEqual(['@P11', 'keys.b1', '@socket'])
    expect([pinByName('41', bench), pinByName('keys.b9', bench), pinByName('', bench)]).toEqual([null, null, null])
  })

  it('that can be measured are all of the netlist, each once, the board\'s first', () => {
    for (const plan of demoPlans) {
      const { bench } = machineOf(plan)
      const pins = pinsToMeasure(bench)
      expect(new Set(pins.map(({ pin }) => pin)).size).toBe(pins.length)
      expect(pins.map(({ pin }) => pin).sort()).toEqual([...bench.shop.netlist.ownerOf.keys()].sort())
      expect(pins[0]!.label).toMatch(/^position 1 /)
    }
  })
})
