/**
 * The pool of worker threads that every heavy request goes through, so that none delays a light one: bounded in
 * threads, in waiting requests and in time, and a caller who leaves takes the work along.
 */
import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { Piscina } from 'piscina'
import type { Answer, Task } from '../work/thread'
import { refusal } from './refusal'

let pool: Piscina<Task, Answer> | null = null
/** Requests that run or wait. */
let inside = 0

/** The bundled thread lies beside the server; while developing, in the folder of what is made. */
function threadFile(): string {
  const places = [new URL('./thread.mjs', import.meta.url), new URL('../thread.mjs', import.meta.url)].map(url =>
    fileURLToPath(url))
  const file = [...places, `${process.cwd()}/.nuxt/thread.mjs`].find(place => existsSync(place))
  if (!file) throw new Error(`There is no worker thread at ${places.join(' or ')}: build the application again.`)
  return file
}

// One core stays for the server itself.
const threadsOf = (setting: number | string) => Number(setting) || Math.max(1, availableParallelism() - 1)

function openPool(): Piscina<Task, Answer> {
  const { threads } = useRuntimeConfig().work
  return pool ??= new Piscina<Task, Answer>({
    filename: threadFile(),
    minThreads: 1,
    maxThreads: threadsOf(threads),
    idleTimeout: 60_000,
    // A thread that wants more than this ends; the request is answered with a failure, the server goes on.
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  })
}

/** Throws 429 when as many wait as may. */
export function mustHaveRoom(): void {
  const { threads, waiting } = useRuntimeConfig().work
  if (inside < threadsOf(threads) + Number(waiting)) return
  throw refusal(429, 'Too many requests', 'Too much is waiting to be worked out. Try again in a moment.',
    { 'retry-after': '5' })
}

/**
 * Has a task done. Throws 429 when too many wait already, 503 when it takes longer than the limit, and when the thread
 * ran out of memory. `left` ends the work: the caller is gone.
 */
export async function inPool(task: Task, left: AbortSignal): Promise<Answer> {
  const { seconds } = useRuntimeConfig().work
  mustHaveRoom()
  inside++
  const late = new AbortController()
  // Waiting in the queue counts too: nobody waits for ever.
  const timer = setTimeout(() => late.abort(), Number(seconds) * 1000)
  try {
    return await openPool().run(task, { signal: AbortSignal.any([left, late.signal]) })
  }
  catch (error) {
    if (late.signal.aborted) {
      throw refusal(
        503, 'Took too long', `This took longer than ${seconds} s and was stopped. Send less at a time.`,
        { 'retry-after': '30' },
      )
    }
    if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY') {
      throw refusal(503, 'Took too much memory',
        'This took more memory than one request may have and was stopped. Send less at a time.')
    }
    throw error
  }
  finally {
    clearTimeout(timer)
    inside--
  }
}
