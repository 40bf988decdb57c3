/**
 * Shapes of projects that makers bring up, gone through by hand on the simulated board: what is typed and measured, and
 * what must be seen. The shapes are the handbook's cases; what a thing that runs shows is its table of the same name.
 */
import { describe, expect, it } from 'vitest'
import { modelOf } from '../../../core/diagnosis/table'
import { runSheetOf } from '../../../core/diagnosis/sheet'
import { readPasted } from '../../../core/diagnosis/pasted/paste'
import { smallProgramsOf } from '../../../core/first-programs'
import { Session } from '../../../core/simulated/session'
import { evaluate } from '../../../core/evaluate'
import { ownHub } from '../../../core/findings/power/candidates'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { powerOf } from '../../../core/power/report'
import { placed, written } from '../../generated'
import { catalogue, planOf } from '../../plans'

type Parts = Parameters<typeof planOf>[1]
/** Placed by the engine and written into a fresh file. */
function made(board: string, parts: Parts): Plan {
  const plan = placed(planOf(board, parts, { supply: { type: 'adapter-5v-5a' } }))
  expect(plan, 'it finds its places').not.toBeNull()
  return written(plan!)
}

function bench(plan: Plan, faultId?: string) {
  const facts = gatherFacts(plan, catalogue)
  const { table } = modelOf(facts)
  const fault = faultId === undefined ? undefined : table.faults.find(({ id }) => id.startsWith(faultId))
  if (faultId !== undefined) expect(fault, `${faultId} among ${table.faults.map(({ id }) => id).join(' ')}`)
    .toBeDefined()
  const session = new Session(facts, { changes: fault?.changes ?? [] })
  const out = async (line: string) => (await session.run(line)).out
  const lineOf = (key: string) => {
    const { place } = facts.byKey.get(key)!
    if (place?.kind !== 'header') throw new Error(`${key} is not at the header`)
    return place.line!.line
  }
  const { programs } = smallProgramsOf(session.machine.bench)
  return { facts, table, fault, session, out, lineOf, rows: runSheetOf(facts).rows, programs }
}

describe('C01, serial to a microcontroller', () => {
  it('by USB: a list before and one after plugging tell its node', async () => {
    const { session, out, table } = bench(made('forty-usb-c', { c: ['controller-5v-serial', { link: 'usb' }] }))
    await session.run(':pull c')
    const before = await out('ls -d /dev/tty*')
    await session.run(':plug c')
    const after = await out('ls -d /dev/tty*')
    expect([before.includes('ttyACM0'), after.includes('ttyACM0')]).toEqual([false, true])
    expect(await out('dmesg')).toContain('ttyACM0')
    const { found } = readPasted(`$ ls -d /dev/tty*\n${before}\n$ ls -d /dev/tty*\n${after}`, table.probes, null)
    expect(found.map(({ words }) => words).join('\n')).toContain('new: /dev/ttyACM0')
  })

  it('by the header: what is sent comes back when joined, at the wrong rate it makes no sense, the console is told',
    async () => {
      const plan = made('forty-usb-c', { c: 'controller-3v3-serial' })
      const { session, out, programs } = bench(plan)
      const port = [...session.machine.ports.keys()][0]!
      const rate = Number(session.machine.facts.parts[0]!.options.baud)
      await session.run(`stty -F ${port} ${rate} raw -echo`)
      expect(await out(`timeout 3 cat ${port}`)).toMatch(/^count \d+/m)
      await session.run(`stty -F ${port} ${rate / 2} raw -echo`)
      expect(await out(`timeout 3 cat ${port}`)).not.toMatch(/count/)
      await session.run(`:loop ${port} on`)
      // What came before is read away.
      await session.run(`timeout 1 cat ${port}`)
      await session.run(`echo back > ${port}`)
      expect(await out(`head -c 5 ${port}`)).toContain('back')
      expect(programs.filter(({ aim }) => aim === 'link').map(({ language }) => language).sort())
        .toEqual(['c', 'cpp', 'micropython', 'python', 'shell'])
      const rows = bench(plan, 'console:').table
      expect(rows.seen[rows.faults.findIndex(({ id }) => id.startsWith('console:'))]![rows.probes.findIndex(({ id }) =>
        id === 'loop:c')])
        .toBe('lines that nobody sent come with it')
    })
})

