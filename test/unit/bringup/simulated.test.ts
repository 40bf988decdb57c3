/**
 * The simulated board shows what the model says: pasted back, every node and every scan of every fault is what the table has, and the meter
 * agrees with it in ohms and volts. How commands print is a matter of the reference tests.
 */
import { describe, expect, it } from 'vitest'
import { checkScriptOf } from '../../../core/bringup/check-script'
import { outcomeOfReading } from '../../../core/bringup/diagnosis/diagnose'
import { benchOf, modelOf } from '../../../core/bringup/diagnosis/table'
import type { Change, Table } from '../../../core/bringup/diagnosis/types'
import { worksAs } from '../../../core/bringup/diagnosis/works'
import { readPasted } from '../../../core/bringup/paste'
import { linePinsOf, type LinePin } from '../../../core/bringup/diagnosis/line-pins'
import { lineOf } from '../../../core/bringup/simulated/chips'
import { lookAt } from '../../../core/bringup/simulated/look'
import { Machine } from '../../../core/bringup/simulated/machine'
import { ACTS, Session } from '../../../core/bringup/simulated/session'
import { minutesOf } from '../../../core/bringup/simulated/session-minutes'
import { openShell } from '../../../core/bringup/simulated/shell'
import { stateOf } from '../../../core/bringup/simulated/state'
import { BOARD_ID } from '../../../core/netlist/board'
import { gatherFacts } from '../../../core/facts/gather'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'

const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const [hive, signals, kiosk] = demoPlans as [Plan, Plan, Plan]
const plans = [...demoPlans, ...placedPlans(6, 500, 6)]

const kept = new Map<Plan, { table: Table, rows: Row[] }>()
const NO_CHIP = 'there is no such chip'
interface Row { id: string, changes: Change[], seen: string[] }
/** Some of the rows, others of each plan: all of them together take a minute, and have been tried. */
const some = (rows: readonly Row[], every: number, nth: number) => rows.filter((_, i) => (i + nth) % every === 0)

/** The thing as planned, and with each of its faults, with what the table says of it. */
function rowsOf(plan: Plan) {
  const before = kept.get(plan)
  if (before) return before
  const { table } = modelOf(factsOf(plan))
  const rows: Row[] = [
    { id: 'none', changes: [], seen: table.planned }, ...table.faults.map(({ id, changes }, i) => ({ id, changes, seen: table.seen[i]! })),
  ]
  kept.set(plan, { table, rows })
  return { table, rows }
}

/** The line of a command, by whose chip it is: the numbers of chips move up where one is missing. */
function lineAt(machine: Machine, pins: readonly LinePin[], command: string): number | null {
  const [, chip, line] = /^gpio(?:mon|set) (gpiochip\d+) (\d+)/.exec(command)!
  const pin = pins.find(entry => entry.chip === chip && entry.line === Number(line))!
  const found = machine.lineChips.find(({ owner }) => owner?.id === pin.host?.id)
  return found ? lineOf(found, pin.line) : null
}

