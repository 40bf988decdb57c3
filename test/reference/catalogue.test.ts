import { readFileSync } from 'node:fs'
import type Joi from 'joi'
import { describe, expect, it } from 'vitest'
import { boardSchema, partSchema, powerItemSchema, supplySchema } from '../../core/catalogue/schemas'
import type { Board } from '../../core/catalogue/types'
import { catalogue } from '../plans'

/** published: Linux kernel 6.1 device trees, pin groups of two SoC families (the file names its source). */
const reference = JSON.parse(readFileSync(new URL('../data/pin-groups.json', import.meta.url), 'utf8')) as {
  families: Record<string, Record<string, { line: number, function: string }[]>>
}

/** Our controller for a pin group of the reference. */
function controllerOf(group: string): string {
  const rules: [RegExp, (m: RegExpExecArray) => string][] = [
    [/^i2c_slave/, () => 'i2cslave'], [/^i2c(\d)_/, m => `i2c${m[1]}`], [/^uart(\d)_/, m => `uart${m[1]}`],
    [/^spi(\d)_/, m => `spi${m[1]}`], [/^pcm_/, () => 'i2s'],
    [/^pwm0_(\d)_/, m => `pwm.${m[1]}`], [/^pwm(\d)_/, m => `pwm.${m[1]}`], [/^gpclk(\d)_/, m => `clock${m[1]}`],
    [/^(dpi|emmc|jtag)_/, m => m[1]!],
  ]
  for (const [pattern, name] of rules) {
    const match = pattern.exec(group)
    if (match) return name(match)
  }
  throw new Error(`no controller for ${group}`)
}

describe.each([
  ['forty-classic', 'classic'], ['tiny-unpopulated', 'classic'], ['forty-usb-c', 'extra'], ['early-26', 'classic'],
])('pin functions of %s', (boardId, family) => {
  const board = catalogue.boards.get(boardId)!
  const expected = Object.entries(reference.families[family]!)
    .flatMap(([group, lines]) =>
      lines.map(({ line, function: setting }) => `${line} ${setting} ${controllerOf(group)}`))
    .sort()

  it('are those of the reference, all of them and no others', () => {
    const ours = board.lines.flatMap(({ line, functions }) =>
      functions.map(({ setting, controller }) => `${line} ${setting} ${controller}`))
      .sort()
    expect(ours).toEqual(expected)
  })

  it('carry every route that placement may choose', () => {
    for (const controller of board.controllers) {
      for (const route of controller.routes) for (const [signal, line] of Object.entries(route.lines)) {
        const functions = board.lines.find(entry => entry.line === line)!.functions
        expect(
          functions, `${controller.id} ${signal} on line ${line}`,
        ).toContainEqual(expect.objectContaining({ controller: controller.id, signal }))
      }
    }
  })

  it('are all within reach of placement, but for the controllers that it leaves alone', () => {
    // uart1 shares lines 14 and 15 with uart0 and is chosen by the boot file, not by position.
    const leftAlone = new Set(['uart1', 'i2cslave', 'dpi', 'emmc', 'jtag', 'clock0', 'clock1', 'clock2'])
    const used = new Set(board.lines.flatMap(entry => entry.functions.map(f => f.controller))
      .filter(id => !leftAlone.has(id)))
    const ours = board.controllers.map(controller => controller.id).sort()
    // The short header of the early board leaves some controllers without a way out.
    if (boardId === 'early-26') expect([...used].filter(id => !ours.includes(id)).sort())
      .toEqual(['i2c0', 'i2s', 'pwm.1', 'spi1'])
    else expect([...used].sort()).toEqual(ours)
  })
})

