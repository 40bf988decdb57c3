/**
 * The simulated board shows what the model says: pasted back, every node and every scan of every fault is what the
 * table has, and the meter agrees with it in ohms and volts. How commands print is a matter of the reference tests.
 */
import { describe, expect, it } from 'vitest'
import { checkScriptOf } from '../../../core/diagnosis/check-script'
import { outcomeOfReading } from '../../../core/diagnosis/diagnose'
import { benchOf } from '../../../core/diagnosis/table'
import type { Change } from '../../../core/diagnosis/types'
import { worksAs } from '../../../core/diagnosis/works'
import { readPasted } from '../../../core/diagnosis/pasted/paste'
import { linePinsOf, type LinePin } from '../../../core/diagnosis/line-pins'
import { lineKeyOf } from '../../../core/simulated/chips'
import { lookAt } from '../../../core/simulated/look'
import { Machine } from '../../../core/simulated/machine'
import { Session } from '../../../core/simulated/session'
import { openShell } from '../../../core/simulated/shell'
import { BOARD_ID } from '../../../core/netlist/board'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { sparse, judgedAtLeast } from '../../random'
import { factsOf, hive, kiosk, rowsOf, said, sitting, type Row } from '../../sessions'

const NO_CHIP = 'there is no such chip'
const plans = [...demoPlans, ...placedPlans(6, 500, 6)]
/** Some of the rows, others of each plan: all of them together take a minute, and have been tried. */
const some = (rows: readonly Row[], every: number,
  nth: number) => rows.filter((_, i) => (i + nth) % sparse(every) === 0)

/** The line of a command, by whose chip it is: the numbers of chips move up where one is missing. */
function lineAt(machine: Machine, pins: readonly LinePin[], command: string): number | null {
  const [, chip, line] = /^gpio(?:mon|set) (gpiochip\d+) (\d+)/.exec(command)!
  const pin = pins.find(entry => entry.chip === chip && entry.line === Number(line))!
  const found = machine.lineChips.find(({ owner }) => owner?.id === pin.host?.id)
  return found ? lineKeyOf(found, pin.line) : null
}

