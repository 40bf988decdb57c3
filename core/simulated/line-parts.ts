/** Parts that answer on one line to what a program does on another: an echo to a trigger, bits to a clock. */
import type { GpioAnswer, Quantity } from '../catalogue/types'
import type { Facts, ResolvedPart, Terminal } from '../facts/types'
import type { World } from '../diagnosis/world'

/** In air of 20 °C, m/s. Textbook. */
const SOUND_M_PER_S = 343
interface Edge { line: number, atS: number, level: 0 | 1 }

type Answer<By extends GpioAnswer['by']> = Extract<GpioAnswer, { by: By }>

/** The simulated board as far as these parts see it. */
interface Around {
  readonly facts: Facts
  readonly world: World
  readonly nowS: number
  quantity(owner: ResolvedPart, what: Quantity): number
}

export class LineParts {
  private edges: Edge[] = []
  /** Bits that a converter has given of its figure, and when the next figure is there. */
  private readonly given = new Map<string, { bits: number, readyS: number }>()

  constructor(private readonly machine: Around) {}

  reset(): void {
    this.edges = []
    this.given.clear()
  }

  private terminal(owner: ResolvedPart, id: string): Terminal | undefined {
    return this.machine.facts.byKey.get(`${owner.id}.${id}`)
  }

  /**
   * Line of the board that a terminal hangs on, in this thing; undefined where a fault keeps it off, or no
   * wire goes there.
   */
  private lineOf(owner: ResolvedPart, id: string): number | undefined {
    const terminal = this.terminal(owner, id)
    const { world } = this.machine
    if (terminal?.place?.kind !== 'header' || world.signalAt(terminal).at !== 'planned') return undefined
    return world.isFed(owner) && !world.isDead(owner.id) ? terminal.place.line?.line : undefined
  }

  /** Parts that answer in this way, with their figures. */
  private answering<By extends GpioAnswer['by']>(by: By): { owner: ResolvedPart, answer: Answer<By> }[] {
    return this.machine.facts.parts.flatMap(owner =>
      owner.part.answers?.by === by ? [{ owner, answer: owner.part.answers as Answer<By> }] : [])
  }

  /** A program moved a line. */
  moved(line: number, before: 0 | 1 | undefined, level: 0 | 1): void {
    const { machine } = this
    if (before === level) return
    for (const { owner, answer } of this.answering('echo')) {
      if (level !== 0 || before !== 1 || this.lineOf(owner, answer.trigger) !== line) continue
      const echo = this.lineOf(owner, answer.echo)
      if (echo === undefined) continue
      const atS = machine.nowS + answer.afterS
      const lastsS = Math.min(answer.maxS, 2 * machine.quantity(owner, 'distance') / 1000 / SOUND_M_PER_S)
      this.edges = [...this.edges.filter(edge => edge.line !== echo), { line: echo, atS, level: 1 },
        { line: echo, atS: atS + lastsS, level: 0 }]
    }
    for (const { owner, answer } of this.answering('bits')) {
      if (level !== 1 || this.lineOf(owner, answer.clock) !== line) continue
      const bits = (this.given.get(owner.id)?.bits ?? 0) + 1
      const isDone = bits > answer.bits
      this.given.set(owner.id, { bits: isDone ? 0 : bits, readyS: isDone ? machine.nowS + answer.everyS : 0 })
    }
  }

  /** Level that such a part puts on a line now; undefined where none does. */
  level(line: number): 0 | 1 | undefined {
    const { nowS } = this.machine
    // Between echoes its output is at rest like any other.
    if (this.edges.filter(edge => edge.line === line && edge.atS <= nowS).at(-1)?.level === 1) return 1
    const found = this.answering('bits').find(entry => this.lineOf(entry.owner, entry.answer.data) === line)
    if (!found) return undefined
    const { owner, answer } = found
    const { bits, readyS } = this.given.get(owner.id) ?? { bits: 0, readyS: 0 }
    // High until the next figure is there; at rest, low, when it is.
    if (bits === 0) return nowS < readyS ? 1 : undefined
    const max = 2 ** (answer.bits - 1) - 1
    const raw = Math.min(max, Math.round(this.machine.quantity(owner, 'weight') * answer.stepsPerGram))
    return (raw >> answer.bits - bits & 1) as 0 | 1
  }

  /** Edges on these lines after a moment, in order. */
  after(lines: readonly number[], atS: number): Edge[] {
    return this.edges.filter(edge => lines.includes(edge.line) && edge.atS > atS).sort((a, b) => a.atS - b.atS)
  }
}
