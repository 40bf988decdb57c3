/** The open project: its history, its report, and its way to the database. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { shippedCatalogue } from '~~/core/catalogue'
import { evaluateFacts } from '~~/core/evaluate'
import { catalogueOf, gatherFacts } from '~~/core/facts/gather'
import type { Fix } from '~~/core/findings/types'
import type { Problem } from '~~/core/failure'
import { applyEdit, type Edit } from '~~/core/plan/edits'
import { record, redo as redoStep, startHistory, undo as undoStep, type History } from '~~/core/plan/history'
import type { Plan } from '~~/core/plan/types'
import { useDatabase } from '~/composables/useDatabase'
import { dropPending, readPending } from '~/database/journal'
import type { ProjectRecord } from '~/database/projects'
import { isLong, judgedWithoutFiles, LateJudge } from './late'
import { Saver, type SaveState } from './saving'
import { useViewStore } from './view'

const CHANNEL = 'voltaris-projects'
/** Edits in one field that come within this time are one step for undo. */
const JOIN_MS = 1200

/** The check that changes go through; it comes after the first page, with the checker. */
let door: typeof import('~~/core/plan/door') | null = null
async function openDoor(): Promise<void> {
  try {
    door ??= await import('~~/core/plan/door')
  }
  catch (error) {
    useViewStore().say(`Typed figures are not checked until the page is loaded again: ${(error as Error).message}`, { tone: 'stop' })
  }
}

/** Nobody types a figure without touching the page first: until then the checker is not waited for. */
function openDoorWhenTouched(): void {
  if (typeof document === 'undefined') return void openDoor()
  for (const touch of ['pointerdown', 'keydown', 'focusin'] as const) {
    document.addEventListener(touch, () => void openDoor(), { once: true, passive: true, capture: true })
  }
}

