/**
 * Edits that put things into a plan, and take what they replace out of it. The load test counts with the things
 * that are there.
 */
import { thingKind } from '../catalogue/things'
import type { Catalogue, Part } from '../catalogue/types'
import { freePartId } from './create'
import type { Edit } from './edits'
import type { Plan } from './types'

/** Kinds of which a board carries one. */
const SINGLE = new Set(['case', 'cooler', 'card', 'header'])

/**
 * Takes a thing in, in place of what the plan has of its kind where there is one of those on a board; `null` takes
 * out what is there of the kind, and what the load test tries in its place. A case that is the heat sink leaves no
 * room for another cooler.
 */
export function thingEdits(plan: Plan, kind: string, chosen: Part | null, { parts }: Pick<Catalogue, 'parts'>): Edit[] {
  const coolsItself = chosen?.thing?.cooler !== undefined && chosen.thing.enclosure !== undefined
  const replaced = plan.parts.filter(({ type }) => {
    const part = parts.get(type)
    const is = part && thingKind(part)
    return is !== undefined && is !== null && ((SINGLE.has(is) && is === kind) || (coolsItself && is === 'cooler'))
  })
  const { heat } = plan.power
  // Nothing is tried beside a thing: when it goes again there is none.
  const tried = {
    ...kind === 'cooler' || coolsItself || (kind === 'case' && heat.cooler === 'case-body')
      ? { cooler: 'none' as const, coolerKw: undefined, measured: undefined }
      : {},
    ...kind === 'case' ? { enclosure: 'open' as const } : {},
  }
  const same = (Object.keys(tried) as (keyof typeof tried)[]).every(key => tried[key] === heat[key])
  return [
    ...replaced.map(({ id }) => ({ edit: 'remove-part' as const, id })),
    ...chosen
      ? [{
          edit: 'add-part' as const,
          part: { id: freePartId(without(plan, replaced), chosen.id), type: chosen.id, name: chosen.name },
        }]
      : [],
    ...same ? [] : [{ edit: 'set-power' as const, power: { heat: { ...heat, ...tried } } }],
  ]
}

const without = (plan: Plan, gone: readonly { id: string }[]): Plan => (
  { ...plan, parts: plan.parts.filter(part => !gone.some(other => other.id === part.id)) }
)
