/** The boot files against what the plan needs, what stands in them, and what becomes of the parts in a start. */
import { parseBoot } from '../boot/dialects/key-value'
import { filtersOf } from '../boot/scope/filters'
import type { Facts } from '../facts/types'
import type { Need } from '../overlays/asks/needs'
import { writeNeed } from '../overlays/asks/write'
import { asFinding } from '../boot/lint/edits'
import { mergedFile, rewriteEdit } from '../boot/own/file'
import { isOff } from '../boot/own/merge'
import { stateOf, type NeedState } from '../boot/own/state'
import type { DarkCause, PartOutcome } from '../boot/rehearse/types'
import type { BootFile } from '../plan/types'
import { contestedPlaces } from './claims'
import type { Finding, Fix, Rule } from './types'

/** What happens while the line is missing. */
function withoutIt({ busId, setsSelects }: Need): string {
  if (setsSelects) return 'the bus takes its usual select lines, of which others have some'
  return busId !== undefined ? 'the bus does not exist and nothing on it answers' : 'the driver does not start'
}

/** Which line it is, where the same thing has several: ", gpio-shutdown". */
function nameAmong(needs: readonly Need[], { need, why }: Need): string {
  return needs.filter(other => other.why === why).length > 1 ? `, ${need.name}` : ''
}

/** A bus or overlay the plan needs is not switched on by the file. */
export const bootNeeds: Rule = ({ facts, needs, files: { files, lines, merged } }) => {
  const off = facts.plan.boot?.off ?? []
  const keyValue = files.dialect === 'key-value'
  const contested = [...contestedPlaces(facts)]
  return needs.flatMap((need): Finding[] => {
    if (isOff(need, off)) return []
    // The other dialects name overlays alone.
    if (!keyValue && need.need.kind !== 'overlay') return []
    let state: NeedState
    if (keyValue) state = stateOf(lines, need.need)
    else state = merged.changes.some(change => change.kind === 'added' && change.why.includes(need.why))
      ? { state: 'absent' }
      : { state: 'met', line: 1 }
    if (state.state === 'met') return []
    const line = writeNeed(need.need)
    const bus = need.busId !== undefined
    const at = (number: number) => {
      const found = lines[number - 1]
      return found ? [{ text: { file: '', line: number, from: found.from, to: found.from + found.text.length } }] : []
    }
    const subjects = [
      ...need.partIds.map(partId => ({ partId })), ...need.busId ? [{ busId: need.busId }] : [],
      ...'line' in state ? at(state.line) : [],
    ]
    const hand = merged.byHand.find(entry => entry.wanted === line)
    if (hand) return [{
      code: 'boot.by-hand', id: `boot ${line}`, severity: 'note', stages: ['boot'],
      subjects: [...subjects, ...at(hand.line)],
      title: `Changed by hand: ${need.why}`,
      sentence: `Voltaris wrote "${line}"; the file now `
        + `${hand.found ? `says "${hand.found}"` : 'no longer has the line'}. Your change is kept.`,
      figures: [{ label: 'line', value: line, origin: 'board and part files' }],
      fixes: [{ label: 'Take the plan\'s line again',
        edits: [rewriteEdit(facts, mergedFile(facts, needs, [hand.line]).text)] }],
    }]
    // A line that names a place that two want would carry the quarrel into the file.
    const first = contested.find(([, terminals]) =>
      terminals.some(terminal => need.partIds.includes(terminal.owner.id)))?.[0]
    let where: string
    if (state.state === 'absent') where = facts.plan.boot
      ? 'The boot file has no such line'
      : 'There is no boot file in the plan yet'
    else where = state.state === 'filtered'
      ? `Line ${state.line} says so, but under [${state.filter}], so it does not apply to this board, or not `
      + `always`
      : `Line ${state.line} says ${state.found || 'on'} instead`
    return [{
      code: bus ? 'bus.not-enabled' : 'overlay.missing', id: `boot ${line}`, severity: 'caution',
      stages: ['boot', 'bringup'],
      title: need.setsSelects
        ? `${need.why.split(' with ')[0]} keeps its usual selects`
        : bus ? `${need.why.split(' for ')[0]} is not switched on` : `Not loaded: ${need.why}${nameAmong(needs, need)}`,
      sentence: `${where}: without "${line}" ${withoutIt(need)}. `
        + (first === undefined
          ? 'Write it into the boot file and restart once.'
          : `Clear ${first} first, which more than one wants; then write it.`),
      subjects,
      figures: [{ label: 'line', value: line, origin: 'board and part files' }],
      fixes: first === undefined
        ? [...keyValue ? switchedOn(facts, need, line) : [],
            { label: 'Write all of it into the boot file', edits: [rewriteEdit(facts, merged.text)] }]
        : [],
    }]
  })
}