export const useProjectStore = defineStore('project', () => {
  const id = ref<string | null>(null)
  const history = shallowRef<History | null>(null)
  const saveState = shallowRef<SaveState>({ state: 'saved', at: '' })
  const loadError = ref<string | null>(null)
  const recovered = ref<'here' | 'copy' | null>(null)
  let saver: Saver | null = null
  let channel: BroadcastChannel | null = null
  let lastJoin = { name: '', key: '', at: 0 }

  const plan = computed(() => history.value?.plan ?? null)
  /** The shipped catalogue with the plan's own boards and parts. */
  const catalogue = computed(() => plan.value ? catalogueOf(plan.value, shippedCatalogue) : shippedCatalogue)
  const facts = computed(() => plan.value ? gatherFacts(plan.value, shippedCatalogue) : null)
  /** Long boot files are read by a worker; until it has, the plan is judged without them. */
  const late = new LateJudge(message => useViewStore().say(message, { tone: 'stop' }))
  const isLate = computed(() => plan.value !== null && isLong(plan.value))
  const judgement = computed(() => isLate.value ? late.of(plan.value!) : null)
  const report = computed(() => {
    if (!facts.value) return null
    if (!isLate.value) return evaluateFacts(facts.value)
    return judgement.value?.report ?? judgedWithoutFiles(plan.value!)
  })
  watch([isLate, plan], ([long, now]) => long && now ? late.ask(now) : late.stop())
  const canUndo = computed(() => history.value?.past.at(-1)?.label ?? null)
  const canRedo = computed(() => history.value?.future[0]?.label ?? null)

  async function open(projectId: string): Promise<void> {
    close()
    loadError.value = null
    recovered.value = null
    const database = useDatabase()
    let stored
    try {
      stored = await database.read(projectId)
    }
    catch (error) {
      loadError.value = (error as Error).message
      return
    }
    id.value = projectId
    saver = new Saver(
      database, localStorage, projectId, stored.revision, state => saveState.value = state,
      revision => channel?.postMessage({ id: projectId, revision }),
    )
    history.value = startHistory(stored.plan)
    saveState.value = { state: 'saved', at: stored.updatedAt }
    channel = new BroadcastChannel(CHANNEL)
    channel.onmessage = event => void onMessage(event.data)
    await recoverPending(projectId, stored)
    openDoorWhenTouched()
  }

  /** Work that was still on its way to the database when the tab was closed comes back as one step. */
  async function recoverPending(projectId: string, stored: Pick<ProjectRecord, 'revision' | 'savedBy'>): Promise<void> {
    const pending = readPending(localStorage, projectId)
    if (!pending) return
    dropPending(localStorage, projectId)
    if (JSON.stringify(pending.plan) === JSON.stringify(plan.value)) return
    // A save of the same tab that went through just before it was closed is no foreign one.
    const ownSave = pending.savedBy !== undefined && pending.savedBy === stored.savedBy
    if (pending.baseRevision !== stored.revision && !ownSave) {
      // Somebody saved on top meanwhile: both are kept.
      await useDatabase().create({ ...pending.plan, name: `${pending.plan.name} (recovered)` })
      recovered.value = 'copy'
      return
    }
    recovered.value = 'here'
    commit(record(history.value!, { edit: 'put-back', fields: { ...pending.plan } }, 'Recover the last change'))
  }

  function close(): void {
    channel?.close()
    channel = null
    saver = null
    id.value = null
    history.value = null
  }

  async function onMessage(message: { id: string, revision: number }): Promise<void> {
    if (message.id !== id.value || !saver || message.revision <= saver.revision || saver.dirty) return
    const stored = await useDatabase().projects.get(message.id)
    if (!stored || !saver) return
    if (saver.dirty || stored.revision <= saver.revision) return
    takeOver(stored.plan, stored.revision, stored.updatedAt)
  }

  function takeOver(theirs: Plan, revision: number, at: string): void {
    saver!.revision = revision
    history.value = record(history.value!, replaceAll(history.value!.plan, theirs), 'Change from another tab')
    saveState.value = { state: 'saved', at }
  }

  function commit(next: History): void {
    if (next === history.value) return
    const changed = next.plan !== history.value?.plan
    history.value = next
    if (changed) saver?.save(next.plan)
  }

  /** One edit by the person. `joinKey` joins keystrokes in one field into one undo step. */
  function edit(change: Edit, label: string, joinKey?: string): void {
    if (!history.value) return
    const now = Date.now()
    const joins = joinKey !== undefined && lastJoin.name === joinKey && now - lastJoin.at < JOIN_MS
    const key = joinKey === undefined ? undefined : joins ? lastJoin.key : `${joinKey} ${now}`
    lastJoin = { name: joinKey ?? '', key: key ?? '', at: now }
    const next = record(history.value, change, label, key)
    const problems = door?.newProblems(history.value.plan, next.plan) ?? []
    if (problems.length) {
      const [{ path, message }] = problems as [Problem, ...Problem[]]
      useViewStore().say(`Not kept: ${path} ${message}.`, { tone: 'stop' })
      return
    }
    commit(next)
  }

  function applyFix(fix: Fix): void {
    edit({ edit: 'all', edits: fix.edits }, fix.label)
  }

  function undo(): void {
    if (history.value) commit(undoStep(history.value))
  }

  function redo(): void {
    if (history.value) commit(redoStep(history.value))
  }

  /** What the report would say after an edit that is only being thought of. */
  function preview(change: Edit) {
    return plan.value ? evaluateFacts(gatherFacts(applyEdit(plan.value, change).plan, shippedCatalogue)) : null
  }

  function retrySave(): void {
    if (plan.value) saver?.save(plan.value)
  }

  /** After a conflict: the other tab's plan replaces this one, as a step that can be undone. */
  function takeTheirs(): void {
    if (saveState.value.state !== 'conflict') return
    const { theirs } = saveState.value
    dropPending(localStorage, theirs.id)
    takeOver(theirs.plan, theirs.revision, theirs.updatedAt)
  }

  /** After a conflict: this tab's plan is kept as a project of its own. Gives its id. */
  async function keepMineAsCopy(): Promise<string | null> {
    if (saveState.value.state !== 'conflict' || !plan.value) return null
    const { theirs } = saveState.value
    const copy = await useDatabase().create({ ...plan.value, name: `${plan.value.name} (kept from this tab)` })
    dropPending(localStorage, theirs.id)
    return copy.id
  }

  async function settled(): Promise<void> {
    await saver?.settled()
  }

  return {
    id, plan, facts, report, isLate, judgement, isReading: late.busy, explainedWindow: late.window, lookAt: (
      file: string, line: number,
    ) => void late.lookAt({ file, line }), catalogue, saveState, loadError, recovered, canUndo, canRedo,
    open, close, edit, applyFix, undo, redo, preview, retrySave, takeTheirs, keepMineAsCopy, settled,
  }
})

/** An edit that makes `from` equal to `to`, field by field. */
function replaceAll(from: Plan, to: Plan): Edit {
  const gone = Object.fromEntries(Object.keys(from).filter(name => !(name in to)).map(name => [name, undefined]))
  return { edit: 'put-back', fields: { ...gone, ...to } }
}
