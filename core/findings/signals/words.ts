/** Terminals and figures in words, for the rules. */
import type { Terminal } from '../../facts/types'
import type { Subject } from '../types'

export const called = (terminal: Terminal): string => `${terminal.owner.name} ${terminal.label}`

export function spot(terminal: Terminal): Subject {
  return {
    partId: terminal.owner.id, terminal: terminal.key,
    ...(terminal.place?.kind === 'header' && { position: terminal.place.position }),
  }
}

export function whereIs(terminal: Terminal): string {
  const { place } = terminal
  if (place?.kind === 'header') return `position ${place.position}`
  return place?.kind === 'terminal'
    ? `${place.owner.name} ${place.terminal}`
    : 'nowhere'
}

export const rounded = (value: number, digits = 2): number => Number(value.toFixed(digits))

/** `400 kHz`, `62.5 MHz`. */
export function hertz(value: number): string {
  if (value >= 1e6) return `${Number((value / 1e6).toPrecision(4))} MHz`
  return value >= 1000 ? `${Number((value / 1000).toPrecision(4))} kHz` : `${Number(value.toPrecision(3))} Hz`
}

/** `+0.16 %`. */
export function percent(share: number, digits = 2): string {
  return `${share > 0 ? '+' : ''}${(share * 100).toFixed(digits)} %`
}
