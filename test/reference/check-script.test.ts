/**
 * The check script under the shells that boards have: Debian's dash and busybox. It ends well, writes nothing, and its
 * report is read whole.
 */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { checkScriptOf } from '../../core/diagnosis/check-script'
import { modelOf } from '../../core/diagnosis/table'
import type { Probe } from '../../core/diagnosis/types'
import { readPasted } from '../../core/diagnosis/pasted/paste'
import { gatherFacts } from '../../core/facts/gather'
import { demoPlans } from '../../demo'
import { catalogue } from '../plans'

const SHELLS = [['/usr/bin/dash', []], ['/usr/bin/busybox', ['sh']]] as const

/** Runs a script in an empty folder with commands of ours before the system's. */
function run([shell, before]: (typeof SHELLS)[number], script: string,
  commands: Readonly<Record<string, string>> = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'check-'))
  try {
    const bin = join(folder, 'bin')
    mkdirSync(bin)
    for (const [name, text] of Object.entries(commands)) writeFileSync(join(bin, name), `#!/bin/sh\n${text}\n`,
      { mode: 0o755 })
    const file = join(folder, 'check.sh')
    writeFileSync(file, script)
    const before_ = readdirSync(folder).sort()
    const { stdout, stderr, status } = spawnSync(shell, [...before, file], {
      encoding: 'utf8', cwd: folder, env: { PATH: `${bin}:/usr/bin:/bin`, HOME: folder },
    })
    expect(readdirSync(folder).sort()).toEqual(before_)
    return { stdout, stderr, status }
  }
  finally {
    rmSync(folder, { recursive: true })
  }
}

describe.skipIf(!SHELLS.every(([shell]) => existsSync(shell)))('the check script', () => {
  it.each(SHELLS)('ends well under %s for every demo, and says what it skips', (...shell) => {
    for (const plan of demoPlans) {
      const { table } = modelOf(gatherFacts(plan, catalogue))
      const { stdout, stderr, status } = run(shell as (typeof SHELLS)[number], checkScriptOf(plan.name, table.probes))
      expect([status, stderr]).toEqual([0, ''])
      expect(stdout).toContain(`# Report on ${plan.name}`)
      expect(stdout).toMatch(/# End of the report, \d+ skipped/)
      const { found, unread } = readPasted(stdout, table.probes, null)
      expect(unread).toBe(0)
      // This machine has none of a board's nodes: each is told missing, and none is passed over.
      const nodes = table.probes.filter(({ id }) => id.startsWith('node:'))
      const told = found.flatMap(entry => entry.kind === 'seen' ? [entry.probe] : [])
      expect(told).toEqual(expect.arrayContaining(nodes.map(({ id }) => id)))
    }
  })

  it.each(SHELLS)('what the board has is read back under %s: nodes, a scan, the throttle word', (...shell) => {
    const probe = (id: string, more: Partial<Probe> = {}): Probe =>
      ({ id, phase: 'after the start', title: id, how: '', minutes: 1, at: {}, ...more })
    const probes = [
      probe('node:/dev/null'), probe('node:/dev/i2c-77'), probe('node:/proc/self/stat*'),
      probe('scan:i2c1', { command: 'i2cdetect -y 1' }),
      probe('load'),
    ]
    const grid = '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n30: -- -- -- -- -- -- -- -- -- -- -- -- 3c -- -- --'
    const { stdout, status } = run(shell as (typeof SHELLS)[number], checkScriptOf('It\'s "a" $name; rm -rf', probes), {
      i2cdetect: `[ "$*" = "-y 1" ] && cat <<'END'\n${grid}\nEND`, vcgencmd: 'echo throttled=0x50000',
    })
    expect(status).toBe(0)
    expect(stdout).toContain('# Report on It\'s "a" $name; rm -rf')
    const { found } = readPasted(stdout, probes, null)
    expect(Object.fromEntries(found.flatMap(entry => entry.kind === 'seen' ? [[entry.probe, entry.outcome]] : [])))
      .toEqual({
        'node:/dev/null': 'it is there', 'node:/dev/i2c-77': 'it is missing', 'node:/proc/self/stat*': 'it is there',
        'scan:i2c1': 'answers at 0x3c', 'load': 'under-voltage, or it starts anew',
      })
  })

  it('writes to nothing but the screen', () => {
    const script = checkScriptOf('plan', [])
    const redirected = [...script.matchAll(/\d?>+\s*([^\s;)]+)/g)].map(match => match[1])
      .filter(target => target !== '/dev/null' && target !== '&1')
    // The one in its own instructions, which the maker types.
    expect(redirected).toEqual(['report.txt,'])
    expect(script).not.toMatch(/\b(?:rm|mv|cp|tee|dd|gpioset|i2cset|modprobe|dtoverlay|mount|kill -9)\b/)
  })
})
