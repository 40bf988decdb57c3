import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { useDatabase } from '../../../app/composables/useDatabase'
import { readPending, writePending, type Pending } from '../../../app/database/journal'
import { useSlots } from '../../../app/database/slots'
import { engine, loadEngine } from '../../../app/stores/engine'
import { useProjectStore } from '../../../app/stores/project'
import { useViewStore } from '../../../app/stores/view'
import type { Plan } from '../../../core/plan/types'
import { planOf } from '../../plans'

const slots = new Map<string, string>()
globalThis.localStorage = {
  getItem: key => slots.get(key) ?? null, setItem: (key, value) => void slots.set(key, value),
  removeItem: key => void slots.delete(key),
  clear: () => slots.clear(), key: i => [...slots.keys()][i] ?? null,
  get length() {
    return slots.size
  },
}

const start = planOf('forty-classic', { a: 'oled-i2c' }, { supply: { type: 'adapter-5v-2a4' } })
let id = ''
beforeAll(async () => {
  engine.value = await loadEngine()
})

beforeEach(async () => {
  setActivePinia(createPinia())
  slots.clear()
  id = (await useDatabase().create(start)).id
})

const opened = async () => {
  const store = useProjectStore()
  await store.open(id)
  return store
}
const storedPlan = async () => (await useDatabase().read(id)).plan

