/** Two ways to feed a plan, side by side: what they cost, how long they last, what they leave free. */
import type { Catalogue, SupplyUnit } from '../catalogue/types'
import { evaluate } from '../evaluate'
import { arranged, arrangementOf } from '../plan/power-edits'
import type { Arrangement } from '../plan/power'
import type { Plan } from '../plan/types'
import { isOpen } from '../findings/set-aside'

export interface Compared {
  name: string
  price: number
  hours: number | null
  /** They are at least so many: the week under the plan's sky never empties the store. */
  hoursAtLeast: boolean
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
export function comparedOf(plan: Plan, catalogue: Catalogue,
  arrangement: Arrangement): Compared & { titles: string[] } {
  const { findings, power } = evaluate(arranged(plan, arrangement), catalogue)
  const mine = findings.filter(isOpen).filter(
    finding => finding.stages[0] === 'power' || finding.subjects.some(subject => subject.node !== undefined),
  )
  const state = (id: string) => power.states.find(entry => entry.id === id)!
  const fed = !power.assumed && '@5V' in state('typical').nodes
  const tightest = [...power.sources].filter(source => source.peakMa > 0)
    .sort((a, b) => (a.availableMa - a.peakMa) / a.availableMa - (b.availableMa - b.peakMa) / b.availableMa)[0]
  const typical = state('typical')
  return {
    name: arrangement.name, price: power.price, hours: power.hours, hoursAtLeast: power.hoursMeant.atLeast,
    spareMa: tightest ? tightest.availableMa - tightest.peakMa : null,
    spareShare: tightest ? 1 - tightest.peakMa / tightest.availableMa : null,
    typicalV: fed ? typical.nodes['@5V']!.voltageV : null, peakV: fed ? state('peak').nodes['@5V']!.voltageV : null,
    typicalW: power.sources.reduce((sum, source) => sum + typical.nodes[source.node]!.powerMw, 0) / 1000,
    lossW: power.nodes.filter(node => node.role === 'path')
      .reduce((sum, node) => sum + typical.nodes[node.id]!.powerMw, 0) / 1000,
    stops: mine.filter(finding => finding.severity === 'stop').length,
    cautions: mine.filter(finding => finding.severity === 'caution').length,
    usbMa: power.rails.find(rail => rail.rail === 'USB')?.availableMa ?? null, onlyHere: [],
    titles: mine.filter(finding => finding.severity !== 'note').map(finding => finding.title),
  }
}

/** Two arrangements, with what only one of them suffers from. */
export function compareArrangements(plan: Plan, catalogue: Catalogue, a: Arrangement,
  b: Arrangement): [Compared, Compared] {
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

export interface ComparedRow {
  label: string
  value: (side: Compared) => number | null
  /** More is better, less is, or what lies nearest to a figure. */
  better: 'more' | 'less' | { nearest: number }
}

/** What the board's rail should have. */
const NOMINAL_V = 5

/** The figures of a comparison, and when one is better than the other. Adding one is adding a row. */
export const COMPARED_ROWS = {
  price: { label: 'price, made up', value: side => side.price, better: 'less' },
  hours: { label: 'hours', value: side => side.hours, better: 'more' },
  spare: { label: 'to spare at peak', value: side => side.spareShare, better: 'more' },
  typicalV: { label: '5 V rail, typical', value: side => side.typicalV, better: { nearest: NOMINAL_V } },
  peakV: { label: '5 V rail, peak', value: side => side.peakV, better: { nearest: NOMINAL_V } },
  usb: { label: 'USB sockets', value: side => side.usbMa, better: 'more' },
  typicalW: { label: 'drawn, typical', value: side => side.typicalW, better: 'less' },
  lossW: { label: 'lost on the way', value: side => side.lossW, better: 'less' },
  findings: { label: 'stops and cautions', value: side => side.stops * 100 + side.cautions, better: 'less' },
} satisfies Record<string, ComparedRow>

/** Whether a side is better in a row than the other. One with more stops than the other is better in nothing. */
export function isBetter({ value, better }: ComparedRow, side: Compared, other: Compared): boolean {
  if (side.stops > other.stops) return false
  const mine = value(side)
  const its = value(other)
  if (mine === null || its === null || Math.abs(mine - its) < 1e-3) return false
  if (typeof better === 'object') return Math.abs(mine - better.nearest) < Math.abs(its - better.nearest) - 1e-3
  return better === 'more' ? mine > its : mine < its
}

/**
 * Another supply to compare with: of the same voltage and, where there is one, the same plug; the next larger first.
 * Null without any.
 */
export function likeSupply(plan: Plan, catalogue: Catalogue): SupplyUnit | null {
  const now = plan.supply && catalogue.supplies.get(plan.supply.type)
  const voltageV = now?.voltageV ?? NOMINAL_V
  const currentMa = now?.currentMa ?? 0
  const rank = (unit: SupplyUnit) =>
    (unit.cable?.plug === now?.cable?.plug ? 0 : 1) + (unit.kind === (now?.kind ?? 'adapter') ? 0 : 2)
    + (unit.currentMa > currentMa ? 0 : 4)
  return [...catalogue.supplies.values()]
    .filter(unit => unit.id !== now?.id && Math.abs(unit.voltageV - voltageV) < 0.3 && unit.kind !== 'transformer')
    .sort((a, b) => rank(a) - rank(b) || Math.abs(a.currentMa - currentMa) - Math.abs(b.currentMa - currentMa))[0]
    ?? null
}
