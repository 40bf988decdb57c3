/**
 * What the simulated board prints is what Debian's own programs print: i2c-tools 4.3 and libgpiod 1.6 run on stand-ins
 * for a bus and for lines (`stand-ins/devices.c`), coreutils and dash on the same files in a folder, stty on a terminal
 * of its own.
 */
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gridText, NOT_KNOWN } from '../../core/simulated/commands/i2c'
import { inColumns } from '../../core/simulated/commands/ls'
import { simulatedFiles } from '../../core/simulated/files'
import { Machine } from '../../core/simulated/machine'
import { registersOf } from '../../core/catalogue/chips'
import { openShell } from '../../core/simulated/shell'
import { gatherFacts } from '../../core/facts/gather'
import { demoPlans } from '../../demo'
import { placedPlans } from '../generated'
import { catalogue } from '../plans'
import { random, judgedAtLeast } from '../random'

const PROGRAMS = ['/usr/sbin/i2cdetect', '/usr/bin/gpioinfo', '/usr/bin/gcc', '/usr/bin/dash']
const folder = mkdtempSync(join(tmpdir(), 'stand-in-'))
const library = join(folder, 'devices.so')
afterAll(() => rmSync(folder, { recursive: true }))

/** Runs a program of Debian's on the stand-ins. */
function real(standIn: readonly string[], command: string) {
  const file = join(folder, 'stand-in.txt')
  writeFileSync(file, standIn.join('\n'))
  const [name, ...args] = command.split(' ')
  const { stdout, stderr, status } = spawnSync(name!, args, {
    encoding: 'utf8', env: { LD_PRELOAD: library, STAND_IN: file, PATH: '/usr/sbin:/usr/bin:/bin', LC_ALL: 'C.UTF-8' },
  })
  return { out: stdout, err: stderr, status }
}

const machineOf = (plan: (typeof demoPlans)[number]) => new Machine(gatherFacts(plan, catalogue))

/**
 * What the stand-in has to know of a machine: who answers on the first bus, who is held, and what is in the registers.
 */
async function standInOf(machine: Machine): Promise<string[]> {
  const bus = machine.facts.buses.find(({ controller }) => controller?.device === '/dev/i2c-1')
  const heard = bus ? machine.world.heard(bus) : []
  const grid = (await openShell(machine).run('i2cdetect -y 1')).out
  const chips = Array.isArray(heard) ? heard : []
  const held = new Set(grid.split('\n').slice(1).flatMap(row => [...row.matchAll(/UU/g)]
    .map(({ index }) => Number.parseInt(row.slice(0, 2), 16) + (index - 4) / 3)))
  return chips.flatMap(({ owner, address }) => {
    const registers = registersOf(owner.part.id)
    const bytes = registers?.width === 2
      ? []
      : Array.from({ length: 256 }, (_, at) => registers?.at(at, {
          of: what => machine.quantity(owner, what), now: machine.now, written: () => undefined }) ?? 0)
    return [`${held.has(address) ? 'held' : 'chip'} ${address}`,
      ...bytes.flatMap((value, at) => value ? [`register ${address} ${at} ${value}`] : [])]
  })
}

