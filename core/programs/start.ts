/** A plan begun from a program or a table: what is found in it becomes parts, each where the text has it. */
import type { Catalogue, Part } from '../catalogue/types'
import { gatherFacts } from '../facts/gather'
import { answersTo } from '../overlays/search'
import { placementEdits, placePlan } from '../placement/place'
import { emptyPlan, freePartId } from '../plan/create'
import { applyEdit } from '../plan/edits'
import type { Plan } from '../plan/types'
import { placeOf } from './judge'
import type { ProgramReading, Sighting } from './types'
import { wordsOf } from './words'

export interface BegunPlan {
  plan: Plan
  /** What was found and became a part of the plan. */
  taken: { part: string, lines: number[] }[]
  /** What was found and could not be told. */
  left: { line: number, text: string, why: string }[]
}

const BUSES = { i2c: 'the I²C bus', spi: 'the SPI bus', serial: 'the serial port' } as const

/** The bus of which a wire of that name is mostly one. practice */
function busOf(word: string): keyof typeof BUSES | null {
  if (/^(sda|scl)$/.test(word)) return 'i2c'
  if (/^(mosi|miso|sck|sclk|clk|cs|ce)$/.test(word)) return 'spi'
  return /^(tx|rx|txd|rxd)$/.test(word) ? 'serial' : null
}

function partAt(address: number, words: readonly string[],
  catalogue: Catalogue): { part: Part, options?: Record<string, string> } | null {
  const hex = `0x${address.toString(16).padStart(2, '0')}`
  const all = [...catalogue.parts.values()].flatMap((part) => {
    if (part.isAddOn || !part.i2c) return []
    if (part.i2c.address === hex) return [{ part }]
    const option = part.options?.find(entry => entry.id === part.i2c!.addressOption)
    return option?.values?.some(({ value }) => value === hex) ? [{ part, options: { [option.id]: hex } }] : []
  })
  // Only what the number is called counts here: words of calls and comments say anything.
  const said = words.filter(word =>
    word.length > 2 && !/^(addr|address|i2c|bus|sensor|device|slave|chip|the)$/.test(word))
  return all.find(({ part }) => said.some(word => answersTo(part, word)))
    ?? all.find(({ part }) => part.i2c!.usualAt?.includes(hex)) ?? all[0] ?? null
}

const named = ({ words, name }: Sighting, part: Part): string => {
  const said = name.replace(/^-+|i2c/gi, '').replace(/([a-z\d])([A-Z])/g, '$1 $2').split(/[^A-Za-z\d]+/)
    .filter(word => word && !/^(pin|pins|gpio|bcm|addr|address|i2c|k|bus|self|port)$/i.test(word)).join(' ')
    .toLowerCase()
  const plain = said.length > 1 && words.length ? said : part.name.split(',')[0]!
  return plain.charAt(0).toUpperCase() + plain.slice(1)
}

/**
 * A plan from what was read, on a board; lines are held where the text has them, buses and supplies are
 * placed around them.
 */
