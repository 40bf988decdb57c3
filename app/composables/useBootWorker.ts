import type { Remote } from 'comlink'
import type { BootService } from '~/workers/boot.worker'

let worker: Worker | null = null
let giveUp: (() => void) | null = null

/** Asks the boot worker for one thing at a time; null when it was stopped. Stopping ends the worker at once. */
export function useBootWorker() {
  async function ask<T>(question: (service: Remote<BootService>) => Promise<T>): Promise<T | null> {
    stop()
    const { wrap } = await import('comlink')
    const mine = new Worker(new URL('../workers/boot.worker.ts', import.meta.url), { type: 'module' })
    worker = mine
    const stopped = new Promise<null>(resolve => giveUp = () => resolve(null))
    const failed = new Promise<never>((_, reject) => mine.addEventListener(
      'error', event => reject(new Error(event.message || 'the worker did not start')),
    ))
    try {
      return await Promise.race([question(wrap<BootService>(mine)), stopped, failed])
    }
    finally {
      mine.terminate()
      if (worker === mine) worker = null
    }
  }

  function stop(): void {
    giveUp?.()
    giveUp = null
  }

  return { ask, stop }
}
