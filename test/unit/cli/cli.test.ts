import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { readPlanText } from '../../../core/plan/read'
import { demoPlans } from '../../../demo'
import { runCommand, type Printed } from '../../command'
import { placed, written } from '../../generated'
import { catalogue, planOf } from '../../plans'

const folder = mkdtempSync(join(tmpdir(), 'voltaris-'))
const fileOf = (name: string, content: unknown) => {
  const path = join(folder, name)
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content))
  return path
}
/** The program itself. */
const started = (args: string[], input = ''): Printed => {
  const { status, stdout, stderr } = spawnSync('bin/voltaris', args, { encoding: 'utf8', input })
  return { status, stdout, stderr }
}
const run = (args: string[], input = '') => input === '' ? runCommand(args) : started(args, input)

describe('the program', () => {
  it.each([
    [], ['--help'], ['check', 'demo/signal-box.json'], ['check', 'demo/not-there.json'],
    ['power', 'demo/beehive-monitor.json'], ['build', 'demo/beehive-monitor.json', '--wires'],
    ['dt', 'base', 'forty-usb-c'], ['boot', 'rehearse', 'demo/tool-library-kiosk.json'],
  ])('prints and ends with what its functions give: %s %s', (...args) => {
    const given = args.filter(word => word !== undefined)
    expect(started(given)).toEqual(runCommand(given))
  })
})

describe('voltaris check', () => {
  it('ends with 0 when nothing stops, 1 when something does, and prints it', () => {
    expect(run(['check', 'demo/beehive-monitor.json']).status).toBe(0)
    const broken = run(['check', 'demo/signal-box.json'])
    expect(broken.status).toBe(1)
    expect(broken.stdout).toContain('stop  level.too-high')
  })

  it('gives the same report as the core, as JSON', () => {
    expect(JSON.parse(run(
      ['check', '-', '--json'], JSON.stringify(demoPlans[2]),
    ).stdout)).toEqual(JSON.parse(JSON.stringify(evaluate(demoPlans[2]!, catalogue))))
  })

  it('checks several plans at once; one that cannot be used keeps none from being checked', () => {
    const none = join(folder, 'not-there.json')
    const fine = run(['check', 'demo/beehive-monitor.json', 'demo/beehive-monitor.json'])
    expect(fine).toMatchObject({ status: 0, stderr: '' })
    expect(fine.stdout).toContain('2 plans, 0 with a stop, 0 unusable')
    expect(run(['check', 'demo/beehive-monitor.json', 'demo/signal-box.json']).status).toBe(1)
    const mixed = run(['check', none, 'demo/signal-box.json', '--json'])
    expect(mixed.status).toBe(2)
    expect(JSON.parse(mixed.stdout)).toMatchObject([
      { file: none, problem: expect.stringContaining('cannot be read') },
      { file: 'demo/signal-box.json', report: { counts: {} } },
    ])
  })

  it('gives from its snapshot what its sources give, twice over', () => {
    const { stdout } = spawnSync(
      process.execPath, ['node_modules/tsx/dist/cli.mjs', 'cli/index.ts', 'check', 'demo/signal-box.json', '--json'],
      { encoding: 'utf8' },
    )
    for (let i = 0; i < 2; i++) expect(started(['check', 'demo/signal-box.json', '--json']).stdout).toBe(stdout)
  })

  it('ends with 2 and says path and expectation for a wrong field', () => {
    const wrong = run(['check',
      fileOf('wrong.json', { ...planOf('forty-classic', {}), assignments: { 'a.sda': { position: 'three' } } })])
    expect(wrong).toMatchObject({ status: 2, stdout: '' })
    expect(wrong.stderr).toMatch(/assignments\["a.sda"\].position: .*must be a number/)
  })

  it('ends with 2 for a file that is not there, a broken one, a wrong option and no command', () => {
    expect(run(['check', join(folder, 'none.json')]).stderr).toContain('cannot be read')
    expect(run(['check', fileOf('broken.json', '{')]).stderr).toContain('not a JSON document')
    for (const args of [
      ['check', join(folder, 'none.json')], ['check', 'demo/signal-box.json', '--no'], ['fly'], [], ['check'],
      ['constructor'],
    ]) {
      expect(run(args).status, args.join(' ')).toBe(2)
    }
  })
})

