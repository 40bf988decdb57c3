/** The operating point of a supply circuit: Newton's method on Kirchhoff's current law at every joint. */
import { eliminate, planElimination, type Pattern } from './elimination'
import { LEAK, respond, type Response } from './laws'
import type { Element, Flow, Joint, Operating } from './types'

/** A circuit made ready: joints numbered, the elimination planned. Used again for every state of the same circuit. */
export interface Prepared {
  joints: Joint[]
  elements: readonly Element[]
  /** Per element, the rows of its joints; −1 where it has none. */
  rows: { from: number, to: number }[]
  pattern: Pattern
  /** Where Newton's method starts: what each joint would have without load. */
  startV: Float64Array
}

const ends = (element: Element): [Joint | null, Joint | null] => {
  if (element.kind === 'source') return [null, element.to]
  return element.kind === 'load' ? [element.at, null] : [element.from, element.to]
}

/**
 * Numbers the joints and plans the elimination. `like` is a circuit made ready before: where the elements are the same
 * but for what loads draw, its plan is used again.
 */
export function prepare(elements: readonly Element[], like?: Prepared): Prepared {
  if (like && sameBuild(elements, like.elements)) return { ...like, elements }
  const index = new Map<Joint, number>()
  const rowOf = (joint: Joint | null) => {
    if (joint === null) return -1
    const known = index.get(joint)
    if (known !== undefined) return known
    index.set(joint, index.size)
    return index.size - 1
  }
  const rows = elements.map((element) => {
    const [from, to] = ends(element)
    return { from: rowOf(from), to: rowOf(to) }
  })
  const edges = rows.flatMap(({ from, to }) => from >= 0 && to >= 0 ? [[from, to] as const] : [])
  return {
    joints: [...index.keys()], elements, rows, pattern: planElimination(index.size, edges),
    startV: noLoad(index.size, elements, rows),
  }
}

const sameBuild = (a: readonly Element[], b: readonly Element[]) => a.length === b.length && a.every((element, i) => {
  const other = b[i]!
  return element === other
    || (element.kind === 'load' && other.kind === 'load' && element.id === other.id && element.at === other.at)
})

/**
 * What lets current through one way only begins a little on: from the other side of its kink there is no way back
 * for Newton's method.
 */
const BEGINS_ON_V = 1e-3

/** Highest voltage that reaches each joint with nothing drawn. */
function noLoad(size: number, elements: readonly Element[], rows: Prepared['rows']): Float64Array {
  const startV = new Float64Array(size)
  const given = (element: Element, fromV: number) => {
    switch (element.kind) {
      case 'source': return element.voltageV
      case 'diode': return fromV - element.dropV - BEGINS_ON_V
      case 'regulator': return fromV >= element.leastInV
        ? Math.max(0, Math.min(element.setV, fromV - (element.headroomV ?? -Infinity)) - BEGINS_ON_V)
        : 0
      case 'rectifier': return fromV > 0 ? element.curve[0]!.meanV - BEGINS_ON_V : 0
      default: return fromV
    }
  }
  // Each pass carries the voltage one element further; resistances carry it both ways.
  for (let pass = 0; pass <= size; pass++) {
    let moved = false
    elements.forEach((element, i) => {
      const { from, to } = rows[i]!
      if (to < 0) return
      const reached = given(element, from < 0 ? 0 : startV[from]!)
      if (reached > startV[to]! + 1e-9) {
        startV[to] = reached
        moved = true
      }
      if (element.kind === 'resistance' && startV[to]! > startV[from]! + 1e-9) {
        startV[from] = startV[to]!
        moved = true
      }
    })
    if (!moved) break
  }
  return startV
}

/** Kirchhoff's law counts as kept when no joint is out by more than this, in mA. */
export const TOLERANCE_MA = 1e-6
const MAX_ITERATIONS = 50
/** So many steps without coming nearer than before by a hundredth: there is nothing to be found from here. */
const MAX_STALLED = 16

interface Attempt { converged: boolean, voltages: Float64Array, responses: Response[], iterations: number }

function attempt(circuit: Prepared, loadShare: number, startV: Float64Array, leak = LEAK): Attempt {
  const { elements, rows, pattern } = circuit
  const size = pattern.size
  const matrix = new Float64Array(size * size)
  const step = new Float64Array(size)
  let voltages: Float64Array = Float64Array.from(startV)
  let state = balance(circuit, voltages, loadShare, leak)
  let iterations = 0
  let stalled = 0
  let nearest = state.sum
  while (state.worst > TOLERANCE_MA && iterations < MAX_ITERATIONS && stalled < MAX_STALLED) {
    iterations++
    matrix.fill(0)
    for (let row = 0; row < size; row++) {
      matrix[row * size + row] = leak
      step[row] = -state.out[row]!
    }
    for (let i = 0; i < elements.length; i++) {
      const { from, to } = rows[i]!
      const response = state.responses[i]!
      if (from >= 0) {
        matrix[from * size + from]! += response.inByFrom
        if (to >= 0) matrix[from * size + to]! += response.inByTo
      }
      if (to >= 0) {
        matrix[to * size + to]! -= response.outByTo
        if (from >= 0) matrix[to * size + from]! -= response.outByFrom
      }
    }
    if (!eliminate(pattern, matrix, step)) break
    const next = shorten(circuit, voltages, step, loadShare, state.sum, leak)
    if (!next) break
    stalled = next.state.sum > nearest * 0.99 ? stalled + 1 : 0
    nearest = Math.min(nearest, next.state.sum)
    voltages = next.voltages
    state = next.state
  }
  return { converged: state.worst <= TOLERANCE_MA, voltages, responses: state.responses, iterations }
}

