import type { Remote } from 'comlink'
import type { BootService } from '~/workers/services/boot'
import { askOnce, within } from '~/workers/start'

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
    return await askOnce('boot', service => within(MAX_MS, question(service), 'the worker did not answer'), stopped)
  }

  function stop(): void {
    giveUp?.()
    giveUp = null
  }

  return { ask, stop }
}
