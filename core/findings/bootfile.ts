/** The boot file against what the plan needs. */
import { filtersOf } from '../boot/scope/filters'
import { isOff, mergeBoot, type Merged } from '../boot/own/merge'
import { mergeWords } from '../boot/own/words'
import { stateOf, type NeedState } from '../boot/own/state'
import { writeNeed, type Need } from '../boot/needs'
import type { Facts } from '../facts/types'
import type { Edit } from '../plan/edits'
import type { Finding, Rule } from './types'

/** The firmware's early versions cut lines here. */
const LINE_LENGTH = 98

/** A bus or overlay the plan needs is not switched on by the file. */
export const bootNeeds: Rule = (evidence) => {
  const { facts, needs, bootLines, merged } = evidence
  const off = facts.plan.boot?.off ?? []
  const keyValue = (facts.plan.boot?.dialect ?? facts.board?.bootDialect ?? 'key-value') === 'key-value'
  return needs.flatMap((need): Finding[] => {
    if (isOff(need, off)) return []
    // The other dialects name overlays alone.
    if (!keyValue && need.need.kind !== 'overlay') return []
    const state: NeedState = keyValue ? stateOf(bootLines, need.need) : merged.changes.some(change => change.kind === 'added' && change.why.includes(need.why)) ? { state: 'absent' } : { state: 'met', line: 1 }
    if (state.state === 'met') return []
    const line = writeNeed(need.need)
    const bus = need.busId !== undefined
    const subjects = [...need.partIds.map(partId => ({ partId })), ...need.busId ? [{ busId: need.busId }] : [], ...'line' in state ? [{ bootLine: state.line }] : []]
    const hand = merged.byHand.find(entry => entry.wanted === line)
    if (hand) return [{
      code: 'boot.by-hand', id: `boot ${line}`, severity: 'note', stages: ['boot'], subjects: [...subjects, { bootLine: hand.line }],
      title: `Changed by hand: ${need.why}`,
      sentence: `Voltaris wrote "${line}"; the file now ${hand.found ? `says "${hand.found}"` : 'no longer has the line'}. Your change is kept.`,
      figures: [{ label: 'line', value: line, origin: 'board and part files' }],
      fixes: [{ label: 'Take the plan\'s line again', edits: [setText(facts, mergedFile(facts, needs, [hand.line]).text)] }],
    }]
    const where = state.state === 'absent'
      ? facts.plan.boot ? 'The boot file has no such line' : 'There is no boot file in the plan yet'
      : state.state === 'filtered' ? `Line ${state.line} says so, but under [${state.filter}], so it does not apply to this board, or not always` : `Line ${state.line} says ${state.found || 'on'} instead`
    return [{
      code: bus ? 'bus.not-enabled' : 'overlay.missing', id: `boot ${line}`, severity: 'caution', stages: ['boot', 'bringup'],
      title: bus ? `${need.why.split(' for ')[0]} is not switched on` : `Not loaded: ${need.why}`,
      sentence: `${where}: without "${line}" ${bus ? 'the bus does not exist and nothing on it answers' : 'the driver does not start'}. Write it into the boot file and restart once.`,
      subjects,
      figures: [{ label: 'line', value: line, origin: 'board and part files' }],
      fixes: [{ label: 'Write all of it into the boot file', edits: [setText(facts, merged.text)] }],
    }]
  })
}

/** The plan's boot file with all that the plan needs in it, as the maker wants lines of parts that are off to be kept. */
export function mergedFile({ plan, board }: Pick<Facts, 'plan' | 'board'>, needs: readonly Need[], takeBack: readonly number[] = []): Merged {
  const { text = '', off, whenOff } = plan.boot ?? {}
  const dialect = plan.boot?.dialect ?? board?.bootDialect ?? 'key-value'
  if (dialect !== 'key-value') return mergeWords(text, dialect, needs, { off, takeBack })
  return mergeBoot(text, needs, { off, whenOff, takeBack, filters: filtersOf(board) })
}

const setText = ({ plan }: Pick<Facts, 'plan'>, text: string): Edit => ({ edit: 'set-boot', boot: { ...plan.boot, text } })

/** The kernel's console talks on the serial port that a part wants. */
export const consoleHoldsPort: Rule = ({ facts }) => {
  const line = facts.plan.boot?.commandLine ?? ''
  const found = /\bconsole=(serial0|ttyAMA0|ttyS0)\b[^\s]*\s?/.exec(line)
  const group = facts.groups.find(entry => entry.bus?.id === 'uart0')
  if (!found || !group) return []
  return [{
    code: 'serial.console', id: 'serial.console', severity: 'stop', stages: ['boot', 'wiring', 'bringup'],
    title: 'The console holds the serial port',
    sentence: `The kernel command line sends its console to ${found[1]}: ${group.owner.name} hears the boot messages, and what it sends is taken for a login. Let the console go.`,
    subjects: [{ partId: group.owner.id, busId: 'uart0' }], figures: [{ label: 'found', value: found[0].trim(), origin: 'practice' }],
    fixes: [{ label: 'Free the port', edits: [{ edit: 'set-boot', boot: { ...facts.plan.boot!, commandLine: line.replace(found[0], '') } }] }],
  }]
}

/** Lines that the firmware would cut or never read. */
export const bootLinesOff: Rule = ({ facts, bootLines }) => (facts.plan.boot?.dialect ?? facts.board?.bootDialect ?? 'key-value') !== 'key-value'
  ? []
  : bootLines.flatMap((line): Finding[] => {
      if (line.text.length > LINE_LENGTH && line.kind !== 'comment') return [{
        code: 'boot.line-too-long', id: `boot.line-too-long ${line.number}`, severity: 'caution', stages: ['boot'],
        title: `Line ${line.number} is too long`,
        sentence: `Early firmware reads ${LINE_LENGTH} characters of a line and drops the rest. Split it.`,
        subjects: [{ bootLine: line.number }], figures: [{ label: 'length', value: line.text.length, limit: LINE_LENGTH, unit: 'characters', origin: 'memory' }], fixes: [],
      }]
      if (line.kind === 'unknown') return [{
        code: 'boot.line-unknown', id: `boot.line-unknown ${line.number}`, severity: 'note', stages: ['boot'],
        title: `Line ${line.number} says nothing the firmware knows`,
        sentence: `"${line.text.trim().slice(0, 60)}" is neither key=value, a comment, a filter nor an include. It is kept as it is.`,
        subjects: [{ bootLine: line.number }], figures: [], fixes: [],
      }]
      return []
    })
