/** What each element draws and gives at the voltages of its joints, with the slopes that Newton's method wants. */
import type { EfficiencyCurve, Element, LoadElement, RectifierElement, RegulatorElement, SourceElement } from './types'

/**
 * Currents in mA; slopes in mA per V: `inByFrom` is how the current taken at `from` changes with the voltage at `from`.
 */
export interface Response {
  inMa: number
  outMa: number
  inByFrom: number
  inByTo: number
  outByFrom: number
  outByTo: number
}

/** Keeps joints that nothing holds from floating; small against any real load. In mA per V. */
export const LEAK = 2e-5

/** Least resistance an element may have: an ideal one makes the equations singular. */
const MIN_OHM = 1e-4
const conductance = (ohm: number) => 1000 / Math.max(ohm, MIN_OHM)

/** A converter turns on over this part of its least input voltage, so that the law has no step. */
const TURN_ON = 0.06

export function respond(element: Element, fromV: number, toV: number, loadShare: number): Response {
  switch (element.kind) {
    case 'source': return ofSource(element, toV)
    case 'resistance': return oneWay(conductance(element.ohm), fromV - toV)
    case 'diode': {
      const g = conductance(element.ohm)
      const over = fromV - toV - element.dropV
      return over >= 0 ? oneWay(g, over) : oneWay(LEAK, 0)
    }
    case 'regulator': return ofRegulator(element, fromV, toV)
    case 'rectifier': return ofRectifier(element, fromV, toV)
    case 'load': return ofLoad(element, fromV, loadShare)
  }
}

const oneWay = (g: number, over: number): Response => ({
  inMa: g * over, outMa: g * over, inByFrom: g, inByTo: -g, outByFrom: g, outByTo: -g,
})

function ofSource({ voltageV, ohm, limitMa, takesBack }: SourceElement, toV: number): Response {
  const g = conductance(ohm)
  const wanted = g * (voltageV - toV)
  const still = { inMa: 0, inByFrom: 0, inByTo: 0, outByFrom: 0 }
  if (limitMa !== undefined && wanted > limitMa) return { ...still, outMa: limitMa, outByTo: -LEAK }
  if (wanted < 0 && !takesBack) return { ...still, outMa: 0, outByTo: -LEAK }
  return { ...still, outMa: wanted, outByTo: -g }
}

/** Efficiency at an output current, and its slope per mA. */
export function efficiencyAt(curve: EfficiencyCurve, currentMa: number): { efficiency: number, slope: number } {
  const after = curve.findIndex(point => point.currentMa >= currentMa)
  if (after === 0) return { efficiency: curve[0]!.efficiency, slope: 0 }
  if (after < 0) return { efficiency: curve.at(-1)!.efficiency, slope: 0 }
  const a = curve[after - 1]!
  const b = curve[after]!
  const slope = (b.efficiency - a.efficiency) / (b.currentMa - a.currentMa)
  return { efficiency: a.efficiency + slope * (currentMa - a.currentMa), slope }
}

function ofRegulator({ setV, headroomV, leastInV, ohm, quiescentMa, efficiency }: RegulatorElement, fromV: number,
  toV: number): Response {
  const g = conductance(ohm)
  const ramp = Math.max(leastInV * TURN_ON, 0.05)
  const on = Math.min(1, Math.max(0, (fromV - leastInV + ramp) / ramp))
  const onSlope = on > 0 && on < 1 ? 1 / ramp : 0
  const follows = headroomV !== undefined && fromV - headroomV < setV
  const goal = Math.max(0, follows ? fromV - headroomV : setV)
  const held = on * goal
  const heldSlope = onSlope * goal + on * (follows && goal > 0 ? 1 : 0)
  const quiet = { inMa: quiescentMa * on, inByFrom: quiescentMa * onSlope, inByTo: 0 }
  const wanted = g * (held - toV)
  if (wanted < 0) return { ...quiet, outMa: 0, outByFrom: 0, outByTo: -LEAK }
  const out = { outMa: wanted, outByFrom: g * heldSlope, outByTo: -g }
  if (!efficiency) return { ...out, inMa: quiet.inMa + wanted, inByFrom: quiet.inByFrom + out.outByFrom, inByTo: -g }
  // Power in = power given ÷ efficiency; far below the least input the division stops growing.
  const { efficiency: eta, slope } = efficiencyAt(efficiency, wanted)
  const floorV = Math.max(0.25, leastInV * 0.5)
  const seenV = Math.max(fromV, floorV)
  const seenSlope = fromV > floorV ? 1 : 0
  const taken = held * wanted / (eta * seenV)
  const byWanted = held / (eta * seenV) - held * wanted * slope / (eta * eta * seenV)
  const byHeld = wanted / (eta * seenV)
  return {
    ...out, inMa: quiet.inMa + taken,
    inByFrom: quiet.inByFrom + byWanted * out.outByFrom + byHeld * heldSlope - taken / seenV * seenSlope,
    inByTo: byWanted * -g,
  }
}

/** Below this part of its transformer's voltage a bridge is cut off from it. */
const CUT_OFF = 0.05

function ofRectifier({ emfV, curve }: RectifierElement, fromV: number, toV: number): Response {
  const first = curve[0]!
  if (toV >= first.meanV || fromV < CUT_OFF * emfV) {
    return { inMa: 0, outMa: 0, inByFrom: LEAK, inByTo: 0, outByFrom: 0, outByTo: -LEAK }
  }
  // The curve falls: the first point below the voltage ends the piece that it lies on.
  const after = Math.max(1, curve.findIndex(point => point.meanV <= toV))
  const a = curve[after - 1]!
  const b = curve[after]!
  const outByTo = (b.currentMa - a.currentMa) / (b.meanV - a.meanV)
  const outMa = a.currentMa + outByTo * (toV - a.meanV)
  const inByOut = (b.acRmsMa - a.acRmsMa) / (b.currentMa - a.currentMa)
  return { outMa, outByFrom: 0, outByTo, inMa: a.acRmsMa + inByOut * (outMa - a.currentMa), inByFrom: LEAK,
    inByTo: inByOut * outByTo }
}

function ofLoad({ law, currentMa, ratedV, leastV }: LoadElement, atV: number, loadShare: number): Response {
  const rated = currentMa * loadShare
  const give = (inMa: number,
    inByFrom: number): Response => ({ inMa, inByFrom, inByTo: 0, outMa: 0, outByFrom: 0, outByTo: 0 })
  if (law === 'resistance') return give(rated * atV / ratedV, rated / ratedV)
  const atLeast = law === 'power' ? rated * ratedV / leastV : rated
  if (atV < leastV) return give(atLeast * atV / leastV, atLeast / leastV)
  return law === 'power' ? give(rated * ratedV / atV, -rated * ratedV / (atV * atV)) : give(rated, 0)
}
