/** One clause of what was said, with what it is about, and the tests of the sheet that it can be about. */
import type { RunRow } from '../sheet'
import { positionsIn } from './figures'
import { isOfBoard, ownersOf, terminalsNamed, type SpokenSubject } from '../../said/subjects'
import { stemsOf } from '../../said/stems'

/** Something seen at a test of the sheet, in its words. */
export interface SaidMark { probe: string, outcome: string, words: string, value?: number }
/** One that nothing in the words is the name of: it is asked, though there be no other. */
export interface Guess extends SaidMark { isGuess?: true }

/** What words are read against: the sheet's tests, the parts of the plan, and what each position of the header is. */
export interface Ear {
  rows: readonly RunRow[]
  subjects: readonly SpokenSubject[]
  rails: Readonly<Record<number, string>>
}

const firstOf = <T>(list: readonly T[], otherwise: readonly T[]): readonly T[] => list.length ? list : otherwise

export class Clause {
  /** What happens, and all that is said with its occasion, as stems. */
  readonly happens: readonly string[]
  readonly whole: readonly string[]
  /**
   * Parts that are meant: those that it names, else the one whose terminal it names, else those of the clause before.
   */
  readonly parts: readonly SpokenSubject[]

  /** `about` are the parts that it names by itself. */
  constructor(readonly text: string, said: { main: string, occasion: string }, readonly about: readonly SpokenSubject[],
    readonly before: readonly SpokenSubject[], readonly ear: Ear) {
    this.happens = stemsOf(said.main)
    this.whole = [...this.happens, ...stemsOf(said.occasion)]
    this.parts = about.length ? about : firstOf(ownersOf(ear.subjects, this.whole), before)
  }

  /** Tests whose names begin so. */
  rows(prefix: string): RunRow[] {
    return this.ear.rows.filter(({ probe }) => probe.id.startsWith(prefix))
  }

  row(probe: string): RunRow | undefined {
    return this.ear.rows.find(row => row.probe.id === probe)
  }

  /** The first of these that the sheet knows at a test; nothing where it knows none, or has no such test. */
  at(probe: string, ...outcomes: readonly string[]): SaidMark[] {
    const row = this.row(probe)
    const outcome = row && outcomes.find(entry => row.outcomes.includes(entry))
    return row && outcome !== undefined ? given(row, outcome) : []
  }

  /** The same at every test whose name begins so. */
  atAll(prefix: string, outcome: string): SaidMark[] {
    return this.rows(prefix).flatMap(({ probe }) => this.at(probe.id, outcome))
  }

  /** At the own test of each part that is meant. */
  atWork(...outcomes: readonly string[]): SaidMark[] {
    return this.parts.flatMap(({ partId }) => this.at(`works:${partId}`, ...outcomes))
  }

  /** At the wires of the terminals that are named. */
  atWires(prefix: 'look:' | 'through:', ...outcomes: readonly string[]): SaidMark[] {
    return this.wires(prefix).flatMap(({ probe }) => this.at(probe.id, ...outcomes))
  }

  /** Wires of the terminals that are named; where none is, the one at the position that is. */
  wires(prefix: 'look:' | 'through:'): RunRow[] {
    const { terminals, position } = this
    if (terminals.length || this.about.length || position === undefined) {
      return terminals.flatMap(({ key }) => this.rows(`${prefix}${key}@`))
    }
    return this.rows(prefix).filter(({ probe }) => probe.id.endsWith(`@${position}`))
  }

  /** The one position of the header that is named. */
  get position(): number | undefined {
    const positions = positionsIn(this.text)
    return positions.length === 1 ? positions[0] : undefined
  }

  get terminals(): SpokenSubject['terminals'] {
    return this.parts.flatMap(subject => terminalsNamed(subject, this.whole))
  }

  /** No part does it, or the board is named. */
  get isOfBoard(): boolean {
    return !this.about.length || isOfBoard(this.happens)
  }
}

/** A mark at a test, whether the sheet knows the outcome there or not. */
export const given = ({ probe }: RunRow, outcome: string, value?: number): SaidMark[] =>
  [{ probe: probe.id, outcome, words: `${probe.title}: ${outcome}`, ...value !== undefined && { value } }]
