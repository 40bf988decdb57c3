/**
 * Small programs are run as they are: Debian's python3, gcc and g++ with a stand-in for the kernel
 * (`stand-ins/kernel.c`) whose other end is a simulated board, the shell's on the simulated board itself. They must see
 * what the model says, and fail where it says they fail.
 */
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Change } from '../../core/diagnosis/types'
import { modelOf } from '../../core/diagnosis/table'
import { smallProgramsOf, type SmallProgram } from '../../core/first-programs'
import { recipeOf } from '../../core/catalogue/programs'
import { QUANTITIES } from '../../core/bringup/readings'
import { Machine } from '../../core/simulated/machine'
import { openShell } from '../../core/simulated/shell'
import { gatherFacts } from '../../core/facts/gather'
import type { Plan } from '../../core/plan/types'
import { demoPlans } from '../../demo'
import { lineKeyOf as lineOn } from '../../core/simulated/chips'
import { airOf } from '../../core/catalogue/parts/pressure-spi/chip'
import { placed, placedPlans } from '../generated'
import { catalogue, fixedAt, planOf } from '../plans'
import { KernelStandIn } from './stand-ins/kernel'
import { judgedAtLeast } from '../random'

const PYTHON = '/usr/bin/python3'
const generated = placedPlans(10, 4200, 9)
const plans = [...demoPlans, ...generated]
const programsOf = (machine: Machine) => smallProgramsOf(machine.bench).programs

