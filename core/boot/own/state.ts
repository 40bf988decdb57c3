/** How a file stands to what a plan needs of it. */
import type { BootNeed } from '../../catalogue/types'
import type { BootLine, BootParam } from '../dialects/key-value'
import { SETTING_SPECS } from '../../overlays/library'
import { canonicalParam, ownerOf, paramsOfOverlay } from '../scope/ownership'

export type NeedState
  = | { state: 'met', line: number }
  /** The file says something else, in a line that applies. */
    | { state: 'differs', line: number, found: string }
  /** The right line is there, but under a filter that does not always apply. */
    | { state: 'filtered', line: number, filter: string }
    | { state: 'absent' }

/** How the file stands to one need. The last line that applies decides, as in the firmware. */
export function stateOf(lines: readonly BootLine[], need: BootNeed): NeedState {
  let found: NeedState = { state: 'absent' }
  for (const [i, line] of lines.entries()) {
    const says = whatLineSays(lines, i, need)
    if (says === null) continue
    if (line.applies !== 'always') {
      if (says.met && found.state === 'absent') found = { state: 'filtered', line: line.number, filter: line.filter }
    }
    else if (says.met) found = { state: 'met', line: line.number }
    else if (need.kind !== 'overlay') found = { state: 'differs', line: line.number, found: says.found }
  }
  return found
}

function whatLineSays(lines: readonly BootLine[], at: number, need: BootNeed): { met: boolean, found: string } | null {
  const line = lines[at]!
  // Of a setting that may stand several times another value says nothing.
  if (need.kind === 'setting' && SETTING_SPECS.get(need.name)?.repeats)
    return line.kind === 'setting' && line.name === need.name && line.value === need.value
      ? { met: true, found: line.value }
      : null
  if (need.kind === 'setting')
    return line.kind === 'setting' && line.name === need.name
      ? { met: line.value === need.value, found: line.value ?? '' }
      : null
  if (need.kind === 'param') {
    if (line.kind !== 'param') return null
    const param = line.params!.findLast(entry =>
      canonicalParam(entry.name) === canonicalParam(need.name) && ownerOf(entry.name, line.overlay) !== 'overlay')
    return param ? { met: sameValue(param.value, need.value), found: param.value } : null
  }
  if (line.kind !== 'overlay' || (line.name !== need.name && !bringsAsMany(line.name!, need.name))) return null
  return { met: sameParams(paramsOfOverlay(lines, at), need.params ?? {}), found: line.text.trim() }
}

/** True for an overlay that brings the same bus out with more selects than are asked for. */
function bringsAsMany(found: string, asked: string): boolean {
  const [a, b] = [found, asked].map(name => /^(spi\d)-(\d)cs$/.exec(name))
  return !!a && !!b && a[1] === b[1] && a[1] !== 'spi0' && Number(a[2]) > Number(b[2])
}

const ON = new Set(['', 'on', 'yes', 'true', 'y', '1'])
const OFF = new Set(['off', 'no', 'false', 'n', '0'])

function sameValue(a: string, b: string): boolean {
  const [x, y] = [a.toLowerCase(), b.toLowerCase()]
  return x === y || (ON.has(x) && ON.has(y)) || (OFF.has(x) && OFF.has(y))
}

/** True when every parameter asked for is there with its value; further ones may stand beside them. */
function sameParams(found: BootParam[], asked: Record<string, string>): boolean {
  return Object.entries(asked)
    .every(([name, value]) => found.some(param => param.name === name && sameNumberOrText(param.value, value)))
}

function sameNumberOrText(a: string, b: string): boolean {
  if (a.toLowerCase() === b.toLowerCase()) return true
  return a !== '' && b !== '' && Number.isFinite(Number(a)) && Number(a) === Number(b)
}