const said = async (session: Session, ...lines: string[]) => {
  let text = ''
  for (const line of lines) {
    const { out, err } = await session.run(line)
    text += out + err
  }
  return text
}
const sitting = (plan: Plan, fault?: string, lineTools: 1 | 2 = 1) => {
  const { rows } = rowsOf(plan)
  const row = rows.find(({ id }) => id === (fault ?? 'none'))
  expect(row, `no fault ${fault}`).toBeDefined()
  return new Session(factsOf(plan), { changes: row!.changes, lineTools })
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
          if (row.seen[table.probes.findIndex(({ id }) => id === 'up')] === 'it is there') different.push(`${row.id}: not up`)
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
          if (outcome !== wanted) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${wanted}, the board ${outcome}`)
        }
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(300)
  }, 60_000)

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
  }, 60_000)

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
    expect(stopped).toBeGreaterThan(40)
  }, 60_000)

  it('a wire that comes and goes is missed by a scan while it is moved alone; the supply\'s own takes the board down', async () => {
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
          if (row.seen[i] !== NO_CHIP) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, no chip`)
          continue
        }
        const names = new Map(pins.flatMap(pin => [[lineAt(machine, [pin], `gpiomon ${pin.chip} ${pin.line}`), pin.name] as const]))
        const lines = [...names.keys()].filter(line => line !== null)
        // As a program does for contacts, and for outputs that only pull down.
        for (const line of lines) machine.bias.set(line, 'up')
        machine.watching = new Map(lines.map(line => [line, machine.level(line)]))
        machine.active.add(id.slice('line:'.length))
        const moved = machine.changed().map(({ line }) => line)
        const outcome = !moved.length
          ? 'it does not move'
          : !moved.includes(own) ? `${names.get(moved[0]!)} moves instead` : moved.length > 1 ? 'another one moves with it' : 'it moves'
        judged++
        if (outcome !== row.seen[i]) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, the board ${outcome}`)
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(500)
  }, 60_000)

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
          if (row.seen[i] !== NO_CHIP) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, no chip`)
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
        if (outcome !== row.seen[i]) different.push(`${plan.name}, ${row.id}, ${id}: the table says ${row.seen[i]}, the board ${outcome}`)
      }
    }
    expect(different).toEqual([])
    expect(judged).toBeGreaterThan(100)
  }, 60_000)

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
          if (!machine.world.isFed(owner) !== isDark && !machine.world.isDead(owner.id) && owner.part.group !== 'showing') {
            different.push(`${plan.name}, ${row.id}, ${owner.name}: ${look}`)
          }
        }
        for (const [i, { id, command }] of table.probes.entries()) {
          if (!id.startsWith('line:') || !command?.startsWith('gpioset')) continue
          const terminal = facts.byKey.get(id.slice('line:'.length))!
          const line = lineAt(machine, pins, command)
          if (line === null || !machine.isUp || terminal.signal!.role !== 'line' || !/^(switching|lighting|moving)$/.test(terminal.owner.part.group)) continue
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
  }, 60_000)

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
        .toEqual(expect.arrayContaining(table.probes.flatMap(({ id }, i) => /^(node|scan):/.test(id) ? [[id, table.planned[i]]] : [])))
    }
  })

  it('the rail sinks to what the circuit has under load, breaks down with a weak supply, and comes back', () => {
    for (const plan of plans) {
      const facts = factsOf(plan)
      const bench = benchOf(facts)
      const [five, ground] = ['5V', 'ground'].map(kind => `@P${facts.board!.header.find(entry => entry.kind === kind)!.position}`)
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
      const fed = bench.power.states.every(({ ok }) => ok) && bench.shop.healthy.isPowered && bench.shop.healthy.fedBy(five!) === '5V'
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

describe('at the prompt', () => {
  it('lines go one after the other: folders, variables and files stay', async () => {
    const session = sitting(hive)
    expect(session.prompt).toBe('maker@bench:~ $ ')
    expect(await said(session, 'cd /sys/bus', 'X=5', 'echo hi > /tmp/a', 'echo $X $(cat /tmp/a)')).toBe('5 hi\n')
    expect(session.prompt).toBe('maker@bench:/sys/bus $ ')
    expect(await said(session, 'ls w1/devices | wc -l')).toBe('4\n')
    expect(await said(session, 'nope')).toBe('bash: nope: command not found\n')
    expect((await session.run('cat /nope')).status).toBe(1)
    expect(await said(session, 'python3 x.py')).toContain('not on the simulated board')
    expect(await said(session, 'while true; do :; done')).toContain('comes to no end')
    expect(await said(session, 'echo 1 > /proc/uptime')).toBe('bash: /proc/uptime: Permission denied\n')
    expect(await said(session, 'x'.repeat(5000))).toContain('4096 characters')
  })

  it('time passes on the board alone', async () => {
    const session = sitting(hive)
    expect(await said(session, 'sleep 3600', 'uptime')).toMatch(/up 1:0\d,/)
    expect(await said(session, 'date +%F')).toBe('2026-04-18\n')
  })

  it('a driver holds its address; the others give their registers', async () => {
    const session = sitting(hive)
    expect(await said(session, 'i2cdetect -y 1 | grep ^60')).toBe('60: -- -- -- -- -- -- -- -- UU -- -- -- -- -- -- -- \n')
    expect(await said(session, 'i2cget -y 1 0x68 0')).toContain('Device or resource busy')
    expect(await said(session, 'i2cget -y 1 0x76 0xd0')).toBe('0x60\n')
    expect(await said(session, 'i2cget -y 1 0x50 0')).toBe('Error: Read failed\n')
    expect(await said(session, 'i2cset -y 1 0x3c 0x10 0xaf', 'i2cget -y 1 0x3c 0x10')).toBe('0xaf\n')
    expect(await said(session, 'i2cget -y 1 0x3c 0x11')).toMatch(/^0x00\n\(what is in its registers is not known here/)
    expect(await said(session, 'i2cdetect -y 7')).toContain('/dev/i2c-7')
    expect(await said(session, 'i2cdetect')).toContain('No i2c-bus')
  })

  it('the clock reads back as the time that it is', async () => {
    const session = sitting(hive)
    // 15:00 and some seconds on 18 April 2026, as decimal digits in four bits each.
    const [, minute, hour, , day, month,
      year] = (await said(session, ...[0, 1, 2, 3, 4, 5, 6].map(at => `i2cget -f -y 1 0x68 ${at}`))).trim().split('\n')
    expect([minute, hour, day, month, year]).toEqual(['0x00', '0x15', '0x18', '0x04', '0x26'])
  })

  it('lines are read, set and watched, in the manner of both versions', async () => {
    const plan = planOf('forty-usb-c', { key: ['button-1', {}], lamp: ['led-plain', {}] }, {
      supply: { type: 'adapter-5v-3a' },
      assignments: { 'key.b': { position: 11 }, 'key.gnd': { position: 9 }, 'lamp.a': { position: 13 }, 'lamp.k': { position: 14 } },
    })
    const one = sitting(plan)
    // Position 11 is line 17: handbook, table of the header. A key to ground needs its line pulled up.
    expect(await said(one, 'gpioget --bias=pull-up gpiochip0 17')).toBe('1\n')
    expect(await said(one, ':press key.b', 'gpioget gpiochip0 17')).toBe('key B: held\n0\n')
    expect(await said(one, ':release key.b', 'gpiomon gpiochip0 17',
      ':press key.b')).toMatch(/FALLING EDGE offset: 17 timestamp: \[ +\d+\.\d{9}\]/)
    expect(await said(one, 'gpioset gpiochip0 27=1', ':volt 13 9')).toBe('3.30 V\n')
    expect(await said(one, 'gpioset gpiochip0 27=0', ':volt 13 9')).toBe('0.00 V\n')
    expect(await said(one, 'gpioget gpiochip9 1')).toBe('gpioget: error reading GPIO values: No such file or directory\n')
    const two = sitting(plan, undefined, 2)
    expect(await said(two, 'gpioget -b pull-up -c gpiochip0 17')).toBe('"17"=active\n')
    expect(await said(two, 'gpioget gpiochip0 17')).toContain('say the chip')
  })

  it('a driver has its line: nobody else gets it', async () => {
    const session = sitting(hive)
    expect(await said(session, 'gpioinfo | grep -c used]')).toBe('2\n')
    expect(await said(session, 'gpioget gpiochip0 24')).toContain('Device or resource busy')
  })

  it('a port brings what is sent at its rate, and something else at another', async () => {
    const session = sitting(hive)
    expect(await said(session, 'stty -F /dev/serial0 115200', 'echo AT > /dev/serial0', 'cat /dev/serial0')).toBe('\r\nOK\r\n')
    expect(await said(session, 'stty -F /dev/serial0 9600', 'echo AT > /dev/ttyS0', 'cat /dev/ttyS0')).not.toContain('OK')
    expect(await said(sitting(hive, 'swap:modem.tx@10:modem.rx@8'), 'stty -F /dev/serial0 115200', 'echo AT > /dev/serial0',
      'cat /dev/serial0')).toBe('')
    expect(await said(session, 'stty -F /dev/nope')).toContain('No such file')
    expect(await said(session, 'stty -F /dev/serial0 12345')).toContain('invalid argument ‘12345’')
    expect(await said(session, ':loop /dev/serial0 on', 'echo round > /dev/serial0', 'cat /dev/serial0')).toContain('joined')
  })

  it('what is measured follows the room: breath, a floor up, warmth', async () => {
    const session = sitting(hive)
    const air = () => stateOf(session).parts.find(({ id }) => id === 'air')!.reads.map(({ value }) => value)
    const [celsius, humidity, pressure] = air() as [number, number, number]
    await said(session, ':breathe air', ':wait 3')
    expect(air()[1]).toBeGreaterThan(humidity + 20)
    await said(session, ':wait 300')
    expect(air()[1]).toBeCloseTo(humidity, 0)
    // Published: ISO 2533: 0.36 hPa a floor of three metres, near the sea.
    await said(session, ':set height 117')
    expect(air()[2]! - pressure).toBeCloseTo(0.36, 1)
    await said(session, ':set air 30')
    // The room is that of the plan's load test, 34 °C.
    expect(air()[0]).toBeCloseTo(celsius - 4, 5)
    expect(await said(session, 'cat /sys/bus/w1/devices/28-*/temperature | head -1')).toBe('30000\n')
    expect(await said(session, ':set air 900')).toContain('from -40 to 85')
  })

  it('a plug pulled takes its node along, and the kernel says so', async () => {
    const plan = planOf('forty-usb-c', { stick: ['controller-5v-serial', { link: 'usb' }] }, { supply: { type: 'adapter-5v-3a' } })
    const session = sitting(plan)
    expect(await said(session, 'ls /dev/ttyACM*')).toBe('/dev/ttyACM0\n')
    expect(await said(session, 'cat /dev/ttyACM0')).toMatch(/^count \d+\r\n/)
    expect(await said(session, ':pull stick', 'ls /dev/ttyACM*', 'dmesg | tail -1')).toMatch(/No such file[^]*USB disconnect/)
    expect(await said(session, ':plug stick', 'dmesg | tail -1')).toContain('ttyACM0: USB ACM device')
    expect(await said(session, 'lsusb | wc -l')).toBe('2\n')
  })

  it('the power is switched, and resistance is measured without it alone', async () => {
    const session = sitting(hive)
    expect(await said(session, ':ohm 1 6')).toContain('Power off')
    expect(await said(session, 'sudo poweroff', ':ohm 1 6', 'ls',
      ':volt 1 6')).toMatch(/supply is off[^]*650 Ω\nNothing answers[^]*0\.00 V/)
    expect(await said(session, ':on', 'uptime')).toContain('up 0 min')
    expect(await said(sitting(hive, 'card'), 'ls')).toContain('red alone')
  })

  it('the boot file on the card lacks what the fault took, and stands in another copy where that is it', async () => {
    expect(await said(sitting(hive), 'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt')).toBe('1\n')
    expect(await said(sitting(hive, 'line:dtoverlay=w1-gpio,gpiopin=4'),
      'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt')).toBe('0\n')
    expect(await said(sitting(hive, 'hidden:dtoverlay=w1-gpio,gpiopin=4'),
      'tail -2 /boot/firmware/config.txt')).toBe('[another-board]\ndtoverlay=w1-gpio,gpiopin=4\n')
    expect(await said(sitting(hive, 'line:copy'), 'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt /boot/config.txt'))
      .toBe('/boot/firmware/config.txt:0\n/boot/config.txt:1\n')
  })

  it('says what it is: model, kernel, cards, links, services', async () => {
    const session = sitting(kiosk)
    expect(await said(session, 'cat /proc/device-tree/model')).toBe('Forty-position board, USB-C, extra serial buses\0')
    expect(await said(session, 'aplay -l')).toMatch(/^\*\*\*\* List of PLAYBACK Hardware Devices \*\*\*\*\ncard 0: /)
    expect(await said(session, 'ip a')).toContain('inet 192.0.2.17/24')
    expect(await said(session, 'systemctl status ssh', 'systemctl status nope')).toMatch(/active \(running\)[^]*could not be found/)
    expect(await said(session, 'lsmod | head -1')).toBe('Module                    Size  Used by\n')
    expect(await said(sitting(signals), 'i2cdetect -y 1 | grep ^20')).toContain('UU')
  })

  it('under load it warms as the load test has it, the fan comes on, and without its fan it gets hotter', async () => {
    const temperature = async (session: Session) => Number((await said(session, 'cat /sys/class/thermal/thermal_zone0/temp'))) / 1000
    const session = sitting(hive)
    const rest = await temperature(session)
    expect(await said(session, 'cat /sys/class/thermal/cooling_device0/cur_state')).toBe('0\n')
    await said(session, ':load on', ':wait 1800')
    const busy = await temperature(session)
    expect(busy).toBeGreaterThan(rest + 1)
    const broken = sitting(hive, 'dead:vent')
    await said(broken, ':load on', ':wait 1800')
    expect(await temperature(broken)).toBeGreaterThan(busy + 0.5)
    await said(session, ':load off', ':wait 3600')
    expect(await temperature(session)).toBeCloseTo(rest, 1)
    // Warmer air carries over, degree for degree, while the fan stands still: textbook, T = Ta + P·R.
    await said(session, ':set air 24')
    expect(await temperature(session)).toBeCloseTo(rest - 10, 1)
  })

  it('the clock of the kernel is read where its node is, and told missing where not', async () => {
    expect(await said(sitting(hive), 'sudo hwclock -r')).toMatch(/^2026-04-18 15:00:\d\d\.\d{6}\+00:00\n$/)
    expect((await sitting(hive, 'dead:clock').run('hwclock')).status).toBe(1)
  })

  it('help, history and clear are there, and a scan without -y warns', async () => {
    const session = sitting(hive)
    expect(await said(session, 'help')).toMatch(/i2cdetect[^]*hands: ":help"/)
    expect(await said(session, 'clear')).toBe('')
    expect(await said(session, 'i2cdetect 1')).toMatch(/70: [^]*WARNING! This program can confuse your I2C bus/)
    expect(await said(session, 'history')).toContain('    2  i2cdetect 1\n')
  })

  it('every act that is listed is known, and says what it takes', async () => {
    const session = sitting(hive)
    const help = await said(session, ':help')
    for (const { act, takes } of ACTS) {
      expect(help).toContain(`:${act}`)
      expect(await said(session, `:${act}`)).not.toContain('There is no')
      if (takes && !takes.includes('|')) expect((await session.run(`:${act}`)).status).toBe(1)
    }
    expect(await said(session, ':dance')).toContain(':help')
    expect([minutesOf('ls'), minutesOf(':volt 1 6'), minutesOf(':wait 120'), minutesOf('# note')]).toEqual([0.5, 1.5, 2, 0])
  })

  it('a plan without a board has none to switch on', () => {
    expect(() => new Session(factsOf({ ...hive, board: null } as Plan))).toThrow(/choose one/)
  })
})