describe('the forty-position header', () => {
  // practice: the position table of the header; lines by position, odd row then even row.
  const ODD = ['3V3', 2, 3, 4, 'ground', 17, 27, 22, '3V3', 10, 9, 11, 'ground', 0, 5, 6, 13, 19, 26, 'ground']
  const EVEN = ['5V', '5V', 'ground', 14, 15, 18, 'ground', 23, 24, 'ground', 25, 8, 7, 1, 'ground', 12, 'ground', 16,
    20, 21]

  it.each([
    'forty-classic', 'forty-usb-c', 'tiny-unpopulated', 'forty-io-bridge',
  ])('of %s carries each line where practice has it', (id) => {
    const { header } = catalogue.boards.get(id)!
    const at = (position: number) => {
      const entry = header.find(candidate => candidate.position === position)!
      return entry.line ?? entry.kind
    }
    expect(ODD.map((_, i) => at(2 * i + 1))).toEqual(ODD)
    expect(EVEN.map((_, i) => at(2 * i + 2))).toEqual(EVEN)
    expect(header).toHaveLength(40)
  })

  it.each([
    'forty-classic', 'forty-usb-c', 'tiny-unpopulated', 'forty-io-bridge', 'early-26',
  ])('of %s starts with lines 0 to 8 pulled up and the others down, and 1.8 kΩ on lines 2 and 3', (id) => {
    // memory
    const { lines } = catalogue.boards.get(id)!
    for (const { line, resetPull, fixedPullUpOhm } of lines) {
      expect(resetPull).toBe(line <= 8 ? 'up' : 'down')
      expect(fixedPullUpOhm).toBe(line === 2 || line === 3 ? 1800 : undefined)
    }
  })
})

describe('the early board', () => {
  it('has positions 1 to 26 of the forty-position header', () => {
    // practice
    const forty = catalogue.boards.get('forty-classic')!.header
    expect(catalogue.boards.get('early-26')!.header).toEqual(forty.filter(entry => entry.position <= 26))
  })

  it('gives little on 3V3, and has the full serial port', () => {
    const { limits, controllers } = catalogue.boards.get('early-26')!
    expect(limits.rail3V3BudgetMa).toEqual({ value: 50, origin: 'memory' }) // memory
    expect(controllers.find(controller => controller.id === 'uart0')!.variants!.map(variant => variant.full))
      .toEqual([true]) // memory
  })
})

describe('controllers', () => {
  it('say what they derive their rate from, on every board', () => {
    for (const board of catalogue.boards.values()) for (const controller of board.controllers)
      expect(controller.clock ?? controller.variants?.[0]?.clock, `${board.id} ${controller.id}`).toMatchObject({
        sourceHz: expect.any(Number), origin: expect.stringMatching(/^(memory|published|practice)/),
      })
  })

  it('of the newest board bring four PWM channels out, two of them on a second line', () => {
    // memory
    const channels = catalogue.boards.get('forty-io-bridge')!.controllers.filter(controller =>
      controller.kind === 'pwm')
    expect(channels.map(channel => channel.routes.map(route => route.lines.out)))
      .toEqual([[12], [13], [18, 14], [19, 15]])
  })
})

