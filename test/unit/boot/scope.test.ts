import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { effectiveOf, overlayName, type BootFiles } from '../../../core/boot/scope/effective'
import { filterKind, FilterState, MODELS } from '../../../core/boot/scope/filters'
import { anyBootText, boardOf } from '../../bootfiles'
import { draws } from '../../random'

const usbC = boardOf('forty-usb-c')
/** What the loader is asked, in short: `kind name=value` with the overlay's own parameters, and whether it applies. */
function asked(
  text: string, { board = usbC as typeof usbC | null,
    ...more }: Partial<BootFiles> & { board?: typeof usbC | null } = {},
): string[] {
  return effectiveOf({ dialect: 'key-value', text, ...more }, board).asked.map((entry) => {
    const own = entry.kind === 'overlay'
      ? entry.params.map(param => `,${param.name}${param.value ? `=${param.value}` : ''}`).join('')
      : 'value' in entry
        ? `=${entry.value}`
        : ''
    return `${entry.applies === 'always' ? '' : `${entry.applies}: `}${entry.kind} ${entry.name}${own}`
  })
}

// Filters, order and ownership of parameters as handbooks of the format describe them: memory.
describe('section filters', () => {
  it('let a board through by its model words, and no other board', () => {
    const text = '[pi4]\na=1\n[pi5]\nb=1\n[none]\nc=1\n[all]\nd=1\n'
    expect(asked(text)).toEqual(['setting a=1', 'never: setting b=1', 'never: setting c=1', 'setting d=1'])
    expect(asked(text, { board: boardOf('forty-io-bridge') })).toEqual([
      'never: setting a=1', 'setting b=1', 'never: setting c=1', 'setting d=1',
    ])
    expect(asked(text, { board: null })[0]).toBe('sometimes: setting a=1')
  })

  it('replace an earlier one of their kind and join those of others, until [all]', () => {
    expect(asked('[pi5]\n[pi4]\na=1\n')).toEqual(['setting a=1'])
    expect(asked('[pi4]\n[gpio4=1]\na=1\n[all]\nb=1\n')).toEqual(['sometimes: setting a=1', 'setting b=1'])
    expect(asked('[pi5]\n[gpio4=1]\na=1\n')).toEqual(['never: setting a=1'])
    expect(asked('[pi5]\n[hdmi:0]\na=1\n[pi4]\nb=1\n')).toEqual(['never: setting a=1', 'setting b=1'])
  })

  it('are told apart by what they ask', () => {
    expect([
      'edid=x', 'gpio4=1', '0x12345678', 'boot_partition=2', 'tryboot', 'hdmi:1', 'none', 'pi4', 'dream',
    ].map(filterKind)).toEqual(['screen', 'line', 'serial', 'partition', 'tryboot', 'port', 'model', 'model',
      'unknown'])
    for (const board of ['early-26', 'tiny-unpopulated', 'forty-classic', 'forty-usb-c', 'forty-io-bridge']) {
      for (const model of boardOf(board).bootModels!) expect(MODELS.has(model), model).toBe(true)
    }
  })

  it('never let through what [none] hides, whatever stands around it', () => {
    fc.assert(fc.property(fc.array(
      fc.constantFrom('pi4', 'pi5', 'gpio4=1', 'edid=x', 'hdmi:0', 'wild'), { maxLength: 5 },
    ), fc.boolean(), (headings, known) => {
      const state = new FilterState(known ? { models: ['pi4'] } : null)
      for (const heading of headings) state.take(heading)
      state.take('none')
      expect(state.applies).toBe('never')
      state.take('all')
      expect(state.applies).toBe('always')
    }))
  })
})

