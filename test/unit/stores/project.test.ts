import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useDatabase } from '../../../app/composables/useDatabase'
import { writePending } from '../../../app/database/journal'
import { useProjectStore } from '../../../app/stores/project'
import { useViewStore } from '../../../app/stores/view'
import { applyEdit } from '../../../core/plan/edits'
import { planOf } from '../../plans'

const slots = new Map<string, string>()
globalThis.localStorage = {
  getItem: key => slots.get(key) ?? null, setItem: (key, value) => void slots.set(key, value), removeItem: key => void slots.delete(key),
  clear: () => slots.clear(), key: () => null, length: 0,
}

const start = planOf('forty-classic', { a: 'oled-i2c' }, { supply: { type: 'adapter-5v-2a4' } })
let id = ''
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
    expect(store.loadError).toContain('no project "nobody"')
    expect(store.plan).toBeNull()
  })

  it('brings a change back that was still on its way, as a step that can be undone', async () => {
    writePending(localStorage, id, { plan: applyEdit(start, { edit: 'rename', name: 'On its way' }).plan, baseRevision: 1 })
    const store = await opened()
    expect(store.plan!.name).toBe('On its way')
    expect(store.recovered).toBe('here')
    await store.settled()
    expect((await storedPlan()).name).toBe('On its way')
    store.undo()
    expect(store.plan!.name).toBe('Test')
    store.close()
  })

  it('brings it back on top of a save that the same tab still got through', async () => {
    writePending(localStorage, id, { plan: { ...start, name: 'The last letter' }, baseRevision: 1, savedBy: 'this tab' })
    await useDatabase().save(id, { ...start, name: 'The last lette' }, 1, new Date(), 'this tab')
    const store = await opened()
    expect(store.recovered).toBe('here')
    expect(store.plan!.name).toBe('The last letter')
    store.close()
  })

  it('keeps both when somebody saved on top of that change meanwhile', async () => {
    writePending(localStorage, id, { plan: { ...start, name: 'Mine' }, baseRevision: 1 })
    await useDatabase().save(id, { ...start, name: 'Theirs' }, 1)
    const store = await opened()
    expect(store.recovered).toBe('copy')
    expect(store.plan!.name).toBe('Theirs')
    expect((await useDatabase().list()).map(record => record.plan.name)).toContain('Mine (recovered)')
    store.close()
  })

  it('after a conflict takes the other plan as a step, or keeps its own as a project', async () => {
    const store = await opened()
    await useDatabase().save(id, { ...start, name: 'Theirs' }, 1)
    store.edit({ edit: 'rename', name: 'Mine' }, 'Rename')
    await store.settled()
    expect(store.saveState.state).toBe('conflict')
    const copy = await store.keepMineAsCopy()
    expect((await useDatabase().read(copy!)).plan.name).toBe('Mine (kept from this tab)')
    store.takeTheirs()
    expect(store.plan!.name).toBe('Theirs')
    store.undo()
    expect(store.plan!.name).toBe('Mine')
    await store.settled()
    expect((await storedPlan()).name).toBe('Mine')
    store.close()
  })
})