/** The whole step where it helps, else a half of it, a quarter …; the last is taken as it is to get over a kink. */
function shorten(circuit: Prepared, voltages: Float64Array, step: Float64Array, loadShare: number, before: number,
  leak: number) {
  let length = 1
  let best: { voltages: Float64Array, state: Balance } | null = null
  for (let halving = 0; halving < 7; halving++, length /= 2) {
    const tried = voltages.map((voltage, row) => Math.max(0, voltage + length * step[row]!))
    if (tried.some(voltage => !Number.isFinite(voltage))) continue
    const state = balance(circuit, tried, loadShare, leak)
    if (!best || state.sum < best.state.sum) best = { voltages: tried, state }
    if (state.sum < before * (1 - 0.2 * length)) break
  }
  return best
}

interface Balance { out: Float64Array, responses: Response[], worst: number, sum: number }

/** Current that leaves each joint in all; zero everywhere at the operating point. */
function balance({ elements, rows, pattern }: Prepared, voltages: Float64Array, loadShare: number,
  leak: number): Balance {
  const out = new Float64Array(pattern.size)
  const responses = elements.map((element, i) => {
    const { from, to } = rows[i]!
    const response = respond(element, from < 0 ? 0 : voltages[from]!, to < 0 ? 0 : voltages[to]!, loadShare)
    if (from >= 0) out[from]! += response.inMa
    if (to >= 0) out[to]! -= response.outMa
    return response
  })
  let worst = 0
  let sum = 0
  for (let row = 0; row < pattern.size; row++) {
    out[row]! += leak * voltages[row]!
    worst = Math.max(worst, Math.abs(out[row]!))
    sum += out[row]! * out[row]!
  }
  return { out, responses, worst, sum }
}

/**
 * The operating point. `ok` is false when none exists with every load alight (a brown-out); then `carriedShare`
 * says what part of all loads the circuit can carry, and the voltages are those it falls to. Never throws; laws are
 * in the tests.
 */
export function solve(circuit: Prepared): Operating {
  const full = settle(circuit)
  const dark = darkLoads(circuit, full.voltages)
  const ok = full.converged && !dark.length
  // Raising the loads step by step has already found how far they go, unless one was dark on the way.
  let carriedShare: number
  if (ok) carriedShare = 1
  else carriedShare = !full.converged && !dark.length ? Math.floor(full.share * 100) / 100 : carried(circuit)
  return { ok, dark: full.converged ? dark : [], carriedShare, iterations: full.iterations, ...read(circuit, full) }
}

/** Newton's method from the voltages without load; where it does not arrive, the loads are raised step by step. */
function settle(circuit: Prepared): Attempt & { share: number } {
  const direct = attempt(circuit, 1, circuit.startV)
  if (direct.converged) return { ...direct, share: 1 }
  let reached = atRest(circuit)
  let iterations = direct.iterations + reached.iterations
  let share = 0
  let stride = 0.25
  while (share < 1 && stride > 0.01) {
    const next = Math.min(1, share + stride)
    const tried = attempt(circuit, next, reached.voltages)
    iterations += tried.iterations
    if (!tried.converged) {
      stride /= 2
      continue
    }
    reached = tried
    share = next
  }
  // Where the whole load has no solution, the last part of it that had one says what the voltages are like.
  return { ...reached, converged: reached.converged && share === 1, iterations, share }
}

/**
 * What each joint is bled by on the way to nothing drawn, in mA per V: enough to keep every one-way element
 * conducting, then less.
 */
const BLEEDS = [10, 1, 0.1, 1e-2, 1e-3, 1e-4, LEAK]

/**
 * The circuit with nothing drawn. From the other side of a kink Newton's method may not find back; a bleed at each
 * joint, made smaller step by step, leads there (as circuit simulators step their least conductance).
 */
function atRest(circuit: Prepared): Attempt {
  let reached = attempt(circuit, 0, circuit.startV)
  if (reached.converged) return reached
  let { iterations } = reached
  let from = circuit.startV
  for (const leak of BLEEDS) {
    reached = attempt(circuit, 0, from, leak)
    iterations += reached.iterations
    from = reached.voltages
  }
  return { ...reached, iterations }
}

function darkLoads({ elements, rows }: Prepared, voltages: Float64Array): string[] {
  return elements.flatMap((element,
    i) => element.kind === 'load' && element.currentMa > 0 && voltages[rows[i]!.from]! < element.leastV
    ? [element.id]
    : [])
}

/** Largest share of all loads that leaves every load alight, to a hundredth; 0 when some load has no supply at all. */
function carried(circuit: Prepared): number {
  const atZero = atRest(circuit)
  const holds = (share: number) => {
    const { converged, voltages } = share ? attempt(circuit, share, atZero.voltages) : atZero
    return converged && !darkLoads(circuit, voltages).length
  }
  if (!holds(0)) return 0
  let low = 0
  let high = 1
  while (high - low > 0.005) {
    const middle = (low + high) / 2
    if (holds(middle)) low = middle
    else high = middle
  }
  return Math.round(low * 100) / 100
}

function read({ elements, joints }: Prepared, { voltages, responses }: Attempt): Pick<Operating, 'voltages' | 'flows'> {
  const flows: Record<string, Flow> = {}
  elements.forEach((element, i) => flows[element.id] = { inMa: responses[i]!.inMa, outMa: responses[i]!.outMa })
  return { voltages: Object.fromEntries(joints.map((joint, row) => [joint, voltages[row]!])), flows }
}
