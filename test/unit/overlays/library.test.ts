import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { completeAt } from '../../../core/boot/complete'
import { explainAt, explainFiles } from '../../../core/boot/explain'
import {
  appearsOf, claimsOf, listedName, numberOf, OVERLAYS, overlayNamed, resolveOverlay, SETTING_SPECS, sourceOf,
} from '../../../core/overlays/library'
import { BASE_PARAMS } from '../../../core/overlays/library/settings'
import type { OverlaySpec } from '../../../core/overlays/library/types'
import { startDevices } from '../../../core/boot/rehearse/kernel'
import { baseSource } from '../../../core/devicetree/bases/base'
import { parametersOf } from '../../../core/devicetree/overlay/params'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { compileText } from '../../../core/devicetree/source/compile'
import { DeviceTreeError } from '../../../core/devicetree/types'
import type { BootNeed } from '../../../core/catalogue/types'
import { anyBootText, boardOf } from '../../bootfiles'
import { catalogue } from '../../plans'
import { draws } from '../../random'

const SPECS = [...OVERLAYS.values()]
/** A line that loads the overlay, with its first part where it serves several. */
const usual = (spec: OverlaySpec,
  more: { name: string, value: string }[] = []) => resolveOverlay(spec, [...Object.keys(spec.choices ?? {})
  .slice(0, 1)
  .map(name => ({ name, value: '' })), ...more])
const bases = new Map([...catalogue.boards.values()].map(board =>
  [board.id, compileText(baseSource(board), { symbols: true })]))

describe('the overlay library', () => {
  it('knows at least sixty overlays, each with what it does, where that is from, and parameters within their own ranges', () => {
    expect(SPECS.length).toBeGreaterThanOrEqual(60)
    for (const spec of SPECS) {
      expect([spec.name, spec.what.length > 5, /^(memory|practice|published)/.test(spec.origin)])
        .toEqual([spec.name, true, true])
      expect(new Set(spec.params.map(param => param.name)).size, spec.name).toBe(spec.params.length)
      for (const param of spec.params) {
        if (param.default === undefined) continue
        if (param.values) expect(param.values, `${spec.name} ${param.name}`).toContain(param.default)
        else if (param.min !== undefined) {
          expect(numberOf(param.default), `${spec.name} ${param.name}`).toBeGreaterThanOrEqual(param.min)
          expect(numberOf(param.default), `${spec.name} ${param.name}`).toBeLessThanOrEqual(param.max!)
        }
      }
      for (const other of spec.excludes ?? []) expect(OVERLAYS.has(other), `${spec.name} excludes ${other}`).toBe(true)
    }
  })

  it('writes each overlay as source that compiles, for every part it serves', () => {
    for (const spec of SPECS) {
      for (const name of Object.keys(spec.choices ?? { '': null })) {
        expect(() => compileText(sourceOf(resolveOverlay(spec, name ? [{ name, value: '' }] : []))),
          `${spec.name} ${name}`).not.toThrow()
      }
    }
  })

  it('lays each overlay on some base tree that ships, and says of the others which label is missing', () => {
    for (const spec of SPECS) {
      const results = [...catalogue.boards.values()].map((board) => {
        try {
          return applyOverlay(bases.get(board.id)!, compileText(sourceOf(usual(spec), board))) && 'on'
        }
        catch (error) {
          expect(error).toBeInstanceOf(DeviceTreeError)
          return (error as Error).message
        }
      })
      expect(results, spec.name).toContain('on')
      for (const result of results) expect(result, spec.name).toMatch(/^on$|^the base has no label/)
    }
  })

  it('claims the lines that the tree it lays on claims', () => {
    const board = boardOf('forty-usb-c')
    const base = bases.get(board.id)!
    const before = new Set(startDevices(base).claims.map(claim => claim.line ?? -1))
    for (const spec of SPECS) {
      let tree
      try {
        tree = applyOverlay(base, compileText(sourceOf(usual(spec), board)))
      }
      catch {
        continue
      }
      const inTree = new Set(startDevices(tree).claims.map(claim => claim.line ?? -1)
        .filter(line => !before.has(line) && line < 28))
      const claimed = new Set(claimsOf(usual(spec), board).flatMap(claim => claim.kind === 'line' ? claim.line : []))
      // Lines of a bus that the overlay only switches on are the bus's.
      const bus = usual(spec).bus
      const ofBus = new Set(board.controllers.filter(controller => controller.id === bus)
        .flatMap(controller => controller.routes.flatMap(route => Object.values(route.lines))))
      for (const line of inTree) expect(claimed.has(line) || ofBus.has(line),
        `${spec.name}: line ${line} in the tree alone`).toBe(true)
    }
  })

  it('has every overlay and parameter that boards and parts of the catalogue ask for', () => {
    const needs: BootNeed[] = [
      ...[...catalogue.boards.values()].flatMap(board =>
        board.controllers.flatMap(controller => [
          ...controller.routes.flatMap(route => route.boot),
          ...(controller.variants ?? []).flatMap(variant => variant.boot),
        ])),
      ...[...catalogue.parts.values()].flatMap(part => part.boot ?? []),
    ]
    for (const need of needs) {
      if (need.kind === 'setting') expect(SETTING_SPECS.has(need.name), need.name).toBe(true)
      if (need.kind === 'param') expect(BASE_PARAMS.some(param => param.name === need.name), need.name).toBe(true)
      if (need.kind !== 'overlay') continue
      const spec = overlayNamed(need.name.replace('{select}', '0'))!
      expect(spec, need.name).toBeDefined()
      for (const written of Object.keys(need.params ?? {})) {
        const name = written.replace('{spi}', '0').replace('{select}', '0')
        expect(spec.params.some(param => param.name === listedName(spec, name)), `${need.name} ${name}`).toBe(true)
      }
    }
  })

  it('follows bus, select, address and part from the parameters', () => {
    const of = (name: string, ...params: [string, string?][]) => resolveOverlay(
      OVERLAYS.get(name)!, params.map(([param, value = '']) => ({ name: param, value })),
    )
    expect(of('i2c-rtc', ['pcf8563'])).toMatchObject({ bus: 'i2c1', address: 0x51, chosen: 'pcf8563' })
    expect(of('i2c-rtc', ['ds3231'], ['i2c5'])).toMatchObject({ bus: 'i2c5', address: 0x68 })
    expect(of('i2c-sensor', ['sht3x'], ['addr', '0x45'])).toMatchObject({ address: 0x45 })
    expect(of('mcp3008', ['spi1-2-present'])).toMatchObject({ bus: 'spi1', select: 2 })
    expect(claimsOf(of('i2c3', ['pins_2_3']), boardOf('forty-usb-c')).flatMap(claim => claim.kind === 'line'
      ? claim.line
      : [])).toEqual([2, 3])
    expect(claimsOf(of('uart1'), boardOf('forty-io-bridge')).flatMap(claim => claim.kind === 'line'
      ? claim.line
      : [])).toEqual(expect.arrayContaining([0, 1]))
    expect(appearsOf(of('i2c-gpio', ['bus', '11']))).toEqual([{ path: '/dev/i2c-11', what: 'the bus' }])
  })

  it('gives base parameters that the base trees have', () => {
    const board = boardOf('forty-usb-c')
    const known = new Set(parametersOf(bases.get(board.id)!))
    for (const { name, enables } of BASE_PARAMS) {
      if (enables && board.controllers.some(controller => controller.id === enables)
        && !/uart1|uart0_console/.test(name)) {
        expect(known.has(name), name).toBe(true)
      }
    }
  })
})

