import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { demoPlans } from '../../../demo'
import { runCommand } from '../../command'

const demo = 'demo/beehive-monitor.json'
const run = (args: string[]) => runCommand(['first-programs', ...args])
const started = (args: string[], input: string) => {
  const { status, stdout, stderr } = spawnSync('bin/voltaris', ['first-programs', ...args], { encoding: 'utf8', input })
  return { status, stdout, stderr }
}

describe('voltaris first-programs', () => {
  it('lists them with how they start and what must be seen, and those without one with the reason', () => {
    const { status, stdout } = run([demo])
    expect(status).toBe(0)
    expect(stdout).toMatch(/^air-read\.py: Read it\n {2}\$ python3 air-read\.py 10\n {2}A line with temperature/m)
    expect(stdout).toMatch(/^Vent fan: none\. /m)
  })

  it('writes those asked for into a folder', () => {
    const folder = mkdtempSync(join(tmpdir(), 'programs-'))
    expect(run([demo, '--part', 'air', '-o', folder]).status).toBe(0)
    expect(readdirSync(folder).sort()).toEqual(['air-read.c', 'air-read.py', 'air-read.sh'])
    expect(readFileSync(join(folder, 'air-read.py'), 'utf8')).toContain('/dev/i2c-1')
    rmSync(folder, { recursive: true })
  })

  it('ends with 1 where there is none of that kind, with 2 for what it does not know', () => {
    expect(run([demo, '--part', 'vent']).status).toBe(1)
    expect(run([demo, '--part', 'nobody']))
      .toMatchObject({ status: 2, stderr: expect.stringContaining('it has scale, brood') })
    expect(run([demo, '--language', 'nope']))
      .toMatchObject({ status: 2, stderr: expect.stringContaining('python, c, shell') })
    const boardless = JSON.stringify({ ...demoPlans[0], board: null })
    expect(started(['-'], boardless)).toMatchObject({ status: 2, stderr: expect.stringContaining('no board') })
  })
})
