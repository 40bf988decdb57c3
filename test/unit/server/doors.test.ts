import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { depthOf, MAX_DEPTH, parseJson } from '../../../core/documents/json'
import { demoPlans } from '../../../demo'
import { ROUTES } from '../../../server/utils/routes'
import { JOBS } from '../../../server/work/jobs'
import { RequestProblem } from '../../../server/work/problem'
import work from '../../../server/work/thread'
import { catalogue } from '../../plans'

const filesOf = (folder: string): string[] => readdirSync(folder, { withFileTypes: true }).flatMap(entry =>
  entry.isDirectory() ? filesOf(join(folder, entry.name)) : [join(folder, entry.name)])

describe('routes', () => {
  it('are those of the list, with their methods, and each has its job', () => {
    const found = Object.fromEntries(filesOf('server/api').map((file) => {
      // A file without a method serves GET and HEAD; the door lets no other in.
      const [, path, method = 'get'] = /^server(\/api\/.+?)(?:\.(get|post))?\.ts$/.exec(file)!
      return [path, method.toUpperCase()]
    }))
    expect(found).toEqual(ROUTES)
    expect(Object.keys(JOBS).map(job => `/api/${job}`).sort()).toEqual(Object.keys(ROUTES).sort())
    for (const file of filesOf('server/api').filter(name => name.endsWith('.post.ts'))) {
      const job = /heavyRoute\('([^']+)'\)/.exec(readFileSync(file, 'utf8'))?.[1]
      expect(`server/api/${job}.post.ts`).toBe(file)
    }
  })

  it('hold programs against plans, begin plans from texts, and give the small files', () => {
    const hive = demoPlans[0]!
    const { text } = hive.programs[0]!
    const against = JOBS.program(JSON.stringify({ plan: hive, text, name: 'hive.py' }))
    expect(against.counts).toEqual({ agrees: 5, contradicts: 3, unknown: 0 })
    expect(against.corrected).toContain('SCALE_SCK = 6')
    expect(JOBS.begin(JSON.stringify({ text: 'LED_PIN = 17\n', board: 'forty-usb-c' })).plan.parts).toHaveLength(1)
    expect(JOBS.files(JSON.stringify(demoPlans[2])).files.map(({ what }) => what)).toContain('lending-desk by itself')
    for (const body of [{ plan: hive }, { plan: hive, text: 1 }, { plan: { name: 1 }, text: '' },
      { plan: hive, text: '',
        numbering: 'x' }]) {
      expect(() => JOBS.program(JSON.stringify(body))).toThrow(RequestProblem)
    }
    expect(() => JOBS.begin(JSON.stringify({ text: '', board: 'nobody' }))).toThrow(RequestProblem)
  })

  it('run lines at a simulated board, with faults by name; what is none of them is refused with its place',
    async () => {
      const ask = async (more: object) => (await import('../../../server/work/board')).boardSitting(JSON.stringify({ plan: demoPlans[0],
        ...more }))
      const { shown, lamps } = await ask({ lines: ['cd /sys', 'pwd', ':volt 1 6'] })
      expect([shown.map(({ out }) => out), lamps]).toEqual([['', '/sys\n', '3.30 V\n'], 'red, and green flickers'])
      expect(await ask({ faults: ['card'] })).toMatchObject({ lamps: 'red alone', faults: [{ id: 'card' }] })
      for (const [more, path] of [[{ faults: ['x'] }, 'faults.0'], [{ tools: 3 }, 'tools'],
        [{ lines: ['x'.repeat(5000)] }, 'lines.0'],
        [{ lines: Array(201).fill('') }, 'lines']] as const) {
        await expect(ask(more)).rejects.toMatchObject({ status: 400, problems: [{ path }] })
      }
      await expect(ask({ plan: { ...demoPlans[0],
        board: null } })).rejects.toMatchObject({ problems: [{ path: 'plan.board' }] })
    })

  it('answer from a thread what the job gives, packed when it is worth it', async () => {
    const body = new TextEncoder().encode(JSON.stringify(demoPlans[0]))
    const plain = await work({ job: 'check', body, query: {}, gzip: false })
    expect(plain).toMatchObject({ status: 200, gzip: false })
    expect(JSON.parse(Buffer.from(plain.body).toString()))
      .toEqual(JSON.parse(JSON.stringify(JOBS.check(JSON.stringify(demoPlans[0])))))
    const packed = await work({ job: 'check', body, query: {}, gzip: true })
    expect(packed.gzip).toBe(true)
    expect(packed.body.length * 3).toBeLessThan(plain.body.length)
    const refused = await work({ job: 'check', body: new TextEncoder().encode('{'), query: {}, gzip: true })
    expect(refused).toMatchObject({ status: 400, gzip: false })
    expect(JSON.parse(Buffer.from(refused.body).toString())).toMatchObject(
      { error: true, data: { problems: [{ message: expect.stringContaining('JSON') }] } },
    )
    const { body: whole } = await work({ job: 'catalogue', body: new Uint8Array(), query: {}, gzip: false })
    expect(JSON.parse(Buffer.from(whole).toString()).parts)
      .toHaveLength(catalogue.parts.size)
  })

  it('refuse with a typed problem whatever is no body of theirs', async () => {
    for (const [name, job] of Object.entries(JOBS)) {
      if (name === 'catalogue') continue
      for (const body of ['', 'null', '[]', '7', '"x"', '{}', '{"plan":null}',
        `${'['.repeat(9000)}${']'.repeat(9000)}`]) {
        const refused = async () => (job as (text: string, query: object) => unknown)(body, {})
        await expect(refused(), `${name} ${body.slice(0, 20)}`).rejects.toThrow(RequestProblem)
      }
    }
  })
})

describe('JSON of somebody else', () => {
  it('is measured outside its strings, and refused when it is too deep', () => {
    expect([depthOf('[]'), depthOf('{"a":[1,{"b":[]}]}'), depthOf('"[[["'), depthOf('["\\"[[", "\\\\"]')])
      .toEqual([1, 4, 0, 1])
    const nested = (n: number) => '['.repeat(n) + ']'.repeat(n)
    expect(parseJson(nested(MAX_DEPTH))).toMatchObject({ ok: true })
    expect(parseJson(nested(MAX_DEPTH + 1)))
      .toEqual({ ok: false, message: expect.stringContaining(`${MAX_DEPTH + 1} deep`) })
    expect(parseJson('{')).toMatchObject({ ok: false })
  })
})
