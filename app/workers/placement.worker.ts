/** Placement off the main thread, so that typing is never blocked. */
import { expose } from 'comlink'
import { shippedCatalogue } from '~~/core/catalogue'
import { placePlan } from '~~/core/placement/place'
import type { Plan } from '~~/core/plan/types'

const service = {
  place(plan: Plan, scope: 'rest' | 'all', onProgress: (nodes: number) => void) {
    return placePlan(plan, shippedCatalogue, { scope, onProgress })
  },
}

export type PlacementService = typeof service

expose(service)
