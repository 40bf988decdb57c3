/** What a rule is: a function from evidence to findings. */
import type { Need } from '../overlays/asks/needs'
import type { BootEffect } from '../boot/effect'
import type { Facts } from '../facts/types'
import type { Netlist } from '../netlist/types'
import type { Power } from '../power/report'
import type { SignalFigures } from '../signals/figures'
import type { Finding } from '../vocabulary/finding'

export type { Figure, Finding, Fix, Severity, Subject, TextPlace } from '../vocabulary/finding'

/** What a rule may look at. */
export interface Evidence {
  facts: Facts
  power: Power
  netlist: Netlist
  needs: Need[]
  /** What the plan's files, as they lie there, say and will do. */
  files: BootEffect
  signals: SignalFigures
}

export type Rule = (evidence: Evidence) => Finding[]
