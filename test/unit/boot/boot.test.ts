import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareLines, restoreEndings } from '../../../core/boot/lines'
import { BLOCK_BEGIN, tagOf } from '../../../core/boot/own/block'
import { mergeBoot } from '../../../core/boot/own/merge'
import { stateOf } from '../../../core/boot/own/state'
import type { Need } from '../../../core/overlays/asks/needs'
import { writeNeed } from '../../../core/overlays/asks/write'
import { parseBoot, printBoot } from '../../../core/boot/dialects/key-value'
import { decodeBoot, encodeBoot } from '../../../app/stages/boot/useBootBytes'
import type { BootNeed } from '../../../core/catalogue/types'
import { demoPlans } from '../../../demo'
import { evaluate } from '../../../core/evaluate'
import { catalogue } from '../../plans'
import { draws } from '../../random'

const asNeed = (need: BootNeed): Need => ({ need, why: 'test', partIds: [] })
const I2C: BootNeed = { kind: 'param', name: 'i2c_arm', value: 'on' }
const UART: BootNeed = { kind: 'setting', name: 'enable_uart', value: '1' }
const PROBE: BootNeed = { kind: 'overlay', name: 'w1-gpio', params: { gpiopin: '4' } }
const merged = (text: string, ...needs: BootNeed[]) => mergeBoot(text, needs.map(asNeed))
const tag = (need: BootNeed) => tagOf(`${need.kind} ${need.name}`, [], writeNeed(need))
const state = (text: string, need: BootNeed) => stateOf(parseBoot(text), need)

/**
 * Files as they come: settings, parameters, overlays, filters, comments, junk, either line ending, with and without
 * a last one.
 */
const line = fc.oneof(
  fc.constantFrom(
    '', '# a note', '[all]', '[none]', '[edid=screen]', 'dtparam=i2c_arm=on', 'dtparam=i2c_arm=off',
    'dtparam=spi=on,i2c=on',
    'dtparam=audio', 'dtoverlay=', 'dtoverlay=w1-gpio,gpiopin=4', 'dtoverlay=w1-gpio,gpiopin=17', 'enable_uart=0',
    'enable_uart=1',
    'include extra.txt', '   spaced = out  ', 'what is this',
  ),
  fc.string({ maxLength: 30 }).filter(text => !/[\r\n]/.test(text)),
)
const file = fc.record({ lines: fc.array(fc.tuple(line, fc.constantFrom('\n', '\r\n')), { maxLength: 14 }),
  last: fc.option(line) })
  .map(({ lines, last }) => lines.map(([text, ending]) => text + ending).join('') + (last ?? ''))
const someNeeds = fc.uniqueArray(
  fc.constantFrom(
    I2C, UART, PROBE, { kind: 'param', name: 'spi', value: 'on' } as BootNeed,
    { kind: 'overlay', name: 'i2c-rtc', params: { ds3231: '' } } as BootNeed,
  ),
  { maxLength: 5 },
)

describe('the boot file', () => {
  it('is printed exactly as it was read', () => {
    fc.assert(fc.property(fc.oneof(file, fc.string(), fc.string({ unit: 'binary' })), (text) => {
      expect(printBoot(parseBoot(text))).toBe(text)
    }), { numRuns: draws(500) })
  })

  it('comes back as it was when nothing is needed', () => {
    fc.assert(fc.property(file, (text) => {
      expect(mergeBoot(text, [])).toEqual({ text, changes: [], byHand: [] })
    }))
  })

  it('meets every need after merging, and merging again changes nothing', () => {
    fc.assert(fc.property(file, someNeeds, (text, needs) => {
      const once = merged(text, ...needs)
      for (const need of needs) expect(state(once.text, need).state).toBe('met')
      expect(merged(once.text, ...needs)).toEqual({ text: once.text, changes: [], byHand: [] })
    }), { numRuns: draws(400) })
  })

  it('keeps every line it does not have to change, in order', () => {
    fc.assert(fc.property(file, someNeeds, (text, needs) => {
      const { text: after, changes } = merged(text, ...needs)
      const changed = new Set(changes.flatMap(change => change.before ?? []))
      const kept = parseBoot(text).filter(entry => !changed.has(entry.text)).map(entry => entry.text)
      const left = parseBoot(after).map(entry => entry.text)
      let at = 0
      for (const wanted of kept) {
        at = left.indexOf(wanted, at)
        expect(at).toBeGreaterThanOrEqual(0)
        at++
      }
    }))
  })

  it('takes its own block out again when the need is gone, and leaves what was there before', () => {
    fc.assert(fc.property(file.filter(text => text.endsWith('\n') || text === ''), someNeeds, (text, needs) => {
      const { text: after, changes } = merged(text, ...needs)
      if (changes.some(change => change.kind === 'changed')) return
      expect(mergeBoot(after, []).text).toBe(text)
    }))
  })

  it('keeps its line endings, of whatever kinds, through an editor that shows them all alike', () => {
    const mixed = fc.array(fc.tuple(fc.constantFrom('', 'a=1', '# b'), fc.constantFrom('\n', '\r\n', '\r')),
      { maxLength: 8 })
      .chain(lines => fc.constantFrom('', 'last')
        .map(last => lines.map(([text, ending]) => text + ending).join('') + last))
    const asShown = (text: string) => text.replace(/\r\n|\r/g, '\n')
    fc.assert(fc.property(mixed, text => restoreEndings(text, asShown(text)) === text), { numRuns: draws(500) })
    fc.assert(fc.property(mixed, mixed,
      (text, other) => asShown(restoreEndings(text, asShown(other))) === asShown(other)))
    expect(restoreEndings('a\r\nb\nc\r\n', 'a\nnew\nb\nc\n')).toBe('a\r\nnew\r\nb\nc\r\n')
  })

  it('comes back byte for byte in any encoding', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      const { text, encoding } = decodeBoot(bytes)
      expect([...encodeBoot(text, encoding)]).toEqual([...bytes])
    }))
  })
})

