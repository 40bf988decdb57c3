/**
 * Who has which place and which controller, while the search tries one way after another. Names are numbers here: this
 * runs a million times.
 */
import type { Candidate, PlaceRef } from './types'

/** A candidate as the ledger reads it. */
export interface Compiled {
  candidate: Candidate
  refs: Int32Array
  tokens: Int32Array
  resources: Int32Array
  ways: Int32Array
  exclusive: boolean[]
}

/** Numbers for names, in the order in which they are met. */
class Numbered {
  private readonly numbers = new Map<string, number>()

  of(name: string): number {
    const known = this.numbers.get(name)
    if (known !== undefined) return known
    this.numbers.set(name, this.numbers.size)
    return this.numbers.size - 1
  }

  known(name: string): number | undefined {
    return this.numbers.get(name)
  }
}

const NOBODY = -1

export class Ledger {
  private readonly refs = new Numbered()
  private readonly tokens = new Numbered()
  private readonly resources = new Numbered()
  private readonly ways = new Numbered()
  /** By place: what it carries, and for how many. */
  private readonly carries: number[] = []
  private readonly carriers: number[] = []
  /** By resource: its way, its users, and those of them that want it alone. */
  private readonly way: number[] = []
  private readonly users: number[] = []
  private readonly alone: number[] = []

  compile(candidate: Candidate): Compiled {
    const refs = Object.keys(candidate.tokens)
    return {
      candidate, refs: Int32Array.from(refs, ref => this.placeNumber(ref)),
      tokens: Int32Array.from(refs, ref => this.tokens.of(candidate.tokens[ref]!)),
      resources: Int32Array.from(candidate.uses, use => this.resourceNumber(use.resource)),
      ways: Int32Array.from(candidate.uses, use => this.ways.of(use.way)),
      exclusive: candidate.uses.map(use => use.exclusive),
    }
  }

  private placeNumber(ref: PlaceRef): number {
    const at = this.refs.of(ref)
    this.carries[at] ??= NOBODY
    this.carriers[at] ??= 0
    return at
  }

  private resourceNumber(resource: string): number {
    const at = this.resources.of(resource)
    this.way[at] ??= NOBODY
    this.users[at] ??= 0
    this.alone[at] ??= 0
    return at
  }

  isTaken(ref: PlaceRef): boolean {
    const at = this.refs.known(ref)
    return at !== undefined && this.carriers[at]! > 0
  }

  /** The same for a place by its number. */
  isTakenAt(at: number): boolean {
    return this.carriers[at]! > 0
  }

  /** Prices by kind of place, turned into prices by the ledger's own numbers of places. */
  pricesByRef(kinds: readonly PlaceRef[][], prices: Float64Array): Float64Array {
    const byRef = new Float64Array(this.carriers.length)
    kinds.forEach((refs, kind) => {
      for (const ref of refs) {
        const at = this.refs.known(ref)
        if (at !== undefined) byRef[at] = prices[kind]!
      }
    })
    return byRef
  }

  /** True when every place is free or carries the same, and every controller goes the same way. */
  fits({ refs, tokens, resources, ways, exclusive }: Compiled): boolean {
    for (let i = 0; i < refs.length; i++) if (this.carriers[refs[i]!]! > 0
      && this.carries[refs[i]!] !== tokens[i]) return false
    for (let i = 0; i < resources.length; i++) {
      const at = resources[i]!
      if (this.users[at]! > 0 && (exclusive[i] || this.alone[at]! > 0 || this.way[at] !== ways[i])) return false
    }
    return true
  }

  /**
   * True when every place of it carries the same already and no controller is new: taking it changes nothing
   * for anybody else.
   */
  isLaid({ refs, tokens, resources, ways, exclusive }: Compiled): boolean {
    for (let i = 0; i < refs.length; i++) if (this.carriers[refs[i]!]! === 0
      || this.carries[refs[i]!] !== tokens[i]) return false
    for (let i = 0; i < resources.length; i++) if (exclusive[i] || this.users[resources[i]!]! === 0
      || this.way[resources[i]!] !== ways[i]) {
      return false
    }
    return refs.length > 0
  }

  take({ refs, tokens, resources, ways, exclusive }: Compiled, sign: 1 | -1): void {
    for (let i = 0; i < refs.length; i++) {
      const at = refs[i]!
      this.carriers[at]! += sign
      if (sign === 1) this.carries[at] = tokens[i]!
    }
    for (let i = 0; i < resources.length; i++) {
      const at = resources[i]!
      this.users[at]! += sign
      if (exclusive[i]) this.alone[at]! += sign
      if (sign === 1) this.way[at] = ways[i]!
    }
  }

  /** Who has what, as far as it matters to those that come: the same text, the same ways left at the same costs. */
  sign(): string {
    let sign = ''
    for (let at = 0; at < this.carriers.length; at++) sign += String.fromCharCode(this.carriers[at]! > 0
      ? this.carries[at]! + 1
      : 0)
    for (let at = 0; at < this.users.length; at++) {
      sign += String.fromCharCode(this.users[at]! > 0 ? 2 * this.way[at]! + (this.alone[at]! > 0 ? 2 : 1) : 0)
    }
    return sign
  }

  /** What it costs to share controllers with users that are there already. */
  shareCost({ candidate, resources }: Compiled): number {
    let cost = 0
    candidate.uses.forEach(({ shareCost }, i) => {
      if (shareCost !== undefined && this.users[resources[i]!]! > 0) cost += shareCost
    })
    return cost
  }
}

/** True when the two can stand together, whoever else is there. */
export function standTogether(a: Compiled, b: Compiled): boolean {
  for (let i = 0; i < a.refs.length; i++) for (let j = 0; j < b.refs.length; j++) if (a.refs[i] === b.refs[j]
    && a.tokens[i] !== b.tokens[j]) {
    return false
  }
  for (let i = 0; i < a.resources.length; i++) {
    for (let j = 0; j < b.resources.length; j++) if (a.resources[i] === b.resources[j]
      && (a.exclusive[i] || b.exclusive[j] || a.ways[i] !== b.ways[j])) {
      return false
    }
  }
  return true
}
