/** Edits that put things into a plan, and take what they replace out of it. The load test counts with what is there. */
import { thingKind } from '../catalogue/things'
import type { Catalogue, Part } from '../catalogue/types'
import { freePartId } from './create'
import type { Edit } from './edits'
import type { Plan } from './types'

/** Kinds of which a board carries one. */
const SINGLE = new Set(['case', 'cooler', 'card', 'header'])

/**
 * Takes a thing in, in place of what the plan has of its kind where there is one of those on a board; `null` takes out what is there of
 * the kind. Case and cooler are what the load test runs with from then on; a case that is the heat sink leaves no room for another.
 */
export function thingEdits(plan: Plan, kind: string, chosen: Part | null, { parts }: Pick<Catalogue, 'parts'>): Edit[] {
  const coolsItself = chosen?.thing?.cooler !== undefined && chosen.thing.enclosure !== undefined
  const replaced = plan.parts.filter(({ type }) => {
    const part = parts.get(type)
    const is = part && thingKind(part)
    return is !== undefined && is !== null && ((SINGLE.has(is) && is === kind) || (coolsItself && is === 'cooler'))
  })
  const { heat } = plan.power
  const wasBody = replaced.some(({ type }) => parts.get(type)?.thing?.cooler === 'case-body')
  const cooler = chosen?.thing?.cooler ?? (kind === 'cooler' || (kind === 'case' && (wasBody || heat.cooler === 'case-body'))
    ? 'none' as const
    : heat.cooler)
  const enclosure = chosen?.thing?.enclosure ?? (kind === 'case' ? 'open' as const : heat.enclosure)
  const same = cooler === heat.cooler && enclosure === heat.enclosure
  return [
    ...replaced.map(({ id }) => ({ edit: 'remove-part' as const, id })),
    ...chosen
      ? [{
          edit: 'add-part' as const,
          part: { id: freePartId(without(plan, replaced), chosen.id), type: chosen.id, name: chosen.name },
        }]
      : [],
    ...same
      ? []
      : [{
          edit: 'set-power' as const,
          power: { heat: { ...heat, cooler, enclosure, ...cooler !== heat.cooler && { coolerKw: undefined, measured: undefined } } },
        }],
  ]
}

const without = (plan: Plan, gone: readonly { id: string }[]): Plan => (
  { ...plan, parts: plan.parts.filter(part => !gone.some(other => other.id === part.id)) }
)