describe.skipIf(!PROGRAMS.every(path => existsSync(path)))('commands on the simulated board', () => {
  beforeAll(() => {
    execFileSync('gcc', ['-shared', '-fPIC', '-O1', '-o', library, 'test/reference/stand-ins/devices.c', '-ldl'])
  })

  it('a scan of generated buses is printed as i2cdetect prints it', () => {
    const next = random(20261128)
    for (let round = 0; round < 40; round++) {
      const state = new Map(Array.from({ length: 128 },
        (_, at) => [at, next() < 0.15 ? next() < 0.3 ? 'held' : 'chip' : null] as const))
      const standIn = [...state].flatMap(([at, kind]) => kind ? [`${kind} ${at}`] : [])
      const ours = gridText(at => at < 8 || at > 0x77
        ? null
        : state.get(at) === 'held' ? 'UU' : state.get(at) ? at.toString(16).padStart(2, '0') : '--')
      expect(ours).toBe(real(standIn, 'i2cdetect -y 1').out)
    }
  })

  it('buses and registers of plans read as i2c-tools read them, errors too', async () => {
    let compared = 0
    for (const plan of [...demoPlans, ...placedPlans(8, 900, 6)]) {
      const machine = machineOf(plan)
      const standIn = await standInOf(machine)
      if (!standIn.length || standIn.some(line => /register .* [0-6] /.test(line) && /0x?68|104/.test(line))) continue
      const addresses = standIn.flatMap(line => /^(?:chip|held) (\d+)/.exec(line)?.[1] ?? [])
      for (const command of [
        'i2cdetect -y 1', 'i2cdetect -y 1 0x10 0x40', 'i2cdetect -y -a 1', 'i2cget -y 1 0x50 0x00', 'i2cget -y 1',
        'i2cget -y 1 0x99 0',
        ...addresses.flatMap(address =>
          [`i2cget -y 1 ${address} 0xd0`, `i2cget -y 1 ${address} 0x0f`, `i2cdump -y 1 ${address}`]),
      ]) {
        const shown = await openShell(machine).run(command)
        // What this board says of itself no program says.
        const ours = { ...shown, err: shown.err.replace(NOT_KNOWN, '') }
        const theirs = real(standIn, command)
        // Usage is told at length after some errors; the first line is what counts.
        const first = (text: string) => command.startsWith('i2cdump') ? text : text.split('\n')[0]
        expect([command, ours.out, first(ours.err), ours.status])
          .toEqual([command, theirs.out, first(theirs.err), theirs.status])
        compared++
      }
    }
    expect(compared).toBeGreaterThan(judgedAtLeast(40))
  })

  it('lines of plans are listed and read as libgpiod lists and reads them', async () => {
    for (const plan of [...demoPlans, ...placedPlans(4, 700, 6)]) {
      const machine = machineOf(plan)
      const count = Math.max(...machine.facts.board!.lines.map(({ line }) => line)) + 1
      const shell = openShell(machine)
      const used = (await shell.run('gpioinfo')).out.split('\n').flatMap(row =>
        /line +(\d+): +unnamed +"(.*)" +(in|out)put/.exec(row)?.slice(1)
          ? [/line +(\d+): +unnamed +"(.*)" +(in|out)put/.exec(row)!]
          : [])
      const standIn = [
        `lines ${count}`, ...used.map(([, line, name, way]) => `used ${line} ${way} ${name}`),
        ...Array.from({ length: count }, (_, line) => `level ${line} ${machine.level(line)}`),
      ]
      const free = Array.from({ length: count }, (_, line) => line)
        .filter(line => !used.some(([, taken]) => Number(taken) === line))
      for (const command of [
        'gpioinfo gpiochip0', `gpioget gpiochip0 ${free.slice(0, 6).join(' ')}`,
        ...used.slice(0, 1).map(([, line]) => `gpioget gpiochip0 ${line}`),
        'gpioget gpiochip0 99', 'gpioget gpiochip0', 'gpioget', 'gpioset gpiochip0 5', `gpioset gpiochip0 ${free[0]}=1`,
        'gpioget gpiochip0 x',
      ]) {
        const { out, err, status } = await shell.run(command)
        expect([command, { out, err, status }]).toEqual([command, real(standIn, command)])
      }
    }
  })

  it('files are listed, found and read as Debian\'s shell and tools do it', async () => {
    for (const plan of demoPlans) {
      const machine = machineOf(plan)
      const root = mkdtempSync(join(folder, 'root-'))
      for (const [path, { read, link }] of simulatedFiles(machine)) {
        // What the system of this machine has anyway, and what moves while one looks.
        if (/^\/(proc|home)\//.test(path)) continue
        mkdirSync(join(root, dirname(path)), { recursive: true })
        if (link) symlinkSync(link, join(root, path))
        else writeFileSync(join(root, path), read?.() ?? '')
      }
      const shell = openShell(machine)
      // The library puts these there by itself.
      for (const name of ['fd', 'stderr', 'stdin', 'stdout']) writeFileSync(join(root, 'dev', name), '')
      await shell.run('cd /')
      for (const command of [
        'ls dev', 'ls -C dev', 'ls -C -w40 dev', 'ls -C -w58 dev',
        'ls -d dev/i2c-*', 'ls -d dev/nope*', 'ls sys/class', 'ls -a sys/bus', 'ls -d sys/class/*', 'ls -1 etc',
        'ls etc sys/class/net', 'ls dev | grep tty', 'ls dev | wc -l', 'find sys/class -name operstate | sort',
        'find boot -type f | sort',
        'cat boot/firmware/config.txt | grep -c =', 'grep -n dtoverlay boot/firmware/config.txt',
        'head -n 3 boot/firmware/config.txt',
        'tail -n 2 boot/firmware/config.txt', 'cat etc/hostname', 'cat nope', 'cat sys/class/net/*/operstate',
        'wc -c < etc/hostname',
        'for f in sys/class/net/*; do echo "$f: $(cat $f/operstate)"; done', 'test -e dev/i2c-1 && echo yes || echo no',
        'echo $((2 + 3)) "a  b"',
        'sed -n "s/dtparam=//p" boot/firmware/config.txt', 'cut -d= -f1 boot/firmware/config.txt | head -n 3',
      ]) {
        const ours = await shell.run(command)
        const theirs = spawnSync('/usr/bin/dash', ['-c', command.replace('ls -C', 'ls -C -T 0')],
          { encoding: 'utf8', cwd: root, env: { PATH: '/usr/bin:/bin', LC_ALL: 'C.UTF-8' } })
        expect([command, ours.out, ours.err, ours.status])
          .toEqual([command, theirs.stdout, theirs.stderr, theirs.status])
      }
    }
  })

  it('names of every length are put into columns as ls does it', () => {
    const next = random(41)
    for (let round = 0; round < 30; round++) {
      const names = [...new Set(Array.from({ length: 1 + Math.floor(next() * 40) }, () =>
        Array.from({ length: 1 + Math.floor(next() ** 2 * 24) }, () => 'abcdefgh'[Math.floor(next() * 8)])
          .join('')))].sort()
      const at = mkdtempSync(join(folder, 'names-'))
      for (const name of names) writeFileSync(join(at, name), '')
      const width = 20 + Math.floor(next() * 100)
      const { stdout } = spawnSync('ls', ['-C', '-T', '0', `-w${width}`],
        { encoding: 'utf8', cwd: at, env: { PATH: '/usr/bin:/bin', LC_ALL: 'C.UTF-8' } })
      expect([width, inColumns(names, width)]).toEqual([width, stdout])
    }
  })

  it('a port is described as stty describes a terminal', async () => {
    const settings = ['9600', '115200 -echo', 'raw', '57600 raw -echo', 'sane', '-icanon', '-opost -isig', '12345',
      'nonsense']
    const python = `
import os, subprocess, sys
for setting in sys.argv[1:]:
    master, slave = os.openpty()
    name = os.ttyname(slave)
    subprocess.run(['stty', '-F', name, '9600'])
    for words in [setting.split(), [], ['-a'], ['speed']]:
        run = subprocess.run(['stty', '-F', name] + words, capture_output=True, text=True)
        print(run.stdout + run.stderr.replace(name, 'PORT') + '[%d]' % run.returncode)
`
    const theirs = spawnSync('python3', ['-c', python, ...settings],
      { encoding: 'utf8', env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' } })
    expect(theirs.stderr).toBe('')
    let ours = ''
    for (const setting of settings) {
      const shell = openShell(machineOf(demoPlans[0]!))
      for (const words of [setting, '', '-a', 'speed']) {
        const { out, err, status } = await shell.run(`stty -F /dev/serial0 ${words}`)
        ours += `${out}${err}[${status}]\n`
      }
    }
    expect(ours).toBe(theirs.stdout)
  })
})
