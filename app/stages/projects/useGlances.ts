/**
 * What a project of the list looks like at a glance: worked out one after the other, while nothing else is asked for.
 */
import { answered } from '~/database/failures'
import type { Head } from '~/database/projects'
import { engine, loadEngine } from '~/stores/engine'
import { ownerColour } from '~/composables/useOwners'
import { shippedCatalogue } from '~~/core/catalogue'
import { catalogueOf, gatherFacts } from '~~/core/facts/gather'
import { completed } from '~~/core/plan/create'

export interface Glance {
  stops: number
  cautions: number
  lastWord: string | null
  cells: (string | null)[]
}

/** The list has to answer first. */
const FIRST_MS = 400

export function useGlances() {
  const database = useDatabase()
  const glances = shallowRef<ReadonlyMap<string, Glance>>(new Map())
  const keyOf = (head: Head) => `${head.id} ${head.updatedAt}`
  /** Plans that the checks cannot judge: they are not waited for. */
  const failed = shallowRef<ReadonlySet<string>>(new Set())
  let round = 0

  async function look(heads: readonly Head[]): Promise<void> {
    const mine = ++round
    await rest(FIRST_MS)
    const checks = engine.value ?? await loadEngine()
    for (const head of heads) {
      if (mine !== round) return
      if (head.trouble || isLookedAt(head)) continue
      const glance = await glanceOf(head, checks)
      if (glance && mine === round) glances.value = new Map([...glances.value, [keyOf(head), glance]])
      await rest(0)
    }
  }

  async function glanceOf(head: Head, checks: NonNullable<typeof engine.value>): Promise<Glance | null> {
    try {
      const plan = completed((await answered(database.read(head.id))).plan)
      const facts = gatherFacts(
        { ...plan, boot: plan.boot && plan.boot.text.length > 60_000 ? null : plan.boot },
        catalogueOf(plan, shippedCatalogue),
      )
      const { counts } = checks.evaluateFacts(facts)
      const index = new Map(plan.parts.map((part, i) => [part.id, i]))
      return {
        stops: counts.stops, cautions: counts.cautions,
        lastWord: [...plan.log].sort((a, b) => b.at.localeCompare(a.at))[0]?.text ?? null,
        cells: (facts.board?.header ?? []).map(({ position }) => {
          const owner = facts.atPosition.get(position)?.[0]?.owner.id
          return owner === undefined ? null : ownerColour(index.get(owner) ?? 0)
        }),
      }
    }
    catch (error) {
      // The list shows what it knows; opening the project tells what is wrong with it.
      console.error(`No glance at ${head.id}:`, error)
      failed.value = new Set([...failed.value, keyOf(head)])
      return null
    }
  }

  /** Looks at these, and at no others that are still waiting. */
  const run = (heads: readonly Head[]) =>
    void look(heads).catch((error: Error) => console.error('No glances at the projects:', error))
  onUnmounted(() => round++)
  const glanceAt = (head: Head): Glance | null => glances.value.get(keyOf(head)) ?? null
  const isLookedAt = (head: Head): boolean => glances.value.has(keyOf(head)) || failed.value.has(keyOf(head))
  return { glanceAt, isLookedAt, run }
}

const rest = (ms: number) => new Promise<void>(resolve => setTimeout(resolve, ms))
