import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { keepBefore, MAX_BEFORE } from '../../../core/boot/before'
import { readOwned } from '../../../core/boot/own/block'
import { mergeBoot } from '../../../core/boot/own/merge'
import { mergeWords } from '../../../core/boot/own/words'
import type { Need } from '../../../core/overlays/asks/needs'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import type { BootNeed } from '../../../core/catalogue/types'
import { anyBootText } from '../../bootfiles'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const need = (boot: BootNeed, ...partIds: string[]): Need => ({ need: boot, why: `for ${partIds.join(', ')}`, partIds })
const PROBE = need({ kind: 'overlay', name: 'w1-gpio', params: { gpiopin: '4' } }, 'probe')
const SECOND = need({ kind: 'overlay', name: 'w1-gpio', params: { gpiopin: '17' } }, 'second')
const FAN = need({ kind: 'overlay', name: 'gpio-fan', params: { gpiopin: '18' } }, 'fan')
const BUS = need({ kind: 'param', name: 'i2c_arm', value: 'on' }, 'clock', 'screen')
const ALL = [PROBE, SECOND, FAN, BUS]
const START = '# mine\r\ngpu_mem=64\r\n'

describe('owned lines', () => {
  const written = mergeBoot(START, ALL).text

  it('leave every byte of the maker\'s as it was', () => {
    expect(written.startsWith(START)).toBe(true)
    expect(mergeBoot(written, []).text).toBe(START)
  })

  it('are known again at the next import, with the parts they serve', () => {
    expect(readOwned(written, 'key-value').map(entry => [entry.key, entry.partIds, entry.state])).toEqual([
      ['param i2c_arm', ['clock', 'screen'], 'written'], ['overlay w1-gpio', ['probe'], 'written'],
      ['overlay w1-gpio', ['second'], 'written'], ['overlay gpio-fan', ['fan'], 'written'],
    ])
  })

  it.each([
    ['changed', (text: string) => text.replace('gpiopin=18', 'gpiopin=12'), 'dtoverlay=gpio-fan,gpiopin=12'],
    ['put in comments', (text: string) => text.replace('dtoverlay=gpio-fan', '#dtoverlay=gpio-fan'),
      '#dtoverlay=gpio-fan,gpiopin=18'],
    ['taken out', (text: string) => text.replace('dtoverlay=gpio-fan,gpiopin=18\r\n', ''), ''],
  ])('%s by hand stay so, are shown as such, and come back when the maker says so', (_, change, found) => {
    const text = change(written)
    const merged = mergeBoot(text, ALL)
    expect(merged).toMatchObject({ text, changes: [],
      byHand: [{ found, wanted: 'dtoverlay=gpio-fan,gpiopin=18', partIds: ['fan'] }] })
    expect(readOwned(text, 'key-value').at(-1)).toMatchObject({ state: 'by-hand' })
    const back = mergeBoot(text, ALL, { takeBack: [merged.byHand[0]!.line] })
    expect(back.byHand).toEqual([])
    expect(back.text).toContain('\ndtoverlay=gpio-fan,gpiopin=18\r\n')
  })

  it('of a part that is off become comments or go, and come back as they were', () => {
    const off = mergeBoot(written, ALL, { off: ['fan'], whenOff: 'comment' })
    expect(off.text).toContain('\n#dtoverlay=gpio-fan,gpiopin=18\r\n')
    expect(off.changes).toMatchObject([{ kind: 'off', after: '#dtoverlay=gpio-fan,gpiopin=18' }])
    expect(mergeBoot(off.text, ALL, { off: ['fan'], whenOff: 'comment' }))
      .toMatchObject({ text: off.text, changes: [] })
    expect(mergeBoot(off.text, ALL).text).toBe(written)
    const gone = mergeBoot(written, ALL, { off: ['fan'], whenOff: 'remove' })
    expect(gone.text).not.toContain('gpio-fan')
    expect(mergeBoot(gone.text, ALL).text).toBe(written)
    expect(mergeBoot(written, ALL, { off: ['clock'] }).text, 'the bus serves another part too').toBe(written)
  })

  it('of a part that is gone become comments where the maker chose that', () => {
    expect(mergeBoot(written, [PROBE, SECOND, BUS], { whenOff: 'comment' }).text)
      .toContain('#dtoverlay=gpio-fan,gpiopin=18')
    expect(mergeBoot(written, [PROBE, SECOND, BUS]).text).not.toContain('gpio-fan')
  })

  it('leave lines alone that the maker put between them', () => {
    const text = written.replace('dtoverlay=gpio-fan',
      'gpu_mem=128\r\ndtoverlay=gpio-fan'.replace('gpu_mem=128\r\ndtoverlay', 'dtoverlay'))
      .replace('# Voltaris: to here', 'arm_boost=1\r\n# Voltaris: to here')
    const after = mergeBoot(text, [PROBE, SECOND, BUS])
    expect(after.text).toContain('arm_boost=1\r\n')
    expect(after.text).not.toContain('gpio-fan')
  })

  it('obey the laws on any file: twice is once, what was there is a subsequence, hand edits survive', () => {
    const some = fc.subarray(ALL)
    fc.assert(fc.property(anyBootText, some, some, fc.constantFrom(
      'comment' as const, 'remove' as const,
    ), fc.subarray(['fan', 'probe', 'clock']), (text, first, next, whenOff, off) => {
      const once = mergeBoot(text, first, { whenOff })
      const then = mergeBoot(once.text, next, { whenOff, off })
      expect(mergeBoot(then.text, next, { whenOff, off })).toMatchObject({ text: then.text, changes: [] })
      let at = 0
      for (const line of text.split('\n')) {
        if (!line.trim() || line.includes('Voltaris')) continue
        at = then.text.indexOf(line, at)
        expect(at, line).toBeGreaterThanOrEqual(0)
        at += line.length
      }
    }), { numRuns: draws(300) })
  })
})

