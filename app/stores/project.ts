/** The open project: its history, its report, and its way to the database. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { shippedCatalogue } from '~~/core/catalogue'
import { catalogueOf, gatherFacts } from '~~/core/facts/gather'
import type { Fix } from '~~/core/findings/types'
import type { Problem } from '~~/core/documents/failure'
import { applyEdit, type Edit } from '~~/core/plan/edits'
import { completed } from '~~/core/plan/create'
import { record, redo as redoStep, undo as undoStep, type History } from '~~/core/plan/history'
import { merge, withMine, type MergeConflict } from '~~/core/plan/merge'
import { same } from '~~/core/plan/same'
import { soundness } from '~~/core/plan/stored-record'
import { followed, replacing, trailOf } from '~~/core/plan/trail'
import type { Plan } from '~~/core/plan/types'
import { keepCaret } from '~/composables/useCaret'
import { useDatabase } from '~/composables/useDatabase'
import { answered, inWords, troubleOf, type StorageTrouble } from '~/database/failures'
import { dropPending, readPending, unsaved } from '~/database/journal'
import { ProjectDamaged, ProjectNewer, type ProjectRecord } from '~/database/projects'
import { useSlots } from '~/database/slots'
import { endWriter, livingWriters, newWriter } from '~/database/tabs'
import { engine, loadEngine } from './engine'
import { isLong, LateJudge, withoutBootFixes } from './late'
import { Saver, type SaveState } from './saving'
import { useViewStore } from './view'

const CHANNEL = 'voltaris-projects'
/** Edits in one field that come within this time are one step for undo. */
const JOIN_MS = 1200
const FROM_ANOTHER = 'Change from another tab'

