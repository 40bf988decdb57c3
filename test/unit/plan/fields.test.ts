/**
 * The fields that say how buses run, what lies on what and what is the maker's own: read, refused by path, and
 * given first values.
 */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { completed } from '../../../core/plan/create'
import { readPlan } from '../../../core/plan/read'
import { catalogue, codesOf, planOf } from '../../plans'

const base = planOf('forty-classic', { a: 'light-i2c' })
const pathsOf = (change: Record<string, unknown>) => {
  const read = readPlan({ ...base, ...change })
  return read.ok ? [] : read.problems.map(problem => problem.path)
}

describe('newer fields of a plan', () => {
  it('may be left out, and stand there with their first values', () => {
    const { controllers: _c, clocks: _k, softwareBuses: _s, stack: _t, weights: _w, own: _o, ...without } = base
    const read = readPlan(without)
    expect(read.ok && read.plan).toMatchObject({
      controllers: {}, clocks: {}, softwareBuses: [], stack: [], weights: {}, own: { boards: [], parts: [] },
    })
    expect(completed(without as never)).toMatchObject({ controllers: {}, own: { boards: [], parts: [] } })
    expect(completed(base)).toEqual(base)
  })

  it('are refused by path', () => {
    expect(pathsOf({ clocks: { i2c1: 'fast' } })).toEqual(['clocks.i2c1'])
    expect(pathsOf({ clocks: { i2c1: 0 } })).toEqual(['clocks.i2c1'])
    expect(pathsOf({ controllers: { uart0: 7 } })).toEqual(['controllers.uart0'])
    expect(pathsOf({ softwareBuses: [{ id: 'i2c-soft-1', sda: 29 }] })).toEqual(['softwareBuses[0].scl'])
    expect(pathsOf({ softwareBuses: [{ id: 'mine', sda: 29, scl: 31 }] })).toEqual(['softwareBuses[0].id'])
    expect(pathsOf({
      softwareBuses: [{ id: 'i2c-soft-1', sda: 29, scl: 31 }, { id: 'i2c-soft-1', sda: 33, scl: 35 }],
    })).toEqual(['softwareBuses[1]'])
    expect(pathsOf({ stack: ['a', 'a'] })).toEqual(['stack[1]'])
    expect(pathsOf({ weights: { apart: -1 } })).toEqual(['weights.apart'])
    expect(pathsOf({ between: { 'a.sda': { kind: 'level-shifter', fit: 'loose' } } })).toEqual(['between["a.sda"].fit'])
    expect(pathsOf({ own: { boards: [{ id: 'x' }] } })[0]).toMatch(/^own\.boards\[0\]\./)
  })

  it('say how buses run: the boot file follows', () => {
    const wired = { ...base, assignments: { 'a.sda': { position: 29 }, 'a.scl': { position: 31 } } }
    expect(codesOf(wired)).toContain('function.unavailable')
    const soft = { ...wired, softwareBuses: [{ id: 'i2c-soft-2', sda: 29, scl: 31 }] }
    expect(codesOf(soft)).not.toContain('function.unavailable')
    expect(evaluate(soft, catalogue).boot.needs.map(need => need.line))
      .toEqual(['dtoverlay=i2c-gpio,bus=12,i2c_gpio_sda=5,i2c_gpio_scl=6'])
    const swapped = { ...soft, softwareBuses: [{ id: 'i2c-soft-2', sda: 31, scl: 29 }] }
    expect(codesOf(swapped)).toContain('function.unavailable')
  })

  it('carry a speed into an overlay as its parameter', () => {
    const plan = {
      ...planOf('forty-usb-c', { a: 'light-i2c' }),
      assignments: { 'a.sda': { position: 15 }, 'a.scl': { position: 16 } },
      clocks: { i2c6: 50_000 },
    }
    expect(evaluate(plan, catalogue).boot.needs.map(need => need.line))
      .toContain('dtoverlay=i2c6,pins_22_23,baudrate=50000')
  })
})
