/** The one pipeline: a plan and the catalogue in, a report out. Pure and deterministic; the report is plain data. */
import type { Catalogue } from './catalogue/types'
import type { MergedFile } from './boot/own/merge'
import { needsOf } from './overlays/asks/needs'
import { writeNeed } from './overlays/asks/write'
import { effectOf } from './boot/effect'
import { expectedOf, type Expected } from './bringup/expected'
import { partsListOf, type ListedItem } from './construction/parts-list'
import { wiresOf, type Wire } from './construction/wires'
import { gatherFacts } from './facts/gather'
import type { Facts } from './facts/types'
import { judge, type Finding } from './findings'
import { isOpen, withSetAside } from './findings/set-aside'
import { socketsOf, type SocketUse } from './findings/sockets'
import { fastenersOf } from './mechanics/stack'
import { netlistOf } from './netlist/build'
import { reasonsOf } from './placement/reasons'
import { STAGE_IDS, type Plan, type StageId } from './plan/types'
import { powerOf, type PowerReport } from './power/report'
import { signalFigures, type SignalFigures } from './signals/figures'

export interface PlacedTerminal {
  terminal: string
  partId: string
  label: string
  position?: number
  at?: string
  fixed: boolean
  reason: string
}

export interface BusReport {
  id: string
  kind: string
  label: string
  partIds: string[]
  addresses: { address: number, partId: string }[]
}

export interface Counts { stops: number, cautions: number, notes: number }

export type StageState = 'untouched' | 'clear' | 'caution' | 'stop'

export interface Report {
  placements: PlacedTerminal[]
  findings: Finding[]
  /** Findings that count: those set aside do not. */
  counts: Counts
  /** At each stage: a finding counts at every stage that it names. */
  stageCounts: Record<StageId, Counts>

  power: PowerReport
  lines: { used: number, available: number }
  buses: BusReport[]
  /** Sockets of the board beside its header, and what is plugged into them. */
  sockets: SocketUse[]
  signals: SignalFigures
  boot: { needs: { line: string, why: string, partIds: string[] }[] } & MergedFile
  wires: Wire[]
  partsList: ListedItem[]
  expected: Expected
  stages: Record<StageId, StageState>
}

/** The whole report on a plan. Never throws on a plan that `readPlan` accepted. */
export function evaluate(plan: Plan, catalogue: Catalogue): Report {
  return evaluateFacts(gatherFacts(plan, catalogue))
}

/** The same from facts already gathered, for callers that show facts beside the report. */
export function evaluateFacts(facts: Facts): Report {
  const { plan } = facts
  const power = powerOf(facts)
  const needs = needsOf(facts)
  const signals = signalFigures(facts)
  const files = effectOf(facts, needs)
  const netlist = netlistOf(facts, power.tree)
  const wires = wiresOf(facts, netlist)
  const findings = withSetAside(judge({ facts, power, netlist, needs, files, signals }), plan.aside)
  const stageCounts = stageCountsOf(findings)
  return {
    placements: placementsOf(facts),
    findings,
    counts: countsOf(findings),
    stageCounts,
    power: power.report,
    lines: linesOf(facts),
    buses: busesOf(facts),
    sockets: socketsOf({ facts, power }),
    signals,
    boot: { needs: needs.map(need => ({ line: writeNeed(need.need), why: need.why, partIds: need.partIds })),
      ...files.merged },
    wires,
    partsList: partsListOf(netlist, wires, fastenersOf(facts)),
    expected: expectedOf(facts, power),
    stages: stagesOf(plan, stageCounts),
  }
}

function placementsOf(facts: Facts): PlacedTerminal[] {
  const reasons = reasonsOf(facts)
  return facts.terminals.filter(terminal => terminal.assignment).map(terminal => ({
    terminal: terminal.key, partId: terminal.owner.id, label: terminal.label,
    ...(terminal.assignment!.position !== undefined && { position: terminal.assignment!.position }),
    ...(terminal.assignment!.terminal !== undefined && { at: terminal.assignment!.terminal }),
    fixed: terminal.assignment!.fixed === true, reason: reasons.get(terminal.key) ?? '',
  }))
}

function linesOf(facts: Facts): Report['lines'] {
  const lines = facts.board?.header.filter(entry => entry.kind === 'line') ?? []
  return {
    used: lines.filter(entry => facts.atPosition.has(entry.position)).length,
    available: lines.filter(entry => !entry.identity).length,
  }
}

function busesOf(facts: Facts): BusReport[] {
  return facts.buses.map(bus => ({
    id: bus.id, kind: bus.kind, label: bus.label,
    partIds: [...new Set(facts.groups.filter(group => group.bus?.id === bus.id).map(group => group.owner.id))],
    addresses: facts.devices.filter(device => device.busId === bus.id)
      .map(device => ({ address: device.address, partId: device.owner.id })),
  }))
}

export function countsOf(findings: readonly Finding[]): Counts {
  const of = (severity: Finding['severity']) =>
    findings.filter(finding => finding.severity === severity && isOpen(finding)).length
  return { stops: of('stop'), cautions: of('caution'), notes: of('note') }
}

function stageCountsOf(findings: readonly Finding[]): Report['stageCounts'] {
  return Object.fromEntries(STAGE_IDS.map(stage => [
    stage, countsOf(findings.filter(finding => finding.stages.includes(stage))),
  ])) as Report['stageCounts']
}

/** Whether the maker has put anything into a stage that it could judge. */
const TOUCHED: Readonly<Record<StageId, (plan: Plan) => boolean>> = {
  board: plan => !!plan.board, parts: plan => plan.parts.length > 0,
  wiring: plan => Object.keys(plan.assignments).length > 0,
  power: plan => !!plan.supply, boot: plan => !!plan.boot, build: plan => plan.build.done.length > 0,
  bringup: plan => plan.scans.length > 0 || plan.seen.length > 0,
}

function stagesOf(plan: Plan, counts: Report['stageCounts']): Report['stages'] {
  const state = (stage: StageId): StageState => {
    if (counts[stage].stops) return 'stop'
    if (counts[stage].cautions) return 'caution'
    return TOUCHED[stage](plan)
      ? 'clear'
      : 'untouched'
  }
  return Object.fromEntries(STAGE_IDS.map(stage => [stage, state(stage)])) as Report['stages']
}
