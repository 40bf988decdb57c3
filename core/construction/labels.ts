/** Labels: for both ends of every wire, and for parts that look alike. */
import type { Facts } from '../facts/types'
import type { Wire } from './wires'

export interface EndLabel {
  /** Of the wire list. */
  number: number
  /** Where this end goes. */
  here: string
  /** Where the other one goes. */
  there: string
}

/**
 * Two labels for each wire: what is read at an end is where it belongs, then where it comes from. Law: every
 * wire has both.
 */
export const endLabelsOf = (wires: readonly Wire[]): EndLabel[] => wires.flatMap(({ kind, partName, from, to }, i) => {
  if (kind !== 'wire') return []
  const start = from.startsWith(partName) || !partName ? from : `${partName} ${from}`
  return [{ number: i + 1, here: start, there: to }, { number: i + 1, here: to, there: start }]
})

export interface PartLabel {
  partId: string
  name: string
  /** What tells it from the others of its type: its options where they differ, else nothing. */
  told: string
}

/** One for each part of which there are several of a type: they are mixed up on the table. */
export function partLabelsOf({ parts }: Pick<Facts, 'parts'>): PartLabel[] {
  return parts.flatMap(({ id, name, part, options }) => {
    const alike = parts.filter(other => other.part.id === part.id)
    if (alike.length < 2 || part.thing) return []
    const told = (part.options ?? []).filter(option => new Set(alike.map(other => other.options[option.id])).size > 1)
      .map(option => `${option.label}: `
        + `${option.values?.find(({ value }) => value === options[option.id])?.label ?? options[option.id]}`)
    return [{ partId: id, name, told: told.join(', ') }]
  })
}