describe('voltaris power', () => {
  it('gives voltage, current and power at every node in every state and step, as JSON and in words', () => {
    const { status, stdout } = run(['power', 'demo/beehive-monitor.json', '--json'])
    expect(status).toBe(0)
    const power = JSON.parse(stdout)
    expect(power.states.map((state: { id: string }) => state.id)).toEqual([
      'idle', 'typical', 'peak', 'start', 'rest', 'weigh', 'send', 'noon',
    ])
    for (const state of power.states) {
      for (const node of power.nodes) {
        for (const figure of ['voltageV', 'currentMa',
          'powerMw']) expect(typeof state.nodes[node.id][figure]).toBe('number')
      }
    }
    expect(run(['power', 'demo/beehive-monitor.json']).stdout).toMatch(/@5V +4\.\d+ V +\d+\.\d mA/)
  })

  it('ends with 1 when the supply has a stop, with 2 for what cannot be used', () => {
    expect(run(['power', 'demo/signal-box.json']).status).toBe(1)
    expect(run([
      'power', fileOf('bad.json',
        { ...planOf('forty-classic', {}), power: { nodes: [{ id: '9', type: 'x', name: '' }] } }),
    ])).toMatchObject({ status: 2, stderr: expect.stringContaining('power.nodes[0].id') })
  })
})

