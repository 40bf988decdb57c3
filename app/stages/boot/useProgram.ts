/** One program held against the plan as both stand, in a worker that stays as long as the view does. */
import { watchDebounced } from '@vueuse/core'
import type { HeldProgram } from '~~/core/plan/types'
import type { ProgramAgainstPlan } from '~~/core/programs'
import { heldWorker } from '~/workers/start'

/** What was read, with the text that it was read from: offsets are of that one alone. */
export type ProgramRead = ProgramAgainstPlan & { constants: string, text: string }

/** So long may the reading of one text take. */
const READ_S = 20

export function useProgram(program: Ref<HeldProgram | null>) {
  const project = useProjectStore()
  const read = shallowRef<ProgramRead | null>(null)
  const failure = ref<string | null>(null)
  const reading = ref(false)
  const reader = heldWorker('placement', READ_S * 1000, 'it was not read')
  let run = 0

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
      const as = { name: now.name, ...now.language && { language: now.language },
        ...now.numbering && { numbering: now.numbering } }
      const plan = JSON.parse(JSON.stringify(project.plan))
      const found = await reader.ask(service => service.program(plan, now.text, as))
      if (mine !== run) return
      read.value = { ...found, text: now.text }
      failure.value = null
    }
    catch (error) {
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
    reader.end()
  })
  return { read, failure, reading }
}
