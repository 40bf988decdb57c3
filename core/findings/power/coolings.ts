/** Ways to keep the processor cooler: other coolers, cases, a fan; each tried in the plan's own load test. */
import { lacksUnderLid, thingKind, thingsFor } from '../../catalogue/things'
import type { Part } from '../../catalogue/types'
import { BOARD_FAN, USUAL_THRESHOLD } from '../../facts/heat'
import type { ResolvedPart } from '../../facts/types'
import type { Cooler, Enclosure, FanControl, HeatPlan } from '../../plan/power'
import { thingEdits } from '../../plan/things'
import { coolerOf, COOLERS, ENCLOSURES, enclosureOf, OTHER_COOLER } from '../../power/heat/coolers'
import { runHeat } from '../../power/heat/run'
import { heatTask } from '../../power/report'
import { closesOver } from '../room'
import { socketsOf } from '../sockets'
import type { Evidence, Fix } from '../types'
import { sentenceCase } from './words'

/** A fan that was set up for the heat test. */
const THRESHOLD: FanControl = { mode: 'threshold', ...USUAL_THRESHOLD }
const NONE: FanControl = { mode: 'none' }

/** A fan in the plan, on wires or on the board's own socket, or the cooler's own. */
export const hasFan = ({ facts }: Pick<Evidence, 'facts'>) =>
  COOLERS[facts.heat.set.cooler].fan || facts.heat.fan !== null || facts.parts.some(({ part }) => isFan(part))

const isFan = ({ id }: Part) => id.startsWith('fan')
const hasFanPlug = ({ plugs }: Part) => plugs?.some(({ socket }) => socket === 'fan') ?? false

/** From the board to the lid of what the load test runs in, in mm: the thing's own, or what cases of its kind have. */
export const lidMm = ({ facts: { heat } }: Pick<Evidence, 'facts'>): number =>
  heat.enclosure?.part.thing!.lidMm ?? ENCLOSURES[heat.set.enclosure].lidMm ?? Infinity

/** One way: what the load test would run with, what it costs, and the edits that make it so. */
interface Cooling {
  label: string
  heat: HeatPlan
  price: number
  edits: Fix['edits']
}

const setting = ({ facts: { plan } }: Evidence, changes: Partial<HeatPlan>): Fix['edits'] =>
  [{ edit: 'set-power', power: { heat: { ...plan.power.heat, ...changes } } }]

/**
 * More air: another case, or none. The case that is in the plan is changed for another that closes over what is there.
 */
function cases(evidence: Evidence): Cooling[] {
  const { facts, facts: { heat: { set, cooler, enclosure: box } } } = evidence
  const airier = (Object.keys(ENCLOSURES) as Enclosure[])
    .filter(enclosure => ENCLOSURES[enclosure].stillKw < enclosureOf(set.cooler, set.enclosure).stillKw)
  if (!box) return airier.map(enclosure => ({
    label: enclosure === 'open' ? 'Leave the case open' : 'A case with openings', heat: { ...set, enclosure },
    price: enclosure === 'open' ? 0 : 6, edits: setting(evidence, { enclosure }),
  }))
  const closes = closesOver(evidence)
  return airier.flatMap((enclosure): Cooling[] => {
    const heat = { ...set, enclosure }
    if (enclosure === 'open') return [{ label: `Without ${box.name}`, heat, price: 0,
      edits: [{ edit: 'remove-part', id: box.id }] }]
    const other = thingsFor('case', facts.board, facts.catalogue).find(part => part.thing!.enclosure === enclosure
      && part.thing!.cooler === undefined && closes(part)
      && (!cooler || lacksUnderLid(cooler.part.thing!, part.thing!) === null))
    return other ? [{ ...taking(evidence, other, heat) }] : []
  })
}

const taking = ({ facts: { plan, catalogue } }: Evidence, part: Part, heat: HeatPlan): Cooling => ({
  label: `Take ${part.name}`, heat, price: part.price ?? 0, edits: thingEdits(plan, thingKind(part)!, part, catalogue),
})