describe('what a boot file says', () => {
  // Filters, order and ownership of parameters as handbooks of the format describe them: memory.
  it('lets a parameter that the overlay above does not have fall through to the base tree', () => {
    expect(state('dtoverlay=other\ndtparam=i2c_arm=on\n', I2C).state).toBe('met')
    expect(state('dtoverlay=vc4-kms-v3d\ndtparam=audio=off\ndtparam=i2c_arm=on\n', I2C).state).toBe('met')
    expect(state('dtoverlay=other\ndtoverlay=\ndtparam=i2c_arm=on\n', I2C).state).toBe('met')
  })

  it('lets the last line that applies decide', () => {
    expect(state('dtparam=i2c_arm=on\ndtparam=i2c_arm=off\n', I2C)).toEqual({ state: 'differs', line: 2, found: 'off' })
    expect(state('enable_uart=0\nenable_uart=1\n', UART)).toEqual({ state: 'met', line: 2 })
  })

  it('does not count a line under a filter that does not always apply', () => {
    expect(state('[none]\ndtparam=i2c_arm=on\n', I2C)).toMatchObject({ state: 'filtered', filter: 'none' })
    expect(state('[edid=screen]\nenable_uart=1\n[all]\n', UART))
      .toMatchObject({ state: 'filtered', filter: 'edid=screen' })
  })

  it('knows other names of a parameter, several in one line, and one that stands alone', () => {
    expect(state('dtparam=spi=on,i2c=on\n', I2C).state).toBe('met')
    expect(state('dtparam=i2c1\n', I2C).state).toBe('met')
  })

  it('compares numbers as numbers and lets further parameters stand', () => {
    expect(state('dtoverlay=w1-gpio,gpiopin=0x4,pullup\n', PROBE).state).toBe('met')
    expect(state('dtoverlay=w1-gpio,gpiopin=17\n', PROBE).state).toBe('absent')
  })
})

describe('merging', () => {
  it('leaves an off of the maker\'s as it stands and says the opposite behind it, where the last word counts', () => {
    const text = 'dtparam=audio=on\ndtparam=i2c_arm=off,spi=on\r\n'
    expect(merged(text, I2C).text.startsWith(text)).toBe(true)
    expect(state(merged(text, I2C).text, I2C).state).toBe('met')
  })

  it('goes to the end when a line below its block says something else', () => {
    const once = merged('foo=1\n', I2C).text
    const after = merged(`${once}dtparam=i2c_arm=off\n`, I2C)
    expect(after.text.indexOf('i2c_arm=off')).toBeLessThan(after.text.indexOf(BLOCK_BEGIN))
    expect(state(after.text, I2C).state).toBe('met')
  })

  it('opens an [all] section when the file ends under another filter', () => {
    expect(merged('[none]\nfoo=1\n', UART).text)
      .toBe(`[none]\nfoo=1\n${BLOCK_BEGIN}\n[all]\n${tag(UART)}\nenable_uart=1\n# Voltaris: to `
        + `here\n`)
  })

  it('closes a foreign overlay before base parameters, and its own behind it', () => {
    const { text } = merged('dtoverlay=other', I2C, PROBE)
    expect(text).toBe(
      `dtoverlay=other\n${BLOCK_BEGIN}\ndtoverlay=\n${tag(I2C)}\ndtparam=i2c_arm=on\n${tag(PROBE)}\ndtoverlay=w1-gpio,gpiopin=4\n`
      + `dtoverlay=\n# Voltaris: to here\n`,
    )
    expect(state(`${text}dtparam=spi=on\n`, { kind: 'param', name: 'spi', value: 'on' }).state).toBe('met')
  })

  it('writes with the line ending of the file', () => {
    expect(merged('foo=1\r\nbar=2\r\n', UART).text).toContain('enable_uart=1\r\n')
  })

  it('follows a part that has moved, inside its own block', () => {
    const first = merged('foo=1\n', PROBE).text
    const moved = merged(first, { ...PROBE, params: { gpiopin: '17' } })
    expect(moved.text.replace(/^#: .*\n/gm, ''))
      .toBe(first.replace('gpiopin=4', 'gpiopin=17').replace(/^#: .*\n/gm, ''))
    expect(moved.changes).toEqual([{
      kind: 'changed', before: 'dtoverlay=w1-gpio,gpiopin=4', after: 'dtoverlay=w1-gpio,gpiopin=17', why: 'test',
    }])
  })

  it('shows as a difference exactly the lines that it adds', () => {
    const text = 'foo=1\n'
    const after = merged(text, UART).text
    expect(compareLines(text, after)
      .filter(entry => entry.kind !== 'same')
      .map(entry => entry.text)).toEqual([BLOCK_BEGIN, tag(UART), 'enable_uart=1', '# Voltaris: to here'])
  })

  it('leaves no need open in any demo plan once it is written', () => {
    for (const plan of demoPlans) {
      const report = evaluate(plan, catalogue)
      const after = evaluate({ ...plan, boot: { ...plan.boot, text: report.boot.text } }, catalogue)
      expect(after.findings.filter(finding => finding.code === 'bus.not-enabled' || finding.code === 'overlay.missing'))
        .toEqual([])
    }
  })

  it('writes needs in the syntax it reads', () => {
    for (const need of [I2C, UART, PROBE]) expect(state(writeNeed(need), need).state).toBe('met')
  })
})