export function planFrom(reading: ProgramReading,
  { name, board, supply }: { name: string, board: string, supply: string | null },
  catalogue: Catalogue): BegunPlan {
  let plan: Plan = { ...emptyPlan(name), board, supply: supply ? { type: supply } : null }
  const facts = gatherFacts(plan, catalogue)
  const taken: BegunPlan['taken'] = []
  const left: BegunPlan['left'] = []
  const add = (type: string, called: string, options?: Record<string, string>): string => {
    const id = freePartId(plan, type)
    const names = new Set(plan.parts.map(part => part.name))
    let own = called
    for (let n = 2; names.has(own); n++) own = `${called} ${n}`
    plan = { ...plan, parts: [...plan.parts, { id, type, name: own, ...options && { options } }] }
    return id
  }
  const lineOf = (id: string, line: number) => {
    const entry = taken.find(({ part }) => part === id)
    if (entry) entry.lines.push(line)
    else taken.push({ part: id, lines: [line] })
  }
  const seen = new Set<string>()
  /** Wires of a bus: of a part that is found elsewhere in the text, or of nobody. */
  const wires: { line: number, text: string, bus: keyof typeof BUSES }[] = []
  /** Parts with a terminal still open, by type. */
  const open = new Map<string, { id: string, terminals: Set<string> }>()
  for (const sighting of reading.sightings) {
    const { kind, value, line, text, words } = sighting
    if (kind === 'address') {
      if (seen.has(`address ${value}`)) continue
      seen.add(`address ${value}`)
      const at = partAt(Number(value), wordsOf(sighting.name), catalogue)
      if (!at) left.push({ line, text, why: 'no part of the catalogue answers there' })
      else lineOf(add(at.part.id, named(sighting, at.part), at.options), line)
    }
    else if (kind === 'pin') {
      const place = placeOf(sighting, reading.numbering, facts)
      if (reading.isController) left.push({ line, text, why: 'it is a pin of the microcontroller' })
      else if (!place || place.line === undefined) left.push({ line, text, why: 'this board has no such line' })
      else if (!seen.has(`pin ${place.position}`)) {
        const meant = meantBy(words, catalogue)
        if (!meant) {
          const bus = busOf(words[0] ?? '')
          if (bus) wires.push({ line, text: `${sighting.name || words[0]!} ${text}`.trim(), bus })
          else left.push({ line, text, why: `what hangs on G${place.line} is not told by its name` })
          continue
        }
        seen.add(`pin ${place.position}`)
        const { part, terminal: found, isOneOfSeveral } = meant
        const boards = severalOf(part, catalogue)
        const like = boards.length
          ? reading.sightings.filter(other => other.kind === 'pin' && other.name && other.name === sighting.name
            && other.line === line)
          : []
        const board = boards.find(({ max }) => like.length > 2 && like.length <= max)
        if (board) {
          const nth = like.indexOf(sighting)
          const first = nth === 0 ? add(board.part.id, named(sighting, board.part)) : taken.at(-1)!.part
          lineOf(first, line)
          plan = { ...plan, assignments: { ...plan.assignments,
            [`${first}.${board.terminal}${nth + 1}`]: { position: place.position,
              fixed: true } } }
          continue
        }
        const before = open.get(part.id)
        const isSame = before && !before.terminals.has(found) && isOneOfSeveral
        const id = isSame ? before.id : add(part.id, named(isOneOfSeveral ? { ...sighting, name: '' } : sighting, part))
        open.set(part.id, { id, terminals: new Set([...isSame ? before.terminals : [], found]) })
        lineOf(id, line)
        plan = { ...plan, assignments: { ...plan.assignments,
          [`${id}.${found}`]: { position: place.position, fixed: true } } }
      }
    }
    else if (kind === 'device' && /tty|serial/.test(String(value))) left.push({ line, text,
      why: 'what speaks there is not told: add it on the Parts stage' })
  }
  plan = withSelect(plan, reading, catalogue)
  const joined = new Set(gatherFacts(plan, catalogue).groups.map(({ kind: of }) => of as string))
  for (const { bus, ...wire } of wires) {
    if (!joined.has(bus)) left.push({ ...wire,
      why: `which part is on ${BUSES[bus]} is not told: add it on the Parts stage` })
  }
  left.sort((a, b) => a.line - b.line)
  const placed = placePlan(plan, catalogue, { scope: 'rest' })
  return { taken, left,
    plan: placed.ok ? applyEdit(plan, { edit: 'all', edits: placementEdits(plan, placed) }).plan : plan }
}

/** The select that the text opens, for the only part that has one. */
function withSelect(plan: Plan, { sightings }: ProgramReading, catalogue: Catalogue): Plan {
  const facts = gatherFacts(plan, catalogue)
  const selects = facts.terminals.filter(terminal => terminal.signal?.role === 'spi.select')
  const asked = sightings.filter(({ kind }) => kind === 'spi-select')
  const bus = Number(sightings.find(({ kind }) => kind === 'spi-bus')?.value ?? 0)
  const [select] = selects
  if (selects.length !== 1 || asked.length !== 1 || !select || plan.assignments[select.key]) return plan
  const line = facts.board?.controllers.find(({ id }) =>
    id === `spi${bus}`)?.routes[0]?.lines[`select${asked[0]!.value}`]
  const place = facts.board?.header.find(entry => line !== undefined && entry.line === line)
  const isFree = place && !Object.values(plan.assignments).some(({ position }) => position === place.position)
  return isFree
    ? { ...plan,
        assignments: { ...plan.assignments, [select.key]: { position: place.position, fixed: true } } }
    : plan
}

interface MeantTerminal { part: Part, terminal: string, isOneOfSeveral: boolean }

/** The part that a text calls by these words, and which of its terminals; null where no part is called so. */
function meantBy(words: readonly string[], { parts }: Catalogue): MeantTerminal | null {
  const known = [...parts.values()].filter(({ called }) => called?.words)
    .sort((a, b) => (a.called!.rank ?? Infinity) - (b.called!.rank ?? Infinity))
  for (const part of known) {
    const { words: own, terminals = {} } = part.called!
    if (!words.some(word => own!.includes(word.replace(/\d+$/, '')))) continue
    const terminal = Object.keys(terminals)
      .find(id => !terminals[id]!.length || words.some(word => terminals[id]!.includes(word)))
    if (terminal) return { part, terminal, isOneOfSeveral: Object.keys(terminals).length > 1 }
  }
  return null
}

/** Boards that carry several of a part, the smallest first. */
const severalOf = ({ id }: Part,
  { parts }: Catalogue): { part: Part, terminal: string, max: number }[] => [...parts.values()]
  .flatMap(part => part.called?.severalOf === id && part.called.terminal && part.called.max
    ? [{ part, terminal: part.called.terminal, max: part.called.max }]
    : [])
  .sort((a, b) => a.max - b.max)