describe('catalogue files', () => {
  const check = (schema: Joi.Schema,
    entry: unknown) => schema.validate(entry, { abortEarly: false, convert: false }).error?.message

  it('keep to their schemas', () => {
    for (const board of catalogue.boards.values()) expect(check(boardSchema, board), board.id).toBeUndefined()
    for (const part of catalogue.parts.values()) expect(check(partSchema, part), part.id).toBeUndefined()
    for (const supply of catalogue.supplies.values()) expect(check(supplySchema, supply), supply.id).toBeUndefined()
    for (const item of catalogue.powerItems.values()) expect(check(powerItemSchema, item), item.id).toBeUndefined()
  })

  it('name only terminals and options that the part has', () => {
    for (const part of catalogue.parts.values()) {
      const names = new Set(part.signals.map(signal => signal.id))
      const options = new Set((part.options ?? []).map(option => option.id))
      const text = JSON.stringify([part.boot ?? [], part.nodes ?? []])
      for (const [, name] of text.matchAll(/\{(?:option:)?([a-z0-9]+)\}/gi)) {
        expect(names.has(name!) || options.has(name!) || name === 'spi' || name === 'select', `${part.id} {${name}}`)
          .toBe(true)
      }
      for (const supply of part.supplies) if (supply.perOption) expect(options.has(supply.perOption)).toBe(true)
      for (const signal of part.signals) if (signal.repeat) expect(options.has(signal.repeat),
        `${part.id} ${signal.id}`).toBe(true)
      for (const option of [
        part.serial?.baudOption, part.strip?.pixelsOption, part.matrix?.rowsOption, part.matrix?.columnsOption,
        part.seat?.shiftOption,
      ]) {
        if (option) {
          expect(options.has(option), `${part.id} ${option}`).toBe(true)
        }
      }
      if (part.serial?.directionSignal) expect(names.has(part.serial.directionSignal)).toBe(true)
      if (part.i2c?.addressOption) expect(options.has(part.i2c.addressOption)).toBe(true)
      for (const option of part.options
        ?? []) if (option.values) expect(option.values.map(entry => entry.value)).toContain(option.default)
    }
  })

  it('say of every I²C part how much it loads the bus, and of every input what it stands', () => {
    for (const part of catalogue.parts.values()) {
      if (part.i2c) {
        expect(part.i2c, part.id).toMatchObject({
          capacitancePf: expect.any(Number), poll: expect.anything(), maxClockHz: expect.any(Number),
        })
      }
      for (const signal of part.signals) {
        if (signal.role.startsWith('spi.')) expect(part.spi, part.id).toBeDefined()
        if (signal.role.startsWith('serial.')) expect(part.serial, part.id).toBeDefined()
        if (signal.role.startsWith('i2s.')) expect(part.i2s, part.id).toBeDefined()
        if (signal.role === 'pwm') expect(signal.pwm, part.id).toBeDefined()
        if (signal.direction === 'in' && !signal.role.startsWith('i2c.')) {
          expect(signal.inputMaxV ?? signal.load ?? signal.inputCurrentMa, `${part.id} ${signal.id}`).toBeDefined()
        }
        // A bare open-drain output gives no high by itself.
        if (signal.direction === 'out' && !['contact', 'open-drain'].includes(signal.drive ?? '')) {
          expect(signal.outputHighV, `${part.id} ${signal.id}`).toBeDefined()
        }
      }
    }
  })

  it('reach over every kind of work', () => {
    const groups = new Set([...catalogue.parts.values()].map(part => part.group))
    expect([...groups].sort()).toEqual([
      'building', 'expanding', 'input', 'lighting', 'moving', 'sensing', 'showing', 'sounding', 'switching', 'talking',
      'timing',
    ])
  })

  it('use every kind of connection between them', () => {
    const roles = new Set([...catalogue.parts.values()].flatMap(part => part.signals.map(signal => signal.role)))
    for (const role of ['line', 'pwm', 'onewire', 'strip', 'i2c.sda', 'spi.select', 'serial.tx',
      'i2s.dataOut'] as const) {
      expect(roles.has(role), role).toBe(true)
    }
    expect(catalogue.parts.size).toBeGreaterThanOrEqual(70)
  })

  it('draw no less at peak than typically, and no less typically than idle', () => {
    for (const entry of [...catalogue.parts.values()]
      .flatMap(part => part.supplies)
      .concat([...catalogue.boards.values()].map(board => board.draw as never))) {
      expect(entry.peakMa).toBeGreaterThanOrEqual(entry.typicalMa)
      expect(entry.typicalMa).toBeGreaterThanOrEqual(entry.idleMa)
    }
  })

  it('carry only addresses outside the ranges that the I²C standard reserves', () => {
    // published: UM10204 §3.1.12: 0x00–0x07 and 0x78–0x7F are reserved.
    for (const part of catalogue.parts.values()) {
      const list = part.i2c?.address
        ? [part.i2c.address]
        : part.options?.find(option => option.id === part.i2c?.addressOption)?.values?.map(entry => entry.value) ?? []
      for (const address of list) expect(Number(address) >= 0x08 && Number(address) <= 0x77, `${part.id} ${address}`)
        .toBe(true)
    }
  })
})

describe('limits of the boards', () => {
  it.each(['forty-classic', 'forty-usb-c'])('of %s are the figures of their origin', (id) => {
    const { limits } = catalogue.boards.get(id) as Board
    expect(limits.inputHighMinV)
      .toEqual({ value: 2, origin: expect.stringContaining('JESD8C') }) // published: JESD8C, VIH 2.0 V
    expect(limits.lineMaxMa.value).toBe(16) // memory
    expect(limits.linesTotalMaxMa.value).toBe(50) // memory
    expect(limits.rail3V3BudgetMa.value).toBe(500) // memory
  })
})
