/** One program held against the plan as both stand, in a worker that stays as long as the view does. */
import { watchDebounced } from '@vueuse/core'
import type { HeldProgram } from '~~/core/plan/types'
import type { ProgramAgainstPlan } from '~~/core/programs'
import type { PlacementService } from '~/workers/placement.worker'
import { startWorker, within, type Started } from '~/workers/start'

/** What was read, with the text that it was read from: offsets are of that one alone. */
export type ProgramRead = ProgramAgainstPlan & { constants: string, text: string }

/** So long may the reading of one text take. */
const READ_S = 20

export function useProgram(program: Ref<HeldProgram | null>) {
  const project = useProjectStore()
  const read = shallowRef<ProgramRead | null>(null)
  const failure = ref<string | null>(null)
  const reading = ref(false)
  let started: Started<PlacementService> | null = null
  let run = 0

  async function service(): Promise<Started<PlacementService>> {
    return started ??= await startWorker<PlacementService>(
      () => new Worker(new URL('../../workers/placement.worker.ts', import.meta.url), { type: 'module' }),
    )
  }

  async function look(): Promise<void> {
    const mine = ++run
    const now = program.value
    if (!now || !project.plan || now.text.trim() === '') {
      read.value = null
      reading.value = false
      return
    }
    reading.value = true
    try {
      const worker = await service()
      if (mine !== run) return
      const as = { name: now.name, ...now.language && { language: now.language },
        ...now.numbering && { numbering: now.numbering } }
      const answer = worker.service.program(JSON.parse(JSON.stringify(project.plan)), now.text, as)
      const found = await within(READ_S * 1000, Promise.race([answer, worker.failed]), 'it was not read')
      if (mine !== run) return
      read.value = { ...found, text: now.text }
      failure.value = null
    }
    catch (error) {
      started?.end()
      started = null
      if (mine === run) failure.value = `The text was not read: ${(error as Error).message}. Change something in it, `
        + 'and it is tried again.'
    }
    finally {
      if (mine === run) reading.value = false
    }
  }

  watchDebounced([program, () => project.plan], look, { debounce: 250, immediate: true, maxWait: 1500 })
  onScopeDispose(() => {
    run++
    started?.end()
  })
  return { read, failure, reading }
}
