/**
 * An AC front end in the time domain: transformer with its winding, bridge, capacitor, load. Between two kinks the
 * circuit is linear: each step is the exact solution of C·dU/dt = (|e| − Ud − U) ÷ R − I, or of C·dU/dt = −I while the
 * bridge blocks. Textbook.
 */

export interface FrontCircuit {
  /** Of the transformer without load, V rms. */
  emfV: number
  /** Winding, leads and bridge in series, in ohms. */
  ohm: number
  /** Both diodes on the way. */
  dropV: number
  hz: number
  capacitanceUf: number
}

/** What hangs behind the bridge: a current that stays the same, or a power (a step-down converter). */
export type FrontLoad = { currentMa: number } | { powerMw: number }

/** The settled waveform. Voltages at the capacitor in V; currents in mA. */
export interface FrontWave {
  peakV: number
  valleyV: number
  meanV: number
  /** Of the direct current taken. */
  currentMa: number
  /** Of the pulses on the AC side, root mean square: what warms the transformer. */
  acRmsMa: number
  /** Height of the pulses. */
  pulseMa: number
}

const STEPS = 300
const MAX_HALF_WAVES = 80
const SETTLED_V = 1e-4
/** Below this a thing no longer draws: it keeps a constant power from asking for endless current. */
const MIN_V = 0.3

interface HalfWave extends FrontWave { endV: number }

/** One half-wave from a starting voltage. */
function halfWave({ emfV, ohm, dropV, hz, capacitanceUf }: FrontCircuit, load: FrontLoad, startV: number): HalfWave {
  const r = Math.max(ohm, 1e-3)
  const c = capacitanceUf * 1e-6
  const dt = 1 / (2 * hz * STEPS)
  const keep = Math.exp(-dt / (r * c))
  const crest = emfV * Math.SQRT2
  let u = startV
  const wave: HalfWave = { peakV: u, valleyV: u, meanV: 0, currentMa: 0, acRmsMa: 0, pulseMa: 0, endV: u }
  for (let step = 0; step < STEPS; step++) {
    let taken: number
    if (u < MIN_V) taken = 0
    else taken = 'powerMw' in load ? load.powerMw / u / 1000 : load.currentMa / 1000
    const open = crest * Math.sin(Math.PI * (step + 0.5) / STEPS) - dropV
    const before = u
    // With the bridge conducting the voltage goes towards what source and load would settle at.
    const goal = open - taken * r
    const conducts = open > u || (goal > u)
    u = Math.max(0, conducts ? goal + (u - goal) * keep : u - taken * dt / c)
    const through = conducts ? Math.max(0, c * (u - before) / dt + taken) : 0
    wave.peakV = Math.max(wave.peakV, u)
    wave.valleyV = Math.min(wave.valleyV, u)
    wave.meanV += (u + before) / 2 / STEPS
    wave.currentMa += taken * 1000 / STEPS
    wave.acRmsMa += through * through / STEPS
    wave.pulseMa = Math.max(wave.pulseMa, through * 1000)
  }
  wave.acRmsMa = Math.sqrt(wave.acRmsMa) * 1000
  wave.endV = u
  return wave
}

/** The waveform once it repeats. `currentMa` is what really flows: less than asked where the voltage falls away. */
export function settledWave(circuit: FrontCircuit, load: FrontLoad): FrontWave {
  let startV = Math.max(0, circuit.emfV * Math.SQRT2 - circuit.dropV) * 0.9
  let wave = halfWave(circuit, load, startV)
  let earlier: { startV: number, miss: number } | null = null
  for (let round = 1; round < MAX_HALF_WAVES && Math.abs(wave.endV - startV) > SETTLED_V; round++) {
    const miss = wave.endV - startV
    // A large capacitor takes hundreds of half-waves to settle; the secant finds where it goes in a few.
    const slope: number = earlier ? (miss - earlier.miss) / (startV - earlier.startV) : 0
    const next: number = slope < -1e-3 ? startV - miss / slope : wave.endV
    earlier = { startV, miss }
    startV = Math.max(0, next)
    wave = halfWave(circuit, load, startV)
  }
  const { endV: _, ...settled } = wave
  return settled
}

export interface FrontPoint { currentMa: number, meanV: number, acRmsMa: number }

const POINTS = 20
/** Past this many times its rating a front end is not looked at. */
const MAX_CURRENT_A = 40

const known = new Map<string, FrontPoint[]>()
const MAX_KNOWN = 50

/**
 * Mean voltage and r.m.s. current by the direct current taken, from nothing to a near short, points closer where
 * little is taken.
 */
export function frontCurve(circuit: FrontCircuit): FrontPoint[] {
  const key = JSON.stringify(circuit)
  const before = known.get(key)
  if (before) return before
  const shortMa = Math.min(MAX_CURRENT_A, 2 / Math.PI * circuit.emfV * Math.SQRT2 / Math.max(circuit.ohm, 1e-3)) * 1000
  const points: FrontPoint[] = []
  for (let i = 0; i <= POINTS; i++) {
    const asked = shortMa * (i / POINTS) ** 2
    const { meanV, acRmsMa, currentMa } = settledWave(circuit, { currentMa: asked })
    // From where the voltage breaks down on: a straight line to nothing.
    const last = points.at(-1)
    if (last && (currentMa < asked * 0.98 || meanV >= last.meanV)) break
    points.push({ currentMa: asked, meanV, acRmsMa })
  }
  const end = points.at(-1)!
  points.push({ currentMa: Math.max(shortMa, end.currentMa) * 1.05 + 1, meanV: 0,
    acRmsMa: Math.max(shortMa, end.acRmsMa) * 1.11 })
  if (known.size >= MAX_KNOWN) known.delete(known.keys().next().value!)
  known.set(key, points)
  return points
}
