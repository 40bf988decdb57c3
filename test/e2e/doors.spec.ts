import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'

const hive = readFileSync('demo/beehive-monitor.json', 'utf8')

test('check and place answer with the same JSON as the command', async ({ request }) => {
  const check = await request.post('/api/check', { data: hive, headers: { 'content-type': 'application/json' } })
  expect(check.status()).toBe(200)
  expect((await check.json()).counts.stops).toBe(0)
  const place = await request.post('/api/place?scope=all', { data: hive, headers: { 'content-type': 'application/json' } })
  expect(await place.json()).toMatchObject({ ok: true, provedBest: true })
})

test('power gives every node in every state', async ({ request }) => {
  const power = await (await request.post('/api/power', { data: hive, headers: { 'content-type': 'application/json' } })).json()
  expect(power.states.map((state: { id: string }) => state.id)).toContain('send')
  expect(power.states[1].nodes['@5V'].voltageV).toBeGreaterThan(4.7)
  expect(power.findings.length).toBeGreaterThan(0)
})

test('a plan that cannot be placed comes back with its conflict and the ways out of it', async ({ request }) => {
  const plan = { format: 'voltaris-plan', version: 1, name: 'Two ports', board: 'forty-classic', supply: null, assignments: {}, parts: [{ id: 'a', type: 'label-printer-serial', name: 'A' }, { id: 'b', type: 'controller-5v-serial', name: 'B' }] }
  const answer = await (await request.post('/api/place', { data: JSON.stringify(plan), headers: { 'content-type': 'application/json' } })).json()
  expect(answer).toMatchObject({ ok: false, conflict: [{ label: 'A: serial' }, { label: 'B: serial' }] })
  expect(answer.waysOut.map((way: { label: string }) => way.label)).toContain('Join B by USB cable')
})

test('a bad plan is refused with 400 and paths, one over 4 MiB with 413', async ({ request }) => {
  const bad = await request.post('/api/check', { data: JSON.stringify({ ...JSON.parse(hive), name: 7 }), headers: { 'content-type': 'application/json' } })
  expect(bad.status()).toBe(400)
  expect((await bad.json()).data.problems).toEqual([{ path: 'name', message: '"name" must be a string' }])
  for (const path of ['/api/check', '/api/place', '/api/power']) {
    const large = await request.post(path, { data: ' '.repeat(4 * 1024 * 1024 + 1), headers: { 'content-type': 'application/json' } })
    expect(large.status()).toBe(413)
  }
})

test('the catalogue is there to read', async ({ request }) => {
  const { boards, parts, powerItems } = await (await request.get('/api/catalogue')).json()
  expect(boards).toHaveLength(5)
  expect(powerItems.length).toBeGreaterThan(30)
  expect(parts.length).toBeGreaterThanOrEqual(70)
})
