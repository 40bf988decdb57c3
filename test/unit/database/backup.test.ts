import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { strFromU8, strToU8 } from 'fflate'
import { beforeEach, describe, expect, it } from 'vitest'
import { backupNews, BackupError, makeBackup, readBackup, restoreBackups } from '../../../app/database/backup'
import { copyPhotos, keepPhoto, MAX_PHOTOS, photosOf } from '../../../app/database/photos'
import { bundleOf, unbundle } from '../../../app/database/transfer'
import { ProjectDatabase } from '../../../app/database/projects'
import { memorySlots, type Slots } from '../../../app/database/slots'
import { applyEdit } from '../../../core/plan/edits'
import { readPlan } from '../../../core/plan/read'
import type { Plan } from '../../../core/plan/types'
import { readZip, ZipError, zipOf } from '../../../core/documents/zip'
import { demoPlans } from '../../../demo'
import { anyEdit } from '../../edits'
import { emptyPlan } from '../../../core/plan/create'

let database: ProjectDatabase
let count = 0
const another = () => new ProjectDatabase(`backup-${count++}`)
beforeEach(() => {
  database = another()
})

/** Everything that is kept, apart from when the clock was looked at and the numbers that the database gives. */
const everything = async (from: ProjectDatabase, slots: Slots) => ({
  projects: await from.projects.toArray(),
  heads: (await from.heads.toArray()).sort((a, b) => a.id < b.id ? -1 : 1),
  states: (await from.states.orderBy('project').toArray()).map(({ key: _, ...state }) => state),
  trails: await from.trails.toArray(),
  stock: await from.stock.toArray(),
  slots: Object.fromEntries(slots.keys().sort().map(key => [key, slots.getItem(key)])),
})