describe('the words beside a file', () => {
  const files = {
    dialect: 'key-value' as const,
    text: 'enable_uart=1\n[pi5]\ndtparam=i2c_arm=on\n[all]\ndtoverlay=w1-gpio,gpiopin=17\ndtparam=pullup\ndtoverlay=\nfoo=1\n',
    commandLine: 'root=/dev/x quiet',
  }
  const board = boardOf('forty-usb-c')

  it('say of each line what it does, what it takes and whether it counts', () => {
    const lines = explainFiles(files, board)
    expect(lines.map(line => [line.file, line.line])).toEqual([
      ['', 1], ['', 2], ['', 3], ['', 4], ['', 5], ['', 6], ['', 7], ['', 8], ['cmdline.txt', 1], ['cmdline.txt', 1],
    ])
    expect(lines[2]).toMatchObject({ applies: 'never', words: expect.stringContaining('Hidden from this board') })
    expect(lines[4]!.words).toContain('line 17')
    expect(lines[5]!.words).toContain('For w1-gpio')
    expect(lines[7]!.words).toContain('Not in the library')
    expect(lines.at(-1)!.words).toBe('Hides most messages.')
  })

  it('speak of the parameter under the pointer', () => {
    expect(explainAt(
      files, board, 5, 'dtoverlay=w1-gpio,gp'.length,
    )!.words).toBe('gpiopin: line of the bus; 0 to 27; 4 where nothing is said')
    expect(explainAt(files, board, 5, 2)!.words).toContain('1-Wire')
    expect(explainAt(files, board, 99, 0)).toBe(null)
  })

  it('are there for any text, at any place', () => {
    fc.assert(fc.property(anyBootText, fc.constantFrom(
      'key-value' as const, 'extlinux' as const, 'environment' as const,
    ), fc.nat(20), fc.nat(40), (text, dialect, line, column) => {
      for (const said of explainFiles({ dialect, text }, board)) expect(said.words).not.toMatch(/undefined|NaN/)
      explainAt({ dialect, text }, board, line, column)
      completeAt(text, dialect, line, column, board)
    }), { numRuns: draws(300) })
  })

  it('complete keys, overlays, parameters, values, sections and kernel words', () => {
    const at = (text: string, grammar: Parameters<typeof completeAt>[1] = 'key-value') => {
      const lines = text.split('\n')
      return completeAt(text, grammar, lines.length, lines.at(-1)!.length, board)?.options.map(option => option.label)
        ?? []
    }
    expect(at('enab')).toContain('enable_uart')
    expect(at('dtoverlay=w1')).toContain('w1-gpio')
    expect(at('dtoverlay=w1-gpio,gp')).toContain('gpiopin')
    expect(at('dtoverlay=fbtft,rotate=')).toEqual(['0', '90', '180', '270'])
    expect(at('dtparam=')).toContain('i2c_arm')
    expect(at('dtoverlay=gpio-fan\ndtparam=')).toContain('temp')
    expect(at('enable_uart=')).toEqual(['0', '1'])
    expect(at('[')[2]).toBe('pi4')
    expect(at('root=/dev/x con', 'command-line')).toContain('console')
    expect(at('over', 'environment')).toContain('overlays')
    expect(at('overlays=i2c0 w1', 'environment')).toContain('w1-gpio')
    expect(at('  fdt', 'extlinux')).toContain('fdtoverlays')
  })
})
