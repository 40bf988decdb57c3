/** Lines that a `gpio` setting names, and what the files drive against a part. */
import { describe, expect, it } from 'vitest'
import { lintBoot, planSide } from '../../../core/boot/lint'
import { linesSet } from '../../../core/boot/lint/contention'
import { gatherFacts } from '../../../core/facts/gather'
import { tableOf } from '../../../core/collections/table'
import type { Between } from '../../../core/plan/types'
import { catalogue, planOf } from '../../plans'

describe('lines of a setting', () => {
  it.each([
    ['17=op,dh', [17], ['op', 'dh']],
    ['4-6,12=op', [4, 5, 6, 12], ['op']],
    [' 7-8 = ip , pu', [7, 8], ['ip', 'pu']],
    ['9', [9], ['']],
    ['x,-3,5-=op', [], ['op']],
    ['9-4=op', [], ['op']],
    ['', [], ['']],
  ])('%s', (value, lines, words) => {
    expect(linesSet(value)).toEqual({ lines, words })
  })

  it('a stretch without an end in sight is cut', () => {
    expect(linesSet('0-4000000000=op').lines).toHaveLength(64)
  })
})

describe('what drives against the file', () => {
  const codes = (type: string, terminal: string, between?: Between) => {
    const plan = planOf(
      'forty-classic', { p: type },
      { assignments: { [`p.${terminal}`]: { position: 11 } },
        ...between && { between: { [`p.${terminal}`]: between } } },
    )
    return lintBoot({
      files: { dialect: 'key-value', text: 'gpio=17=op,dl\n' }, board: catalogue.boards.get('forty-classic')!,
      plan: planSide(gatherFacts(plan, catalogue)),
    }).map(finding => finding.code)
  }

  it('a push-pull output does, straight or through a shifter, and not through a divider', () => {
    expect(codes('distance-echo-5v', 'echo')).toContain('contention.line-set')
    expect(codes('distance-echo-5v', 'echo', { kind: 'level-shifter', fit: 'push-pull' }))
      .toContain('contention.line-set')
    expect(codes('distance-echo-5v', 'echo',
      { kind: 'divider', upperOhm: 1800, lowerOhm: 3300 })).not.toContain('contention.line-set')
  })

  it('an input does not, nor what only pulls down', () => {
    expect(codes('distance-echo-5v', 'trig')).not.toContain('contention.line-set')
    expect(codes('flow-pulse', 'out')).not.toContain('contention.line-set')
  })
})

it('a table knows its own rows and nothing else', () => {
  const table = tableOf({ a: 1 })
  expect(table.a).toBe(1)
  for (const name of ['constructor', '__proto__',
    'toString']) expect([table[name], name in table]).toEqual([undefined, false])
})