describe('the simulated board agrees with the model of faults', () => {
  it('in nodes and scans, pasted back, for faults of every kind on demos and generated plans', async () => {
    const different: string[] = []
    let judged = 0
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const asked = table.probes.filter(({ id }) => /^(node|scan):/.test(id))
      for (const row of some(rows, 10, nth)) {
        const session = new Session(facts, { changes: row.changes, bench })
        if (!session.machine.isUp) {
          if (row.seen[table.probes.findIndex(({ id }) =>
            id === 'up')] === 'it is there') different.push(`${row.id}: not up`)
          continue
        }
        let text = ''
        for (const { command } of asked) {
          const { out, err } = await session.run(command!)
          text += `$ ${command}\n${out}${err}\n`
        }
        const { found, unread } = readPasted(text, table.probes, null)
        expect(unread).toBe(0)
        for (const { id } of asked) {
          const read = found.find(entry => entry.kind === 'seen' && entry.probe === id)
          const outcome = read?.kind === 'seen' ? read.outcome : 'not read'
          judged++
          const wanted = row.seen[table.probes.findIndex(probe => probe.id === id)]
          if (outcome !== wanted) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${wanted}, `
            + `the board ${outcome}`)
        }
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(judgedAtLeast(300))
  })

  it('in ohms before power and volts after, at every pair that the run sheet measures', () => {
    const different: string[] = []
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const [five, three, ground] = ['5V', '3V3', 'ground']
        .map(kind => `@P${facts.board!.header.find(entry => entry.kind === kind)!.position}`) as [string, string, string]
      const bench = benchOf(facts)
      const { shop } = bench
      for (const row of some(rows, 4, nth)) {
        const machine = new Machine(facts, { changes: row.changes, bench })
        const { levels } = machine
        machine.load(true)
        const busy = machine.levels
        const inHand = new Machine(facts, { changes: row.changes, bench })
        for (const { id } of [...facts.parts, { id: BOARD_ID }]) inHand.move(id, true)
        const moved = inHand.levels
        for (const [i, { id, at, reading }] of table.probes.entries()) {
          const of = (value: number | null) => outcomeOfReading(table, id, value ?? 0)
          let outcome: string | null = null
          if (id === 'ohm:5V') outcome = of(levels.ohms(five, ground) ?? 1e7)
          else if (id === 'ohm:3V3') outcome = of(levels.ohms(three, ground) ?? 1e7)
          else if (id === 'volt:load') outcome = of(busy.between(five, ground))
          else if (id === 'volt:5V') outcome = of(levels.between(five, ground))
          else if (id.startsWith('through:')) {
            const { ways } = shop.netlist.conductors.find(entry => entry.id === id.slice('through:'.length))!
            const isThrough = (meter: typeof levels) => ways.every(({ from, to }) => (meter.ohms(from, to) ?? 1e9) < 2)
            outcome = isThrough(levels) ? isThrough(moved) ? 'near 0 Ω' : 'it comes and goes' : 'open'
          }
          else if (id.startsWith('volt:') && reading) {
            const owner = facts.parts.find(part => part.id === at.parts![0])!
            const [back] = shop.healthy.returnPins(owner).filter(pin => !pin.endsWith('#usb-'))
            outcome = of(levels.between(id.slice('volt:'.length), back!))
          }
          if (outcome !== null && outcome !== row.seen[i]) {
            different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, the meter ${outcome}`)
          }
        }
      }
    }
    expect(different).toEqual([])
  })

  it('in what stops when wires are moved, for every contact that comes and goes', () => {
    const different: string[] = []
    let stopped = 0
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const { parts } = bench.shop
      for (const row of some(rows.filter(({ id }) => id.startsWith('loose:')), 3, nth)) {
        const machine = new Machine(facts, { changes: row.changes, bench })
        const does = (owner: (typeof parts)[number]) => worksAs(machine.world, owner, bench.shop) === 'it does'
        const atRest = parts.map(does)
        for (const { id } of [...parts, { id: BOARD_ID }]) machine.move(id, true)
        const inHand = parts.map(does)
        for (const [i, { id, name }] of parts.entries()) {
          const says = row.seen[table.probes.findIndex(probe => probe.id === `steady:${id}`)]
          if (!atRest[i]) different.push(`${plan.name}, ${row.id}: ${name} does not work at rest`)
          if ((says === 'it stops now and then') !== !inHand[i]) different.push(`${plan.name}, ${row.id}: ${name}: the table says ${says}`)
          stopped += Number(!inHand[i])
        }
        for (const { id } of [...parts, { id: BOARD_ID }]) machine.move(id, false)
        if (!parts.every(does)) different.push(`${plan.name}, ${row.id}: it does not come back`)
      }
    }
    expect(different).toEqual([])
    expect(stopped).toBeGreaterThan(judgedAtLeast(40))
  })

  it('a wire that comes and goes is missed by a scan while it is moved alone; the supply\'s own takes the board down',
    async () => {
      const session = sitting(hive, 'loose:air.sda@3')
      const grid = 'i2cdetect -y 1'
      expect(await said(session, grid)).toMatch(/\b76\b/)
      expect(await said(session, ':move porch', grid)).toMatch(/\b76\b/)
      expect(await said(session, ':move air', grid)).not.toMatch(/\b76\b/)
      expect(await said(session, ':still air', ':still porch', grid)).toMatch(/\b76\b/)
      expect(await said(session, ':still air')).toContain('still already')
      const { rows } = rowsOf(hive)
      const cable = rows.find(({ id, seen }) => id.startsWith('loose:')
        && seen[rowsOf(hive).table.probes.findIndex(probe => probe.id === 'steady')] === 'it goes off, or starts anew')!
      const other = sitting(hive, cable.id)
      expect(await said(other, ':move board', grid)).toMatch(/The board goes off![^]*Nothing answers/)
      expect(await said(other, ':still board', 'dmesg')).toMatch(/The board starts anew[^]*recovery complete/)
    })

  it('in the lines that move when a part does, for every fault', () => {
    const different: string[] = []
    let judged = 0
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const pins = linePinsOf(bench.shop, bench.expected)
      for (const row of some(rows, 9, nth)) for (const [i, { id, command }] of table.probes.entries()) {
        if (!id.startsWith('line:') || !command?.startsWith('gpiomon')) continue
        const machine = new Machine(facts, { changes: row.changes, bench })
        if (!machine.isUp) continue
        const own = lineAt(machine, pins, command)
        if (own === null) {
          if (row.seen[i] !== NO_CHIP) different.push(`${plan.name}, ${row.id}, ${id}: the table says `
            + `${row.seen[i]}, no chip`)
          continue
        }
        const names = new Map(pins.flatMap(pin =>
          [[lineAt(machine, [pin], `gpiomon ${pin.chip} ${pin.line}`), pin.name] as const]))
        const lines = [...names.keys()].filter(line => line !== null)
        // As a program does for contacts, and for outputs that only pull down.
        for (const line of lines) machine.bias.set(line, 'up')
        machine.watching = new Map(lines.map(line => [line, machine.level(line)]))
        machine.active.add(id.slice('line:'.length))
        const moved = machine.changed().map(({ line }) => line)
        const outcome = !moved.length
          ? 'it does not move'
          : !moved.includes(own)
              ? `${names.get(moved[0]!)} moves instead`
              : moved.length > 1 ? 'another one moves with it' : 'it moves'
        judged++
        if (outcome !== row.seen[i]) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, `
          + `the board ${outcome}`)
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(judgedAtLeast(500))
  })

  it('in the inputs of parts that follow a line, for every fault', () => {
    const different: string[] = []
    let judged = 0
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const pins = linePinsOf(bench.shop, bench.expected)
      for (const row of some(rows, 5, nth)) for (const [i, { id, command }] of table.probes.entries()) {
        if (!id.startsWith('line:') || !command?.startsWith('gpioset')) continue
        const machine = new Machine(facts, { changes: row.changes, bench })
        if (!machine.isUp) continue
        const line = lineAt(machine, pins, command)
        if (line === null) {
          if (row.seen[i] !== NO_CHIP) different.push(`${plan.name}, ${row.id}, ${id}: the table says `
            + `${row.seen[i]}, no chip`)
          continue
        }
        const terminal = id.slice('line:'.length)
        const [low, high] = ([0, 1] as const).map((level) => {
          machine.outputs.set(line, level)
          const found = machine.levels.at(terminal)
          return 'volts' in found ? found.volts : 0
        })
        const outcome = Math.abs(high! - low!) > 1 ? 'it moves' : 'it does not move'
        judged++
        if (outcome !== row.seen[i]) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, `
          + `the board ${outcome}`)
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(judgedAtLeast(100))
  })

  it('in what is seen of a part: dark and still where it does nothing, and each input as its line is set', () => {
    let looked = 0
    const different: string[] = []
    for (const [nth, plan] of plans.entries()) {
      const { table, rows } = rowsOf(plan)
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const pins = linePinsOf(bench.shop, bench.expected)
      for (const row of some(rows, 12, nth)) {
        const machine = new Machine(facts, { changes: row.changes, bench })
        for (const owner of bench.shop.parts) {
          const look = lookAt(machine, owner)
          const isDark = look === 'Dark and still.'
          if (!machine.world.isFed(owner) !== isDark && !machine.world.isDead(owner.id)
            && owner.part.group !== 'showing') {
            different.push(`${plan.name}, ${row.id}, ${owner.name}: ${look}`)
          }
        }
        for (const [i, { id, command }] of table.probes.entries()) {
          if (!id.startsWith('line:') || !command?.startsWith('gpioset')) continue
          const terminal = facts.byKey.get(id.slice('line:'.length))!
          const line = lineAt(machine, pins, command)
          if (line === null || !machine.isUp || terminal.signal!.role !== 'line'
            || !/^(switching|lighting|moving)$/.test(terminal.owner.part.group)) continue
          const [low, high] = ([0, 1] as const).map((level) => {
            machine.outputs.set(line, level)
            return lookAt(machine, terminal.owner)
          })
          machine.outputs.delete(line)
          looked++
          const isSeen = machine.world.isFed(terminal.owner) && !machine.world.isDead(terminal.owner.id)
          if (isSeen && (low !== high) !== (row.seen[i] === 'it moves')) {
            different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, the eye ${low} / ${high}`)
          }
        }
      }
    }
    expect(different).toEqual([])
    expect(looked).toBeGreaterThan(100)
  })

  it('screens show what a driver or a program draws; relays pull in as their boards want it', async () => {
    const panel = sitting(kiosk)
    expect(await said(panel, ':look panel')).toBe('A picture: the system\'s own lines of text, down to the login.\n')
    expect(await said(sitting(kiosk, 'dead:panel'), ':look panel')).toBe('Dark and still.\n')
    const screen = sitting(hive)
    expect(await said(screen, ':look porch')).toContain('no program has drawn on it yet')
    expect(await said(screen, 'i2cset -y 1 0x3c 0x00 0xaf', ':look porch')).toContain('Something is drawn')
    // A board of low-level trigger: high lets go, low pulls in (handbook, cases of relays).
    const bolts = sitting(kiosk)
    expect(await said(bolts, 'gpioset gpiochip0 4=1', ':look drawer')).toMatch(/IN1 let go/)
    expect(await said(bolts, 'gpioset gpiochip0 4=0', ':look drawer')).toMatch(/IN1 pulled in/)
    expect(await said(bolts, ':off', ':look drawer')).toContain('Dark and still.')
  })

  it('runs the check script, whose report is read whole', async () => {
    for (const plan of plans) {
      const { table } = rowsOf(plan)
      const machine = new Machine(factsOf(plan))
      const { out, err, status } = await openShell(machine).run(checkScriptOf(plan.name, table.probes))
      expect([status, err]).toEqual([0, ''])
      const { found, unread } = readPasted(out, table.probes, null)
      expect(unread).toBe(0)
      expect(found.flatMap(entry => entry.kind === 'seen' ? [[entry.probe, entry.outcome]] : []))
        .toEqual(expect.arrayContaining(table.probes.flatMap(({ id },
          i) => /^(node|scan):/.test(id) ? [[id, table.planned[i]]] : [])))
    }
  })

  it('the rail sinks to what the circuit has under load, breaks down with a weak supply, and comes back', () => {
    for (const plan of plans) {
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const [five, ground] = ['5V', 'ground'].map(kind =>
        `@P${facts.board!.header.find(entry => entry.kind === kind)!.position}`)
      const volts = (changes: Change[]) => {
        const machine = new Machine(facts, { bench, changes })
        const read = () => machine.levels.between(five!, ground!)
        const rest = read()
        machine.load(true)
        const busy = read()
        machine.load(false)
        return { rest, busy, after: read() }
      }
      const well = volts([])
      const at = (id: string) => bench.power.states.find(state => state.id === id)?.nodes['@5V']?.voltageV
      const fed = bench.power.states.every(({ ok }) => ok) && bench.shop.healthy.isPowered
        && bench.shop.healthy.fedBy(five!) === '5V'
      // A position is some milliohms of the header away from where the circuit has the rail.
      if (fed) for (const [seen, state] of [[well.rest, 'typical'], [well.busy, 'peak']] as const) {
        expect(Math.abs(seen! - (at(state) ?? 5)), plan.name).toBeLessThan(0.05)
      }
      for (const flag of ['weak-supply', 'thin-cable'] as const) {
        const weak = volts([{ change: 'flag', flag }])
        expect([weak.rest, weak.after]).toEqual([well.rest, well.rest])
        if (fed) expect(weak.busy!).toBeLessThan(bench.shop.loadLeastV)
      }
    }
  })

  it('under load the word tells of a weak supply, and the sheet takes it so', async () => {
    const { table } = rowsOf(hive)
    for (const [fault, outcome] of [['supply:weak', 'under-voltage, or it starts anew'],
      ['supply:cable', 'under-voltage, or it starts anew']] as const) {
      const session = sitting(hive, fault)
      expect(await said(session, 'vcgencmd get_throttled')).toBe('throttled=0x0\n')
      const text = `$ vcgencmd get_throttled\n${await said(session, 'sh check.sh load | tail -2')}`
      const { found } = readPasted(text, table.probes, null)
      expect(found).toMatchObject([{ kind: 'seen', probe: 'load', outcome }])
      expect(await said(session, 'dmesg | tail -1')).toContain('Undervoltage')
    }
    expect(await said(sitting(hive), ':load on', ':wait 600', 'vcgencmd get_throttled')).toMatch(/throttled=0x[04]/)
  })
})
