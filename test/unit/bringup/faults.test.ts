import { describe, expect, it } from 'vitest'
import { modelOf } from '../../../core/bringup/diagnosis/table'
import { Session } from '../../../core/bringup/simulated/session'
import { gatherFacts } from '../../../core/facts/gather'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue } from '../../plans'

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
      const used = new Set(facts.terminals.flatMap(({ place }) => place?.kind === 'header' ? place.line?.line ?? [] : []))
      for (const { changes: [change] } of modelOf(facts).table.faults) {
        if (change?.change !== 'line' || !change.as) continue
        const own = new Set(change.line.split(/[,=]/))
        for (const word of change.as.split(/[,=]/)) if (/^\d+$/.test(word) && !own.has(word)) expect([change.as, used.has(Number(word))]).toEqual([
          change.as, false])
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
        const { least, most } = table.probes[column]!.reading!
        const session = new Session(facts, { changes: fault.changes })
        const volts = async (id: string) => Number.parseFloat((await session.run(`:volt ${id}.${facts.parts.find(part => part.id === id)!
          .grounds[0]!.id} ${ground}`)).out)
        const others = facts.parts.filter(({ id, grounds }) => id !== owner.id && grounds.length
          && table.probes.some(probe => probe.id === `back:${id}`))
        expect(await volts(owner.id)).toBe(0)
        await session.run(':load on')
        expect(await volts(owner.id)).toBeGreaterThan(most)
        for (const other of others) {
          const found = await volts(other.id)
          expect(found >= least && found <= most).toBe(true)
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
