/** Wires as people tell them apart: by colour, and by what they carry. */

export const WIRE_COLOURS = ['black', 'red', 'orange', 'yellow', 'green', 'blue', 'violet', 'grey', 'white',
  'brown'] as const

/** What a wire may carry, as far as a rule tells it apart. */
export const CARRIES = {
  'ground': 'Ground', '3V3': '3.3 V', '5V': '5 V', 'supply': 'Other supplies', 'i2c.sda': 'I²C data',
  'i2c.scl': 'I²C clock',
  'spi': 'SPI', 'serial.tx': 'Serial, out of the part', 'serial.rx': 'Serial, into the part', 'onewire': '1-Wire',
  'line': 'Other lines',
} as const
export type Carries = keyof typeof CARRIES
export const CARRIES_IDS = Object.keys(CARRIES) as Carries[]
export const CARRIES_PATTERN = new RegExp(`^(${CARRIES_IDS.map(id => id.replace('.', '\\.')).join('|')})$`)
