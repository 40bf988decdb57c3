/** All rules for boot files in one list. Each is text in, findings with places and fixes out. */
import { drivenByProgram } from '../../facts/roles'
import type { Facts, Terminal } from '../../facts/types'
import { isMade, overlaysAsked } from '../../overlays/asks/fit'
import { overlayFileName } from '../../overlays/asks/write'
import { needsOf, type Need } from '../../overlays/asks/needs'
import { COMMAND_FILE, effectiveOf } from '../scope/effective'
import { clocks } from './clocks'
import { includes } from './includes'
import { consoleAgainstOutput, linesDrivenTwice } from './contention'
import { linesOfThePlan, overlaysFight } from './fights'
import { commandLine, environmentConsole, environmentLines, menuLines } from './kernel'
import { parameterNames, settingNames } from './names'
import { busesOff, controllersElsewhere, hiddenByFilter, repeated, scopeOfParameters, treeOff } from './order'
import { screenProblems } from './screen'
import { loadedTwice } from './part-twice'
import { soundBesidePwm } from './analog-audio'
import { longLines, noLines, wrongFile } from './text'
import { applyChanges, type LintFinding, type LintInput, type LintRule, type PlanSide, type TextFix } from './types'
import { MAX_FINDINGS, textOf } from './words'

export { MAX_FINDINGS }

const RULES: readonly LintRule[] = [
  wrongFile, noLines, settingNames, parameterNames, longLines, scopeOfParameters, hiddenByFilter, repeated, includes,
  treeOff,
  controllersElsewhere,
  overlaysFight, loadedTwice, linesOfThePlan, linesDrivenTwice, consoleAgainstOutput, soundBesidePwm, busesOff,
  screenProblems, clocks,
  commandLine, menuLines,
  environmentLines, environmentConsole,
]

/** Every finding on the files, in the order of the text; at most `MAX_FINDINGS`. Never throws. */
export function lintBoot(input: LintInput): LintFinding[] {
  const findings = lintOnce(input)
  return findings.length > MAX_TRIED
    ? findings
    : findings.map(finding => WAKES.has(finding.code)
        ? { ...finding, fixes: finding.fixes.filter(fix => isHarmless(fix, findings, input)) }
        : finding)
}

/**
 * Fixes of these bring lines to life that did nothing before: each is tried, and not offered when something then gets
 * in another's way.
 */
const WAKES: ReadonlySet<string> = new Set([
  'overlay.unknown', 'boot.filtered', 'boot.filter-unknown', 'boot.sign-missing', 'boot.line-unknown',
  'boot.key-unknown',
  'overlay.line-of-part', 'overlay.line-twice', 'overlay.fight',
])
/** On files with more findings than these no fix is tried. */
const MAX_TRIED = 40

function isHarmless(fix: TextFix, before: readonly LintFinding[], input: LintInput): boolean {
  const text = applyChanges(textOf(input.files, fix.file), fix.changes)
  let files
  if (fix.file === '') files = { ...input.files, text }
  else files = fix.file === COMMAND_FILE
    ? { ...input.files, commandLine: text }
    : { ...input.files, includes: { ...input.files.includes, [fix.file]: text } }
  const clashes = (findings: readonly LintFinding[]) =>
    findings.filter(finding => finding.severity === 'stop' || finding.code === 'overlay.line-of-part').length
  return clashes(lintOnce({ ...input, files })) <= clashes(before)
}

function lintOnce(input: LintInput): LintFinding[] {
  const context = { ...input, effective: effectiveOf(input.files, input.board) }
  const findings = RULES.flatMap(rule => rule(context)).map((finding, i) => ({ finding, i }))
  const told = new Set<string>()
  return findings
    // A file that is included more than once has its findings once.
    .filter(({ finding: { code, file, from, to, title } }) => {
      const key = `${code} ${file} ${from} ${to} ${title}`
      return !told.has(key) && !!told.add(key)
    })
    .sort((a, b) => a.finding.file.localeCompare(b.finding.file) || a.finding.from - b.finding.from || a.i - b.i)
    .slice(0, MAX_FINDINGS)
    .map(({ finding }) => finding)
}

/** What the plan adds to the reading. */
export function planSide(facts: Facts, needs: readonly Need[] = needsOf(facts)): PlanSide {
  const off = new Set(facts.plan.boot?.off)
  const buses: Map<string, { partIds: string[], names: string[] }> = new Map()
  for (const group of facts.groups) {
    if (!group.bus?.controller || drivenByProgram(group.terminals, group.bus)) continue
    const id = group.bus.controller.id
    const entry = buses.get(id) ?? { partIds: [], names: [] }
    if (!entry.partIds.includes(group.owner.id)) {
      entry.partIds.push(group.owner.id)
      entry.names.push(group.owner.name)
    }
    buses.set(id, entry)
  }
  const lineOwners = new Map(facts.terminals.flatMap(terminal => terminal.signal && terminal.place?.kind === 'header'
    && terminal.place.line && !off.has(terminal.owner.id)
    ? [[
        terminal.place.line.line,
        {
          partId: terminal.owner.id, name: terminal.owner.name, serves: terminal.label,
          ...(terminal.owner.part.kernel && { compatible: terminal.owner.part.kernel!.compatible }),
        },
      ] as const]
    : []))
  const outputs = new Map(facts.terminals.flatMap(terminal => terminal.place?.kind === 'header' && terminal.place.line
    && drivesHard(terminal)
    ? [[terminal.place.line.line,
        { partId: terminal.owner.id, name: terminal.owner.name, serves: terminal.label }] as const]
    : []))
  const pwmUsers = facts.parts
    .filter(owner => facts.groups.some(group => group.owner === owner && group.bus?.kind === 'pwm'
      && group.kind === 'pwm'
      && group.terminals[0]!.signal!.role === 'pwm'))
    .map(owner => ({ partId: owner.id, name: owner.name }))
  const loads = facts.parts.filter(owner => owner.part.kernel).map(owner => ({
    partId: owner.id, name: owner.name, made: overlayFileName(owner.id), isMade: isMade(owner, facts),
    library: overlaysAsked(owner),
  }))
  return { needs, lineOwners, outputs, pwmUsers, buses, loads, clock: facts.plan.power.clock }
}

/**
 * True where the wire's far end holds it high and low by force: a push-pull output, or a stage that has one. A divider
 * lets through little.
 */
function drivesHard({ signal, between }: Terminal): boolean {
  if (!signal || signal.direction !== 'out' || signal.role.startsWith('spi.')) return false
  if (between) return between.kind === 'level-shifter' || between.kind === 'rs232-converter'
  return signal.drive === undefined || signal.drive === 'push-pull'
}
