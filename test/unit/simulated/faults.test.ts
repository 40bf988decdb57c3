import { describe, expect, it } from 'vitest'
import { pulledBuses } from '../../../core/diagnosis/pull-faults'
import { modelOf } from '../../../core/diagnosis/table'
import { Session } from '../../../core/simulated/session'
import { gatherFacts } from '../../../core/facts/gather'
import { demoPlans } from '../../../demo'
import { placed, placedPlans, written } from '../../generated'
import { i2cFigures } from '../../../core/signals/figures/i2c'
import type { Fault } from '../../../core/diagnosis/types'
import { catalogue, fixedAt, planOf } from '../../plans'

const plans = [...demoPlans, ...placedPlans(5, 5100, 8)]

describe('a boot line with one figure wrong', () => {
  it('darkens its part, is told by reading the file, and lies so on the simulated card', async () => {
    let tried = 0
    for (const plan of plans) {
      const facts = gatherFacts(plan, catalogue)
      const { table } = modelOf(facts)
      for (const [row, fault] of table.faults.entries()) {
        const [change] = fault.changes
        if (change?.change !== 'line' || change.how !== 'other-figure') continue
        // One figure is another one, and only that.
        const [was, is] = [change.line, change.as!].map(line => line.split(/[,=]/)) as [string[], string[]]
        expect(was.filter((word, i) => word !== is[i])).toHaveLength(1)
        const seen = (probe: string) => table.seen[row]![table.probes.findIndex(({ id }) => id === probe)]
        expect(seen(`file:${change.line}`)).toBe('one of its figures is another one')
        const session = new Session(facts, { changes: fault.changes })
        const { out } = await session.run('cat /boot/firmware/config.txt /boot/config.txt')
        if (out) {
          expect(out.split('\n')).toContain(change.as)
          expect(out.split('\n')).not.toContain(change.line)
        }
        tried++
      }
    }
    expect(tried).toBeGreaterThan(4)
  })

  it('never names a line of the board that the plan uses', () => {
    for (const plan of plans) {
      const facts = gatherFacts(plan, catalogue)
      const used = new Set(facts.terminals.flatMap(({ place }) =>
        place?.kind === 'header' ? place.line?.line ?? [] : []))
      for (const { changes: [change] } of modelOf(facts).table.faults) {
        if (change?.change !== 'line' || !change.as) continue
        const own = new Set(change.line.split(/[,=]/))
        for (const word of change.as.split(/[,=]/)) if (/^\d+$/.test(word)
          && !own.has(word)) expect([change.as, used.has(Number(word))]).toEqual([
          change.as, false])
      }
    }
  })
})

describe('what pulls a bus up', () => {
  /** Two modules on a bus of which the board has no resistors. */
  const modules = (() => {
    const plan = planOf('forty-usb-c', { a: 'oled-i2c', b: 'pressure-humidity-i2c' }, {
      assignments: fixedAt({ 'a.sda': 7, 'a.scl': 29, 'b.sda': 7, 'b.scl': 29 }),
    })
    return written(placed(plan)!)
  })()

  it('is measured as the circuit has it: open where it is gone, a small part where too strong; that bus alone is silent', async () => {
    const kinds = new Set<string>()
    for (const plan of [modules, ...plans]) {
      const facts = gatherFacts(plan, catalogue)
      const { table } = modelOf(facts)
      const at = (probe: string) => table.probes.findIndex(({ id }) => id === probe)
      for (const bus of pulledBuses(facts)) {
        const ohms = async (changes: Fault['changes']) => {
          const session = new Session(facts, { changes })
          await session.run(':off')
          const said = (await session.run(`:ohm ${bus.position} ${bus.rail}`)).out
          return /open|O\.?L/i.test(said) ? Infinity : Number(/[\d.]+/.exec(said)![0]) * (/kΩ/.test(said) ? 1000 : 1)
        }
        expect(Math.abs((await ohms([])) / bus.ohm - 1)).toBeLessThan(0.06)
        for (const [row, fault] of table.faults.entries()) {
          const [change] = fault.changes
          if (change?.change !== 'pull' || change.busId !== bus.busId) continue
          kinds.add(change.how)
          const seen = table.seen[row]!
          expect(seen[at(`scan:${bus.busId}`)]).toBe('nothing answers')
          for (const [i, probe] of table.probes.entries()) {
            if (!/^(scan:|node:\/dev\/i2c|volt:|ohm:)/.test(probe.id) || probe.id === `scan:${bus.busId}`) continue
            expect([probe.id, seen[i]]).toEqual([probe.id, table.planned[i]])
          }
          const measured = await ohms(fault.changes)
          expect([change.how, seen[at(`pull:${bus.busId}`)]])
            .toEqual([change.how, change.how === 'none' ? 'open' : 'a small part of it'])
          if (change.how === 'none') expect(measured).toBe(Infinity)
          else expect(measured).toBeLessThan(200)
        }
      }
    }
    expect([...kinds].sort()).toEqual(['none', 'strong'])
  })

  it('lacks only where no resistor of the board or of the plan is on the bus', () => {
    for (const plan of plans) {
      const facts = gatherFacts(plan, catalogue)
      for (const { changes: [change] } of modelOf(facts).table.faults) {
        if (change?.change !== 'pull' || change.how !== 'none') continue
        expect(i2cFigures(facts).find(({ busId }) => busId === change.busId)!.pullUps.every(({ partId }) =>
          partId !== null)).toBe(true)
      }
    }
  })
})

describe('a way back that is too thin', () => {
  it('is no matter at rest, lifts the part\'s own ground under load, and leaves the others alone', async () => {
    let tried = 0
    for (const plan of plans) {
      const facts = gatherFacts(plan, catalogue)
      const { table } = modelOf(facts)
      const ground = facts.board!.header.find(({ kind }) => kind === 'ground')!.position
      for (const [row, fault] of table.faults.entries()) {
        const [change] = fault.changes
        if (change?.change !== 'flag' || change.flag !== 'thin-ground') continue
        const owner = facts.parts.find(({ id }) => id === change.partId)!
        const column = table.probes.findIndex(({ id }) => id === `back:${owner.id}`)
        expect([table.planned[column], table.seen[row]![column]]).toEqual(['as planned', 'too high'])
        const { min, max } = table.probes[column]!.reading!
        const session = new Session(facts, { changes: fault.changes })
        const volts = async (id: string) => Number.parseFloat((await session.run(`:volt ${id}.${facts.parts.find(part => part.id === id)!
          .grounds[0]!.id} ${ground}`)).out)
        const others = facts.parts.filter(({ id, grounds }) => id !== owner.id && grounds.length
          && table.probes.some(probe => probe.id === `back:${id}`))
        expect(await volts(owner.id)).toBe(0)
        await session.run(':load on')
        expect(await volts(owner.id)).toBeGreaterThan(max)
        for (const other of others) {
          const found = await volts(other.id)
          expect(found >= min && found <= max).toBe(true)
        }
        tried++
      }
    }
    expect(tried).toBeGreaterThan(3)
  })

  it('is a fault of parts that draw much by wires of their own, not of add-on boards nor of a sensor', () => {
    const { table } = modelOf(gatherFacts(demoPlans[0]!, catalogue))
    const named = table.faults.filter(({ id }) => id.startsWith('ground:')).map(({ id }) => id)
    expect(named).toContain('ground:modem')
    expect(named).not.toContain('ground:air')
  })
})
