/** How long a supply holds after it is switched off: from a capacitor, or by a latch. Textbook. */

/** A load of constant power on a capacitor: t = C·(U0² − U1²) ÷ (2·P), with the fall over its own resistance taken first. */
export function capacitorHoldS(capacitanceF: number, fromV: number, toV: number, powerW: number, ohm = 0): number {
  const start = fromV - ohm * (fromV > 0 ? powerW / fromV : 0)
  return start > toV && powerW > 0 ? capacitanceF * (start ** 2 - toV ** 2) / (2 * powerW) : 0
}

/** The capacitor that holds so long, in F. */
export function capacitorForF(holdS: number, fromV: number, toV: number, powerW: number): number | null {
  return fromV > toV ? 2 * powerW * holdS / (fromV ** 2 - toV ** 2) : null
}

/** A gate kept up by a capacitor that a resistor empties: t = R·C·ln(U0 ÷ Uth). */
export function gateHoldS(ohm: number, capacitanceF: number, fromV: number, thresholdV: number): number {
  return fromV > thresholdV && thresholdV > 0 ? ohm * capacitanceF * Math.log(fromV / thresholdV) : 0
}
