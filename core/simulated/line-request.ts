/**
 * Lines that a program asked the kernel for: read, set and watched, as by the second version of the kernel's
 * interface for lines.
 */
import { chipOf, offsetOf } from './chips'
import { lineConsumer } from './commands/lines'
import type { LineEvent, Machine } from './machine'

export interface LineOptions { output?: boolean, bias?: 'up' | 'down' | 'none', edges?: boolean }

/** Why the kernel refuses lines. Published: errno(3). */
export type Refused = 'EINVAL' | 'EBUSY'

export class LineRequest {
  private last: (0 | 1)[] = []
  private seenToS: number

  private constructor(private readonly machine: Machine, readonly lines: readonly number[],
    private readonly options: LineOptions) {
    for (const line of lines) {
      if (options.output) continue
      machine.outputs.delete(line)
      if (options.bias) machine.bias.set(line, options.bias)
    }
    this.last = this.values()
    this.seenToS = machine.nowS
  }

  /** Asks for lines; `EINVAL` for one that the chip has not, `EBUSY` for one that a driver has. */
  static of(machine: Machine, lines: readonly number[], options: LineOptions): LineRequest | Refused {
    if (!lines.length || lines.some(line => offsetOf(line) >= (chipOf(machine, line)?.count ?? 0))) return 'EINVAL'
    if (lines.some(line => lineConsumer(machine, line) !== null)) return 'EBUSY'
    return new LineRequest(machine, lines, options)
  }

  values(): (0 | 1)[] {
    return this.lines.map(line => this.machine.level(line))
  }

  set(values: readonly (0 | 1)[]): void {
    this.lines.forEach((line, i) => this.machine.setLine(line, values[i]!))
  }

  /** The next edge within so many seconds, which then have passed; null for none. */
  next(withinS: number): LineEvent | null {
    if (!this.options.edges) return null
    const { machine } = this
    const untilS = machine.nowS + withinS
    for (;;) {
      const [edge] = machine.lineParts.after(this.lines, this.seenToS)
      if (edge && edge.atS <= machine.nowS) {
        this.seenToS = edge.atS
        this.last = this.values()
        return { line: edge.line, rising: edge.level === 1, atS: edge.atS }
      }
      const moved = this.moved()
      if (moved) return moved
      if (machine.nowS >= untilS) return null
      machine.pass(Math.max(1e-6, Math.min(untilS, machine.nextS ?? Infinity, edge?.atS ?? Infinity) - machine.nowS))
    }
  }

  private moved(): LineEvent | null {
    const now = this.values()
    const index = now.findIndex((level, i) => level !== this.last[i])
    if (index < 0) return null
    this.last[index] = now[index]!
    return { line: this.lines[index]!, rising: now[index] === 1, atS: this.machine.nowS }
  }
}
