/** Where a terminal could go, for a person who moves it by hand. */
import { reaches, roleInWords, takesAnyLine } from '../facts/roles'
import type { Facts, Terminal } from '../facts/types'
import type { Assignment } from '../plan/types'

export interface PlaceOption {
  to: Assignment
  label: string
  /** Others already there whom this one would not share the place with peacefully. */
  takenBy: string[]
  reserved: boolean
}

/** Every place that can do what the terminal needs, header positions in order, then terminals of other parts. */
export function placeOptions(terminal: Terminal, facts: Facts): PlaceOption[] {
  const { board } = facts
  if (!board) return []
  const reserved = new Set(facts.plan.reserved.map(entry => entry.position))
  const onHeader = board.header.filter((entry) => {
    if (terminal.is === 'ground') return entry.kind === 'ground'
    if (terminal.is === 'supply') return entry.kind === terminal.supply!.rail
    if (entry.line === undefined) return false
    const { role } = terminal.signal!
    if (terminal.signal!.analog) return false
    return takesAnyLine(role) || reaches(board, role, entry.line).length > 0
  }).map((entry): PlaceOption => ({
    to: { position: entry.position },
    label: `${entry.position} · `
      + `${entry.line !== undefined ? `G${entry.line}` : entry.kind === 'ground' ? 'GND' : entry.kind}`,
    takenBy: terminal.is === 'signal' ? others(terminal, facts.atPosition.get(entry.position) ?? []) : [],
    reserved: reserved.has(entry.position) || entry.identity === true,
  }))
  return [...onHeader, ...onParts(terminal, facts)]
}

function onParts(terminal: Terminal, facts: Facts): PlaceOption[] {
  const role = terminal.signal?.role
  let name: 'line' | 'analog' | 'sda' | 'scl' | null
  if (role === 'i2c.sda') name = 'sda'
  else if (role === 'i2c.scl') name = 'scl'
  else if (terminal.signal?.analog) name = 'analog'
  else name = role === 'line' && terminal.signal!.slow
    ? 'line'
    : null
  if (!name) return []
  return facts.parts.filter(owner => owner !== terminal.owner).flatMap(owner => (owner.part.offers ?? [])
    .filter(offer => offer.kind === (name === 'line' || name === 'analog' ? name : 'i2c'))
    .map((offer): PlaceOption => {
      const at = offer.terminals[name === 'analog' ? 'line' : name]!
      const to = `${owner.id}.${at}`
      return {
        to: { terminal: to }, label: `${owner.name} · ${at}`, reserved: false,
        takenBy: name === 'line' || name === 'analog'
          ? others(terminal, facts.terminals.filter(other => other.assignment?.terminal === to))
          : [],
      }
    }))
}

function others(terminal: Terminal, there: Terminal[]): string[] {
  const shares = (other: Terminal) => {
    const [a, b] = [terminal.signal?.role, other.signal?.role]
    return a === b && !!a && (a === 'onewire' || a.startsWith('i2c.') || (a.startsWith('spi.') && a !== 'spi.select'))
  }
  return there.filter(other => other !== terminal && !shares(other)).map(other => `${other.owner.name} ${other.label}`)
}

/** Why a terminal cannot go to a header position, in one sentence; null when it can. Those that are only taken can. */
export function whyNot(terminal: Terminal, position: number, facts: Facts): string | null {
  const { board } = facts
  const entry = board?.header.find(candidate => candidate.position === position)
  if (!board || !entry) return `There is no position ${position}.`
  let what: string
  if (entry.kind === 'ground') what = 'a ground'
  else what = entry.kind === 'line' ? `line ${entry.line}` : `the ${entry.kind} rail`
  if (terminal.is === 'ground') return entry.kind === 'ground'
    ? null
    : `Position ${position} is ${what}; a return wants a ground.`
  if (terminal.is === 'supply') {
    return entry.kind === terminal.supply!.rail
      ? null
      : `Position ${position} is ${what}; this supply wants ${terminal.supply!.rail}.`
  }
  if (entry.line === undefined) return `Position ${position} is ${what}: a signal there is a short circuit.`
  if (terminal.signal!.analog) return `Line ${entry.line} only tells high from low; this voltage varies.`
  const { role } = terminal.signal!
  if (takesAnyLine(role) || reaches(board, role, entry.line).length) return null
  return `Line ${entry.line} has no ${roleInWords(role).replace(/^an? /, '')}.`
}
