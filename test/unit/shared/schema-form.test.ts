/** A form held against its schema while it is filled in. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, reactive } from 'vue'
import { useSchemaForm } from '../../../app/shared/useSchemaForm'
import { readOwn } from '../../../core/catalogue/own-read'
import { emptyDraft, partOfDraft } from '../../../core/catalogue/own-form'
import { readPinTable } from '../../../core/catalogue/pin-table'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

const typed = async (change: () => void) => {
  change()
  await nextTick()
  await vi.advanceTimersByTimeAsync(300)
}

describe('a form by its schema', () => {
  const draft = reactive({ ...emptyDraft(), name: 'Rain gauge' })
  const pins = readPinTable('VCC\nGND\nSDA\nSCL')
  const made = () => partOfDraft({ ...draft, pins }, new Set<string>())
  const check = async () => (part: ReturnType<typeof made>) => {
    const read = readOwn(JSON.stringify(part))
    return read.ok ? [] : read.problems
  }

  it('says at its field what the schema refuses, and stops saying it', async () => {
    const scope = effectScope()
    const form = scope.run(() => useSchemaForm(made, check, (error) => {
      throw error
    }))!
    await typed(() => draft.idleMa = -3)
    expect(form.at(/^supplies\[0\]\.idleMa$/)).toEqual([expect.stringContaining('greater than or equal to 0')])
    expect(form.at(/^i2c\b/)).toEqual([])
    await typed(() => draft.address = '0x99')
    expect(form.at(/^i2c\b/)).toHaveLength(1)
    await typed(() => Object.assign(draft, { idleMa: 3, address: '0x44' }))
    expect(form.problems.value).toEqual([])
    scope.stop()
  })

  it('holds many letters against it once, and none after it is closed', async () => {
    const scope = effectScope()
    const looked = vi.fn(() => [])
    scope.run(() => useSchemaForm(made, async () => looked, () => {}))
    for (const name of ['R', 'Ra', 'Rai', 'Rain']) {
      draft.name = name
      await nextTick()
      await vi.advanceTimersByTimeAsync(40)
    }
    await vi.advanceTimersByTimeAsync(300)
    expect(looked).toHaveBeenCalledTimes(1)
    draft.name = 'Rains'
    await nextTick()
    scope.stop()
    await vi.advanceTimersByTimeAsync(1000)
    expect(looked).toHaveBeenCalledTimes(1)
  })

  it('tells once when the schema does not come, and refuses nothing', async () => {
    const scope = effectScope()
    const told = vi.fn()
    const form = scope.run(() => useSchemaForm(made, () => Promise.reject(new Error('gone')), told))!
    await typed(() => draft.peakMa = 7)
    await typed(() => draft.peakMa = 8)
    expect(told).toHaveBeenCalledTimes(1)
    expect(form.problems.value).toEqual([])
    scope.stop()
  })
})