/** The check that changes go through; it comes after the first page, with the checker. */
let door: typeof import('~~/core/plan/door') | null = null
let opening: Promise<void> | null = null
function openDoor(): Promise<void> {
  return opening ??= import('~~/core/plan/door').then((loaded) => {
    door = loaded
  }, (error: Error) => {
    opening = null
    useViewStore().say(`Typed figures are not checked until the page is loaded again: ${error.message}`,
      { tone: 'stop' })
  })
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
  const loadError = shallowRef<LoadError | null>(null)
  /** Work of a tab that ended came back with this opening. */
  const recovered = ref(false)
  /** What this tab and another changed at once, and could not be joined. */
  const collisions = shallowRef<readonly MergeConflict[]>([])
  /** The history as this opening has it: a save that still runs after the project was closed goes on with that. */
  let held: { history: History } | null = null
  /** Resolves when the project that was open before has been saved. */
  let leaving: Promise<void> = Promise.resolve()
  /** The plan before the edits that were made while the checker was still on its way. */
  let unchecked: Plan | null = null
  let saver: Saver | null = null
  let letGo = () => {}
  /** The latest revision that another tab has told of. */
  let announced = 0
  /** Which opening was asked for last. */
  let lastAsked = Symbol('none')
  let lastJoin = { name: '', key: '', at: 0 }

  const plan = computed(() => history.value?.plan ?? null)
  /** The shipped catalogue with the plan's own boards and parts. */
  const own = computed(() => plan.value?.own)
  // The same object as long as nothing of one's own was added: lists of it are not drawn again with each letter.
  const catalogue = computed(() => own.value ? catalogueOf({ own: own.value }, shippedCatalogue) : shippedCatalogue)
  /** The plan that the report is on: the shown one, but for words that were typed since the last picture. */
  const judged = shallowRef<Plan | null>(null)
  const facts = computed(() => judged.value ? gatherFacts(judged.value, shippedCatalogue) : null)
  /** Long boot files are read by a worker; until it has, the plan is judged without them. */
  const late = new LateJudge(message => useViewStore().say(message, { tone: 'stop' }))
  const isLate = computed(() => judged.value !== null && isLong(judged.value))
  const judgement = computed(() => isLate.value ? late.of(judged.value!) : null)
  const report = computed(() => {
    if (!facts.value || !engine.value) return null
    if (!isLate.value) return engine.value.evaluateFacts(facts.value)
    return judgement.value?.report ?? withoutBootFixes(
      engine.value.evaluateFacts(gatherFacts(judgedFirst(judged.value!), shippedCatalogue)),
    )
  })
  watch([isLate, judged], ([long, now]) => long && now ? late.ask(now) : late.stop())
  const canUndo = computed(() => history.value?.past.at(-1)?.label ?? null)
  const canRedo = computed(() => history.value?.future[0]?.label ?? null)

  async function open(projectId: string): Promise<void> {
    close()
    const mine = lastAsked = Symbol(projectId)
    await leaving
    loadError.value = null
    recovered.value = false
    const database = useDatabase()
    let stored, trail
    try {
      stored = await answered(database.read(projectId))
      trail = await answered(database.trails.get(projectId))
      // A record that is whole on the surface may still be one that nothing can be made of.
      const read = gatherFacts(judgedFirst(stored.plan), shippedCatalogue)
      engine.value?.evaluateFacts(read)
    }
    catch (error) {
      if (mine === lastAsked) loadError.value = loadErrorOf(error, stored)
      return
    }
    // Another one was asked for meanwhile.
    if (mine !== lastAsked) return
    id.value = projectId
    const opened = held = { history: followed(trail, stored.plan, FROM_ANOTHER) }
    const writer = newWriter()
    const news = new BroadcastChannel(CHANNEL)
    show(opened.history)
    saver = new Saver(database, useSlots(), projectId, stored.plan, stored.revision, {
      id: writer,
      plan: () => opened.history.plan,
      trail: () => trailOf(opened.history),
      onState: (state) => {
        if (held !== opened) return
        saveState.value = state
        if (state.state === 'saved') void ending.settled().then(follow)
      },
      onSaved: revision => news.postMessage({ id: projectId, revision }),
      onJoined: (sent, kept, told) => takeIn(opened, sent, kept, told),
    })
    const ending = saver
    letGo = () => {
      news.onmessage = null
      ending.close()
      leaving = ending.settled().finally(() => {
        news.close()
        endWriter(writer)
      })
    }
    saveState.value = { state: 'saved', at: stored.updatedAt }
    news.onmessage = event => void onMessage(event.data)
    await recoverPending(projectId, stored)
    openDoorWhenTouched()
  }

  /**
   * The judgement comes when the stage is there; a plan that it cannot judge is told as damaged. Nothing happens when
   * it is there already.
   */
  async function beJudged(): Promise<void> {
    if (engine.value) return
    let loaded
    try {
      loaded = await loadEngine()
    }
    catch (error) {
      return useViewStore().say(`The checks could not be loaded: ${(error as Error).message}. What you enter is kept.`,
        {
          tone: 'stop', action: { label: 'Try again', run: () => void beJudged() },
        })
    }
    try {
      if (plan.value) loaded.evaluateFacts(gatherFacts(judgedFirst(plan.value), shippedCatalogue))
    }
    catch (error) {
      const stored = await useDatabase().projects.get(id.value!)
      close()
      loadError.value = loadErrorOf(error, stored)
    }
    engine.value = loaded
  }

  /** Work that was still on its way to the database when its tab ended comes back as one step. */
  async function recoverPending(projectId: string, stored: ProjectRecord): Promise<void> {
    const isLiving = await livingWriters()
    for (const pending of readPending(useSlots(), projectId)) {
      if (isLiving(pending.tab)) continue
      const edits = unsaved(pending, stored.seen ?? {})
      const change: Edit = { edit: 'all', edits: edits.map(entry => entry.edit) }
      if (edits.length) {
        const isOnTop = pending.baseRevision === stored.revision
          || (stored.savedBy === pending.tab && (stored.alone ?? stored.revision) <= pending.baseRevision)
        // Somebody kept something meanwhile: how it was is not lost under what comes back.
        if (!isOnTop) await useDatabase().keepState(
          projectId, { kind: 'before', label: 'Before work of a closed tab came back', plan: plan.value! },
        )
        const before = plan.value
        commit(record(history.value!, change, 'Recover the last change'), 'Recover the last change', change)
        recovered.value ||= plan.value !== before
        saver!.adopt(pending.tab, edits.at(-1)!.number)
      }
      dropPending(useSlots(), projectId, pending.tab)
    }
  }

  /** Lets go of the project; a save that runs goes on to its end. */
  function close(): void {
    letGo()
    letGo = () => {}
    announced = 0
    saver = null
    held = null
    id.value = null
    history.value = judged.value = null
    collisions.value = []
    unchecked = null
  }

  async function onMessage(message: { id: string, revision: number }): Promise<void> {
    if (message.id !== id.value) return
    announced = Math.max(announced, message.revision)
    await follow()
  }

  /**
   * Takes in what another tab has told of. While this tab saves it waits: either that save joins it, or it came after
   * and is taken in when the save has ended.
   */
  async function follow(): Promise<void> {
    const [following, project] = [saver, id.value]
    if (!following || !project || announced <= following.revision || following.dirty) return
    const stored = await useDatabase().projects.get(project)
    if (!stored || saver !== following || following.dirty || stored.revision <= following.revision) return
    // Of a newer Voltaris, or damaged: not taken in, and told when this tab saves.
    if (soundness(stored.plan).state !== 'sound') return
    following.revision = stored.revision
    following.base = completed(stored.plan)
    takeIn(held!, held!.history.plan, following.base, [])
    saveState.value = { state: 'saved', at: stored.updatedAt }
  }

  /** `sent`, a plan of this tab, became `kept`, with what another tab did: what was typed since goes on top. */
  function takeIn(of: { history: History }, sent: Plan, kept: Plan, told: readonly MergeConflict[]): Plan {
    const now = of.history.plan
    const joined = now === sent ? { plan: kept, collisions: [] } : merge(sent, now, kept)
    of.history = record(of.history, replacing(now, joined.plan), FROM_ANOTHER)
    if (held === of) {
      const caret = keepCaret()
      show(of.history)
      caret()
      lastJoin = { name: '', key: '', at: 0 }
      const all = [...told, ...joined.collisions]
      if (all.length) collisions.value = [...collisions.value, ...all]
    }
    return same(of.history.plan, kept) ? kept : of.history.plan
  }

  /**
   * Shows a state of the history. The judgement on words that are being typed comes after the picture that
   * shows the letter.
   */
  function show(next: History, onlyWords = false): void {
    history.value = next
    if (onlyWords && typeof requestAnimationFrame === 'function') afterPicture(() => judged.value = plan.value)
    else judged.value = next.plan
  }

  /** Shows a next state of the history, and keeps it. */
  function commit(next: History, label: string, change: Edit): void {
    if (next === history.value) return
    const changed = next.plan !== history.value?.plan
    held!.history = next
    show(next, isWords(change))
    if (changed) saver?.save(label, change)
  }

  /** One edit by the person. `joinKey` joins keystrokes in one field into one undo step. */
  function edit(change: Edit, label: string, joinKey?: string): void {
    if (!history.value) return
    const now = Date.now()
    const joins = joinKey !== undefined && lastJoin.name === joinKey && now - lastJoin.at < JOIN_MS
    let key: string | undefined
    if (joinKey === undefined) key = undefined
    else key = joins ? lastJoin.key : `${joinKey} ${now}`
    lastJoin = { name: joinKey ?? '', key: key ?? '', at: now }
    const next = record(history.value, change, label, key)
    if (!door) checkWhenOpen(history.value.plan)
    else if (isRefused(door.newProblems(history.value.plan, next.plan))) return
    commit(next, label, change)
  }

  function isRefused(problems: readonly Problem[]): boolean {
    const [first] = problems
    if (first) useViewStore().say(`Not kept: ${first.path} ${first.message}.`, { tone: 'stop' })
    return first !== undefined
  }

  /** Edits that came before the checker are checked when it is there, and taken back where it refuses them. */
  function checkWhenOpen(before: Plan): void {
    if (unchecked) return
    unchecked = before
    void openDoor().then(() => {
      const from = unchecked
      unchecked = null
      if (!from || !door || !plan.value || !isRefused(door.newProblems(from, plan.value))) return
      const back = replacing(plan.value, from)
      commit(record(history.value!, back, 'Take back what cannot be kept'), 'Take back what cannot be kept', back)
    })
  }

  function applyFix(fix: Fix): void {
    edit({ edit: 'all', edits: fix.edits }, fix.label)
  }

  function undo(): void {
    const step = history.value?.past.at(-1)
    if (step) commit(undoStep(history.value!), `Undo: ${step.label}`, step.undo)
  }

  function redo(): void {
    const step = history.value?.future[0]
    if (step) commit(redoStep(history.value!), `Redo: ${step.label}`, step.redo)
  }

  /** What the report would say after an edit that is only being thought of; null while the checks are on their way. */
  function preview(change: Edit) {
    return plan.value && engine.value
      ? engine.value.evaluateFacts(gatherFacts(applyEdit(plan.value, change).plan, shippedCatalogue))
      : null
  }

  function retrySave(): void {
    saver?.retry()
  }

  /** Keeps the project anew that has gone from under this tab. */
  async function putBack(): Promise<void> {
    try {
      await saver?.putBack()
    }
    catch (error) {
      saveState.value = { state: 'failed', message: inWords(error), trouble: troubleOf(error) }
    }
  }

  /** Of a thing that both tabs changed, this tab's after all. */
  function takeMine(collision: MergeConflict): void {
    collisions.value = collisions.value.filter(other => other !== collision)
    if (plan.value) edit(replacing(plan.value, withMine(plan.value, collision)), 'Take this tab\'s after all')
  }

  function dropCollisions(): void {
    collisions.value = []
  }

  /** The whole plan as it was at another time, as a step that can be undone. How it is now becomes an earlier state. */
  async function takeState(earlier: Plan, when: string): Promise<void> {
    if (!plan.value || !id.value) return
    await answered(
      useDatabase().keepState(id.value,
        { kind: 'before', label: `Before the state of ${when} was taken back`, plan: plan.value }),
    )
    edit(replacing(plan.value, completed(earlier)), `Take back the state of ${when}`)
  }

  async function settled(): Promise<void> {
    await saver?.settled()
  }

  return {
    id, plan, facts, report, isLate, judgement, isReading: late.busy, explainedWindow: late.window, lookAt: (
      file: string, line: number,
    ) => void late.lookAt({ file, line }), catalogue, saveState, loadError, recovered, canUndo, canRedo,
    collisions, open, beJudged, close, edit, applyFix, undo, redo, preview, retrySave, putBack, takeMine,
    dropCollisions,
    takeState, settled,
  }
})

/** Edits of names and notes: no part, place or figure is another one after them. */
const isWords = (change: Edit): boolean =>
  ['rename', 'write-notes', 'rename-part', 'note-part', 'log', 'unlog'].includes(change.edit)

function afterPicture(work: () => void): void {
  requestAnimationFrame(() => setTimeout(work))
}

export interface LoadError {
  message: string
  trouble: StorageTrouble
  /** The record as it lies there, to be saved to a file. */
  record?: unknown
}

function loadErrorOf(error: unknown, stored: ProjectRecord | undefined): LoadError {
  if (error instanceof ProjectNewer || error instanceof ProjectDamaged) return {
    message: error.message, trouble: troubleOf(error), record: error.record,
  }
  if (stored) {
    const damaged = new ProjectDamaged(stored, `it cannot be judged (${(error as Error).message})`)
    return { message: damaged.message, trouble: 'damaged', record: stored }
  }
  return { message: inWords(error), trouble: troubleOf(error) }
}

/** Long boot files are judged later, beside the page. */
const judgedFirst = (plan: Plan): Plan => isLong(plan) ? { ...plan, boot: null } : plan