describe('words of ours in the other dialects', () => {
  const MENU = 'default a\nlabel a\n    linux /x\n    fdtoverlays /overlays/mine.dtbo\n    append quiet\nlabel b\n    linux /y\n'
  const clock = need({ kind: 'overlay', name: 'voltaris-clock' }, 'clock')

  it('join the maker\'s on the line of the entry that starts, and leave again', () => {
    const after = mergeWords(MENU, 'extlinux', [clock])
    expect(after.text).toBe(MENU.replace(
      '    fdtoverlays /overlays/mine.dtbo\n',
      '    #: fdtoverlays written for the plan: /overlays/voltaris-clock.dtbo\n    fdtoverlays /overlays/mine.dtbo '
      + '/overlays/voltaris-clock.dtbo\n',
    ))
    expect(mergeWords(after.text, 'extlinux', [clock])).toMatchObject({ text: after.text, changes: [] })
    expect(mergeWords(after.text, 'extlinux', []).text).toBe(MENU)
    expect(readOwned(after.text, 'extlinux')).toMatchObject([{ line: 5, state: 'written' }])
  })

  it('make a line of their own where there is none', () => {
    expect(mergeWords(
      'label a\n\tlinux /x\n', 'extlinux', [clock],
    ).text).toBe(
      'label a\n\tlinux /x\n\t#: fdtoverlays written for the plan: /overlays/voltaris-clock.dtbo\n\tfdtoverlays '
      + '/overlays/voltaris-clock.dtbo\n',
    )
    expect(mergeWords(
      'verbosity=1', 'environment', [clock],
    ).text).toBe('verbosity=1\n#: user_overlays written for the plan: voltaris-clock\nuser_overlays=voltaris-clock\n')
  })

  it('taken off by hand stay off and are told', () => {
    const after = mergeWords(MENU, 'extlinux', [clock]).text.replace(' /overlays/voltaris-clock.dtbo\n    append',
      '\n    append')
    const merged = mergeWords(after, 'extlinux', [clock])
    expect(merged).toMatchObject({ text: after, changes: [],
      byHand: [{ wanted: '/overlays/voltaris-clock.dtbo', partIds: ['clock'] }] })
    expect(mergeWords(
      after, 'extlinux', [clock], { takeBack: [merged.byHand[0]!.line] },
    ).text).toContain('mine.dtbo /overlays/voltaris-clock.dtbo')
  })

  it('obey the law that twice is once on any file', () => {
    fc.assert(fc.property(anyBootText, fc.constantFrom('extlinux' as const, 'environment' as const),
      (text, dialect) => {
        const once = mergeWords(text, dialect, [clock])
        expect(mergeWords(once.text, dialect, [clock])).toMatchObject({ text: once.text, changes: [] })
      }), { numRuns: draws(200) })
  })
})

describe('a plan whose lines were changed by hand', () => {
  const plan = planOf('forty-usb-c', { fan: 'fan-5v' },
    { assignments: fixedAt({ 'fan.drive': 12, 'fan.vcc': 2, 'fan.gnd': 6 }) })
  const written = { ...plan, boot: { text: evaluate(plan, catalogue).boot.text } }

  it('says so in a note whose fix takes the plan\'s line again', () => {
    expect(written.boot.text).toContain('gpiopin=18')
    const changed = { ...written, boot: { text: written.boot.text.replace('gpiopin=18', 'gpiopin=24') } }
    const finding = evaluate(changed, catalogue).findings.find(entry => entry.code === 'boot.by-hand')!
    expect(finding).toMatchObject({ severity: 'note', sentence: expect.stringContaining('gpiopin=24') })
    const back = finding.fixes[0]!.edits.reduce((now, edit) => applyEdit(now, edit).plan, changed as typeof plan)
    expect(back.boot!.text).toBe(written.boot.text)
  })

  it('asks for nothing of a part whose lines are off', () => {
    expect(evaluate(
      { ...plan, boot: { text: '', off: ['fan'] } }, catalogue,
    ).findings.map(finding => finding.code)).not.toContain('overlay.missing')
    expect(evaluate({ ...plan, boot: { text: '' } }, catalogue).findings.map(finding => finding.code))
      .toContain('overlay.missing')
  })
})

describe('earlier files', () => {
  it('are kept whenever the text changes, the last ten of them', () => {
    let boot = keepBefore(null, { text: 'v0' }, '2026-01-01T00:00:00Z')
    expect(boot.before).toBeUndefined()
    for (let i = 1; i < 15; i++) boot = keepBefore(boot, { ...boot, text: `v${i}` }, '2026-01-01T00:00:00Z')
    expect(boot.before).toHaveLength(MAX_BEFORE)
    expect(boot.before!.at(-1)!.text).toBe('v13')
    expect(keepBefore(boot, { ...boot }, '2026-01-01T00:00:00Z')).toEqual(boot)
  })
})