/**
 * The line as it stands there as a comment: taking the sign off is less than writing it once more. Offered
 * where it then holds.
 */
function switchedOn({ plan: { boot }, board }: Facts, need: Need, line: string): Fix[] {
  if (!boot) return []
  const lines = boot.text.split('\n')
  const uncommented = (text: string) => text.replace(/^\s*#\s*/, '')
  return lines.flatMap((entry, at): Fix[] => {
    if (!/^\s*#/.test(entry) || uncommented(entry).trim() !== line) return []
    const text = lines.map((other, i) => i === at ? uncommented(other) : other).join('\n')
    // Under another board's heading, or below an overlay that takes the name, it would change nothing.
    if (stateOf(parseBoot(text, filtersOf(board)), need.need).state !== 'met') return []
    return [{ label: `Switch line ${at + 1} on, which stands there as a comment`,
      edits: [{ edit: 'set-boot', boot: { ...boot, text } }] }]
  }).slice(0, 1)
}

/** What stands in the files, line by line. */
export const fileLines: Rule = ({ facts, files: { lint } }) => lint.map(finding => asFinding(finding, facts.plan))

/** Reasons that no other rule tells, with how grave they are. */
const TOLD_HERE: Partial<Record<DarkCause, { severity: Finding['severity'], todo: string }>> = {
  'off': { severity: 'note', todo: 'Switch its lines on again when it is wanted.' },
  'overlay-failed': { severity: 'stop', todo: 'Look at the line that loads it.' },
  'bus-off': { severity: 'stop', todo: 'Look for the line that switches the bus off, or for two that want its lines.' },
  'line-taken': { severity: 'stop', todo: 'Give one of the two another line, or take one of their overlays out.' },
  'seat-taken': { severity: 'stop', todo: 'Give one of the two another address, select or bus.' },
  'driver-wants': { severity: 'stop', todo: 'Give its node what is missing, or take the overlay that is made for it.' },
}

/** Parts that a start with these files leaves dark. */
export const darkParts: Rule = ({ files: { outcomes } }) => outcomes.flatMap((outcome): Finding[] => {
  const told = outcome.cause && TOLD_HERE[outcome.cause]
  return told ? [darkPart(outcome, told)] : []
})

function darkPart(
  { partId, name, why, fix, cause }: PartOutcome, { severity, todo }: { severity: Finding['severity'], todo: string },
): Finding {
  return {
    code: cause === 'off' ? 'start.switched-off' : 'start.dark', id: `start.dark ${partId}`, severity,
    stages: ['boot', 'bringup'],
    title: cause === 'off' ? `${name} is switched off in the boot file` : `${name} stays dark after a start`,
    sentence: `${/[.!?]$/.test(why) ? why : `${why}.`} ${todo}`,
    subjects: [{ partId }], figures: [], fixes: fix ? [{ label: fix.label, edits: fix.edits }] : [],
  }
}

/** The maker's own base tree cannot be read, so that no start can be rehearsed on it. */
export const baseTree: Rule = ({ facts, files: { baseTrouble } }) => baseTrouble === null
  ? []
  : [{
      code: 'boot.base-unreadable', id: 'boot.base-unreadable', severity: 'caution', stages: ['boot'],
      title: `The base tree ${facts.plan.boot?.base?.name ?? ''} cannot be read`,
      sentence: `${baseTrouble}. No start can be rehearsed on it: drop the blob of the board again, or leave it out `
        + 'and the usual tree of its class is taken.',
      subjects: [], figures: [],
      fixes: facts.plan.boot
        ? [{ label: 'Leave it out', edits: [{ edit: 'set-boot', boot: withoutBase(facts.plan.boot) }] }]
        : [],
    }]

/** The maker's own base tree is that of another kind of board. */
export const otherBaseTree: Rule = ({ facts, files: { otherTree } }) => otherTree
  ? [{
      code: 'boot.base-other', id: 'boot.base-other', severity: 'caution', stages: ['boot'],
      title: `The base tree ${facts.plan.boot?.base?.name ?? ''} is that of another board`, sentence: otherTree.why,
      subjects: [], figures: [], fixes: [{ label: otherTree.fix.label, edits: otherTree.fix.edits }],
    }]
  : []

function withoutBase({ base: _, ...boot }: BootFile): BootFile {
  return boot
}