describe('a backup', () => {
  it('brings back what is missing in the stock, and leaves what is counted now', async () => {
    const [from, to] = [another(), another()]
    await from.stock.bulkAdd([{ id: 's1', what: 'LED', count: 5 }, { id: 's2', what: 'fuse', count: 3 }])
    await to.stock.add({ id: 's1', what: 'LED', count: 2 })
    const { bytes } = await makeBackup(from, memorySlots())
    await restoreBackups(to, memorySlots(), [bytes])
    expect((await to.stock.toArray()).map(({ what, count }) => `${count} ${what}`)).toEqual(['2 LED', '3 fuse'])
  })

  it('gives everything again in an empty browser', async () => {
    await fc.assert(fc.asyncProperty(fc.array(
      fc.tuple(fc.constantFrom(...demoPlans), fc.array(anyEdit, { maxLength: 4 })), { maxLength: 4 },
    ), async (drawn) => {
      const [from, to] = [another(), another()]
      const slots = memorySlots()
      slots.setItem('voltaris.dark', 'true')
      const fuse = { id: 's2', what: 'fuse', count: 3, place: 'box' }
      await from.stock.bulkAdd([{ id: 's1', what: 'LED', type: 'led-plain', count: drawn.length }, fuse])
      for (const [plan, edits] of drawn) {
        const record = await from.create(plan, new Date('2026-01-05'))
        const changed = edits.reduce((now, edit) => applyEdit(now, edit).plan, plan)
        if (!readPlan(changed).ok) continue
        await from.save(record.id, {
          plan: changed, base: plan, baseRevision: 1, tab: 'a', number: 3,
          trail: { base: plan, steps: edits.map(edit => ({ label: edit.edit, edit })), done: edits.length },
        }, new Date('2026-01-07'))
        await from.keepState(record.id, { kind: 'mark', label: 'Here', plan: changed }, new Date('2026-01-08'))
      }
      const ids = (await from.list()).map(head => head.id)
      await from.putInBin(ids.slice(0, 1), new Date('2026-01-09'))
      const { bytes, projects } = await makeBackup(from, slots)
      expect(projects).toBe(drawn.length)
      const target = memorySlots()
      await restoreBackups(to, target, [bytes])
      // Through the file and back, as JSON has it.
      expect(await everything(to, target)).toEqual(JSON.parse(JSON.stringify(await everything(from, slots))))
      // Once more changes nothing.
      expect(await restoreBackups(to, target, [bytes]))
        .toMatchObject({ added: [], beside: [], renewed: [], same: drawn.length })
      from.close()
      to.close()
    }), { numRuns: 25 })
  })

  it('takes only what changed since another, and both together give everything', async () => {
    const [first, second] = [
      await database.create(emptyPlan('First'), new Date('2026-01-01')),
      await database.create(emptyPlan('Second'), new Date('2026-01-01')),
    ]
    const whole = await makeBackup(database, memorySlots(), undefined, new Date('2026-01-02'))
    await database.save(
      second.id, { plan: emptyPlan('Second, later'), base: second.plan, baseRevision: 1, tab: 'a', number: 1 },
      new Date('2026-01-03'),
    )
    const changes = await makeBackup(database, memorySlots(), '2026-01-02T00:00:00.000Z', new Date('2026-01-04'))
    expect(changes.projects).toBe(1)
    const to = another()
    await restoreBackups(to, memorySlots(), [changes.bytes, whole.bytes])
    expect((await to.list()).map(head => head.name).sort()).toEqual(['First', 'Second, later'])
    // One after the other is the same: what came back and was left alone is renewed.
    const later = another()
    await restoreBackups(later, memorySlots(), [whole.bytes])
    expect((await restoreBackups(later, memorySlots(), [changes.bytes])).renewed).toEqual(['Second, later'])
    expect((await later.list()).map(head => head.id).sort()).toEqual([first.id, second.id].sort())
  })

  it('never writes over what has changed here since', async () => {
    const { id, plan } = await database.create(emptyPlan('As it was'))
    const { bytes } = await makeBackup(database, memorySlots())
    await database.save(id, { plan: { ...plan, name: 'As it is' }, base: plan, baseRevision: 1, tab: 'a', number: 1 })
    const { beside } = await restoreBackups(database, memorySlots(), [bytes])
    expect(beside).toHaveLength(1)
    expect((await database.read(id)).plan.name).toBe('As it is')
    expect((await database.list()).map(head => head.name)).toContain(beside[0])
  })

  it('brings damaged and newer records back as they were', async () => {
    const at = { revision: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '2026-01-01T00:00:00.000Z' }
    const newer = { id: 'newer', plan: { ...emptyPlan('Newer'), version: 9, wonder: [1] } as never, ...at }
    await database.projects.bulkAdd([newer, { id: 'chewed', plan: { name: 'Chewed', parts: 'x' } as never, ...at }])
    const { bytes } = await makeBackup(database, memorySlots())
    const to = another()
    await restoreBackups(to, memorySlots(), [bytes])
    expect(await to.projects.get('newer')).toEqual(newer)
    expect((await to.list()).map(head => head.trouble?.kind).sort()).toEqual(['damaged', 'newer'])
  })

  it('that cannot be used is refused with what is wrong, and changes nothing', async () => {
    await database.create(emptyPlan('A'))
    const { bytes } = await makeBackup(database, memorySlots())
    const { contents } = readBackup(bytes)
    const asZip = (files: Record<string, unknown>) => zipOf(Object.entries(files).map(([path, value]) =>
      ({ path, bytes: new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value)) })))
    const cases: [Uint8Array, RegExp][] = [
      [new TextEncoder().encode('no zip'), /it is no zip/], [bytes.subarray(0, 500), /cannot be read|not in it/],
      [asZip({ 'other.txt': 'x' }), /"backup.json" is not in it/], [asZip({ 'backup.json': '{' }), /is no JSON/],
      [asZip({ 'backup.json': { ...contents, version: 2 } }), /version/],
      [asZip({ 'backup.json': contents, 'settings.json': {} }), /is not in it/],
      [asZip({ 'backup.json': { ...contents, projects: [] }, 'settings.json': { other: 'x' } }), /settings.json/],
    ]
    const to = another()
    for (const [given, words] of cases) {
      await expect(restoreBackups(to, memorySlots(), [given])).rejects.toThrow(BackupError)
      await expect(restoreBackups(to, memorySlots(), [given])).rejects.toThrow(words)
    }
    expect(await to.projects.count()).toBe(0)
  })

  it('is asked for when the last is two weeks old and something has changed, and not again for a week', async () => {
    const day = (n: number) => new Date(Date.parse('2026-02-01') + n * 86_400_000)
    expect(await backupNews(database, day(0))).toMatchObject({ changed: 0, isDue: false })
    await database.create(emptyPlan('A'), day(0))
    expect(await backupNews(database, day(13))).toMatchObject({ changed: 1, isDue: false })
    expect(await backupNews(database, day(15))).toMatchObject({ last: null, isDue: true })
    await database.facts.put({ key: 'backup-later', value: day(15).toISOString() })
    expect((await backupNews(database, day(20))).isDue).toBe(false)
    expect((await backupNews(database, day(23))).isDue).toBe(true)
    await database.facts.put({ key: 'backup', value: day(23).toISOString() })
    expect(await backupNews(database, day(60))).toMatchObject({ changed: 0, isDue: false })
    await database.create(emptyPlan('B'), day(24))
    // A clock that runs backwards does not keep it from being asked for.
    expect((await backupNews(database, day(-400))).isDue).toBe(true)
  })
})