describe('C02, first set-up of a current board', () => {
  const kit = (cooler: string | null) =>
    made('forty-io-bridge', { ...cooler && { cooler }, card: 'card-memory-32', panel: 'panel-video-7' })

  const coolers = [[null, true], ['cooler-active', false]] as const
  it.each(coolers)('under load with cooler "%s" it warms as predicted, and slows: %s', async (cooler, slows) => {
    const { session, out, facts } = bench(kit(cooler))
    const predicted = evaluate(facts.plan, catalogue).power.heat!
    await session.run(':load on')
    await session.run(':wait 1200')
    const seen = Number(/temp=([\d.]+)/.exec(await out('vcgencmd measure_temp'))![1])
    expect(Math.abs(seen - predicted.points.at(-1)!.temperatureC)).toBeLessThan(3)
    expect(predicted.slowsAtS !== null).toBe(slows)
    expect(await out('vcgencmd get_throttled')).toBe(slows ? 'throttled=0x40004\n' : 'throttled=0x0\n')
  })

  it('a supply that is too weak says so in the throttle word, and still does after the load', async () => {
    const { session, out } = bench(kit('cooler-fins'), 'supply:weak')
    await session.run(':load on')
    await session.run(':wait 30')
    expect(await out('vcgencmd get_throttled')).toBe('throttled=0x10001\n')
    await session.run(':load off')
    expect(await out('vcgencmd get_throttled')).toBe('throttled=0x10000\n')
  })

  it('two ways to shut down leave the card in order; the plug is none, and the next start says so', async () => {
    const { session, out, table } = bench(kit('cooler-fins'))
    for (const way of ['sudo shutdown -h now', 'sudo poweroff']) {
      expect(await out(way)).toContain('The green lamp rests')
      await session.run(':on')
      expect(await out('dmesg')).not.toContain('recovery')
    }
    await session.run(':cut')
    expect((await session.run('uptime')).err).toContain('the power is off')
    await session.run(':on')
    const messages = await out('dmesg')
    expect(messages).toContain('EXT4-fs (mmcblk0p2): recovery complete')
    const told = readPasted(`$ dmesg\n${messages}`, table.probes, null).found.map(({ words }) => words).join('\n')
    expect(told).toContain('A disk was not left in order last time')
    await session.run(':restart')
    expect(await out('dmesg')).not.toContain('recovery')
  })
})

describe('C10, a programming adapter on a desk', () => {
  const desk = (hub: boolean) => {
    const parts = { tool: ['controller-5v-serial', { link: 'usb' }], keys: 'keyboard-usb',
      card: 'card-memory-32' } satisfies Parts
    const plan = planOf('forty-classic', parts, { supply: { type: 'adapter-5v-2a4' } })
    if (!hub) return plan
    const facts = gatherFacts(plan, catalogue)
    return applyEdit(plan, { edit: 'all', edits: ownHub(facts, powerOf(facts).tree)[0]!.edits }).plan
  }

  it('a hub with its own supply takes the load off the board\'s', async () => {
    const drawn = async (plan: Plan) => Number(/: (\d+) mA/.exec(await bench(plan).out(':amps'))![1])
    const [alone, withHub] = [await drawn(desk(false)), await drawn(desk(true))]
    expect(withHub).toBeLessThan(alone)
  })

  it('everything that is plugged in is listed, with its node', async () => {
    const { out } = bench(desk(false))
    expect((await out('lsusb')).match(/Device 00[2-9]/g)).toHaveLength(2)
    expect(await out('ls /dev/ttyACM0')).toBe('/dev/ttyACM0\n')
  })
})