describe('voltaris diagnose', () => {
  const demo = 'demo/beehive-monitor.json'

  it('ends with 1 and says what explains what was seen, with what mends it; with 0 when all is as planned', () => {
    const found = run(['diagnose', demo])
    expect(found).toMatchObject({ status: 1, stderr: '' })
    expect(found.stdout).toContain('It is:\n  Air in the lid is strapped to 0x77, not 0x76')
    expect(found.stdout).toContain('To mend it: Set its strap to 0x76')
    expect(run(['diagnose', demo, '--seen', 'scan:i2c1=answers at 0x3c, 0x68, 0x76'])).toMatchObject({
      status: 0, stdout: 'Nothing odd was seen.\n',
    })
  })

  it('takes what was seen and figures, and gives the sheet, the script and JSON', () => {
    const next = run(['diagnose', demo, '--seen', 'scan:i2c1=answers at 0x68, 0x76', '--seen', 'volt:porch.vcc=0.1'])
    // The demo's own sighting, that the screen works, is older than these.
    expect(next.stdout)
      .toContain('Or one of these is old or misread; without it a single fault does, or none:\n  Porch screen does')
    const now = ['scan:i2c1=answers at 0x68, 0x76', 'volt:porch.vcc=0.1', 'works:porch=nothing'].flatMap(seen =>
      ['--seen', seen])
    expect(run(['diagnose', demo, ...now]).stdout).toMatch(/It may be:\n {2}\d+ %.*VCC[\s\S]*Try next: /)
    expect(run(['diagnose', demo, '--sheet']).stdout).toMatch(/BEFORE POWER\n\[x\] ohm:5V[\s\S]*\[!\] scan:i2c1/)
    expect(run(['diagnose', demo, '--script']).stdout).toMatch(/^#!\/bin\/sh\n/)
    const { rows, diagnosis } = JSON.parse(run(['diagnose', demo, '--json']).stdout)
    expect([rows.length > 100, diagnosis.candidates.length]).toEqual([true, 1])
  })

  it('ends with 2 for a probe or a sighting that there is not', () => {
    const said = run(['diagnose', demo, '--say', 'The porch screen stays dark. Hello there'])
    expect(said.stdout)
      .toMatch(/^"The porch screen stays dark": Porch screen does what it is for: nothing\n"Hello there": says nothing here/)
    expect(said.status).toBe(1)
    expect(run(['diagnose', demo, '--say', 'hello there'])).toMatchObject({ status: 2, stdout: '' })
    const none = run(['diagnose', demo, '--seen', 'volt:nobody=3'])
    expect([none.status, none.stderr]).toEqual([2, expect.stringContaining('names no probe')])
    const other = run(['diagnose', demo, '--seen', 'lamps=blue'])
    expect([other.status, other.stderr])
      .toEqual([2, expect.stringContaining('It knows: red, and green flickers | none')])
  })
})

describe('voltaris program', () => {
  const plan = 'demo/beehive-monitor.json'
  const code = fileOf('hive.py',
    'import line_io as io\nio.setmode(io.BCM)\nSCALE_SCK = 13\nVENT_FAN = 24\nio.setup(SCALE_SCK, io.OUT)\nio.setup(VENT_FAN, io.OUT)\n')

  it('ends with 1 when something contradicts the plan, says where and why, and writes it put right', () => {
    const out = join(folder, 'right.py')
    const { status, stdout } = run(['program', plan, code, '-o', out])
    expect(status).toBe(1)
    expect(stdout).toContain('since line 2: it is set to count by line')
    expect(stdout).toContain(`${code}:3: contradicts: SCALE_SCK 13 → 6`)
    expect(stdout).toContain('1 agree, 1 contradict, 0 not told; 1 put right')
    expect(readFileSync(out, 'utf8')).toBe(readFileSync(code, 'utf8').replace('= 13', '= 6'))
    expect(run(['program', plan, out]).status).toBe(0)
  })

  it('gives all of it as JSON, and the plan as constants', () => {
    const { reading, held } = JSON.parse(run(['program', plan, code,
      '--json']).stdout) as { reading: { language: string }
      held: { verdict: string }[] }
    expect(reading.language).toBe('python')
    expect(held.map(({ verdict }) => verdict)).toEqual(['contradicts', 'agrees'])
    expect(run(['program', plan, code, '--constants']).stdout).toContain('HIVE_SCALE_SCK_PIN = 6  # position 31, G6')
  })

  it('takes what the maker says of it, and refuses what is none', () => {
    expect(run(['program', plan, code, '--numbering', 'header']).stdout).toContain('pins by header position')
    expect(run(['program', plan, code, '--numbering', 'backwards'])).toMatchObject({ status: 2, stdout: '' })
    expect(run(['program', plan, join(folder, 'not-there.py')]).status).toBe(2)
    expect(run(['program', plan]).status).toBe(2)
  })
})

describe('voltaris begin', () => {
  it('writes a plan that can be used, and says what it left out', () => {
    const table = fileOf('table.csv', 'Signal,GPIO\nDC,24\nRST,25\nBacklight,18\nWhatever,5\n')
    const out = join(folder, 'begun.json')
    const { status, stderr } = run(['begin', table, '--board', 'forty-usb-c', '--supply', 'adapter-5v-3a', '-o', out])
    expect(status).toBe(0)
    expect(stderr).toContain(`${table}:5: 5 is left out: what hangs on G5 is not told by its name`)
    const read = readPlanText(readFileSync(out, 'utf8'))
    expect(read.ok && read.plan.parts.map(({ type }) => type)).toEqual(['screen-spi-24'])
    expect(run(['check', out]).status).toBe(0)
  })

  it('wants a board that there is, and ends with 1 when nothing could be told', () => {
    const nothing = fileOf('nothing.py', 'print("hello")\n')
    expect(run(['begin', nothing, '--board', 'nobody'])).toMatchObject({ status: 2, stdout: '' })
    expect(run(['begin', nothing, '--board', 'forty-usb-c']).status).toBe(1)
  })
})

describe('voltaris files', () => {
  it('prints every small file with where it goes, and writes them with a script', () => {
    const out = join(folder, 'files')
    const { status, stdout } = run(['files', 'demo/tool-library-kiosk.json', '-o', out])
    expect(status).toBe(0)
    expect(stdout).toContain('# /etc/systemd/system/lending-desk.service  (root, 0644; then: systemctl daemon-reload')
    expect(readFileSync(join(out, 'etc/systemd/system/lending-desk.service'), 'utf8')).toContain('User=librarian')
    expect(readFileSync(join(out, 'home/librarian/.config/autostart/front-page.desktop'), 'utf8'))
      .toContain('http://localhost:8080/')
    expect(readFileSync(join(out, 'apply.sh'), 'utf8')).toMatch(/^#!\/bin\/sh\n/)
  })

  it('says when nothing is said of the board, and ends with 1 for an address that is none', () => {
    expect(run(['files', 'demo/signal-box.json'])).toMatchObject({ status: 0 })
    const plan = planOf('forty-usb-c', {})
    const off = { ...plan, host: { ...plan.host, address: { interface: 'eth0', address: '192.168.7.255/24' } } }
    const { status, stderr } = run(['files', fileOf('off.json', off)])
    expect(status).toBe(1)
    expect(stderr).toContain('stop: 192.168.7.255 is no address for one board')
    expect(run(['files', fileOf('worse.json', { ...plan, host: { ...plan.host, address: { interface: 'eth0',
      address: 'here' } } })]).status).toBe(2)
  })
})

describe('voltaris choose', () => {
  it('tries every board, the best first, with what each wants and what it costs', () => {
    const result = run(['choose', fileOf('which.json', planOf('forty-classic', { a: 'oled-i2c' }))])
    expect(result.status).toBe(0)
    expect(result.stdout.match(/^(carries|stops|no room)/gm)).toHaveLength(5)
    expect(result.stdout)
      .toMatch(/carries {2}Tiny board[^\n]*\n(?: {9}[^\n]*\n)* {9}wants Header, two rows of twenty pins, about 2\n/)
  })

  it('ends with 1 where no board carries it, and gives all of it as JSON', () => {
    const parts = Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`b${i}`, 'buttons-4']))
    const result = run(['choose', fileOf('much.json', planOf('forty-classic', parts)), '--json'])
    expect(result.status).toBe(1)
    const trials = JSON.parse(result.stdout) as { carries: boolean, placed: boolean, against: string[] }[]
    expect(trials.every(({ carries, placed }) => !carries && !placed)).toBe(true)
    expect(trials[0]!.against.length).toBeGreaterThan(0)
  })
})

