/** How long things take at a bench, for whoever practises at the simulated one. */

/** Common practice, no source: as the tests of the run sheet are counted. */
const MINUTES: Readonly<Record<string, number>> = {
  volt: 1.5, ohm: 1.5, amps: 1.5, pull: 1, plug: 1, move: 1, still: 0, press: 0.5, release: 0, breathe: 0.5, warm: 0.5,
  loop: 2,
  restart: 1, on: 1, off: 0.5,
  cut: 0.5, load: 0.5, lamps: 0.5, look: 0.5, set: 1,
}

/** Minutes that a line takes at a bench: what is typed is half a minute, hands take longer. */
export function minutesOf(line: string): number {
  const text = line.trim()
  if (!text.startsWith(':')) return text && !text.startsWith('#') ? 0.5 : 0
  const [act = '', figure] = text.slice(1).trim().split(/\s+/)
  if (act === 'wait') return Math.max(0, Number(figure) || 0) / 60
  return MINUTES[act] ?? 0
}