describe('C03, first set-up of an older board', () => {
  it('a bus that the file does not switch on is not there, and is after a restart with the line', async () => {
    const plan = made('early-26', { s: 'pressure-humidity-i2c' })
    const line = plan.boot!.text!.split('\n').find(entry => /^dtparam=i2c/.test(entry))!
    const bus = gatherFacts(plan, catalogue).buses.find(({ kind }) => kind === 'i2c')!.controller!.device!
    const without = bench(plan, `line:${line}`)
    expect(await without.out(`ls ${bus}`)).toBe('')
    expect(await bench(plan).out(`ls ${bus}`)).toBe(`${bus}\n`)
  })

  it('goes from lamps over volts to the login, and shuts down until the green lamp rests', async () => {
    const { session, rows } = bench(made('early-26', { s: 'pressure-humidity-i2c' }))
    const phases = rows.map(({ probe }) => probe.phase)
    expect(phases.indexOf('before power')).toBeLessThan(phases.indexOf('first power'))
    expect(phases.indexOf('first power')).toBeLessThan(phases.indexOf('after the start'))
    expect(session.lamps).toBe('red, and green flickers')
    expect((await session.run('sudo poweroff')).out).toContain('green lamp rests')
    expect((await session.run('uptime')).err).toContain('power is off')
  })
})

describe('C05, desktop tower with screen, strip, fan and button', () => {
  it('the screen answers, the button moves its line, the fan turns when it gets warm', async () => {
    const plan = made('forty-usb-c', { o: 'oled-i2c', f: 'fan-5v', b: 'button-1' })
    const { heat } = plan.power
    const { session, out, lineOf } = bench({ ...plan, power: { ...plan.power, heat: {
      ...heat, fan: { mode: 'threshold', onC: 60, hysteresisC: 10 } } } })
    expect(await out('i2cdetect -y 1')).toMatch(/^30: .* 3c /m)
    const line = lineOf('b.b')
    expect(await out(`gpioget -B pull-up gpiochip0 ${line}`)).toBe('1\n')
    await session.run(':press b.b')
    expect(await out(`gpioget -B pull-up gpiochip0 ${line}`)).toBe('0\n')
    await session.run(':set air 45')
    await session.run(':load on')
    await session.run(':wait 1800')
    expect(await out('cat /sys/class/thermal/cooling_device0/cur_state')).toBe('1\n')
  })
})

describe('C07, ribbon to a breadboard', () => {
  it('a ribbon turned round is found by looking, before anything is fed', () => {
    const plan = made('forty-classic', { r: 'ribbon-breakout-40', s: 'pressure-humidity-i2c' })
    const { table } = bench(plan)
    const turned = table.faults.findIndex(({ id }) => /^seat:.*turned$/.test(id))
    expect(turned).toBeGreaterThanOrEqual(0)
    const odd = table.probes.filter((_, i) => table.seen[turned]![i] !== table.planned[i])
    expect(odd.some(({ phase }) => phase === 'before power')).toBe(true)
  })
})

describe('C08, status screen fed from a source that is too weak', () => {
  it('it runs at rest, and reports under-voltage as soon as it has to work', async () => {
    const { session, out } = bench(made('forty-classic', { o: 'screen-spi-24' }), 'supply:weak')
    expect(await out('vcgencmd get_throttled')).toBe('throttled=0x0\n')
    await session.run(':load on')
    await session.run(':wait 20')
    const word = Number((await out('vcgencmd get_throttled')).trim().split('=')[1])
    expect(word & 0x1_0001).toBe(0x1_0001)
    await session.run(':load off')
    await session.run(':wait 20')
    // It was low once: that stays until the next start.
    expect(Number((await out('vcgencmd get_throttled')).trim().split('=')[1]) & 0x1_0001).toBe(0x1_0000)
  })
})

describe('C11, relays from line numbers', () => {
  it('a line that is set lifts or pulls the input that is wired to it, and no other', async () => {
    const { facts, session, out, lineOf, rows } = bench(made('forty-usb-c', { r: 'relay-board-4' }))
    const ground = facts.board!.header.find(({ kind }) => kind === 'ground')!.position
    const volts = async (key: string) => Number.parseFloat(await out(`:volt ${key} ${ground}`))
    for (const id of ['in1', 'in2', 'in3', 'in4']) await session.run(`gpioset gpiochip0 ${lineOf(`r.${id}`)}=1`)
    await session.run(`gpioset gpiochip0 ${lineOf('r.in2')}=0`)
    expect([await volts('r.in1'), await volts('r.in2'), await volts('r.in3')]).toEqual([3.3, 0, 3.3])
    const works = rows.find(({ probe }) => probe.id === 'works:r')!.probe
    expect([works.how, works.caution])
      .toEqual([expect.stringContaining('click'), expect.stringContaining('licensed electrician')])
  })
})

