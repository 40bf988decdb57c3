/**
 * Workers that are sure to be there: one that does not start, fails or falls silent is told instead of being waited
 * for for ever.
 */
import type { Remote } from 'comlink'
import type { Front, Services } from './heavy.worker'

export type ServiceName = keyof Services

export interface Started<Name extends ServiceName> {
  service: Remote<Services[Name]>
  /** Rejects when the worker fails. Race it with what is asked. */
  failed: Promise<never>
  end: () => void
}

/** So long may a worker take to load its program. */
const START_MS = 20_000

/** Starts a worker and waits until its service answers. Throws with the reason, and has ended it then. */
export async function startWorker<Name extends ServiceName>(name: Name): Promise<Started<Name>> {
  const { wrap } = await import('comlink')
  const worker = new Worker(new URL('./heavy.worker.ts', import.meta.url), { type: 'module' })
  const failed = new Promise<never>((_, reject) => {
    worker.addEventListener('error', event => reject(new Error(event.message || 'its program could not be loaded')))
    worker.addEventListener('messageerror', () => reject(new Error('its answer could not be read')))
  })
  // Told to whoever races it; nobody may, by then.
  failed.catch(() => null)
  try {
    const opening = wrap<Front>(worker).open(name)
    const service = await within(START_MS, Promise.race([opening, failed]), 'it did not start')
    return { service: service as unknown as Remote<Services[Name]>, failed, end: () => worker.terminate() }
  }
  catch (error) {
    worker.terminate()
    throw error
  }
}

/** A worker that is kept from one question to the next. */
export interface HeldWorker<Name extends ServiceName> {
  /** Asks it one thing. Throws with the reason when it fails or is too late; the next question starts it anew. */
  ask: <T>(question: (service: Remote<Services[Name]>) => Promise<T>) => Promise<T>
  end: () => void
}

/** Keeps a worker for a service: started by the first question. `late` says what did not happen in time. */
export function heldWorker<Name extends ServiceName>(name: Name, maxMs: number, late: string): HeldWorker<Name> {
  let starting: Promise<Started<Name>> | null = null
  const end = () => {
    void starting?.then(started => started.end(), () => null)
    starting = null
  }
  async function ask<T>(question: (service: Remote<Services[Name]>) => Promise<T>): Promise<T> {
    const mine = starting ??= startWorker(name)
    try {
      const { service, failed } = await mine
      return await within(maxMs, Promise.race([question(service), failed]), late)
    }
    catch (error) {
      if (starting === mine) end()
      throw error
    }
  }
  return { ask, end }
}

/** The answer of a worker of its own, which is ended then; null when `stopped` came first. Throws when it fails. */
export async function askOnce<Name extends ServiceName, T>(
  name: Name, question: (service: Remote<Services[Name]>) => Promise<T>, stopped: Promise<null>,
): Promise<T | null> {
  const starting = startWorker(name)
  // Whoever stopped it does not wait for its end.
  const ending = starting.then(({ end }) => end, () => () => {})
  try {
    const started = await Promise.race([starting, stopped])
    return started && await Promise.race([question(started.service), stopped, started.failed])
  }
  finally {
    void ending.then(end => end())
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
