import { deflateSync } from 'fflate'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluateFacts } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { completed } from '../../../core/plan/create'
import { readPlanText } from '../../../core/plan/read'
import { fragmentOf, planOfFragment, SAFE_LETTERS } from '../../../core/share/address'
import { planTextOfSheet, sheetOf } from '../../../core/share/sheet'
import { demoPlans } from '../../../demo'
import { anyPlan } from '../../generated'
import { catalogue, planOf } from '../../plans'
import type { Plan } from '../../../core/plan/types'
import { draws } from '../../random'

const sheet = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  return sheetOf(facts, evaluateFacts(facts), '2026-05-01T10:00:00.000Z', () => '#2d6a94')
}

describe('a plan as an address', () => {
  it('comes back as it was', () => {
    fc.assert(fc.property(fc.nat(1e6), (seed) => {
      const plan = anyPlan(seed)
      const read = planOfFragment(`#${fragmentOf(plan)}`)
      expect(read.ok && completed(read.plan)).toEqual(completed(plan))
    }), { numRuns: draws(40) })
  })

  it('of a demo is short enough for mail, and in letters that stay as they are', () => {
    for (const plan of demoPlans) {
      const fragment = fragmentOf(plan)
      expect(fragment).toMatch(/^[\w-]+$/)
      expect(fragment.length, plan.name).toBeLessThan(SAFE_LETTERS)
    }
  })

  it('leaves earlier boot files out', () => {
    const boot = { text: 'a=1\n', before: [{ at: '2026-01-01T00:00:00.000Z', text: 'secret=1\n' }] }
    const read = planOfFragment(fragmentOf({ ...planOf('forty-classic', {}), boot }))
    expect(read.ok && read.plan.boot).toEqual({ text: 'a=1\n' })
  })

  it('says what is wrong with one that was cut or changed', () => {
    const whole = fragmentOf(demoPlans[0]!)
    for (const bad of ['', '#', '#?', '%00', whole.slice(0, whole.length / 2),
      `${whole.slice(0, 40)}AAAA${whole.slice(44)}`, 'e30']) {
      const read = planOfFragment(bad)
      expect(read.ok, bad.slice(0, 20)).toBe(false)
      if (!read.ok) expect(read.problems[0]!.message.length).toBeGreaterThan(10)
    }
  })

  it('is not unpacked without end', () => {
    const bomb = Buffer.from(deflateSync(new Uint8Array(64 * 1024 * 1024))).toString('base64url')
    expect(bomb.length).toBeLessThan(100_000)
    const read = planOfFragment(bomb)
    expect(!read.ok && read.problems[0]!.message).toContain('larger than a plan can be')
  })
})

describe('a plan as a sheet', () => {
  it('has the other files as they should lie on the board, where they go and when they count, and what the parts cost',
    () => {
      const plan = planOf('forty-usb-c', { lamp: 'led-plain' })
      const told = sheet({ ...plan,
        host: { ...plan.host, usbNames: [{ id: 'a', name: 'scale', by: 'socket', value: '1-1.2' }] } })
      expect(told).toContain('KERNELS==&quot;1-1.2&quot;')
      expect(told).toContain('/etc/udev/rules.d/72-usb-names.rules, owned by root, mode 0644; then udevadm control')
      expect(told).toMatch(/About \d[\d.]* together, made-up prices/)
      expect(sheet(plan)).not.toContain('Other files')
    })

  it('carries the plan, and everything that the bench wants', () => {
    for (const plan of demoPlans) {
      const html = sheet(plan)
      const text = planTextOfSheet(html)!
      const read = readPlanText(text)
      expect(read.ok && completed(read.plan)).toEqual(plan)
      for (const title of [
        'What it is', 'Header', 'Wires, in the order of connecting', 'What lies on the table', 'Boot file',
        'What answers on I²C',
      ]) {
        expect(html).toContain(`<h2>${title}</h2>`)
      }
      expect(html.match(/<svg/g)).toHaveLength(1)
    }
  })

  it('fetches nothing and runs nothing', () => {
    for (const plan of demoPlans) {
      expect(sheet(plan)).not.toMatch(/<script(?! type="application\/json")|\son\w+=|src=|@import|url\(/i)
    }
  })

  it('shows whatever a person wrote as text', () => {
    const nasty = '</script><script>alert(1)</script><img src=x onerror=alert(1)>"\'&'
    const plan = planOf('forty-classic', { a: 'relay-bare' }, { name: nasty, notes: nasty, story: nasty })
    plan.parts[0]!.name = nasty
    const html = sheet(plan)
    expect(html).not.toContain('<img')
    expect(html.match(/<script/g)).toHaveLength(1)
    expect(JSON.parse(planTextOfSheet(html)!).notes).toBe(nasty)
  })

  it('is none without its plan', () => {
    expect(planTextOfSheet('<p>hello</p>')).toBeNull()
  })
})
