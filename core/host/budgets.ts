/** What programs keep loaded and what lies on the card, against what the board and the card have. */
import { thingKind } from '../catalogue/things'
import type { Facts } from '../facts/types'

/** A system without and with a desktop, in memory and on the card. practice */
const SYSTEM = { plain: { memoryMb: 180, cardMb: 3500 }, desktop: { memoryMb: 550, cardMb: 6500 } } as const
/** Memory that a page over the whole screen takes. practice */
const PAGE_MB = 400
/** Part of a card that should stay free, so that it lasts. practice */
const FREE_SHARE = 0.15

/** What a card of that size should hold at most. */
export const holdsMb = (gigabytes: number): number => Math.floor(gigabytes * 1000 * (1 - FREE_SHARE))

export interface Budget {
  /** What takes of it, the system first. */
  takes: { what: string, mb: number }[]
  totalMb: number
  /** Null where it is not known. */
  availableMb: number | null
}

export function hostBudgets(facts: Facts): { memory: Budget, card: Budget, writesMbPerDay: number } {
  const { host } = facts.plan
  const withDesktop = host.runs.some(run => run.how !== 'service') || host.screenKeys !== undefined
  const system = SYSTEM[withDesktop ? 'desktop' : 'plain']
  const name = withDesktop ? 'the system with a desktop' : 'the system without a desktop'
  const pages = host.runs.filter(run => run.how === 'page').map(run => ({ what: `the page ${run.name}`, mb: PAGE_MB }))
  const memory = [{ what: name, mb: system.memoryMb }, ...pages, ...host.keeps.flatMap(({ what, memoryMb }) => memoryMb
    ? [{ what,
        mb: memoryMb }]
    : [])]
  const card = [{ what: name, mb: system.cardMb },
    ...host.keeps.flatMap(({ what, cardMb }) => cardMb ? [{ what, mb: cardMb }] : [])]
  const cards = facts.parts.filter(({ part }) => thingKind(part) === 'card')
    .flatMap(({ part }) => part.thing!.card?.gigabytes ?? [])
  const sum = (takes: readonly { mb: number }[]) => takes.reduce((total, { mb }) => total + mb, 0)
  return {
    memory: { takes: memory, totalMb: sum(memory), availableMb: host.memoryMb ?? null },
    // Sold by thousands; a part of it stays free.
    card: { takes: card, totalMb: sum(card), availableMb: cards[0] === undefined ? null : holdsMb(cards[0]) },
    writesMbPerDay: sum(host.keeps.map(({ writesMbPerDay }) => ({ mb: writesMbPerDay ?? 0 }))),
  }
}
