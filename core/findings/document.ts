/** Things the plan names that are not there, and what is still open. */
import { partOfKey } from '../plan/ids'
import { hexAddress } from '../bringup/grid'
import type { Finding, Rule } from './types'

export const unknownEntries: Rule = ({ facts }) => {
  const { plan, board, supply } = facts
  const missing = (id: string, title: string, what: string, subjects: Finding['subjects'],
    stages: Finding['stages']): Finding => ({
    code: 'catalogue.unknown', id, severity: 'stop', stages, title,
    sentence: `The catalogue has no ${what}. It may come from a newer Voltaris, or be misspelt: choose another one.`,
    subjects,
    figures: [], fixes: [],
  })
  return [
    ...plan.board && !board
      ? [missing('catalogue.unknown board', 'Unknown board', `board "${plan.board}"`, [], ['board'])]
      : [],
    ...plan.supply && !supply
      ? [missing('catalogue.unknown supply', 'Unknown supply', `supply "${plan.supply.type}"`, [], ['board', 'power'])]
      : [],
    ...facts.unknownParts.map(part => missing(
      `catalogue.unknown ${part.id}`, `Unknown part: ${part.name || part.id}`, `part "${part.type}"`,
      [{ partId: part.id }], ['parts'],
    )),
  ]
}

/** Options with a value that the part does not offer. */
export const optionsOff: Rule = ({ facts }) => facts.parts.flatMap(owner => (owner.part.options
  ?? []).flatMap((option): Finding[] => {
  const value = owner.options[option.id]!
  const number = Number(value)
  const fits = option.kind === 'choice'
    ? option.values!.some(entry => entry.value === value)
    : Number.isInteger(number) && number >= option.min! && number <= option.max!
  if (fits) return []
  const allowed = option.kind === 'choice'
    ? option.values!.map(entry => entry.value).join(', ')
    : `${option.min} to ${option.max}`
  return [{
    code: 'option.invalid', id: `option.invalid ${owner.id} ${option.id}`, severity: 'stop', stages: ['parts'],
    title: `${owner.name}: ${option.label} cannot be "${value}"`, sentence: `Allowed: ${allowed}. Choose one of them.`,
    subjects: [{ partId: owner.id }], figures: [{ label: option.label, value, limit: allowed, origin: 'part file' }],
    fixes: [{
      label: `Set it to ${option.default}`,
      edits: [{ edit: 'set-option', id: owner.id, option: option.id, value: option.default }],
    }],
  }]
}))

/** Keys of the plan that name a terminal no part has, so that a misspelt hand-written plan does not pass in silence. */
export const strayKeys: Rule = ({ facts }) => {
  const known = new Set(facts.parts.flatMap(owner =>
    [...owner.part.signals, ...owner.part.supplies, ...owner.part.grounds].map(entry => `${owner.id}.${entry.id}`)))
  const unknown = new Set(facts.unknownParts.map(part => part.id))
  // Signals that stand once for each unit of a count are known by their number, those beyond today's count too.
  const counted = new Set(facts.parts.flatMap(owner => owner.part.signals.filter(signal => signal.repeat)
    .map(signal => `${owner.id}.${signal.id}`)))
  const isKnown = (key: string) => known.has(key) || facts.byKey.has(key) || counted.has(key.replace(/\d+$/, ''))
  const keys = [...new Set([...Object.keys(facts.plan.assignments), ...Object.keys(facts.plan.between)])]
  return keys.filter(key => !isKnown(key) && !unknown.has(partOfKey(key))).map((key): Finding => ({
    code: 'plan.stray-key', id: `plan.stray-key ${key}`, severity: 'caution', stages: ['wiring'],
    title: `No part has the terminal ${key}`,
    sentence: `The plan places "${key}", but no part of it has such a terminal. Correct the name, or drop the entry.`,
    subjects: [], figures: [],
    fixes: [{
      label: 'Drop the entry',
      edits: [{ edit: 'release', terminal: key }, { edit: 'set-between', terminal: key, between: null }],
    }],
  }))
}

/** Terminals that have no place yet. */
export const unplaced: Rule = ({ facts }) => {
  const open = facts.terminals.filter(terminal => !terminal.assignment && !terminal.signal?.optional)
  if (!open.length || !facts.board) return []
  const names = [...new Set(open.map(terminal => terminal.owner.name))]
  return [{
    code: 'terminal.unplaced', id: 'terminal.unplaced', severity: 'note', stages: ['wiring'],
    title: `${open.length} ${open.length === 1 ? 'terminal has' : 'terminals have'} no place yet`,
    sentence: `Open: ${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}. "Place `
      + 'the rest" finds a place for each.',
    subjects: open.map(terminal => ({ partId: terminal.owner.id, terminal: terminal.key })),
    figures: [{ label: 'open', value: open.length, unit: 'terminals' }], fixes: [],
  }]
}

/** Several wires at one supply or ground position. */
export const sharedPositions: Rule = ({ facts }) => {
  const shared = [...facts.atPosition].filter(([, terminals]) =>
    terminals.filter(terminal => !terminal.owner.part.isAddOn).length > 1)
  if (!shared.length) return []
  const max = Math.max(...shared.map(([, terminals]) => terminals.length))
  return [{
    code: 'position.shared', id: 'position.shared', severity: 'note', stages: ['wiring', 'build'],
    title: `${shared.length} ${shared.length === 1 ? 'position carries' : 'positions carry'} several wires`,
    sentence: 'A position holds one plug. Lead '
      + `${shared.map(([position]) => position).sort((a, b) => a - b).join(', ')} to a rail of a breadboard or a `
      + 'terminal block and split there.',
    subjects: shared.map(([position]) => ({ position })),
    figures: [{ label: 'wires at one position', value: max, limit: 1, origin: 'practice' }], fixes: [],
  }]
}

/** Addresses the I²C standard keeps for itself. */
export const reservedAddress: Rule = ({ facts }) =>
  facts.devices.filter(({ address, also }) => !also && (address < 0x08 || address > 0x77)).map((device): Finding => ({
    code: 'address.reserved', id: `address.reserved ${device.owner.id}`, severity: 'caution', stages: ['wiring'],
    title: `${device.owner.name} uses a reserved address`,
    sentence: `${hexAddress(device.address)} is kept by the I²C standard; other chips may answer there. Strap it `
      + 'to another one.',
    subjects: [{ partId: device.owner.id, address: device.address }],
    figures: [{ label: 'address', value: hexAddress(device.address), limit: '0x08–0x77',
      origin: 'published: UM10204 §3.1.12' }],
    fixes: [],
  }))
