/** How fast a terminal's wire moves, for judging edges. */
import type { Terminal } from '../facts/types'
import { baudOf } from './figures/serial'

/** Bits a second on the terminal's wire; null where nothing says. */
export function bitHzOf({ signal, owner }: Terminal): number | null {
  const { part } = owner
  if (!signal) return null
  if (signal.role.startsWith('serial.') && part.serial) return baudOf(owner)
  if (signal.role.startsWith('spi.') && part.spi) return part.spi.maxClockHz
  if (signal.role.startsWith('i2c.') && part.i2c) return part.i2c.maxClockHz ?? 100_000
  if (signal.role === 'strip' && part.strip) return 1e6 / part.strip.bitUs
  return signal.pwm?.frequencyHz ?? null
}