describe('C13, audio board with screen and buttons', () => {
  it('the card is listed and speaks; without its line there is none', async () => {
    const plan = made('forty-usb-c', { a: 'audio-add-on' })
    const { out, programs } = bench(plan)
    const count = (text: string) => text.match(/^card \d+/gm)?.length ?? 0
    const own = count(await bench(planOf('forty-usb-c', {})).out('aplay -l'))
    expect(count(await out('aplay -l'))).toBe(own + 1)
    const speaks = programs.find(({ partId, aim }) => partId === 'a' && aim === 'show')!
    expect(await out(`cat > p.sh <<'END'\n${speaks.text}\nEND\nsh p.sh`)).toContain('Front Left')
    const dark = bench(plan, 'line:dtoverlay=')
    expect(count(await dark.out('aplay -l'))).toBe(own)
  })
})

describe('C15, receiver stack', () => {
  it('the positioning module speaks sentences whose sum is right', async () => {
    const { session, out } = bench(made('forty-usb-c', { p: 'positioning-serial' }))
    const port = [...session.machine.ports.keys()][0]!
    await session.run(`stty -F ${port} 9600 raw -echo`)
    const sentence = /\$(GPRMC[^*]*)\*([0-9A-F]{2})/.exec(await out(`timeout 3 cat ${port}`))
    // Published: NMEA 0183, the sum of all signs between $ and *.
    expect([...sentence![1]!].reduce((sum, sign) => sum ^ sign.charCodeAt(0), 0))
      .toBe(Number.parseInt(sentence![2]!, 16))
  })
})

describe('C16, I²C sensor', () => {
  const plan = made('forty-classic', { s: 'pressure-humidity-i2c' })

  it('a scan tells which of its two addresses it has; a strap the other way is named', async () => {
    expect(await bench(plan).out('i2cdetect -y 1')).toMatch(/^70: .*76/m)
    const { out, fault, table } = bench(plan, 'strap:s')
    const pasted = readPasted(`$ i2cdetect -y 1\n${await out('i2cdetect -y 1')}`, table.probes, 'i2c1')
    const [seen] = pasted.found.flatMap(entry => entry.kind === 'seen' ? [entry] : [])
    const facts = gatherFacts({ ...plan,
      seen: [{ id: seen!.probe, outcome: seen!.outcome, at: '2026-05-01T10:00:00.000Z' }] }, catalogue)
    expect(runSheetOf(facts).diagnosis.candidates[0]?.faults.map(({ id }) => id)).toEqual([fault!.id])
  })

  it('breath raises the humidity, a floor down the pressure by 0.36 hPa', async () => {
    const { session } = bench(plan)
    const { machine } = session
    const owner = machine.facts.parts[0]!
    const [dry, high] = [machine.quantity(owner, 'humidity'), machine.quantity(owner, 'pressure')]
    await session.run(':breathe s')
    await session.run(':wait 3')
    expect(machine.quantity(owner, 'humidity')).toBeGreaterThan(dry + 20)
    await session.run(`:set height ${machine.surroundings.heightM - 3}`)
    // Published: ISO 2533 / ICAO Doc 7488, 0.36 hPa for three metres near sea level.
    expect(machine.quantity(owner, 'pressure') - high).toBeCloseTo(0.36, 2)
  })

  it('a part that a driver has is UU in the scan, and refuses a plain read', async () => {
    const { out, session } = bench(made('forty-classic', { k: 'clock-cell-i2c' }))
    expect(await out('i2cdetect -y 1')).toMatch(/^60: .*UU/m)
    expect((await session.run('i2cget -y 1 0x68 0')).err).toContain('Device or resource busy')
  })
})

describe('C17, old keyboard, new insides', () => {
  it('joystick and keys are watched; the latch is no program\'s to move', async () => {
    const { session, lineOf, programs } = bench(made('forty-usb-c', { j: 'joystick-contacts', l: 'power-latch' }))
    const line = lineOf('j.fire')
    await session.run(`gpiomon -B pull-up gpiochip0 ${line}`)
    expect((await session.run(':press j.fire')).out).toContain(`FALLING EDGE offset: ${line}`)
    expect(programs.some(({ partId }) => partId === 'j')).toBe(true)
    expect(programs.some(({ partId }) => partId === 'l')).toBe(false)
  })
})
