import { shippedCatalogue } from '../core/catalogue'
import { tryBoards, type BoardTrial } from '../core/choose/boards'
import { totalsOf, type Total } from '../core/choose/totals'
import { catalogueOf } from '../core/facts/gather'
import type { Plan } from '../core/plan/types'
import { readArguments } from './input'

/** Prints every board tried on the plan, the best first; 1 when none carries it. */
export function choose(args: string[]): number {
  const { plan, values } = readArguments(args, { json: { type: 'boolean' }, totals: { type: 'boolean' } })
  if (values.totals) return totals(totalsOf(plan, catalogueOf(plan, shippedCatalogue)), values.json === true)
  const trials = tryBoards(plan, catalogueOf(plan, shippedCatalogue))
  if (values.json) console.log(JSON.stringify(trials, null, 2))
  else {
    for (const trial of trials) print(trial, plan)
    const everywhere = trials.find(trial => trial.everywhere.length)?.everywhere ?? []
    for (const title of everywhere) console.log(`on every board: ${title}`)
  }
  return trials.some(({ carries }) => carries) ? 0 : 1
}

/** Prints what the whole costs in each way that the plan knows; always 0. */
function totals(all: readonly Total[], asJson: boolean): number {
  if (asJson) console.log(JSON.stringify(all, null, 2))
  else for (const { title, price, counts, givesUp } of all) {
    console.log(`${String(price.total).padStart(8)}  ${title}${price.unknown ? `; ${many(price.unknown, 'thing')} without a price` : ''}${
      counts ? `; ${many(counts.stops, 'stop')}, ${many(counts.cautions, 'caution')}` : ''}`)
    for (const words of givesUp) console.log(`          gives up ${words}`)
  }
  return 0
}

function print(
  { name, carries, placed, price, spare, supply, added, givenUp, against, cautions }: BoardTrial, plan: Plan,
): void {
  console.log(`${carries ? 'carries' : placed ? 'stops  ' : 'no room'}  ${name}: about ${price.total}${price.unknown
    ? `, ${price.unknown} without a price`
    : ''}; ${many(spare.lines, 'line')} and ${many(spare.usb, 'USB socket')} stay free`)
  if (supply) console.log('         fed by '
    + `${supply.name}${supply.isNew && plan.supply ? ', in place of what the plan has' : ''}`)
  for (const thing of added) console.log('         wants '
    + `${thing.name}${thing.price === null ? '' : `, about ${thing.price}`}`)
  for (const words of givenUp) console.log(`         gives up ${words}`)
  for (const title of against) console.log(`         against it: ${title}`)
  for (const title of cautions) console.log(`         caution: ${title}`)
}

const many = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`
