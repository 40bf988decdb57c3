/** The one pipeline: a plan and the catalogue in, a report out. Pure and deterministic; the report is plain data. */
import type { Catalogue } from './catalogue/types'
import type { Merged } from './boot/own/merge'
import { filtersOf } from './boot/scope/filters'
import { needsOf, writeNeed } from './boot/needs'
import { parseBoot } from './boot/dialects/key-value'
import { expectedOf, type Expected } from './bringup/expected'
import { wiresOf, type Wire } from './build/wires'
import { gatherFacts } from './facts/gather'
import type { Facts } from './facts/types'
import { judge, type Finding } from './findings'
import { mergedFile } from './findings/bootfile'
import { reasonsOf } from './placement/reasons'
import type { Plan, StageId } from './plan/types'
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

export type StageState = 'untouched' | 'clear' | 'caution' | 'stop'

export interface Report {
  placements: PlacedTerminal[]
  findings: Finding[]
  counts: { stops: number, cautions: number, notes: number }
  power: PowerReport
  lines: { used: number, available: number }
  buses: BusReport[]
  signals: SignalFigures
  boot: { needs: { line: string, why: string, partIds: string[] }[] } & Merged
  wires: Wire[]
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
  const bootText = plan.boot?.text ?? ''
  const signals = signalFigures(facts)
  const merged = mergedFile(facts, needs)
  const findings = judge({ facts, power, needs, merged, bootLines: parseBoot(bootText, filtersOf(facts.board)), signals })
  const count = (severity: Finding['severity']) => findings.filter(finding => finding.severity === severity).length
  return {
    placements: placementsOf(facts),
    findings,
    counts: { stops: count('stop'), cautions: count('caution'), notes: count('note') },
    power: power.report,
    lines: linesOf(facts),
    buses: busesOf(facts),
    signals,
    boot: { needs: needs.map(need => ({ line: writeNeed(need.need), why: need.why, partIds: need.partIds })), ...merged },
    wires: wiresOf(facts),
    expected: expectedOf(facts),
    stages: stagesOf(plan, findings),
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
  return { used: lines.filter(entry => facts.atPosition.has(entry.position)).length, available: lines.filter(entry => !entry.identity).length }
}

function busesOf(facts: Facts): BusReport[] {
  return facts.buses.map(bus => ({
    id: bus.id, kind: bus.kind, label: bus.label,
    partIds: [...new Set(facts.groups.filter(group => group.bus?.id === bus.id).map(group => group.owner.id))],
    addresses: facts.devices.filter(device => device.busId === bus.id).map(device => ({ address: device.address, partId: device.owner.id })),
  }))
}

/** A stage is untouched while the maker has put nothing into it that it could judge. */
function stagesOf(plan: Plan, findings: Finding[]): Report['stages'] {
  const touched: Record<StageId, boolean> = {
    board: !!plan.board, parts: plan.parts.length > 0, wiring: Object.keys(plan.assignments).length > 0,
    power: !!plan.supply, boot: !!plan.boot, build: plan.build.done.length > 0, bringup: plan.scans.length > 0,
  }
  const state = (stage: StageId): StageState => {
    const mine = findings.filter(finding => finding.stages[0] === stage)
    if (mine.some(finding => finding.severity === 'stop')) return 'stop'
    if (mine.some(finding => finding.severity === 'caution')) return 'caution'
    return touched[stage] ? 'clear' : 'untouched'
  }
  return Object.fromEntries((Object.keys(touched) as StageId[]).map(stage => [stage, state(stage)])) as Report['stages']
}
