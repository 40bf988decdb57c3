/** Made-up plans far larger than people make, for seeing how the work grows. */
import { shippedCatalogue } from '../core/catalogue'
import { emptyPlan } from '../core/plan/create'
import type { Board, HeaderPosition } from '../core/catalogue/types'
import type { PowerNode } from '../core/plan/power'
import type { Plan } from '../core/plan/types'

/**
 * The USB-C board with fifty more positions: every seventh a ground, one 5 V and one 3V3 in twenty, the others lines.
 */
export function wideBoard(): Board {
  const base = shippedCatalogue.boards.get('forty-usb-c')!
  const more = Array.from({ length: 50 }, (_, i): HeaderPosition => {
    const position = 41 + i
    const kind = position % 7 === 0 ? 'ground' : position % 20 === 2 ? '5V' : position % 20 === 11 ? '3V3' : 'line'
    return kind === 'line' ? { position, kind, line: 100 + i } : { position, kind }
  })
  return {
    ...base, id: 'wide-bench', name: 'Ninety-position board', header: [...base.header, ...more],
    lines: [...base.lines, ...more.flatMap(entry => entry.line === undefined
      ? []
      : [{ line: entry.line, resetPull: entry.line % 2 ? 'up' as const : 'down' as const, functions: [] }])],
  }
}

const TYPES = [
  'relay-board-8', 'keypad-matrix', 'oled-i2c', 'pressure-humidity-i2c', 'motion-i2c', 'clock-cell-i2c', 'light-i2c',
  'touch-12-i2c',
  'screen-spi-24', 'card-reader-spi', 'radio-spi', 'modem-serial', 'positioning-serial', 'servo-small',
  'fan-4wire-pwm', 'probe-onewire',
  'fan-5v', 'motion-passive', 'infrared-receiver', 'led-plain',
]

/** Twenty parts with sixty signals (the keypad's four rows and four columns among them), nothing placed yet. */
export function stressPlan(): Plan {
  return {
    ...emptyPlan('Stress'), board: 'wide-bench', parts: TYPES.map((type, i) => ({ id: `p${i}`, type, name: type })),
    own: { boards: [wideBoard()], parts: [] },
  }
}

/**
 * A machine with so many nodes of supply: one 24 V source, cables, fuses, step-downs and loads in branches of seven.
 */
export function supplyPlan(nodes: number): Plan {
  const plan = { ...emptyPlan('Supply'), board: 'forty-usb-c', supply: { type: 'din-rail-24v-2a5' } }
  const made: PowerNode[] = [{ id: 'main', type: 'step-down-5v-5a', name: 'Main', from: '@cable' }]
  for (let branch = 0; made.length < nodes; branch++) {
    const id = (what: string) => `${what}${branch}`
    made.push(
      { id: id('fuse'), type: 'fuse-1000', name: 'Fuse', from: branch % 3
        ? id('cable').replace(String(branch), String(branch - 1))
        : '@cable' },
      { id: id('cable'), type: 'wire-pair', name: 'Cable', from: id('fuse'), figures: { awg: 16 } },
      { id: id('buck'), type: 'step-down-5v-3a', name: 'Step-down', from: id('cable') },
      { id: id('rail'), type: 'terminal-screw', name: 'Terminal', from: id('buck') },
      { id: id('a'), type: 'load-power', name: 'A', from: id('rail'),
        figures: { idleMa: 5, typicalMa: 15, peakMa: 30, surgeMa: 40 } },
      { id: id('b'), type: 'load-current', name: 'B', from: id('rail'), figures: { typicalMa: 10, peakMa: 20 } },
      {
        id: id('c'), type: 'load-12v', name: 'C', from: id('cable'),
        figures: { typicalMa: 5, peakMa: 10, surgeMa: 20, ratedV: 24, leastV: 20, mostV: 26 },
      },
    )
  }
  return { ...plan, power: { ...plan.power, nodes: made.slice(0, nodes), feeds: { '@socket': 'main' } } }
}