describe('the open project', () => {
  it('saves each edit, and refreshes its report with it', async () => {
    const store = await opened()
    expect(store.report!.findings.map(finding => finding.code)).toEqual(['terminal.unplaced'])
    store.edit({ edit: 'remove-part', id: 'a' }, 'Remove')
    expect(store.report!.findings).toEqual([])
    await store.settled()
    expect((await storedPlan()).parts).toEqual([])
    expect(store.saveState.state).toBe('saved')
    store.close()
  })

  it('does not keep what its file could not be read back with, and says where', async () => {
    const store = await opened()
    const view = useViewStore()
    // The check comes a moment after the project.
    await vi.waitFor(() => {
      store.edit({ edit: 'rename-part', id: 'a', name: 'a' }, 'Rename')
      store.edit({ edit: 'rename-part', id: 'a', name: 'x'.repeat(301) }, 'Rename')
      expect(view.notice?.text).toMatch(/^Not kept: .*parts\[0\]\.name/)
      expect(store.plan!.parts[0]!.name).toBe('a')
    })
    store.edit({ edit: 'rename-part', id: 'a', name: 'Panel' }, 'Rename')
    expect(store.plan!.parts[0]!.name).toBe('Panel')
    store.close()
  })

  it('undoes and redoes with words for both, and saves those too', async () => {
    const store = await opened()
    store.edit({ edit: 'rename', name: 'Other' }, 'Rename the project')
    expect(store.canUndo).toBe('Rename the project')
    store.undo()
    expect(store.canRedo).toBe('Rename the project')
    await store.settled()
    expect((await storedPlan()).name).toBe('Test')
    store.redo()
    await store.settled()
    expect((await storedPlan()).name).toBe('Other')
    store.close()
  })

  it('takes keystrokes in one field as one step, and those in another as another', async () => {
    const store = await opened()
    for (const notes of ['n', 'no', 'not']) store.edit({ edit: 'write-notes', notes }, 'Notes', 'notes')
    store.edit({ edit: 'rename', name: 'X' }, 'Name', 'name')
    store.undo()
    expect(store.plan!.notes).toBe('not')
    store.undo()
    expect(store.plan!.notes).toBe('')
    store.close()
  })

  it('previews an edit without making it', async () => {
    const store = await opened()
    const ghost = store.preview({ edit: 'add-part', part: { id: 'b', type: 'oled-i2c', name: 'B' } })
    expect(ghost!.power.rails[1]!.loads).toHaveLength(2)
    expect(store.plan!.parts).toHaveLength(1)
    store.close()
  })

  it('says what is the matter when the project is not there', async () => {
    const store = useProjectStore()
    await store.open('nobody')
    expect(store.loadError!.message).toContain('no project "nobody"')
    expect(store.plan).toBeNull()
  })

  const left = (fields: Partial<Plan>, more: Partial<Pending> = {}, number = 1) => writePending(useSlots(), id, {
    tab: 'gone~1', baseRevision: 1, edits: [{ number, label: 'Rename', edit: { edit: 'put-back', fields } }], ...more,
  })
  const savedBy = (tab: string, plan: Plan, number: number, base = start) =>
    useDatabase().save(id, { plan, base, baseRevision: 1, tab, number })

  it('brings a change back that was still on its way, as a step that can be undone', async () => {
    left({ name: 'On its way' })
    const store = await opened()
    expect(store.plan!.name).toBe('On its way')
    expect(store.recovered).toBe(true)
    await store.settled()
    expect((await storedPlan()).name).toBe('On its way')
    expect(readPending(useSlots(), id)).toEqual([])
    store.undo()
    expect(store.plan!.name).toBe('Test')
    store.close()
  })

  it('brings it back on top of a save that the same tab still got through, and makes no copy', async () => {
    left({ name: 'The last letter' }, {}, 2)
    await savedBy('gone~1', { ...start, name: 'The last lette' }, 1)
    const store = await opened()
    expect(store.plan!.name).toBe('The last letter')
    store.close()
    expect((await useDatabase().list()).filter(head => head.id === id || head.name.includes('letter'))).toHaveLength(1)
    expect(await useDatabase().statesOf(id)).toEqual([])
  })

  it('knows a journal that is older than what is stored, though it is of the same tab', async () => {
    left({ name: 'The la' }, {}, 3)
    await savedBy('gone~1', { ...start, name: 'The last letter' }, 9)
    const store = await opened()
    expect(store.plan!.name).toBe('The last letter')
    expect(store.recovered).toBe(false)
    expect(readPending(useSlots(), id)).toEqual([])
    store.close()
  })

  it('puts it on top of what somebody saved meanwhile, and keeps how that was', async () => {
    left({ notes: 'Mine' })
    await savedBy('other~1', { ...start, name: 'Theirs' }, 1)
    const store = await opened()
    expect(store.plan).toMatchObject({ name: 'Theirs', notes: 'Mine' })
    expect((await useDatabase().statesOf(id)).map(state => [state.kind, state.plan.notes])).toEqual([['before', '']])
    store.close()
  })

  it('saves to its end what was typed before another project was opened, and only there', async () => {
    const store = await opened()
    const other = await useDatabase().create({ ...start, name: 'Other' })
    for (let i = 0; i < 5; i++) store.edit({ edit: 'write-notes', notes: `letter ${i}` }, 'Notes', 'notes')
    await store.open(other.id)
    expect(store.plan!.name).toBe('Other')
    expect((await storedPlan())).toMatchObject({ name: 'Test', notes: 'letter 4' })
    expect((await useDatabase().read(other.id)).plan.notes).toBe('')
    expect(readPending(useSlots(), id)).toEqual([])
    store.close()
  })

  it('opens the one that was asked for last, however long the other takes', async () => {
    const store = useProjectStore()
    const other = await useDatabase().create({ ...start, name: 'Other' })
    await Promise.all([store.open(id), store.open(other.id)])
    expect([store.id, store.plan!.name]).toEqual([other.id, 'Other'])
    await Promise.all([store.open('nobody'), store.open(id)])
    expect([store.id, store.loadError]).toEqual([id, null])
    store.close()
  })

  it('goes on undoing after it was closed and opened again', async () => {
    const store = await opened()
    store.edit({ edit: 'rename', name: 'First' }, 'Rename')
    for (const notes of ['n', 'no']) store.edit({ edit: 'write-notes', notes }, 'Notes', 'notes')
    store.edit({ edit: 'remove-part', id: 'a' }, 'Remove the panel')
    store.undo()
    await store.settled()
    store.close()
    await store.open(id)
    expect([store.canUndo, store.canRedo]).toEqual(['Notes', 'Remove the panel'])
    store.redo()
    expect(store.plan!.parts).toEqual([])
    store.undo()
    store.undo()
    expect(store.plan).toMatchObject({ notes: '', name: 'First' })
    store.undo()
    expect(store.plan).toEqual(start)
    await store.settled()
    store.close()
  })

  it('joins what another tab did, says what both changed, and takes this tab\'s after all when asked', async () => {
    const store = await opened()
    await savedBy('other~1', { ...start, name: 'Theirs', notes: 'of theirs' }, 1)
    store.edit({ edit: 'rename', name: 'Mine' }, 'Rename')
    await store.settled()
    expect(store.plan).toMatchObject({ name: 'Theirs', notes: 'of theirs' })
    expect(store.collisions).toMatchObject([{ path: ['name'], mine: 'Mine', theirs: 'Theirs' }])
    store.takeMine(store.collisions[0]!)
    await store.settled()
    expect((await storedPlan())).toMatchObject({ name: 'Mine', notes: 'of theirs' })
    expect(store.collisions).toEqual([])
    store.undo()
    expect(store.plan!.name).toBe('Theirs')
    store.close()
  })

  it('follows what another tab saved between its own save and the end of it', async () => {
    const mine = await opened()
    setActivePinia(createPinia())
    const theirs = await opened()
    const database = useDatabase()
    const save = database.save.bind(database)
    let release = () => {}
    const held = new Promise<void>(resolve => release = resolve)
    // This tab's save is in the database, and its answer is still on the way.
    const spy = vi.spyOn(database, 'save').mockImplementationOnce(async (project, request) => {
      const saved = await save(project, request)
      await held
      return saved
    })
    mine.edit({ edit: 'write-notes', notes: 'mine' }, 'Notes')
    await vi.waitFor(async () => expect((await storedPlan()).notes).toBe('mine'))
    // The news of it come to this tab while it waits: whoever listens after it has heard them later.
    const listener = new BroadcastChannel('voltaris-projects')
    const heard = new Promise(resolve => listener.onmessage = resolve)
    theirs.edit({ edit: 'rename', name: 'theirs' }, 'Rename the project')
    await theirs.settled()
    await heard
    listener.close()
    release()
    await vi.waitFor(() => expect(mine.plan!.name).toBe('theirs'))
    expect(mine.plan!.notes).toBe('mine')
    spy.mockRestore()
    mine.close()
    theirs.close()
  })

  it('takes an earlier state back as a step, and keeps how it was', async () => {
    const store = await opened()
    store.edit({ edit: 'rename', name: 'Later' }, 'Rename')
    await store.takeState(start, 'Monday')
    expect(store.plan!.name).toBe('Test')
    expect(store.canUndo).toBe('Take back the state of Monday')
    expect((await useDatabase().statesOf(id))[0]).toMatchObject({ kind: 'before', plan: { name: 'Later' } })
    await store.settled()
    store.close()
  })

  it('says what is the matter with a damaged record, and hands it out', async () => {
    await useDatabase().projects.update(id, { plan: { ...start, power: { nodes: [null] } } as never })
    const store = useProjectStore()
    await store.open(id)
    expect(store.loadError)
      .toMatchObject({ trouble: 'damaged', message: expect.stringContaining('damaged'), record: { id } })
  })
})
