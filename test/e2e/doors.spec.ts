import { readFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { startServer } from './server'

const hive = readFileSync('demo/beehive-monitor.json', 'utf8')

test('check and place answer with the same JSON as the command', async ({ request }) => {
  const check = await request.post('/api/check', { data: hive, headers: { 'content-type': 'application/json' } })
  expect(check.status()).toBe(200)
  expect((await check.json()).counts.stops).toBe(0)
  const place = await request.post('/api/place?scope=all',
    { data: hive, headers: { 'content-type': 'application/json' } })
  expect(await place.json()).toMatchObject({ ok: true, provedBest: true })
})

test('power gives every node in every state', async ({ request }) => {
  const power = await (await request.post('/api/power',
    { data: hive, headers: { 'content-type': 'application/json' } })).json()
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
    '/api/check', { data: JSON.stringify({ ...JSON.parse(hive), name: 7 }),
      headers: { 'content-type': 'application/json' } },
  )
  expect(bad.status()).toBe(400)
  expect((await bad.json()).data.problems).toEqual([{ path: 'name', message: '"name" must be a string' }])
  for (const path of ['/api/check', '/api/place', '/api/power']) {
    const large = await request.post(path,
      { data: ' '.repeat(4 * 1024 * 1024 + 1), headers: { 'content-type': 'application/json' } })
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
  path, { data: Buffer.from(typeof body === 'string' ? body : JSON.stringify(body)),
    headers: { 'content-type': 'application/json' } },
)

test('boot files are linted, written and rehearsed by route', async ({ request }) => {
  const lint = await (await post(request, '/api/boot/lint',
    { text: 'max_framebuffer=2\n', board: 'forty-usb-c' })).json()
  expect(lint).toMatchObject({
    dialect: 'key-value',
    findings: [{ code: 'boot.key-unknown', line: 1,
      fixes: [{ changes: [{ from: 0, to: 15, insert: 'max_framebuffers' }] }] }],
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
  expect((await (await post(request, '/api/dt/decompile', { blob: compiled.blob })).json()).source)
    .toContain('bus: i2c@1 {')
  const overlay = await (await post(request, '/api/dt/compile',
    { source: '/dts-v1/; /plugin/; &bus { status = "okay"; };' })).json()
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
    ['/api/boot/write', { plan: { ...JSON.parse(hive), board: null } }, 400, /no board/],
    ['/api/boot/rehearse', '[]', 400, /./],
    ['/api/dt/compile', { source: '/dts-v1/; / {' }, 400, /source\.dts:1:14/],
    ['/api/dt/decompile', { blob: 'AAAA' }, 400, /byte/],
    ['/api/dt/decompile', { blob: '***' }, 400, /base64/], ['/api/dt/board', { blob: '0A3+7Q==' }, 400, /./],
    ['/api/dt/apply', { base: '', overlays: [] }, 400, /./],
    ['/api/dt/compile', { source: 'x'.repeat(4 * 1024 * 1024 + 1) }, 413, /4 MiB/],
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

const json = { 'content-type': 'application/json' }

test('unknown paths, wrong methods, other bodies and foreign origins are refused, each as JSON',
  async ({ request, baseURL }) => {
    const cases: [string, string, Record<string, string>, number, RegExp][] = [
      ['GET', '/api', {}, 404, /no route/], ['GET', '/api/nothing', {}, 404, /no route/],
      ['POST', '/api/check/', json, 404, /no route/],
      ['GET', '/api/constructor', {}, 404, /no route/],
      ['GET', '/api/check', {}, 405, /takes POST/], ['PUT', '/api/check', json, 405, /takes POST/], [
        'POST', '/api/catalogue', json, 405, /takes GET/,
      ],
      ['DELETE', '/api/catalogue', {}, 405, /takes GET/],
      ['POST', '/api/check', {}, 415, /has to be JSON/],
      ['POST', '/api/check', { 'content-type': 'text/plain' }, 415, /not \\"text\/plain/],
      ['POST', '/api/check', { ...json, origin: 'https://elsewhere.example' }, 403, /may not ask/],
      ['POST', '/api/check', { ...json, origin: 'null' }, 403, /may not ask/],
      ['GET', '/api/catalogue', { origin: 'https://elsewhere.example' }, 403, /may not ask/],
      ['POST', '/api/check', { ...json, 'sec-fetch-site': 'cross-site' }, 403, /another site/],
    ]
    for (const [method, path, headers, status, words] of cases) {
      const answer = await request.fetch(path,
        { method, headers, ...(method !== 'GET' && { data: Buffer.from('{}') }) })
      expect([method, path, answer.status()]).toEqual([method, path, status])
      expect(answer.headers()['content-type']).toBe('application/json')
      expect(await answer.text(), path).toMatch(words)
    }
    expect((await request.get('/api/check')).headers().allow).toBe('POST, OPTIONS')
    const head = await request.head('/api/catalogue')
    expect([head.status(), head.headers()['content-type']]).toEqual([200, 'application/json'])
    // Its own pages may ask.
    const own = await request.post('/api/check', { data: hive, headers: { ...json, origin: baseURL! } })
    expect(own.status()).toBe(200)
    const preflight = await request.fetch('/api/check',
      { method: 'OPTIONS', headers: { origin: 'https://elsewhere.example' } })
    expect(preflight.status()).toBe(403)
    expect(preflight.headers()['access-control-allow-origin']).toBeUndefined()
    expect((await request.get('/no-such-file.js')).status()).toBe(404)
    expect((await request.post('/project/x/board', { data: '' })).status()).toBe(405)
  })

test('pages and files come with their rules, and packed', async ({ request }) => {
  const page = await request.get('/', { headers: { 'accept-encoding': 'gzip' } })
  const headers = page.headers()
  const rules = Object.fromEntries(headers['content-security-policy']!.split('; ').map((rule) => {
    const [name, ...sources] = rule.split(' ')
    return [name, sources]
  }))
  expect(rules['script-src']).toEqual(['\'self\''])
  expect(rules['default-src']).toEqual(['\'self\''])
  expect(rules['frame-ancestors']).toEqual(['\'none\''])
  expect(headers).toMatchObject({ 'x-content-type-options': 'nosniff', 'x-frame-options': 'DENY',
    'referrer-policy': 'no-referrer' })
  expect(headers['x-powered-by']).toBeUndefined()
  const html = await page.text()
  // No script stands in the page itself; what is between tags is data.
  for (const [, attributes, content] of html.matchAll(/<script([^>]*)>([^<]*)/g)) {
    if (!/type="application\/json"/.test(attributes!)) expect(content).toBe('')
  }
  expect(html).not.toMatch(/ on[a-z]+="/)
  const script = /src="(\/_nuxt\/[^"]+)"/.exec(html)![1]!
  const file = await request.get(script, { headers: { 'accept-encoding': 'gzip' } })
  expect(file.headers()).toMatchObject({
    'cache-control': 'public, max-age=31536000, immutable', 'content-encoding': 'gzip',
    'x-content-type-options': 'nosniff',
  })
  for (const path of ['/sw.js', '/settings.js']) expect(
    (await request.get(path)).headers()['cache-control'], path,
  ).toMatch(/no-cache|max-age=0/)
  const report = await request.post('/api/check', { data: hive, headers: { ...json, 'accept-encoding': 'gzip' } })
  expect(report.headers()['content-encoding']).toBe('gzip')
  const plain = await request.post('/api/check', { data: hive, headers: { ...json, 'accept-encoding': 'identity' } })
  expect(plain.headers()['content-encoding']).toBeUndefined()
  expect(await plain.json()).toEqual(await report.json())
})

interface Answer { status: number | string, ms: number }

/** A request by hand: chunked bodies, aborts, many at once. */
function send(
  base: string, method: string, path: string, pieces: (string | Buffer)[] = [], headers: Record<string, string> = json,
): Promise<Answer> {
  const started = performance.now()
  return new Promise((resolve) => {
    const done = (status: number | string) => resolve({ status, ms: performance.now() - started })
    const asked = httpRequest(base + path, { method, headers, agent: false }, (answer) => {
      answer.resume()
      answer.on('end', () => done(answer.statusCode!))
      answer.on('error', (error: NodeJS.ErrnoException) => done(error.code ?? error.message))
    })
    asked.on('error', (error: NodeJS.ErrnoException) => done(error.code ?? error.message))
    for (const piece of pieces) asked.write(piece)
    asked.end()
  })
}

test('4 MiB is the most also when it comes in pieces of unknown number', async ({ baseURL }) => {
  const mebibyte = Buffer.alloc(1024 * 1024, ' ')
  for (const path of ['/api/check', '/api/dt/compile']) {
    expect(await send(baseURL!, 'POST', path, Array(5).fill(mebibyte))).toMatchObject({ status: 413 })
  }
  expect(await send(baseURL!, 'POST', '/api/check', [...Array(3).fill(mebibyte), hive])).toMatchObject({ status: 200 })
  expect(await send(baseURL!, 'POST', '/api/check', [mebibyte])).toMatchObject({ status: 400 })
})

const DEEP = 100_000
const nested = (open: string, inner: string, close: string) => open.repeat(DEEP) + inner + close.repeat(DEEP)

test('a hundred thousand levels anywhere are 400', async ({ baseURL }) => {
  const source = (text: string) => JSON.stringify({ source: text })
  const cases: [string, string][] = [
    ['/api/check', nested('[', '', ']')], [
      '/api/check', `{"format":"voltaris-plan","version":1,"name":"x","x":${nested('{"a":', '1', '}')}}`,
    ],
    ['/api/boot/write', `{"plan":${nested('[', '', ']')}}`],
    ['/api/boot/lint', `{"text":"","includes":${nested('{"a":', '""', '}')}}`],
    ['/api/dt/decompile', `{"blob":${nested('[', '', ']')}}`],
    ['/api/dt/compile', source(`/dts-v1/; / {${nested('a{', '', '};')}};`)],
    ['/api/dt/compile', source(`/dts-v1/; / { p = <${nested('(', '1', ')')}>; };`)],
    ['/api/dt/compile', source(`/dts-v1/; / { p = <(${'~'.repeat(DEEP)}1)>; };`)],
    ['/api/dt/compile', source(`${'#if 1\n'.repeat(DEEP)}/dts-v1/; / { };${'\n#endif'.repeat(DEEP)}`)],
    ['/api/dt/compile', source(`#define F(x) x\n/dts-v1/; / { p = <${nested('F(', '1', ')')}>; };`)],
    ['/api/dt/compile', JSON.stringify({ source: '/include/ "me"', files: { me: '/include/ "me"' } })],
  ]
  for (const [path, body] of cases) expect(
    [path, body.slice(0, 60), (await send(baseURL!, 'POST', path, [body])).status],
  ).toEqual([path, body.slice(0, 60), 400])
})

test('two hundred heavy requests delay no light one; those over the limit get 429, and whoever leaves takes '
  + 'the work along', async () => {
  // One of its own: the others' requests are not to find it full.
  const server = await startServer('.output', { NUXT_WORK_SECONDS: '8' })
  await underLoad(server.address).finally(server.stop)
})

async function underLoad(base: string): Promise<void> {
  const parts = Array.from(
    { length: 30 }, (_,
      i) => ({ id: `p${i}`, type: ['oled-i2c', 'fan-5v', 'buttons-4', 'probe-onewire'][i % 4], name: `P${i}` }),
  )
  const plan = JSON.stringify(
    { format: 'voltaris-plan', version: 1, name: 'Much', board: 'forty-usb-c', supply: null, parts, assignments: {} },
  )
  const properties = JSON.stringify({ source: '/dts-v1/; / { '
    + `${Array.from({ length: 40_000 }, (_, i) => `p${i} = <${i}>;`).join(' ')} };` })
  const heavy = Array.from(
    { length: 200 }, (_,
      i) => send(base, 'POST', i % 10 ? '/api/place' : '/api/dt/compile', [i % 10 ? plan : properties]),
  )
  let isOver = false
  const all = Promise.all(heavy).then((answers) => {
    isOver = true
    return answers
  })
  const light: Answer[] = []
  while (!isOver) {
    light.push(await send(base, 'GET', '/api/catalogue', [], {}))
    light.push(await send(base, 'GET', '/', [], {}))
  }
  const answers = await all
  const statuses = new Set(answers.map(answer => answer.status))
  expect([...statuses].filter(status => ![200, 429, 503].includes(status as number))).toEqual([])
  expect(statuses).toContain(200)
  expect(statuses).toContain(429)
  expect(new Set(light.map(answer => answer.status))).toEqual(new Set([200]))
  const times = light.map(answer => answer.ms).sort((a, b) => a - b)
  console.log(`${light.length} light requests beside them: 95 % under `
    + `${times[Math.floor(times.length * 0.95)]!.toFixed(0)} ms`)
  expect(times[Math.floor(times.length * 0.95)]!).toBeLessThan(200)

  // Sixty callers that leave at once: their work goes with them, and the next is answered soon.
  await Promise.all(Array.from({ length: 60 }, () => new Promise<void>((resolve) => {
    const asked = httpRequest(`${base}/api/place`, { method: 'POST', headers: json, agent: false })
    asked.on('error', () => resolve())
    asked.end(plan, () => setImmediate(() => asked.destroy(new Error('left'))))
  })))
  expect((await send(base, 'POST', '/api/check', [hive])).status).toBe(200)
}
