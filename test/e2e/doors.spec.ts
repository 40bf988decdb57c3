import { readFileSync } from 'node:fs'
import { expect, test, type APIRequestContext } from '@playwright/test'

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
  const plan = {
    format: 'voltaris-plan', version: 1, name: 'Two ports', board: 'forty-classic', supply: null, assignments: {},
    parts: [{ id: 'a', type: 'label-printer-serial', name: 'A' }, { id: 'b', type: 'controller-5v-serial', name: 'B' }],
  }
  const answer = await (await request.post(
    '/api/place', { data: JSON.stringify(plan), headers: { 'content-type': 'application/json' } },
  )).json()
  expect(answer).toMatchObject({ ok: false, conflict: [{ label: 'A: serial' }, { label: 'B: serial' }] })
  expect(answer.waysOut.map((way: { label: string }) => way.label)).toContain('Join B by USB cable')
})

test('a bad plan is refused with 400 and paths, one over 4 MiB with 413', async ({ request }) => {
  const bad = await request.post(
    '/api/check', { data: JSON.stringify({ ...JSON.parse(hive), name: 7 }), headers: { 'content-type': 'application/json' } },
  )
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

const post = (request: APIRequestContext, path: string, body: unknown) => request.post(
  path, { data: Buffer.from(typeof body === 'string' ? body : JSON.stringify(body)), headers: { 'content-type': 'application/json' } },
)

test('boot files are linted, written and rehearsed by route', async ({ request }) => {
  const lint = await (await post(request, '/api/boot/lint', { text: 'max_framebuffer=2\n', board: 'forty-usb-c' })).json()
  expect(lint).toMatchObject({
    dialect: 'key-value',
    findings: [{ code: 'boot.key-unknown', line: 1, fixes: [{ changes: [{ from: 0, to: 15, insert: 'max_framebuffers' }] }] }],
  })
  const written = await (await post(request, '/api/boot/write', { plan: JSON.parse(hive), text: '# mine\n' })).json()
  expect(written.text.startsWith('# mine\n')).toBe(true)
  expect(written.changes.length).toBeGreaterThan(3)
  expect((await (await post(request, '/api/boot/write', hive)).json()).changes).toEqual([])
  const story = await (await post(request, '/api/boot/rehearse', hive)).json()
  expect(story.parts.filter((part: { state: string }) => part.state === 'dark')).toEqual([])
  expect(story.devices.map((device: { path: string }) => device.path)).toContain('/dev/rtc0')
})

test('device trees are compiled, printed, merged and read as boards by route', async ({ request }) => {
  const compiled = await (await post(
    request, '/api/dt/compile',
    {
      source: '/dts-v1/;\n/include/ "more.dtsi"\n', symbols: true,
      files: { 'more.dtsi': '/ { model = "Shed"; bus: i2c@1 { compatible = "x-i2c"; reg = <1>; }; };' },
    },
  )).json()
  expect((await (await post(request, '/api/dt/decompile', { blob: compiled.blob })).json()).source).toContain('bus: i2c@1 {')
  const overlay = await (await post(request, '/api/dt/compile', { source: '/dts-v1/; /plugin/; &bus { status = "okay"; };' })).json()
  const applied = await (await post(request, '/api/dt/apply', { base: compiled.blob, overlays: [overlay.blob] })).json()
  expect((await (await post(request, '/api/dt/board', { blob: applied.blob })).json()).profile).toMatchObject({
    model: 'Shed', controllers: [{ kind: 'i2c', labels: ['bus'], status: 'okay' }],
  })
  const made = await (await post(request, '/api/dt/overlay', hive)).json()
  expect(made.filter((entry: { ok: boolean }) => entry.ok).length).toBeGreaterThan(3)
})

test('what cannot be used is refused with a status, a path and a reason', async ({ request }) => {
  const cases: [string, unknown, number, RegExp][] = [
    ['/api/boot/lint', '{', 400, /no JSON/], ['/api/boot/lint', { txt: '' }, 400, /text.{1,4} is required/],
    ['/api/boot/lint', { text: '', board: 'dream' }, 400, /board/],
    ['/api/boot/write', { plan: { name: 7 } }, 400, /format/],
    ['/api/boot/write', { plan: { ...JSON.parse(hive), board: null } }, 400, /no board/], ['/api/boot/rehearse', '[]', 400, /./],
    ['/api/dt/compile', { source: '/dts-v1/; / {' }, 400, /source\.dts:1:14/], ['/api/dt/decompile', { blob: 'AAAA' }, 400, /byte/],
    ['/api/dt/decompile', { blob: '***' }, 400, /base64/], ['/api/dt/board', { blob: '0A3+7Q==' }, 400, /./],
    ['/api/dt/apply', { base: '', overlays: [] }, 400, /./], ['/api/dt/compile', { source: 'x'.repeat(4 * 1024 * 1024 + 1) }, 413, /4 MiB/],
  ]
  for (const [path, body, status, words] of cases) {
    const answer = await post(request, path, body)
    expect([path, answer.status()]).toEqual([path, status])
    expect(JSON.stringify((await answer.json()).data.problems), path).toMatch(words)
  }
  const base = await (await post(request, '/api/dt/compile', { source: '/dts-v1/; / { };' })).json()
  const stray = await (await post(request, '/api/dt/compile', { source: '/dts-v1/; /plugin/; &nobody { };' })).json()
  expect((await post(request, '/api/dt/apply', { base: base.blob, overlays: [stray.blob] })).status()).toBe(422)
})