describe('parameters', () => {
  it('belong to the overlay above them where it has their name, and to the base tree where it has not', () => {
    expect(asked('dtparam=spi=on\ndtoverlay=w1-gpio\ndtparam=gpiopin=17\ndtparam=i2c_arm=on\ndtoverlay=\ndtparam=audio=on\n'))
      .toEqual(['param spi=on', 'overlay w1-gpio,gpiopin=17', 'param i2c_arm=on', 'param audio=on'])
  })

  it('belong to the next overlay when one follows, and to the base below a section', () => {
    expect(asked('dtoverlay=a\ndtparam=x=1\ndtoverlay=b\ndtparam=y=2\n')).toEqual(['overlay a,x=1', 'overlay b,y=2'])
    expect(asked('dtoverlay=a\n[all]\ndtparam=x=1\n')).toEqual(['overlay a', 'param x=1'])
  })

  it('stand several in a line, alone for on, and after a colon in old files', () => {
    expect(asked('dtparam=i2c_arm,spi=off\ndtoverlay=w1-gpio:gpiopin=4\n')).toEqual([
      'param i2c_arm=', 'param spi=off', 'overlay w1-gpio,gpiopin=4',
    ])
  })

  it('have their places in the file', () => {
    const text = '\uFEFFdtparam=i2c_arm=on,spi\r\ndtoverlay=w1-gpio, gpiopin=4\r\n'
    for (const entry of effectiveOf({ dialect: 'key-value', text }, null).asked) {
      if (entry.kind === 'param') {
        expect(text.slice(entry.where.from, entry.where.to))
          .toBe(entry.value ? `${entry.name}=${entry.value}` : entry.name)
      }
      if (entry.kind === 'overlay') expect(entry.params.map(param => text.slice(param.where.from, param.where.to)))
        .toEqual(['gpiopin=4'])
    }
  })
})

describe('included files', () => {
  it('are read where they are named, with the section above them', () => {
    expect(asked(
      'a=1\n[pi5]\ninclude more.txt\n[all]\nc=1\n', { includes: { 'more.txt': 'b=1\n' } },
    )).toEqual(['setting a=1', 'never: setting b=1', 'setting c=1'])
    expect(asked(
      'include more.txt\n', { includes: { 'more.txt': '[pi5]\nb=1\n[all]\nc=1\n' } },
    )).toEqual(['never: setting b=1', 'setting c=1'])
  })

  it('that are not there, or include each other, come to an end', () => {
    expect(asked('include gone.txt\n')).toEqual(['missing-file gone.txt'])
    const round = asked('include a\n', { includes: { a: 'x=1\ninclude b\n', b: 'include a\n' } })
    expect(round.at(-1)).toMatch(/^missing-file/)
    expect(round.length).toBeLessThan(20)
  })
})

describe('the other dialects', () => {
  it('ask for the overlays of the entry that starts, by path, and for its words', () => {
    const { asked: list, words } = effectiveOf(
      {
        dialect: 'extlinux',
        text: 'default b\nlabel a\n\tlinux /x\n\tfdtoverlays /o/a.dtbo\nlabel b\n\tlinux /y\n\tdevicetree-overlay /o/b.dtbo '
          + '/o/c.dtbo\n\tappend root=/dev/x quiet\n',
      },
      null,
    )
    expect(list.filter(entry => entry.kind === 'overlay')
      .map(entry => [entry.name, entry.applies])).toEqual([['a', 'never'], ['b', 'always'], ['c', 'always']])
    expect(words.map(word => word.name)).toEqual(['root', 'quiet'])
    expect(overlayName('/boot/overlays/clock.dtbo')).toBe('clock')
  })

  it('let the last line of a name count', () => {
    const { asked: list } = effectiveOf(
      { dialect: 'environment', text: 'overlays=a\noverlays=b c\nuser_overlays=d\nverbosity=1\nextraargs=quiet\n' },
      null,
    )
    expect(list.map(entry => `${entry.applies} ${entry.kind} ${entry.name}`)).toEqual([
      'always setting verbosity', 'never overlay a', 'always overlay b', 'always overlay c', 'always overlay d',
    ])
  })

  it('have every place within the text, whatever the text', () => {
    fc.assert(fc.property(anyBootText, fc.constantFrom(
      'key-value' as const, 'extlinux' as const, 'environment' as const,
    ), (text, dialect) => {
      const { asked: list, words } = effectiveOf({ dialect, text }, usbC)
      for (const { where } of [...list, ...words]) {
        expect(where.from).toBeLessThanOrEqual(where.to)
        expect(where.to).toBeLessThanOrEqual(text.length)
        expect(where.line).toBe(text.slice(0, where.from).split('\n').length)
      }
    }), { numRuns: draws(300) })
  })
})
