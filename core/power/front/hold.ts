/** How long a supply holds after it is switched off: from a capacitor, or by a latch. Textbook. */

/**
 * A load of constant power on a capacitor with its series resistance, from the voltage it was charged to until the load
 * sees `toV`. With U the capacitor's own voltage the load sees (U + √(U² − 4·R·P)) ÷ 2; t = C ÷ P · ∫ of that over U,
 * in closed form. Without resistance it is C·(U0² − U1²) ÷ (2·P).
 */
export function capacitorHoldS(capacitanceF: number, fromV: number, toV: number, powerW: number, ohm = 0): number {
  if (powerW <= 0 || toV <= 0) return 0
  const a2 = 4 * ohm * powerW
  // The capacitor's own voltage when the load sees `toV`; below √(4·R·P) it cannot give the power at all.
  const endV = Math.max(toV + ohm * powerW / toV, Math.sqrt(a2))
  if (fromV <= endV) return 0
  const integral = (u: number) => {
    const root = Math.sqrt(Math.max(0, u * u - a2))
    return u * u / 4 + (u * root - (a2 > 0 ? a2 * Math.log(u + root) : 0)) / 4
  }
  return capacitanceF / powerW * (integral(fromV) - integral(endV))
}

/** The capacitor that holds so long, in F; null where none does. Its resistance is taken as it is. */
export function capacitorForF(holdS: number, fromV: number, toV: number, powerW: number, ohm = 0): number | null {
  const each = capacitorHoldS(1, fromV, toV, powerW, ohm)
  return each > 0 ? holdS / each : null
}

/** A gate kept up by a capacitor that a resistor empties: t = R·C·ln(U0 ÷ Uth). */
export function gateHoldS(ohm: number, capacitanceF: number, fromV: number, thresholdV: number): number {
  return fromV > thresholdV && thresholdV > 0 ? ohm * capacitanceF * Math.log(fromV / thresholdV) : 0
}
