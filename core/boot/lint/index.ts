/** All rules for boot files in one list. Each is text in, findings with places and fixes out. */
import type { Facts } from '../../facts/types'
import { bindingOf } from '../../overlays/bindings'
import { needsOf, type Need } from '../../overlays/asks/needs'
import { effectiveOf } from '../scope/effective'
import { clocks } from './clocks'
import { linesOfThePlan, overlaysFight } from './fights'
import { commandLine, environmentConsole, environmentLines, menuLines } from './kernel'
import { parameterNames, settingNames } from './names'
import { busesOff, hiddenByFilter, includes, repeated, scopeOfParameters } from './order'
import { screenLines } from './screen'
import { longLines, noLines, wrongFile } from './text'
import type { LintFinding, LintInput, LintRule, PlanSide } from './types'

const RULES: readonly LintRule[] = [
  wrongFile, noLines, settingNames, parameterNames, longLines, scopeOfParameters, hiddenByFilter, repeated, includes,
  overlaysFight, linesOfThePlan, busesOff, screenLines, clocks, commandLine, menuLines, environmentLines, environmentConsole,
]

/** More findings than these on one file are noise, and take long to show. */
export const MOST_FINDINGS = 500

/** Every finding on the files, in the order of the text; at most `MOST_FINDINGS`. Never throws. */
export function lintBoot(input: LintInput): LintFinding[] {
  const context = { ...input, effective: effectiveOf(input.files, input.board) }
  const findings = RULES.flatMap(rule => rule(context)).map((finding, i) => ({ finding, i }))
  return findings.sort((a, b) => a.finding.file.localeCompare(b.finding.file) || a.finding.from - b.finding.from || a.i - b.i).slice(0, MOST_FINDINGS).map(({ finding }) => finding)
}

/** What the plan adds to the reading. */
export function planSide(facts: Facts, needs: readonly Need[] = needsOf(facts)): PlanSide {
  const off = new Set(facts.plan.boot?.off)
  const buses: Map<string, { partIds: string[], names: string[] }> = new Map()
  for (const group of facts.groups) {
    if (!group.bus?.controller) continue
    const id = group.bus.controller.id
    const entry = buses.get(id) ?? { partIds: [], names: [] }
    if (!entry.partIds.includes(group.owner.id)) {
      entry.partIds.push(group.owner.id)
      entry.names.push(group.owner.name)
    }
    buses.set(id, entry)
  }
  const lineOwners = new Map(facts.terminals.flatMap(terminal => terminal.signal && terminal.place?.kind === 'header' && terminal.place.line && !off.has(terminal.owner.id)
    ? [[terminal.place.line.line, { partId: terminal.owner.id, name: terminal.owner.name, serves: terminal.label, ...(bindingOf(terminal.owner) && { compatible: bindingOf(terminal.owner)!.compatible }) }] as const]
    : []))
  return { needs, lineOwners, buses, clock: facts.plan.power.clock }
}