describe('photos', () => {
  const jpeg = (n: number) =>
    new Uint8Array([0xff, 0xd8, 0xff, 0xe0, ...Array.from({ length: 40 }, (_, i) => (i * n) % 256)])
  const ref = (n: number) => ({ id: `photo-${n}`, widthPx: 1600, heightPx: 1200 })
  const withPhotos = (...numbers: number[]): Plan => ({
    ...demoPlans[0]!, log: [{ id: 'p', at: '2026-05-01T10:00:00.000Z', stage: 'build', text: 'The box',
      photos: numbers.map(ref) }],
  })
  const kept = (project: string,
    n: number) => ({ ...ref(n), project, at: `2026-05-0${n}T10:00:00.000Z`, jpeg: jpeg(n) })

  it('come back with the backup, stay apart by project, and go with it', async () => {
    const [from, to] = [another(), another()]
    const { id } = await from.create(withPhotos(1, 2))
    const { id: other } = await from.create(emptyPlan('Empty'))
    for (const n of [2, 1]) await keepPhoto(from, kept(id, n))
    await keepPhoto(from, kept(other, 1))
    await restoreBackups(to, memorySlots(), [(await makeBackup(from, memorySlots())).bytes])
    expect(await photosOf(to, id)).toEqual([kept(id, 1), kept(id, 2)])
    expect(await photosOf(to, other)).toHaveLength(1)
    await to.remove([id])
    expect(await to.photos.count()).toBe(1)
  })

  it('a backup that lacks one, or has something else in its place, is refused and changes nothing', async () => {
    const { id } = await database.create(withPhotos(1))
    await keepPhoto(database, kept(id, 1))
    const { bytes } = await makeBackup(database, memorySlots())
    const files = readZip(bytes, { maxBytes: 1e7, maxFiles: 100 })
    const isPicture = (path: string) => path.endsWith('.jpg')
    const to = another()
    for (const broken of [
      files.filter(({ path }) => !isPicture(path)),
      files.map(file => isPicture(file.path) ? { ...file, bytes: new Uint8Array([1, 2, 3]) } : file),
    ]) await expect(restoreBackups(to, memorySlots(),
      [zipOf(broken)])).rejects.toThrow(/photos\/.*in the backup is (missing|no JPEG)/)
    expect(await to.projects.count()).toBe(0)
  })

  it('a backup from before there were any is read', async () => {
    const { bytes } = await makeBackup(database, memorySlots())
    await database.create(demoPlans[0]!)
    const files = readZip((await makeBackup(database, memorySlots())).bytes, { maxBytes: 1e7, maxFiles: 100 })
    const older = files.map(file => file.path.startsWith('records/')
      ? { ...file, bytes: strToU8(strFromU8(file.bytes).replace(/"photos": \[\],?/, '').replace(/,(\s*})/g, '$1')) }
      : file)
    expect(readBackup(zipOf(older)).projects).toHaveLength(1)
    expect(readBackup(bytes).projects).toHaveLength(0)
  })

  it('go out with their plan and come in again; what no plan names stays, what is no photo is told', async () => {
    const zip = bundleOf([{ plan: withPhotos(1, 2),
      photos: [1, 2, 3].map(n => ({ id: `photo-${n}`, jpeg: jpeg(n) })) }])
    const found = unbundle(zip)!
    expect(found.plans.map(({ text }) => JSON.parse(text).log[0].photos)).toEqual([[ref(1), ref(2)]])
    expect([...found.pictures]).toEqual([['photo-1', jpeg(1)], ['photo-2', jpeg(2)]])
    const odd = unbundle(zipOf([
      ...readZip(zip, { maxBytes: 1e7, maxFiles: 100 }), { path: 'photos/../x.jpg', bytes: jpeg(1) },
      { path: 'photos/text.jpg', bytes: strToU8('no picture') },
    ]))!
    expect(odd.left).toHaveLength(2)
    expect(odd.pictures.size).toBe(2)
    const byHand = unbundle(zipOf([
      ...readZip(zip, { maxBytes: 1e7, maxFiles: 100 }).map(file => ({ ...file, path: `hive/${file.path}` })),
      { path: '__MACOSX/hive/._x.voltaris.json', bytes: strToU8('x') },
    ]))!
    expect([byHand.plans.length, byHand.pictures.size, byHand.left]).toEqual([1, 2, []])
    expect(() => unbundle(zipOf([{ path: 'readme.txt', bytes: strToU8('x') }]))).toThrow(ZipError)
    expect(unbundle((await makeBackup(database, memorySlots())).bytes)).toBeNull()
  })

  it('are copied with a project, and a project has so many at most', async () => {
    const { id } = await database.create(withPhotos(1))
    await keepPhoto(database, kept(id, 1))
    await copyPhotos(database, id, 'copy')
    expect((await photosOf(database, 'copy')).map(({ id: own, project }) => [own, project]))
      .toEqual([['photo-1', 'copy']])
    await database.photos.bulkPut(Array.from({ length: MAX_PHOTOS - 1 },
      (_, i) => ({ ...kept(id, 2), id: `many-${i}` })))
    await expect(keepPhoto(database, kept(id, 3))).rejects.toThrow(`${MAX_PHOTOS} photos`)
  })
})
