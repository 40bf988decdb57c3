import type { Remote } from 'comlink'
import type { BootService } from '~/workers/boot.worker'
import { startWorker, within } from '~/workers/start'

let giveUp: (() => void) | null = null

/** Longer than the longest rehearsal seen, by far. */
const MAX_MS = 120_000

/**
 * Asks the boot worker for one thing at a time; null when it was stopped. Stopping ends the worker at once. Throws
 * when it fails.
 */
export function useBootWorker() {
  async function ask<T>(question: (service: Remote<BootService>) => Promise<T>): Promise<T | null> {
    stop()
    const stopped = new Promise<null>(resolve => giveUp = () => resolve(null))
    const starting = startWorker<BootService>(
      () => new Worker(new URL('../../workers/boot.worker.ts', import.meta.url), { type: 'module' }),
    )
    const ending = starting.then(({ end }) => end, () => () => {})
    try {
      const started = await Promise.race([starting, stopped])
      return started
        && await within(MAX_MS, Promise.race([question(started.service), stopped, started.failed]),
          'the worker did not answer')
    }
    finally {
      void ending.then(end => end())
    }
  }

  function stop(): void {
    giveUp?.()
    giveUp = null
  }

  return { ask, stop }
}