describe('voltaris place', () => {
  it('places everything, prints the cost, and writes a plan that reads', () => {
    const target = join(folder, 'placed.json')
    const result = run(['place', fileOf('p.json', planOf('forty-classic', { a: 'oled-i2c' })), '--write', target])
    expect(result.status).toBe(0)
    expect(result.stdout).toMatch(/a\.sda +3\n/)
    const read = readPlanText(readFileSync(target, 'utf8'))
    expect(read.ok && read.plan.assignments['a.scl']).toEqual({ position: 5 })
  })

  it('ends with 1 and names what cannot be met together', () => {
    const result = run(['place',
      fileOf('two.json', planOf('forty-classic', { a: 'label-printer-serial', b: 'positioning-serial' }))])
    expect(result.status).toBe(1)
    expect(result.stdout).toContain('a: serial; b: serial')
  })

  it('prints straps and software buses, and writes them into the plan', () => {
    const target = join(folder, 'strapped.json')
    const result = run([
      'place', fileOf('straps.json',
        planOf('forty-classic', { a: 'expander-8-i2c', b: 'expander-8-i2c', c: 'light-i2c', d: 'light-i2c' })),
      '--write', target,
    ])
    expect(result.status).toBe(0)
    expect(result.stdout).toMatch(/strap [ab]: address 0x21/)
    expect(result.stdout).toMatch(/software bus i2c-soft-1: SDA \d+, SCL \d+/)
    const read = readPlanText(readFileSync(target, 'utf8'))
    expect(read.ok && read.plan.softwareBuses).toHaveLength(1)
    expect(read.ok && read.plan.parts.filter(part => part.options?.address === '0x21')).toHaveLength(1)
    expect(run(['check', target]).stdout).not.toContain('address.clash')
  })

  it('names the ways out of a conflict', () => {
    const result = run(['place',
      fileOf('ways.json', planOf('forty-classic', { a: 'label-printer-serial', b: 'controller-5v-serial' }))])
    expect(result.status).toBe(1)
    expect(result.stdout).toContain('way out: Join b by USB cable')
  })

  it('checks and places a plan that brings its own board and parts', () => {
    const part = { ...catalogue.parts.get('led-plain')!, id: 'own-lamp', name: 'Lamp of the shed' }
    const board = { ...catalogue.boards.get('early-26')!, id: 'own-board', name: 'Board of the shed' }
    const plan = planOf('own-board', { lamp: 'own-lamp' }, { own: { boards: [board], parts: [part] } })
    expect(run(['place', fileOf('own.json', plan)]).stdout).toMatch(/lamp\.a +\d+\n/)
    const wrong = run([
      'check', fileOf('own-wrong.json',
        { ...plan, own: { boards: [board], parts: [{ ...part, signals: [{ id: 'a' }] }] } }),
    ])
    expect(wrong.status).toBe(2)
    expect(wrong.stderr).toContain('own.parts[0].signals[0].label')
  })
})

