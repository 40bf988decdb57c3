/**
 * An independent look at a supply circuit: each element's current from the voltages alone, by its textbook law,
 * and Kirchhoff's sums.
 */
import type { Element, Operating } from '../core/power/circuit/types'

/** Current in mA into the joint `from` side and out of the `to` side, worked out here from voltages only. */
export function currentsOf(element: Element, at: (joint: string) => number): { inMa: number, outMa: number } {
  const same = (ma: number) => ({ inMa: ma, outMa: ma })
  switch (element.kind) {
    case 'source': {
      const wanted = (element.voltageV - at(element.to)) / element.ohm * 1000
      const given = element.takesBack ? wanted : Math.max(0, wanted)
      return { inMa: 0, outMa: Math.min(given, element.limitMa ?? Infinity) }
    }
    case 'resistance': return same((at(element.from) - at(element.to)) / element.ohm * 1000)
    case 'diode': return same(Math.max(0, at(element.from) - at(element.to) - element.dropV) / element.ohm * 1000)
    case 'rectifier': {
      // On straight lines between the points of its curve; nothing without its transformer.
      const { curve, emfV } = element
      const next = curve.findIndex(point => point.meanV <= at(element.to))
      if (next === 0 || at(element.from) < 0.05 * emfV) return same(0)
      const [a, b] = [curve[next - 1]!, curve[next]!]
      const part = (a.meanV - at(element.to)) / (a.meanV - b.meanV)
      return { inMa: a.acRmsMa + part * (b.acRmsMa - a.acRmsMa),
        outMa: a.currentMa + part * (b.currentMa - a.currentMa) }
    }
    case 'load': {
      const { law, currentMa, ratedV, leastV } = element
      const v = at(element.at)
      if (law === 'resistance') return { inMa: v / (ratedV / currentMa), outMa: 0 }
      if (v < leastV) return { inMa: (law === 'power' ? currentMa * ratedV / leastV : currentMa) * v / leastV,
        outMa: 0 }
      return { inMa: law === 'power' ? currentMa * ratedV / v : currentMa, outMa: 0 }
    }
    case 'regulator': {
      const goal = Math.max(0, element.headroomV === undefined
        ? element.setV
        : Math.min(element.setV, at(element.from) - element.headroomV))
      const outMa = Math.max(0, goal - at(element.to)) / element.ohm * 1000
      if (!element.efficiency) return { inMa: outMa + element.quiescentMa, outMa }
      const points = element.efficiency
      const next = points.findIndex(point => point.currentMa >= outMa)
      const [a, b] = next === 0
        ? [points[0]!, points[0]!]
        : next < 0
          ? [points.at(-1)!, points.at(-1)!]
          : [points[next - 1]!, points[next]!]
      const eta = a === b
        ? a.efficiency
        : a.efficiency + (b.efficiency - a.efficiency) * (outMa - a.currentMa) / (b.currentMa - a.currentMa)
      return { inMa: goal * outMa / (eta * at(element.from)) + element.quiescentMa, outMa }
    }
  }
}

/** Current that is left over at each joint, in mA; nothing where Kirchhoff's law holds. */
export function leftOver(elements: readonly Element[], { voltages }: Operating): Record<string, number> {
  const sums: Record<string, number> = Object.fromEntries(Object.keys(voltages).map(joint => [joint, 0]))
  for (const element of elements) {
    const { inMa, outMa } = currentsOf(element, joint => voltages[joint]!)
    if (element.kind === 'load') sums[element.at]! -= inMa
    else {
      if (element.kind !== 'source') sums[element.from]! -= inMa
      sums[element.to]! += outMa
    }
  }
  return sums
}
