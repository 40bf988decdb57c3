/** A two-resistor divider between a driving output and an input. */

/** Voltage at the tap, unloaded: U · lower ÷ (upper + lower). Textbook. */
export function dividedV(inputV: number, upperOhm: number, lowerOhm: number): number {
  return inputV * lowerOhm / (upperOhm + lowerOhm)
}

/** The ready divider offered for 5 V into 3.3 V: 1.8 kΩ over 3.3 kΩ, both E12 (IEC 60063), gives 3.235 V and draws 1 mA. */
export const READY_DIVIDER = { kind: 'divider', upperOhm: 1800, lowerOhm: 3300 } as const
