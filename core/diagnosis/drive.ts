/** Who moves a line: what a part puts on its wire, and which of the header's lines follow. */
import type { Terminal } from '../facts/types'
import type { LinePin } from './line-pins'
import type { World } from './world'

const HIGH_V = 3.3
/** Between what is surely low and what is surely high. */
const READS_HIGH_V = HIGH_V / 2

/**
 * Volts that a part puts on its wire with nothing to stop it; nothing where it lets go. `isActive`: pressed, or
 * telling of something.
 */
export function forcedBy({ signal, owner }: Terminal, world: World, isActive: boolean): number[] {
  if (!signal || signal.direction === 'in') return []
  if (signal.drive === 'contact') {
    const back = world.returnPins(owner)
    return isActive && (!back.length || back.some(pin => world.wiring.fedBy(pin) === 'ground')) ? [0] : []
  }
  if (!world.isFed(owner) || world.isDead(owner.id) || signal.role.startsWith('i2c.')
    || signal.role === 'onewire') return []
  const idle = signal.idleLevel ?? (signal.role.startsWith('serial.') || signal.drive === 'open-drain' ? 'high' : 'low')
  const isHigh = (idle === 'high') !== isActive
  if (signal.drive === 'open-drain') return isHigh ? [] : [0]
  return [isHigh ? signal.outputHighV?.value ?? HIGH_V : signal.outputLowV?.value ?? 0]
}

/**
 * What stands on a net with these on it: who pulls down wins; what nobody holds is pulled up, as a program sets
 * it for contacts.
 */
const isHighWith = (forces: readonly number[]) => forces.length === 0 || Math.min(...forces) > READS_HIGH_V

/** Everybody else that may push on what a terminal's wire gets to, at rest. */
const others = (world: World,
  terminal: Terminal): number[] => world.joinedWith(terminal).filter(other => other !== terminal)
  .flatMap(other => forcedBy(other, world, false))

/** Which of these lines change when a part's output does. */
export function movedBy(world: World, terminal: Terminal, pins: readonly LinePin[]): LinePin[] {
  const lines = pins.filter(({ pin }) => world.wiring.reaches(terminal.key, pin))
  if (!lines.length || world.wiring.stuckAt(terminal.key)) return []
  const rest = others(world, terminal)
  const [before, after] = [false, true].map(isActive => isHighWith([...rest, ...forcedBy(terminal, world, isActive)]))
  return before === after ? [] : lines
}

/** Whether a part's input follows when a program sets the line that it is planned on. */
export function follows(world: World, terminal: Terminal): boolean {
  return world.signalAt(terminal).at === 'planned' && !world.wiring.stuckAt(terminal.key)
    && isHighWith(others(world, terminal))
}
