/** Functions that are had by loose wires and as an add-on board. */

export interface Way {
  does: string
  addOn: string
  /** What does the same by wires; one type as often as it takes. */
  loose: readonly string[]
}

/** Which parts do what an add-on board does. Common practice; adding one is adding a row. */
export const WAYS: readonly Way[] = [
  { does: 'sound out', addOn: 'audio-dac-add-on', loose: ['amplifier-i2s'] },
  { does: 'sound in and out, with two buttons', addOn: 'audio-add-on', loose: ['amplifier-i2s', 'microphone-i2s', 'button-1', 'button-1'] },
  { does: 'a clock that goes on', addOn: 'clock-add-on', loose: ['clock-cell-i2c'] },
  { does: 'three relays', addOn: 'relay-add-on-3', loose: ['relay-board-4'] },
  { does: 'three lamps', addOn: 'lamps-add-on-3', loose: ['led-plain', 'led-plain', 'led-plain'] },
  { does: 'the air measured', addOn: 'sensor-add-on-10', loose: ['pressure-humidity-i2c'] },
]

/** Both ways for a part of the plan; null where there is but one. */
export const wayOf = (type: string): Way | null => WAYS.find(({ addOn, loose }) => addOn === type || loose[0] === type) ?? null
