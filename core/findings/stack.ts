/** Add-on boards on top of each other, and wires that want positions under them. */
import type { ResolvedPart } from '../facts/types'
import { claimOf } from '../placement/refs'
import { coverOf, longPinsOption, LONG_PINS, passesThrough } from '../facts/seats'
import type { Finding, Fix, Rule } from './types'

const meet = (a: { from: number, to: number }, b: { from: number, to: number }) => a.from <= b.to && b.from <= a.to

/** A header with long pins below the board, where it can have one. */
function longPins(owner: ResolvedPart): Fix[] {
  const option = longPinsOption(owner)
  return option === null
    ? []
    : [{ label: `A header with long pins below ${owner.name}`,
        edits: [{ edit: 'set-option', id: owner.id, option, value: LONG_PINS }] }]
}

/** A board that passes nothing through, with another above it; a board that wants the bottom or the top. */
export const stackOrder: Rule = ({ facts }) => {
  const seated = facts.stack.flatMap((owner, level) => {
    const cover = coverOf(owner)
    return cover ? [{ owner, level, cover, seat: owner.part.seat! }] : []
  })
  const ids = facts.stack.map(owner => owner.id)
  const lift = (id: string, to: 'top' | 'bottom') => to === 'top'
    ? [...ids.filter(other => other !== id), id]
    : [id, ...ids.filter(other => other !== id)]
  return seated.flatMap(({ owner, level, cover, seat }): Finding[] => {
    const above = seated.filter(other => other.level > level && meet(other.cover, cover))
    const findings: Finding[] = []
    if (!passesThrough(owner) && above.length) {
      const alsoBlocking = above.some(other => !passesThrough(other.owner))
      findings.push({
        code: 'stack.blocked', id: `stack.blocked ${owner.id}`, severity: 'stop', stages: ['wiring', 'build'],
        title: `Nothing can sit above ${owner.name}`,
        sentence: `It does not bring the header out again on its top, and ${above.map(other => other.owner.name).join(' and ')} would sit `
          + `there. `
          + `${!alsoBlocking
            ? 'Put it on top of the stack.'
            : longPinsOption(owner) !== null
              ? 'A header with long pins below it brings the positions out again.'
              : 'Only one such board fits on these positions: join the other by wires, or take a board that passes the header through.'}`,
        subjects: [{ partId: owner.id }, ...above.map(other => ({ partId: other.owner.id }))],
        figures: [{ label: 'positions', value: `${cover.from}–${cover.to}`, origin: 'part file' }],
        fixes: [...alsoBlocking
          ? []
          : [{
              label: `Put ${owner.name} on top`, edits: [{ edit: 'set-stack' as const, stack: lift(owner.id, 'top') }],
            }], ...longPins(owner)],
      })
    }
    const below = seated.filter(other => other.level < level && meet(other.cover, cover))
    if (seat.wants === 'lowest' && below.length) findings.push({
      code: 'stack.order', id: `stack.order ${owner.id}`, severity: 'caution', stages: ['wiring', 'build'],
      title: `${owner.name} belongs at the bottom of the stack`,
      sentence: `${below.map(other => other.owner.name).join(' and ')} ${below.length > 1 ? 'are' : 'is'} below it in `
        + 'the plan. Seat it first.',
      subjects: [{ partId: owner.id }], figures: [{ label: 'level', value: level + 1, limit: 1, origin: 'part file' }],
      fixes: [{ label: 'Seat it first', edits: [{ edit: 'set-stack', stack: lift(owner.id, 'bottom') }] }],
    })
    if (seat.wants === 'topmost' && above.length && passesThrough(owner)) findings.push({
      code: 'stack.order', id: `stack.order ${owner.id}`, severity: 'caution', stages: ['wiring', 'build'],
      title: `${owner.name} belongs on top of the stack`,
      sentence: `${above.map(other => other.owner.name).join(' and ')} ${above.length > 1 ? 'are' : 'is'} above it in `
        + 'the plan. Push it on last.',
      subjects: [{ partId: owner.id }],
      figures: [{ label: 'level', value: level + 1, limit: facts.stack.length, origin: 'part file' }],
      fixes: above.some(other => !passesThrough(other.owner))
        ? []
        : [{ label: 'Push it on last', edits: [{ edit: 'set-stack', stack: lift(owner.id, 'top') }] }],
    })
    return findings
  })
}

/** More identity memories than one, and seats beyond the end of the header. */
export const stackFit: Rule = ({ facts }) => {
  const named = facts.stack.filter(owner => owner.part.seat?.identity)
  const last = Math.max(0, ...facts.board?.header.map(entry => entry.position) ?? [])
  const beyond = facts.board ? facts.stack.filter(owner => (coverOf(owner)?.to ?? 0) > last) : []
  return [
    ...named.length > 1
      ? [{
        code: 'stack.identities', id: 'stack.identities', severity: 'stop', stages: ['wiring'],
        title: `${named.length} identity memories answer on positions 27 and 28`,
        sentence: `${named.map(owner => owner.name).join(' and ')} each carry one at the same address: the board reads `
          + 'neither. One of a stack may; take the memory off the other, or join it by wires.',
        subjects: named.map(owner => ({ partId: owner.id })),
        figures: [{ label: 'memories', value: named.length, limit: 1, origin: 'practice' }], fixes: [],
      } satisfies Finding]
      : [],
    ...beyond.map((owner): Finding => ({
      code: 'stack.too-long', id: `stack.too-long ${owner.id}`,
      severity: owner.part.seat!.from > last ? 'stop' : 'caution',
      stages: ['parts', 'wiring'], title: `${owner.name} is longer than the header`,
      sentence: `It sits on positions ${coverOf(owner)!.from} to ${coverOf(owner)!.to} and the header ends at ${last}. `
        + 'What it wants beyond is not there; look whether its socket clears the parts behind the header.',
      subjects: [{ partId: owner.id }],
      figures: [{ label: 'reaches', value: coverOf(owner)!.to, limit: last, origin: 'board file' }],
      fixes: [],
    })),
  ]
}

/** Wires to positions that lie under a board which does not bring them out again. */
export const coveredPositions: Rule = ({ facts }) => facts.stack.flatMap((owner): Finding[] => {
  const cover = coverOf(owner)
  if (!cover || passesThrough(owner)) return []
  const hidden = facts.terminals.filter(terminal =>
    terminal.place?.kind === 'header' && terminal.place.position >= cover.from && terminal.place.position <= cover.to
    && claimOf(terminal) === undefined)
  if (!hidden.length) return []
  const positions = [...new Set(hidden.map(terminal => terminal.place?.kind === 'header'
    ? terminal.place.position
    : 0))].sort((a, b) => a - b)
  return [{
    code: 'stack.covers', id: `stack.covers ${owner.id}`, severity: 'caution', stages: ['wiring', 'build'],
    title: `${owner.name} covers positions that wires want`,
    sentence: `It sits on ${cover.from} to ${cover.to} and passes nothing through; ${hidden.length} `
      + `${hidden.length === 1 ? 'wire ends' : 'wires end'} underneath. Take a header extension with long pins, or `
      + 'solder those wires from below.',
    subjects: [{ partId: owner.id }, ...positions.map(position => ({ position }))],
    figures: [{ label: 'wires', value: hidden.length, limit: 0, origin: 'part file' }],
    fixes: [...longPins(owner), ...hidden.every(terminal => !terminal.assignment?.fixed)
      ? [{
          label: 'Release those wires, then place the rest',
          edits: hidden.map(terminal => ({ edit: 'release' as const, terminal: terminal.key })),
        }]
      : []],
  }]
})