/** Other coolers. Where case or cooler are things of the plan, the thing is changed; else what the load test tries. */
function coolers(evidence: Evidence): Cooling[] {
  const { facts: { heat: { set, cooler: own, enclosure: box } } } = evidence
  return (Object.keys(COOLERS) as Cooler[])
    .filter(cooler => COOLERS[cooler].stillShare < COOLERS[set.cooler].stillShare
      || (COOLERS[cooler].fan && set.cooler !== cooler))
    .flatMap((cooler): Cooling[] => {
      if (own || (box && cooler === 'case-body')) return thingsOf(evidence, cooler, own)
      if (COOLERS[cooler].heightMm > lidMm(evidence)) return []
      const changes = { cooler, ...OTHER_COOLER,
        ...COOLERS[cooler].fan && set.fan.mode === 'none' && { fan: THRESHOLD } }
      return [{
        label: sentenceCase(COOLERS[cooler].label), heat: { ...set, ...changes }, price: COOLERS[cooler].price,
        edits: setting(evidence, changes),
      }]
    })
}

/**
 * The cheapest thing that is such a cooler, goes with the board and the case, and leaves the fan that is set up
 * something to run.
 */
function thingsOf(evidence: Evidence, cooler: Cooler, own: ResolvedPart | null): Cooling[] {
  const { facts, facts: { heat: { set, enclosure: box, fan }, plan } } = evidence
  const isCase = cooler === 'case-body'
  const closes = closesOver(evidence)
  const others = socketsOf(evidence).find(({ kind }) => kind === 'fan')
  const free = (others?.there ?? 0) - (others?.plugs.filter(({ partId }) => partId !== own?.id).length ?? 0)
  const part = thingsFor(isCase ? 'case' : 'cooler', facts.board, facts.catalogue)
    .find(one => one.thing!.cooler === cooler
      && (!hasFanPlug(one) || free > 0)
      && (isCase ? closes(one) : !box || lacksUnderLid(one.thing!, box.part.thing!) === null))
  if (!part) return []
  const asked = plan.power.heat.fan
  // The fan goes with the cooler that has it.
  const goes = own !== null
    && (fan === own || (COOLERS[set.cooler].fan && !facts.parts.some(other => isFan(other.part))))
  if (asked.mode !== 'none' && goes && !hasFanPlug(part)) return []
  let now
  if (asked.mode !== 'none') now = asked
  else if (hasFanPlug(part)) now = BOARD_FAN
  else now = goes ? NONE : set.fan
  const { coolerKw: _, measured: __, ...rest } = set
  return [taking(evidence, part, { ...rest, cooler, fan: now })]
}

/** Other coolers, cases, a fan: each tried in the same test. Cheapest that is enough first. */
export function coolings(evidence: Evidence): Fix[] {
  const { facts, facts: { heat: { set } }, power } = evidence
  const otherW = power.report.regulators.reduce((sum, entry) => sum + entry.lossW, 0)
  const base = heatTask(facts, power, otherW)
  if (!base) return []
  const ways = [
    ...cases(evidence), ...coolers(evidence),
    ...hasFan(evidence) && set.fan.mode === 'none'
      ? [{ label: 'Let the fan run from 60 °C', heat: { ...set, fan: THRESHOLD }, price: 0,
          edits: setting(evidence, { fan: THRESHOLD }) }]
      : [],
  ]
  return ways.map(way => ({ ...way, run: runHeat({
    ...base, cooler: coolerOf(way.heat), enclosure: enclosureOf(way.heat.cooler, way.heat.enclosure), fan: way.heat.fan,
  }) }))
    .filter(({ run }) => run.hottestC < power.report.heat!.hottestC - 0.5)
    .sort((a, b) =>
      Number(b.run.slowsAtS === null) - Number(a.run.slowsAtS === null) || a.price - b.price
      || a.run.hottestC - b.run.hottestC)
    .slice(0, 4)
    .map(({ label, edits, run }) => ({
      label: `${label}: ${Math.round(run.hottestC)} °C at most${run.slowsAtS === null ? '' : ', not enough by itself'}`,
      edits, ...run.slowsAtS !== null && { isPartial: true as const },
    }))
}
