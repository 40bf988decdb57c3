import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { readPlanText } from '../../../core/plan/read'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'

const folder = mkdtempSync(join(tmpdir(), 'voltaris-'))
const fileOf = (name: string, content: unknown) => {
  const path = join(folder, name)
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content))
  return path
}
const run = (args: string[], input = '') => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'cli/index.ts', ...args], { encoding: 'utf8', input })
  return { status, stdout, stderr }
}

describe('voltaris check', () => {
  it('ends with 0 when nothing stops, 1 when something does, and prints it', () => {
    expect(run(['check', 'demo/beehive-monitor.json']).status).toBe(0)
    const broken = run(['check', 'demo/signal-box.json'])
    expect(broken.status).toBe(1)
    expect(broken.stdout).toContain('stop  level.too-high')
  })

  it('gives the same report as the core, as JSON', () => {
    expect(JSON.parse(run(['check', '-', '--json'], JSON.stringify(demoPlans[2])).stdout)).toEqual(JSON.parse(JSON.stringify(evaluate(demoPlans[2]!, catalogue))))
  })

  it('ends with 2 and says path and expectation for a wrong field', () => {
    const wrong = run(['check', fileOf('wrong.json', { ...planOf('forty-classic', {}), assignments: { 'a.sda': { position: 'three' } } })])
    expect(wrong).toMatchObject({ status: 2, stdout: '' })
    expect(wrong.stderr).toMatch(/assignments\["a.sda"\].position: .*must be a number/)
  })

  it('ends with 2 for a file that is not there, a broken one, a wrong option and no command', () => {
    expect(run(['check', join(folder, 'none.json')]).stderr).toContain('cannot be read')
    expect(run(['check', fileOf('broken.json', '{')]).stderr).toContain('not a JSON document')
    for (const args of [['check', join(folder, 'none.json')], ['check', 'demo/signal-box.json', '--no'], ['fly'], [], ['check'], ['constructor']]) expect(run(args).status, args.join(' ')).toBe(2)
  })
})

describe('voltaris power', () => {
  it('gives voltage, current and power at every node in every state and step, as JSON and in words', () => {
    const { status, stdout } = run(['power', 'demo/beehive-monitor.json', '--json'])
    expect(status).toBe(0)
    const power = JSON.parse(stdout)
    expect(power.states.map((state: { id: string }) => state.id)).toEqual(['idle', 'typical', 'peak', 'start', 'rest', 'weigh', 'send', 'noon'])
    for (const state of power.states) for (const node of power.nodes) for (const figure of ['voltageV', 'currentMa', 'powerMw']) expect(typeof state.nodes[node.id][figure]).toBe('number')
    expect(run(['power', 'demo/beehive-monitor.json']).stdout).toMatch(/@5V +4\.\d+ V +\d+\.\d mA/)
  })

  it('ends with 1 when the supply has a stop, with 2 for what cannot be used', () => {
    expect(run(['power', 'demo/signal-box.json']).status).toBe(1)
    expect(run(['power', fileOf('bad.json', { ...planOf('forty-classic', {}), power: { nodes: [{ id: '9', type: 'x', name: '' }] } })])).toMatchObject({ status: 2, stderr: expect.stringContaining('power.nodes[0].id') })
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
    const result = run(['place', fileOf('two.json', planOf('forty-classic', { a: 'label-printer-serial', b: 'positioning-serial' }))])
    expect(result.status).toBe(1)
    expect(result.stdout).toContain('a: serial; b: serial')
  })

  it('prints straps and software buses, and writes them into the plan', () => {
    const target = join(folder, 'strapped.json')
    const result = run(['place', fileOf('straps.json', planOf('forty-classic', { a: 'expander-8-i2c', b: 'expander-8-i2c', c: 'light-i2c', d: 'light-i2c' })), '--write', target])
    expect(result.status).toBe(0)
    expect(result.stdout).toMatch(/strap [ab]: address 0x21/)
    expect(result.stdout).toMatch(/software bus i2c-soft-1: SDA \d+, SCL \d+/)
    const read = readPlanText(readFileSync(target, 'utf8'))
    expect(read.ok && read.plan.softwareBuses).toHaveLength(1)
    expect(read.ok && read.plan.parts.filter(part => part.options?.address === '0x21')).toHaveLength(1)
    expect(run(['check', target]).stdout).not.toContain('address.clash')
  })

  it('names the ways out of a conflict', () => {
    const result = run(['place', fileOf('ways.json', planOf('forty-classic', { a: 'label-printer-serial', b: 'controller-5v-serial' }))])
    expect(result.status).toBe(1)
    expect(result.stdout).toContain('way out: Join b by USB cable')
  })

  it('checks and places a plan that brings its own board and parts', () => {
    const part = { ...catalogue.parts.get('led-plain')!, id: 'own-lamp', name: 'Lamp of the shed' }
    const board = { ...catalogue.boards.get('early-26')!, id: 'own-board', name: 'Board of the shed' }
    const plan = planOf('own-board', { lamp: 'own-lamp' }, { own: { boards: [board], parts: [part] } })
    expect(run(['place', fileOf('own.json', plan)]).stdout).toMatch(/lamp\.a +\d+\n/)
    const wrong = run(['check', fileOf('own-wrong.json', { ...plan, own: { boards: [board], parts: [{ ...part, signals: [{ id: 'a' }] }] } })])
    expect(wrong.status).toBe(2)
    expect(wrong.stderr).toContain('own.parts[0].signals[0].label')
  })
})