describe('voltaris boot', () => {
  const FAULTY = 'max_framebuffer=2\ndtparam=i2c_arm=on\n'

  it('lints a file: 0 when there is nothing to mend, 1 when there is, with line, code and fix', () => {
    const file = fileOf('config.txt', FAULTY)
    const found = run(['boot', 'lint', file, '--board', 'forty-usb-c'])
    expect(found.status).toBe(1)
    expect(found.stdout).toContain('config.txt:1: caution  boot.key-unknown')
    expect(found.stdout).toContain('fix: Write max_framebuffers')
    expect(run(['boot', 'lint', '-'], 'dtparam=i2c_arm=on\n').status).toBe(0)
    expect(JSON.parse(run(['boot', 'lint', file, '--json']).stdout)).toMatchObject({
      dialect: 'key-value', findings: [{ code: 'boot.key-unknown', line: 1, from: 0, to: 15 }],
    })
    expect(JSON.parse(run([
      'boot', 'lint', fileOf('extlinux.conf', 'label a\n linux /x\n'), '--json',
    ]).stdout)).toMatchObject({ dialect: 'extlinux', findings: [] })
  })

  it('ends with 2 for a file that is not there, a blob, an unknown board and no verb', () => {
    for (const args of [
      ['boot', 'lint', 'nowhere.txt'], ['boot', 'lint', fileOf('c.txt', FAULTY), '--board', 'dream'], ['boot'],
      ['boot', 'dance', 'x'],
      ['boot', 'write', fileOf('w.json', planOf('forty-usb-c', {})), '--into', 'nowhere.txt'],
      ['boot', 'write', fileOf('n.json', planOf(null, {}))],
    ]) {
      const { status, stderr } = run(args)
      expect([args.join(' '), status, stderr.length > 10]).toEqual([args.join(' '), 2, true])
    }
    const blob = fileOf('b.dtb', '')
    writeFileSync(blob, Buffer.from([0xD0, 0x0D, 0xFE, 0xED, 0, 0]))
    expect(run(['boot', 'lint', blob])).toMatchObject({ status: 2, stderr: expect.stringContaining('blob') })
  })

  it('writes the plan\'s lines into a file, prints it and keeps the old one', () => {
    const plan = fileOf(
      'plan.json',
      planOf('forty-usb-c', { clock: 'clock-cell-i2c' },
        { assignments: { 'clock.sda': { position: 3 }, 'clock.scl': { position: 5 } } }),
    )
    const file = fileOf('mine.txt', '# mine\r\ngpu_mem=64\r\n')
    const done = run(['boot', 'write', plan, '--into', file])
    expect(done.status).toBe(0)
    expect(done.stdout.startsWith('# mine\r\ngpu_mem=64\r\n')).toBe(true)
    expect(done.stdout).toContain('dtoverlay=i2c-rtc,ds3231')
    expect(readFileSync(file, 'utf8')).toBe(done.stdout)
    expect(readFileSync(`${file}.before`, 'utf8')).toBe('# mine\r\ngpu_mem=64\r\n')
    writeFileSync(file, done.stdout.replace('i2c-rtc,ds3231', 'i2c-rtc,ds1307'))
    const kept = run(['boot', 'write', plan, '--into', file])
    expect(kept.status).toBe(1)
    expect(kept.stderr).toContain('changed by hand')
    expect(kept.stdout).toContain('ds1307')
    expect(run(['boot', 'write', plan]).stdout).toContain('dtoverlay=i2c-rtc,ds3231')
  })

  it('rehearses: 1 while a part stays dark, with the line that is missing', () => {
    expect(run(['boot', 'rehearse', 'demo/beehive-monitor.json']).status).toBe(0)
    const dark = run(['boot', 'rehearse', 'demo/tool-library-kiosk.json'])
    expect(dark.status).toBe(1)
    expect(dark.stdout).toMatch(/dark +Voice: The line dtparam=i2c_arm=on is missing/)
  })
})

