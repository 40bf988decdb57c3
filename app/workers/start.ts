/**
 * Workers that are sure to be there: one that does not start, fails or falls silent is told instead of being waited
 * for for ever.
 */
import type { Remote } from 'comlink'

/** What every worker answers at once. */
export interface Answering { ping: () => true }

export interface Started<Service> {
  service: Remote<Service>
  /** Rejects when the worker fails. Race it with what is asked. */
  failed: Promise<never>
  end: () => void
}

/** So long may a worker take to load its program. */
const START_MS = 20_000

/** Starts a worker and waits until it answers. Throws with the reason, and has ended it then. */
export async function startWorker<Service extends Answering>(make: () => Worker): Promise<Started<Service>> {
  const { wrap } = await import('comlink')
  const worker = make()
  const failed = new Promise<never>((_, reject) => {
    worker.addEventListener('error', event => reject(new Error(event.message || 'its program could not be loaded')))
    worker.addEventListener('messageerror', () => reject(new Error('its answer could not be read')))
  })
  // Told to whoever races it; nobody may, by then.
  failed.catch(() => null)
  const service = wrap<Service>(worker)
  try {
    await within(START_MS, Promise.race([service.ping(), failed]), 'it did not start')
    return { service, failed, end: () => worker.terminate() }
  }
  catch (error) {
    worker.terminate()
    throw error
  }
}

/** The work's answer, or an error with the given words when it takes longer. */
export function within<T>(ms: number, work: Promise<T>, late: string): Promise<T> {
  let timer: ReturnType<typeof setTimeout>
  const limit = new Promise<never>(
    (_, reject) => timer = setTimeout(() => reject(new Error(`${late} within ${Math.round(ms / 1000)} s`)), ms),
  )
  return Promise.race([work, limit]).finally(() => clearTimeout(timer))
}
