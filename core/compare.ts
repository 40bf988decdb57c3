/** Two ways to feed a plan, side by side: what they cost, how long they last, what they leave free. */
import type { Catalogue } from './catalogue/types'
import { evaluate } from './evaluate'
import { arranged, arrangementOf } from './plan/power-edits'
import type { Arrangement } from './plan/power'
import type { Plan } from './plan/types'

export interface Compared {
  name: string
  price: number
  hours: number | null
  /** Of the source that has least to spare, in mA at peak; null without a source. */
  spareMa: number | null
  spareShare: number | null
  /** Lowest voltage on the 5 V rail, typical and peak; null where nothing feeds it. */
  typicalV: number | null
  peakV: number | null
  /** Drawn from all sources, typical. */
  typicalW: number
  lossW: number
  stops: number
  cautions: number
  usbMa: number | null
  /** Findings about the supply that the other side does not have. */
  onlyHere: string[]
}

/** One arrangement of the plan in figures. */
export function comparedOf(plan: Plan, catalogue: Catalogue, arrangement: Arrangement): Compared & { titles: string[] } {
  const { findings, power } = evaluate(arranged(plan, arrangement), catalogue)
  const mine = findings.filter(finding => finding.stages[0] === 'power' || finding.subjects.some(subject => subject.node !== undefined))
  const state = (id: string) => power.states.find(entry => entry.id === id)!
  const fed = !power.assumed && '@5V' in state('typical').nodes
  const tightest = [...power.sources].filter(source => source.peakMa > 0)
    .sort((a, b) => (a.availableMa - a.peakMa) / a.availableMa - (b.availableMa - b.peakMa) / b.availableMa)[0]
  const typical = state('typical')
  return {
    name: arrangement.name, price: power.price, hours: power.hours,
    spareMa: tightest ? tightest.availableMa - tightest.peakMa : null,
    spareShare: tightest ? 1 - tightest.peakMa / tightest.availableMa : null,
    typicalV: fed ? typical.nodes['@5V']!.voltageV : null, peakV: fed ? state('peak').nodes['@5V']!.voltageV : null,
    typicalW: power.sources.reduce((sum, source) => sum + typical.nodes[source.node]!.powerMw, 0) / 1000,
    lossW: power.nodes.filter(node => node.role === 'path').reduce((sum, node) => sum + typical.nodes[node.id]!.powerMw, 0) / 1000,
    stops: mine.filter(finding => finding.severity === 'stop').length,
    cautions: mine.filter(finding => finding.severity === 'caution').length,
    usbMa: power.rails.find(rail => rail.rail === 'USB')?.availableMa ?? null, onlyHere: [],
    titles: mine.filter(finding => finding.severity !== 'note').map(finding => finding.title),
  }
}

/** Two arrangements, with what only one of them suffers from. */
export function compareArrangements(plan: Plan, catalogue: Catalogue, a: Arrangement, b: Arrangement): [Compared, Compared] {
  const left = comparedOf(plan, catalogue, a)
  const right = comparedOf(plan, catalogue, b)
  const side = ({ titles, ...figures }: typeof left, other: typeof left): Compared => ({
    ...figures, onlyHere: titles.filter(title => !other.titles.includes(title)),
  })
  return [side(left, right), side(right, left)]
}

/** The plan's feeding as it is, and the same with another supply. */
export function withSupply(plan: Plan, type: string, name: string): Arrangement {
  const { '@supply': _, '@cable': __, ...figures } = plan.power.figures
  return { ...arrangementOf(plan, `supply-${type}`, name), supply: { type }, figures }
}