describe('voltaris dt board, base and overlay', () => {
  it('reads a board from a blob, with and without a table of positions', () => {
    const blob = join(folder, 'base.dtb')
    expect(run(['dt', 'base', 'forty-usb-c', '-o', blob]).status).toBe(0)
    const words = run(['dt', 'board', blob])
    expect(words.status).toBe(0)
    expect(words.stdout).toContain('labels that overlays can name')
    expect(words.stdout).toMatch(/i2c +disabled i2c1 +\/soc\/i2c@7e804000 {2}\/dev\/i2c-1 {2}gpio2 gpio3/)
    const board = JSON.parse(run(['dt', 'board', blob, '--positions',
      fileOf('p.txt', '1 3V3\n3 gpio2\n5 gpio3\n6 GND\n')]).stdout)
    expect(board.controllers).toMatchObject([{ id: 'i2c1', routes: [{ lines: { sda: 2, scl: 3 } }] }])
    expect(run([
      'dt', 'board', blob, '--positions', fileOf('q.txt', '1 what\n'),
    ])).toMatchObject({ status: 2, stderr: expect.stringContaining('q.txt:1') })
    expect(run(['dt', 'board', fileOf('not.dtb', 'no blob')]).status).toBe(2)
    expect(run(['dt', 'base', 'dream']).status).toBe(2)
  })

  it('makes overlays for the parts of a plan: 1 where one cannot be made', () => {
    const made = run(['dt', 'overlay', 'demo/beehive-monitor.json', '--part', 'scale'])
    expect(made.status).toBe(0)
    expect(made.stdout).toContain('compatible = "avia,hx711";')
    expect(run(['dt', 'compile', fileOf('scale.dts', made.stdout), '-o', join(folder, 'scale.dtbo')]).status).toBe(0)
    expect(run([
      'dt', 'overlay', fileOf('loose.json', planOf('forty-usb-c', { led: 'led-plain' })),
    ])).toMatchObject({ status: 1, stderr: expect.stringContaining('no line of the header') })
    expect(run(['dt', 'overlay', 'demo/beehive-monitor.json', '--part', 'nobody']).status).toBe(2)
  })
})

describe('voltaris build', () => {
  it('prints both lists as Markdown, one of them as CSV, all of it as JSON', () => {
    const report = evaluate(demoPlans[0]!, catalogue)
    const text = run(['build', 'demo/beehive-monitor.json'])
    expect(text.stdout).toContain('## Wire list, in the order of connecting')
    expect(text.stdout.split('\n')
      .filter(line => /^\| \d+ \| (wire|lead|plug|flat cable|seat) /.test(line))).toHaveLength(report.wires.length)
    const csv = run(['build', 'demo/beehive-monitor.json', '--wires'])
    expect(csv.stdout.trimEnd().split('\r\n')).toHaveLength(report.wires.length + 1)
    expect(run(['build', 'demo/beehive-monitor.json', '--parts']).stdout.trimEnd().split('\r\n'))
      .toHaveLength(report.partsList.length + 1)
    expect(JSON.parse(run(['build', 'demo/beehive-monitor.json', '--json']).stdout)).toMatchObject({
      wires: JSON.parse(JSON.stringify(report.wires)), partsList: JSON.parse(JSON.stringify(report.partsList)),
    })
  })

  it('ends with 2 where two forms are asked at once', () => {
    expect(run([
      'build', 'demo/beehive-monitor.json', '--wires', '--parts',
    ])).toMatchObject({ status: 2, stderr: expect.stringContaining('one of') })
  })
})

describe('one judgement at every door', () => {
  const link = placed(planOf(
    'forty-usb-c', { gps: 'positioning-serial' },
    { supply: { type: 'adapter-5v-3a' },
      assignments: { 'gps.tx': { position: 29, fixed: true }, 'gps.rx': { position: 7, fixed: true } } },
  ))!

  it('a console on the part\'s own port stops the plan, not only its file', () => {
    const plan = written(link)
    expect(plan.boot!.text).toContain('dtoverlay=uart3')
    expect(run(['check', fileOf('quiet.json', plan)]).status).toBe(0)
    const noisy = { ...plan,
      boot: { ...plan.boot!, commandLine: 'console=ttyAMA3,115200 console=tty1 root=/dev/mmcblk0p2' } }
    const checked = run(['check', fileOf('noisy.json', noisy)])
    expect(checked.status).toBe(1)
    expect(checked.stdout).toContain('stop  serial.console')
  })

  it('four servos on the board with four channels each have a line of the boot file', () => {
    const plan = written(placed(planOf('forty-io-bridge',
      { a: 'servo-small', b: 'servo-small', c: 'servo-small', d: 'servo-small' }))!)
    for (const id of ['a', 'b', 'c', 'd']) {
      const { position } = plan.assignments[`${id}.pulse`]!
      const { line } = catalogue.boards.get('forty-io-bridge')!.header.find(entry => entry.position === position)!
      expect(plan.boot!.text, id).toMatch(new RegExp(`^(gpio=${line}=a\\d|dtoverlay=pwm.*pin2?=${line}\\b)`, 'm'))
    }
    expect(evaluate(plan, catalogue).findings.filter(finding =>
      /^(pwm|boot|overlay|bus)\./.test(finding.code) && finding.severity !== 'note')).toEqual([])
  })
})
