/** A made-up board of ninety positions and parts with sixty signals, for seeing how placement grows. */
import { shippedCatalogue } from '../core/catalogue'
import { emptyPlan } from '../core/plan/create'
import type { Board, HeaderPosition } from '../core/catalogue/types'
import type { Plan } from '../core/plan/types'

/** The USB-C board with fifty more positions: every seventh a ground, one 5 V and one 3V3 in twenty, the others lines. */
export function wideBoard(): Board {
  const base = shippedCatalogue.boards.get('forty-usb-c')!
  const more = Array.from({ length: 50 }, (_, i): HeaderPosition => {
    const position = 41 + i
    const kind = position % 7 === 0 ? 'ground' : position % 20 === 2 ? '5V' : position % 20 === 11 ? '3V3' : 'line'
    return kind === 'line' ? { position, kind, line: 100 + i } : { position, kind }
  })
  return {
    ...base, id: 'wide-bench', name: 'Ninety-position board', header: [...base.header, ...more],
    lines: [...base.lines, ...more.flatMap(entry => entry.line === undefined ? [] : [{ line: entry.line, resetPull: entry.line % 2 ? 'up' as const : 'down' as const, functions: [] }])],
  }
}

const TYPES = ['relay-board-8', 'keypad-matrix', 'oled-i2c', 'pressure-humidity-i2c', 'motion-i2c', 'clock-cell-i2c', 'light-i2c', 'touch-12-i2c', 'screen-spi-24', 'card-reader-spi', 'radio-spi',
  'modem-serial', 'positioning-serial', 'servo-small', 'fan-4wire-pwm', 'probe-onewire', 'fan-5v', 'motion-passive', 'infrared-receiver', 'led-plain']

/** Twenty parts with sixty signals (the keypad's four rows and four columns among them), nothing placed yet. */
export function stressPlan(): Plan {
  return { ...emptyPlan('Stress'), board: 'wide-bench', parts: TYPES.map((type, i) => ({ id: `p${i}`, type, name: type })), own: { boards: [wideBoard()], parts: [] } }
}
