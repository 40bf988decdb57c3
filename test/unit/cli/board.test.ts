import { spawnSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { demoPlans } from '../../../demo'

const run = (args: string[], input = '') => {
  const { status, stdout, stderr } = spawnSync('bin/voltaris', args, { encoding: 'utf8', input })
  return { status, stdout, stderr }
}

describe('voltaris board', () => {
  const demo = 'demo/beehive-monitor.json'

  it('runs lines given and lines that come by standard input; ends as the last of them', () => {
    const given = run(['board', demo, '--run', 'i2cdetect -y 1', '--run', ':volt 1 6'])
    expect(given).toMatchObject({ status: 0, stderr: '', stdout: expect.stringMatching(/^60: .*UU[^]*3\.30 V\n$/m) })
    expect(run(['board', demo], 'cat /nope\n'))
      .toMatchObject({ status: 1, stderr: 'cat: /nope: No such file or directory\n' })
    expect(run(['board', demo], 'uptime\nexit\ncat /nope\n').status).toBe(0)
  })

  it('has faults made in it, by name; what it does not know is refused', () => {
    expect(run(['board', demo, '--faults']).stdout).toMatch(/^card\t/m)
    expect(run(['board', demo, '--fault', 'card', '--run', ':lamps']).stdout).toBe('lamps: red alone\n')
    expect(run(['board', demo, '--fault', 'nobody']))
      .toMatchObject({ status: 2, stderr: expect.stringContaining('--faults lists them') })
    expect(run(['board', demo, '--tools', '3'])).toMatchObject({ status: 2 })
    expect(run(['board', demo, '--tools', '2', '--run', 'gpiodetect --version']).stdout).toContain('v2')
    expect(run(['board', '-'], JSON.stringify({ ...demoPlans[0], board: null }))).toMatchObject({ status: 2,
      stderr: expect.stringContaining('no board') })
  })
})