describe.skipIf(![PYTHON, '/usr/bin/gcc', '/usr/bin/dash', '/usr/bin/g++'].every(path =>
  existsSync(path)))('small programs', () => {
  let kernel: KernelStandIn
  beforeAll(() => {
    kernel = new KernelStandIn()
  })
  afterAll(() => kernel.remove())

  const run = (machine: Machine, program: SmallProgram, ...args: string[]) => program.language === 'c'
    ? kernel.run(machine, kernel.built(program.file, program.text), args)
    : kernel.run(machine, PYTHON, [kernel.file(program.file, program.text), ...args])
  /** A board of a plan with one program of it. */
  const one = (plan: Plan, file: string, changes: Change[] = []) => {
    const machine = new Machine(gatherFacts(plan, catalogue), { changes })
    const program = programsOf(machine).find(entry => entry.file === file)
    if (!program) throw new Error(`${file}: ${programsOf(machine).map(entry => entry.file).join(', ')}`)
    return { machine, program }
  }
  const sensor = (type: string, places: Record<string, number>) =>
    planOf('forty-classic', { s: type }, { assignments: fixedAt(places) })
  const onBus = (type: string) => sensor(type, { 's.vcc': 1, 's.gnd': 9, 's.sda': 3, 's.scl': 5 })

  it('all of them are programs to python3, gcc with all warnings, and dash', () => {
    const python: string[] = []
    for (const plan of plans) for (const { file, text, language } of programsOf(new Machine(gatherFacts(plan,
      catalogue)))) {
      if (language === 'python'
        || language === 'micropython') python.push(kernel.file(`${python.length}-${file}`, text))
      else if (language === 'c') execFileSync('gcc',
        ['-Wall', '-Wextra', '-Werror', '-fsyntax-only', kernel.file(file, text)])
      else if (language === 'shell') execFileSync('/usr/bin/dash', ['-n', kernel.file(file, text)])
    }
    expect(python.length).toBeGreaterThan(judgedAtLeast(40))
    const compile = 'import pathlib, sys\nfor name in sys.argv[1:]: compile(pathlib.Path(name).read_text(), name, "exec")'
    execFileSync(PYTHON, ['-W', 'error', '-c', compile, ...python])
  })

  it('whatever a part is called, its programs are programs, and a shell does nothing that stands in a name', () => {
    const names = [
      'C:\\new\\x1 "quoted" \'single\'', 'ends in a stroke \\', '*/ int main;', '$(touch /tmp/never) `x`', '%s %n',
      '"""',
      '§ ü 漢\u2028y',
    ]
    for (const [nth, name] of names.entries()) {
      const plan = { ...demoPlans[nth % 3]!, name, parts: demoPlans[nth % 3]!.parts.map(part => ({ ...part, name })) }
      for (const { file, text, language } of programsOf(new Machine(gatherFacts(plan, catalogue)))) {
        const path = kernel.file(`name-${file}`, text)
        if (language === 'c') execFileSync('gcc', ['-Wall', '-Wextra', '-Werror', '-fsyntax-only', path])
        else if (language === 'shell') execFileSync('/usr/bin/dash', ['-n', path])
        else if (language === 'cpp') expect(text).not.toMatch(/\\$/m)
        else execFileSync(PYTHON,
          ['-W', 'error', '-c', 'import sys\nwith open(sys.argv[1]) as f: compile(f.read(), "x", "exec")', path])
      }
    }
    expect(existsSync('/tmp/never')).toBe(false)
  })

  it('readings are those of the room, in Python and in C, and follow when the room changes', async () => {
    for (const type of ['pressure-humidity-i2c', 'carbon-dioxide-i2c', 'light-i2c', 'motion-i2c',
      'thermometer-distance-i2c']) {
      for (const language of ['py', 'c']) {
        const { machine, program } = one(onBus(type), `s-read.${language}`)
        const owner = machine.facts.parts[0]!
        machine.surroundings = { ...machine.surroundings, airC: 21 }
        const startS = machine.nowS
        // After what it sleeps through at first.
        machine.later(startS + 6.5, () => {
          machine.surroundings = { ...machine.surroundings, airC: 30.5, humidity: 80, heightM: 1000, lux: 40,
            co2Ppm: 1500 }
        })
        const { out, err, status } = await run(machine, program, '9')
        expect([type, language, err, status]).toEqual([type, language, '', 0])
        const rows = out.trim().split('\n')
        expect(rows).toHaveLength(9)
        for (const what of owner.part.reads!) {
          const value = recipeOf(type)!.values.find(entry => entry.what === what)!
          const figure = (row: string) => Number(new RegExp(`${value.label} (-?[\\d.]+)`).exec(row)![1])
          const { digits } = QUANTITIES[what]
          const step = { 'light': 1, 'carbon-dioxide': 1 }[what as string] ?? 0.06
          const after = machine.quantity(owner, what)
          machine.surroundings = { ...machine.surroundings, airC: 21, humidity: 45, heightM: 120, lux: 300,
            co2Ppm: 600 }
          const before = machine.quantity(owner, what)
          machine.surroundings = { ...machine.surroundings, airC: 30.5, humidity: 80, heightM: 1000, lux: 40,
            co2Ppm: 1500 }
          expect(Math.abs(figure(rows[0]!) - before), `${type} ${what} ${digits}: ${rows[0]}, ${before}`)
            .toBeLessThanOrEqual(step)
          expect(Math.abs(figure(rows.at(-1)!) - after), `${type} ${what}: ${rows.at(-1)}, ${after}`)
            .toBeLessThanOrEqual(step)
        }
      }
    }
  })

  it('the formulas give the air of the sheet for its raw figures', () => {
    // Published: Bosch Sensortec, data sheet BMP280, BST-BMP280-DS001, §3.12: raw 519888 and 415148 are 25.08 °C and
    // 1006.53 hPa.
    const { steps, values } = recipeOf('sensor-add-on-10')!
    const trims = [27504, 26435, -1000, 36477, -10685, 3024, 2855, 140, -7, 15500, -14600, 6000]
    const raw = [415148, 519888].flatMap(value => [value >> 12, value >> 4 & 255, (value & 15) << 4])
    const program = `
import struct
u16le = lambda b, i: struct.unpack_from('<H', b, i)[0]
s16le = lambda b, i: struct.unpack_from('<h', b, i)[0]
k = struct.pack('<H2hH8h', ${trims.join(', ')})
d = bytes([${raw.join(', ')}])
${steps!.map(([name, formula]) => `${name} = ${formula}`).join('\n')}
print(${values.map(({ formula }) => formula).join(', ')})`
    const [celsius, hectopascal] = execFileSync(PYTHON, ['-c', program], { encoding: 'utf8' }).split(' ').map(Number)
    expect(celsius).toBeCloseTo(25.08, 2)
    expect(hectopascal).toBeCloseTo(1006.5327, 2)
  })

  it('lines go on one after the other, nothing else moves, and all rest at the end', async () => {
    for (const [plan, part] of [[demoPlans[1]!, 'points-a'], [demoPlans[1]!, 'bell'],
      [demoPlans[2]!, 'drawer']] as const) {
      for (const language of ['py', 'c']) {
        const { machine, program } = one(plan, `${part}-move.${language}`)
        const lines = machine.facts.terminals.filter(({ owner, place, signal }) =>
          owner.id === part && signal && place?.kind === 'header')
          .map(({ place, signal }) =>
            ({ line: place!.kind === 'header' ? place!.line!.line : -1, rest: signal!.idleLevel === 'high' ? 1 : 0 }))
        const all = machine.facts.board!.header.flatMap(({ line }) => line ?? [])
        const before = new Map(all.map(line => [line, machine.level(line)]))
        const seen: number[][] = []
        for (let nth = 0; nth < lines.length; nth++) machine.later(machine.nowS + nth + 0.5, () => {
          seen.push(lines.flatMap(({ line, rest }, i) => machine.level(line) === rest ? [] : [i]))
        })
        const { out, status } = await run(machine, program)
        expect([status, out.split('\n').length]).toEqual([0, lines.length + 2])
        expect(seen).toEqual(lines.map((_, nth) => [nth]))
        for (const { line, rest } of lines) expect(machine.outputs.get(line)).toBe(rest)
        for (const line of all) if (!lines.some(own => own.line === line)) {
          expect([line, machine.level(line)]).toEqual([line, before.get(line)])
        }
      }
    }
  })

  it('each key that is pressed is told by its name, at its time, and nothing else', async () => {
    for (const language of ['py', 'c']) {
      const { machine, program } = one(demoPlans[1]!, `levers-watch.${language}`)
      const startS = machine.nowS
      for (const [nth, key] of ['levers.b1', 'levers.b3'].entries()) {
        machine.later(startS + 1 + 2 * nth, () => machine.active.add(key))
        machine.later(startS + 2 + 2 * nth, () => machine.active.delete(key))
      }
      const { out, status } = await run(machine, program, '8')
      expect(status).toBe(0)
      expect(out.trim().split('\n').slice(4))
        .toEqual([['B1', 1, 'active'], ['B1', 2, 'at rest'], ['B3', 3, 'active'], ['B3', 4, 'at rest']]
          .map(([name, after, what]) => `${(startS + Number(after)).toFixed(3)} s  ${name} ${what}`))
    }
  })

  it('a weight is weighed, a distance measured, a servo moved, a strip lit', async () => {
    const scale = one(demoPlans[0]!, 'scale-read.py')
    scale.machine.surroundings = { ...scale.machine.surroundings, weightG: 12_500 }
    expect((await run(scale.machine, scale.program)).out).toBe(`figure ${12_500 * 420}, weight 12500.0 g\n`)
    const buffer = one(demoPlans[1]!, 'buffer-read.py')
    buffer.machine.surroundings = { ...buffer.machine.surroundings, distanceMm: 1230 }
    expect((await run(buffer.machine, buffer.program, '2')).out).toBe('distance 1230 mm\n'.repeat(2))
    const servo = one(demoPlans[2]!, 'lean-move.py')
    const duties: (number | undefined)[] = []
    for (const after of [1, 3, 5]) servo.machine.later(servo.machine.nowS + after, () =>
      duties.push(servo.machine.written.get('/sys/class/pwm/pwmchip0/pwm0/duty_cycle')))
    expect((await run(servo.machine, servo.program)).status).toBe(0)
    expect(duties).toEqual([1_000_000, 1_500_000, 2_000_000])
    expect(servo.machine.written.get('/sys/class/pwm/pwmchip0/pwm0/enable')).toBe(0)
    const strip = one(sensor('strip-clocked', { 's.vcc': 2, 's.gnd': 6, 's.ci': 23, 's.di': 19 }), 's-show.py')
    const { sent, status } = await run(strip.machine, strip.program)
    const count = Number(strip.machine.facts.parts[0]!.options.pixels)
    expect([status, sent.length, sent.at(-1)?.bytes.filter(byte => byte !== 0 && byte !== 0xFF)])
      .toEqual([0, 3 * count + 1, []])
    // The first pixel red, dim: frame of its own, then blue, green, red.
    expect(sent[0]?.bytes.slice(0, 12)).toEqual([0, 0, 0, 0, 0xFF, 0, 0, 32, 0xFF, 0, 0, 0])
  })

  it('behind an expander: a relay moves its own line alone, a button is told; with the expander broken there is no chip', async () => {
    for (const expander of ['expander-16-i2c', 'expander-8-i2c', 'expander-16-spi']) {
      const bare = placed(planOf('forty-usb-c', { east: expander }))!
      const names = catalogue.parts.get(expander)!.offers!.map(({ terminals }) => Object.values(terminals)[0])
      const plan: Plan = {
        ...bare, boot: null,
        parts: [...bare.parts, { ...bare.parts[0]!, id: 'r', type: 'relay-board-1', name: 'Lamp', options: {} },
          { ...bare.parts[0]!, id: 'b', type: 'buttons-4', name: 'Keys', options: {} }],
        assignments: { ...bare.assignments, ...fixedAt({
          'r.in1': `east.${names[3]}`, 'r.vcc': 2, 'r.gnd': 9, 'b.gnd': 14, 'b.b1': `east.${names[0]}`,
          'b.b2': `east.${names[5]}`,
          'b.b3': `east.${names[6]}`, 'b.b4': `east.${names[7]}`,
        }) },
      }
      const terminals = new Machine(gatherFacts(plan, catalogue)).facts.terminals.filter(({ place }) =>
        place?.kind === 'terminal')
      expect(terminals.map(({ key }) => key).sort(), expander).toEqual(['b.b1', 'b.b2', 'b.b3', 'b.b4', 'r.in1'])
      for (const language of ['py', 'c']) {
        const relay = one(plan, `r-move.${language}`)
        const chip = relay.machine.lineChips[1]!
        const seen: (0 | 1)[] = []
        for (const after of [0.5, 1.5]) relay.machine.later(relay.machine.nowS + after, () =>
          seen.push(relay.machine.level(lineOn(chip, 3))))
        const moved = await run(relay.machine, relay.program)
        expect([moved.err, moved.status]).toEqual(['', 0])
        expect(moved.out).toContain('line 3, ')
        expect(seen[0]).not.toBe(seen[1])
        expect([...relay.machine.outputs.keys()]).toEqual([lineOn(chip, 3)])
        const keys = one(plan, `b-watch.${language}`)
        const startS = keys.machine.nowS
        keys.machine.later(startS + 1, () => keys.machine.active.add('b.b2'))
        keys.machine.later(startS + 2, () => keys.machine.active.delete('b.b2'))
        const watched = await run(keys.machine, keys.program, '4')
        expect([watched.err, watched.status]).toEqual(['', 0])
        expect(watched.out.trim().split('\n').slice(4).map(row => row.split('  ')[1]))
          .toEqual(['B2 active', 'B2 at rest'])
      }
      if (expander === 'expander-16-spi') continue
      const broken = one(plan, 'r-move.py')
      const dead = new Machine(gatherFacts(plan, catalogue), { changes: [{ change: 'dead', partId: 'east' }] })
      expect(dead.lineChips).toHaveLength(1)
      expect((await run(dead, broken.program)).status).toBe(1)
    }
  })

  const overSpi = (type: string) => placed(planOf('forty-usb-c', { s: type }))!

  it('air over SPI: the readings are those of the room, warm and cold', async () => {
    for (const language of ['py', 'c']) for (const [airC, heightM] of [[21, 120], [-12.5, 900], [43, 0]] as const) {
      const { machine, program } = one(overSpi('pressure-spi'), `s-read.${language}`)
      machine.surroundings = { ...machine.surroundings, airC, heightM }
      const owner = machine.facts.parts[0]!
      const [celsius, hectopascal] = (['temperature', 'pressure'] as const).map(what => machine.quantity(owner, what))
      const { out, err } = await run(machine, program, '2')
      expect(err).toBe('')
      for (const row of out.trim().split('\n')) {
        const [, t, p] = /^temperature (-?[\d.]+) °C, pressure ([\d.]+) hPa$/.exec(row)!
        expect(Math.abs(Number(t) - celsius!), row).toBeLessThanOrEqual(0.06)
        expect(Math.abs(Number(p) - hectopascal!), row).toBeLessThanOrEqual(0.06)
      }
    }
  })

  it('the formulas of the sensor on SPI give the air of its sheet', () => {
    // Published: data sheet MS5611-01BA03, figure 2: D1 9085466 and D2 8569150 are 20.07 °C and 1000.09 hPa.
    const { centi, pascal } = airOf(9085466, 8569150)
    expect(Math.floor(centi)).toBe(2007)
    expect(Math.round(pascal)).toBe(100009)
  })

  it('what is asked over SPI is there, out of its reset; not fed, broken or at another select it is not', async () => {
    for (const type of ['card-reader-spi', 'radio-spi']) for (const language of ['py', 'c']) {
      const there = one(overSpi(type), `s-read.${language}`)
      expect((await run(there.machine, there.program)).out).toMatch(/^it is there: version 0x(92|12)\n$/)
      const dead = one(overSpi(type), `s-read.${language}`, [{ change: 'dead', partId: 's' }])
      const { out, err, status } = await run(dead.machine, dead.program)
      expect([out, status]).toEqual(['', 1])
      expect(err).toContain('reads 0x00: 0x00 and 0xff are wires or supply')
      for (const { id, ways } of there.machine.bench.shop.netlist.conductors.filter(({ partId }) => partId === 's')) {
        if (/irq|dio/.test(id)) continue
        const cut = one(overSpi(type), `s-read.${language}`,
          ways.map((_, way): Change => ({ change: 'open', conductor: id, way })))
        expect((await run(cut.machine, cut.program)).status, id).toBe(1)
      }
    }
  })

  it('screens on SPI get a picture as large as they are, commands with the line for data low', async () => {
    for (const language of ['py', 'c']) {
      const grey = one(overSpi('oled-spi-15'), `s-show.${language}`)
      expect((await run(grey.machine, grey.program)).out).toContain('sixteen steps')
      const sent = grey.machine.bytes.get('s')!
      // Two dots a byte, 128 × 128.
      expect(sent.filter(byte => byte >> 8)).toHaveLength(128 * 128 / 2)
      expect(new Set(sent.filter(byte => byte >> 8)).size).toBe(16)
      expect(sent.filter(byte => !(byte >> 8))[0]).toBe(0xAE)
      const paper = one(overSpi('screen-epaper-29'), `s-show.${language}`)
      const ran = await run(paper.machine, paper.program)
      expect([ran.err, ran.status]).toEqual(['', 0])
      const all = paper.machine.bytes.get('s')!
      // Behind the command for its memory a bit for each dot of 296 × 128.
      const from = all.indexOf(0x24) + 1
      const picture = all.slice(from).slice(0, all.slice(from).findIndex(byte => !(byte >> 8)))
      expect(picture).toHaveLength(296 * 128 / 8)
      expect(picture.filter((byte, i) => i > 15 && byte !== picture[i - 16]).length / 16).toBe(16)
    }
  })

  it('a chain of light modules gets each figure for all of them at once, and is dark at the end', async () => {
    for (const language of ['py', 'c']) {
      const matrix = one(overSpi('matrix-8x8-spi'), `s-show.${language}`)
      const { out, sent } = await run(matrix.machine, matrix.program, '3')
      expect(out).toContain('3 modules')
      expect(sent.every(({ bytes }) => bytes.length === 6 && bytes[0] === bytes[2] && bytes[1] === bytes[5])).toBe(true)
      expect(sent.slice(-8).map(({ bytes }) => bytes.slice(0, 2)))
        .toEqual(Array.from({ length: 8 }, (_, row) => [row + 1, 0]))
    }
  })

  it('the small screen gets a picture of eight rows of 128', async () => {
    const { machine, program } = one(demoPlans[0]!, 'porch-show.py')
    expect((await run(machine, program)).status).toBe(0)
    const bytes = machine.bytes.get('porch')!
    // Control bytes: 0x00 before a command, 0x40 before sixteen of the picture. memory
    const picture: number[] = []
    for (let at = 0; at < bytes.length;) {
      if (bytes[at] === 0x40) picture.push(...bytes.slice(at + 1, at + 17))
      at += bytes[at] === 0x40 ? 17 : 2
    }
    expect(picture).toHaveLength(1024)
    for (let page = 0; page < 8; page++) {
      expect(picture.slice(128 * page, 128 * page + 128).filter(Boolean)).toHaveLength(16 * (page + 1))
    }
  })

  it('a port is proved by itself, and talks at the rate of its part alone', async () => {
    const plan = planOf('forty-classic', { c: 'controller-3v3-serial' }, {
      assignments: fixedAt({ 'c.vcc': 1, 'c.gnd': 9, 'c.tx': 10, 'c.rx': 8 }),
    })
    for (const language of ['py', 'c']) {
      const { machine, program } = one(plan, `c-link.${language}`)
      const { out, status } = await run(machine, program, '5')
      expect([status, out.includes('heard hello'), (out.match(/^count \d+\r?$/gm) ?? []).length >= 4])
        .toEqual([0, true, true])
      const wrong = one(plan, `c-link.${language}`)
      const slow = { ...wrong.program, text: wrong.program.text.replace(/115200|57600|9600/, '19200') }
      expect((await run(wrong.machine, slow, '5')).out).not.toMatch(/count|hello/)
    }
    const talking = one(plan, 'c-loopback.py')
    expect(await run(talking.machine, talking.program))
      .toMatchObject({ status: 1, err: expect.stringContaining('something else is on') })
    const loop = one(demoPlans[2]!, 'labels-loopback.py')
    expect(await run(loop.machine, loop.program))
      .toMatchObject({ status: 1, err: expect.stringContaining('nothing came back') })
    loop.machine.loop([...loop.machine.ports.keys()][0]!, true)
    expect(await run(loop.machine, loop.program))
      .toMatchObject({ status: 0, out: expect.stringContaining('all 256 bytes came back') })
  })

  it('the other end counts and answers as the simulated one does: in C++ and in MicroPython', () => {
    const plan = planOf('forty-classic', { c: 'controller-3v3-serial' }, {
      assignments: fixedAt({ 'c.vcc': 1, 'c.gnd': 9, 'c.tx': 10, 'c.rx': 8 }),
    })
    const programs = programsOf(new Machine(gatherFacts(plan, catalogue)))
    const text = (language: string) => programs.find(entry => entry.language === language)!.text
    const expected = 'count 1\r\ncount 2\r\nheard hello\r\ncount 3\r\n'
    // What such environments bring: the port, and milliseconds since the start; each look takes one of them.
    const cpp = kernel.file('end.cpp', `#include <cstdio>
#include <cstdlib>
unsigned long now = 0;
unsigned long millis() { if (++now > 2500) exit(0); return now; }
struct Port {
  const char *waiting = "hello\\r\\n";
  void begin(unsigned long) {}
  int available() { return now > 1500 && *waiting; }
  char read() { return *waiting++; }
  void print(const char *text) { fputs(text, stdout); }
  void print(unsigned long value) { printf("%lu", value); }
  template <class T> void println(T value) { print(value); fputs("\\r\\n", stdout); }
} Serial;
${text('cpp')}
int main() { setup(); for (;;) loop(); }
`)
    execFileSync('g++', ['-Wall', '-Wextra', '-Werror', '-o', `${cpp}.out`, cpp])
    expect(spawnSync(`${cpp}.out`, { encoding: 'utf8' }).stdout).toBe(expected)
    const python = kernel.file('end.py', `import sys, types, time
now = [0]
def ticks_ms():
    return now[0]
def sleep_ms(ms):
    now[0] += ms
    if now[0] > 2500:
        sys.exit()
time.ticks_ms, time.sleep_ms, time.ticks_diff, time.ticks_add = ticks_ms, sleep_ms, lambda a, b: a - b, lambda a, b: a + b
class UART:
    waiting = b'hello\\r\\n'
    def __init__(self, port, rate, bits, parity, stop): pass
    def write(self, text):
        sys.stdout.buffer.write(text)
    def any(self):
        return len(self.waiting) if now[0] > 1500 else 0
    def read(self):
        text, self.waiting = self.waiting, b''
        return text
sys.modules['machine'] = types.SimpleNamespace(UART=UART)
exec(compile(${JSON.stringify(text('micropython'))}, 'main.py', 'exec'))
`)
    expect(spawnSync(PYTHON, [python], { encoding: 'utf8' })).toMatchObject({ stderr: '', stdout: expected })
  })

  it('readings are served as JSON, a part that is off with its reason', async () => {
    const { machine, program } = one(demoPlans[0]!, 'serve.py')
    machine.plug(machine.facts.parts.find(({ id }) => id === 'air')!, false)
    const { out, status } = await run(machine, program, '--once')
    expect(status).toBe(0)
    const { parts } = JSON.parse(out) as { parts: Record<string, Record<string, unknown>> }
    expect(parts).toMatchObject({ scale: { weight: { value: 0, unit: 'g' } },
      air: { error: expect.stringContaining('121') } })
    expect(Object.keys(parts.brood!)).toHaveLength(4)
  })

  it('a fan goes on at its threshold and off at the lower one; a button held shuts down, a short press does not',
    async () => {
      const plan = planOf('forty-classic', { f: 'fan-4wire-pwm', b: 'button-1' },
        { assignments: fixedAt({ 'f.vcc': 2, 'f.gnd': 6, 'f.pwm': 12, 'b.b': 13, 'b.gnd': 14 }),
          files: {} } as Partial<Plan>)
      const fan = one(plan, 'fan.py')
      fan.machine.surroundings = { ...fan.machine.surroundings, airC: 40 }
      fan.machine.later(fan.machine.nowS + 10, () => fan.machine.load(true))
      fan.machine.later(fan.machine.nowS + 600, () => {
        fan.machine.load(false)
        fan.machine.surroundings = { ...fan.machine.surroundings, airC: 15 }
      })
      const { out } = await run(fan.machine, fan.program, '900')
      expect(out.trim().split('\n').map(row => row.replace(/^\d+ °C: /, ''))).toEqual(['on', 'off'])
      const [on, off] = out.match(/^\d+/gm)!.map(Number)
      expect([on! >= 65 && on! < 70, off! <= 55 && off! > 50]).toEqual([true, true])
      // It ended: the fan runs.
      expect(fan.machine.written.get('/sys/class/pwm/pwmchip0/pwm0/duty_cycle')).toBe(40_000)

      const button = one(plan, 'shutdown.py')
      const startS = button.machine.nowS
      for (const [after, press] of [[1, true], [2, false], [5, true]] as const) button.machine.later(startS + after,
        () => press
          ? button.machine.active.add('b.b')
          : button.machine.active.delete('b.b'))
      const held = await run(button.machine, button.program, '--dry')
      expect(held.out.trim().split('\n').at(-1)).toBe('shutting down')
      expect(button.machine.nowS - startS).toBeGreaterThanOrEqual(7)
    })

  it('with any single fault a program reads its part exactly where the model hears it', async () => {
    let judged = 0
    for (const plan of [demoPlans[0]!, onBus('pressure-humidity-i2c')]) {
      const facts = gatherFacts(plan, catalogue)
      const healthy = new Machine(facts)
      const programs = programsOf(healthy).filter(({ aim, language, partId }) => aim === 'read' && language === 'python'
        && facts.devices.some(({ owner }) => owner.id === partId))
      const { faults } = modelOf(facts).table
      for (const [nth, fault] of faults.entries()) {
        if (nth % 14 !== 4) continue
        const machine = new Machine(facts, { changes: fault.changes, bench: healthy.bench })
        if (!machine.isUp) continue
        for (const program of programs) {
          const owner = facts.parts.find(({ id }) => id === program.partId)!
          const bus = facts.groups.find(group => group.owner === owner && group.kind === 'i2c')!.bus!
          const heard = machine.world.heard(bus)
          // Behind a stuck line everything reads 0, and the part is told by its identity.
          const isHeard = typeof heard !== 'string' && heard.some(entry => entry.owner === owner
            && entry.address === facts.devices.find(device => device.owner === owner)!.address)
          const { status, err } = await run(machine, program)
          const byFile = program.text.includes('/sys/class/rtc')
          const expected = byFile ? machine.devices.some(device => device.owner === owner) : isHeard
          expect([fault.title, program.file, status === 0]).toEqual([fault.title, program.file, expected])
          if (status !== 0) expect(err).toMatch(/\. .*:/)
          judged++
        }
      }
    }
    expect(judged).toBeGreaterThan(12)
  })

  it('the shell\'s run on the simulated board, with either version of the tools for lines', async () => {
    for (const lineTools of [1, 2] as const) for (const plan of lineTools === 1 ? plans : demoPlans) {
      const facts = gatherFacts(plan, catalogue)
      const healthy = new Machine(facts)
      for (const { file, text, language } of programsOf(healthy)) {
        if (language !== 'shell') continue
        const machine = new Machine(facts, { bench: healthy.bench, lineTools })
        const shell = openShell(machine)
        const { err, status } = await shell.run(`cat > p.sh <<'END'\n${text}\nEND\nsh p.sh 2`)
        expect([file, status, err.replace(/^\(.*\)\n/gm, '')]).toEqual([file, 0, ''])
        if (file === 'lean-move.sh') {
          const pulse = (name: string) => machine.written.get(`/sys/class/pwm/pwmchip0/pwm0/${name}`)
          expect([pulse('period'), pulse('duty_cycle'), pulse('enable')]).toEqual([20_000_000, 2_000_000, 0])
        }
      }
    }
  })
})
