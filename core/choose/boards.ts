/**
 * Which board would carry a plan's parts: each is tried whole, placed, fed and fitted out, and judged by the same rules
 * as the plan.
 */
import { terminalNames } from '../plan/ids'
import { priceOf } from '../construction/parts-list'
import type { Board, Catalogue, SupplyUnit } from '../catalogue/types'
import { evaluate, type Report } from '../evaluate'
import type { Finding } from '../findings'
import { breaksDown } from '../findings/power/voltages'
import { isWrongPlug } from '../findings/power/plugs'
import { isOpen } from '../findings/set-aside'
import { isFitting } from '../findings/things'
import { placementEdits, placePlan } from '../placement/place'
import { applyEdit, type Edit } from '../plan/edits'
import type { Plan } from '../plan/types'

export interface BoardTrial {
  boardId: string
  name: string
  /** Every terminal has a place, and nothing stops the plan that would not stop it on every board. */
  carries: boolean
  /** Everything has a place. */
  placed: boolean
  /** What is against it, the gravest first: why nothing could be placed, and stops. */
  against: string[]
  /**
   * Stops that the plan has on every board: they are its own, and wait for the maker on any. Filled when
   * all were tried.
   */
  everywhere: string[]
  /** The stops one by one; `key` is the same on every board. */
  stops: { key: string, title: string }[]
  cautions: string[]
  counts: { stops: number, cautions: number }
  /** Bought or soldered besides, so that it goes. */
  added: { type: string, name: string, price: number | null }[]
  supply: { type: string, name: string, price: number | null, isNew: boolean } | null
  /** What the maker had settled and this board cannot keep. */
  givenUp: string[]
  /** Header lines and USB sockets that stay free. */
  spare: { lines: number, usb: number }
  /** Of the parts list, made up; `unknown` are things whose price nobody says. */
  price: { total: number, board: number | null, unknown: number }
  /** What makes this plan of the present one. */
  edits: Edit[]
}

/** Files are written anew for another board, and what runs is looked at later: what they say is no matter here. */
const LATER = new Set(['boot', 'bringup'])
const matters = (finding: Finding) => isOpen(finding) && finding.stages.some(stage => !LATER.has(stage))
/** More things than that no board wants. */
const MAX_FITTINGS = 12
/** Volts beside 5 that a board takes without a converter. */
const NEAR_V = 0.5

/** Tries one board on the plan. Pure; the plan's own supply stays where it will do. */
export function tryBoard(plan: Plan, board: Board, catalogue: Catalogue): BoardTrial {
  const edits: Edit[] = []
  let now = plan
  const take = (more: readonly Edit[]) => {
    edits.push(...more)
    now = applyEdit(now, { edit: 'all', edits: [...more] }).plan
  }
  if (plan.board !== board.id) take([{ edit: 'choose-board', board: board.id }])
  const givenUp = settled(now, board)
  if (givenUp.length) take(givenUp.map(({ terminal }): Edit => ({ edit: 'fix', terminal, fixed: false })))
  const placement = placePlan(now, catalogue, { scope: plan.board === board.id ? 'rest' : 'all' })
  if (placement.ok) take(placementEdits(now, placement))
  // What has no room as a whole is judged without the places of another board: they would all be wrong.
  else if (plan.board !== board.id) take(Object.keys(now.assignments)
    .map((terminal): Edit => ({ edit: 'release', terminal })))
  fit()
  let lostSupply: string | null = null
  const supply = feed()
  plug()
  const report = evaluate(now, catalogue)
  const found = report.findings.filter(matters)
  const stops = unique(found.filter(({ severity }) => severity === 'stop')
    .map(finding => ({ key: keyOf(finding), title: finding.title })))
  const cautions = [...new Set(found.filter(({ severity }) => severity === 'caution').map(({ title }) => title))]
  return {
    boardId: board.id, name: board.name, placed: placement.ok, carries: placement.ok && !stops.length,
    against: [...placement.ok ? [] : [placement.sentence], ...stops.map(({ title }) => title)],
    everywhere: [], stops, cautions,
    counts: { stops: stops.length, cautions: cautions.length },
    added: [
      ...now.parts.filter(part => !plan.parts.some(other => other.id === part.id))
        .map(({ type, name }) => ({ type, name, price: catalogue.parts.get(type)?.price ?? null })),
      ...now.power.nodes.filter(node => !plan.power.nodes.some(other => other.id === node.id))
        .map(({ type, name }) => ({ type, name, price: catalogue.powerItems.get(type)?.price ?? null })),
    ],
    supply: supply && {
      type: supply.id, name: supply.name, price: supply.price ?? null, isNew: plan.supply?.type !== supply.id,
    },
    givenUp: [...givenUp.map(({ words }) => words), ...gone(plan, now), ...lostSupply ? [lostSupply] : []],
    spare: spareOf(report), price: { ...priceOf(report.partsList), board: board.price ?? null }, edits,
  }

  /** Takes what the board wants besides, one after the other: each is the rule's own first way out. */
  function fit() {
    for (let i = 0; i < MAX_FITTINGS; i++) {
      const wanted = evaluate(now, catalogue).findings
        .find(finding => isFitting(finding) && finding.fixes.length)
      if (!wanted) return
      take(wanted.fixes[0]!.edits as Edit[])
    }
  }

  /** What goes between the plug of the supply and a socket of another shape. */
  function plug() {
    const misfit = evaluate(now, catalogue).findings.find(isWrongPlug)
    const between = misfit?.fixes.find(({ edits: some }) => some.every(({ edit }) => edit === 'add-node'))
    if (between) take(between.edits as Edit[])
  }

  /**
   * The plan's supply where nothing of it stops the plan, and wherever it does not hang on the mains: a battery is
   * there for a reason. Else the adapter with which the fewest stops are left, of those the one with the fewest
   * cautions: where none is left the first, which is the cheapest, else the strongest.
   */
  function feed(): SupplyUnit | null {
    const foundWith = (type: string) =>
      evaluate({ ...now, supply: { ...now.supply, type } }, catalogue).findings.filter(matters)
    const own = now.supply ? catalogue.supplies.get(now.supply.type) ?? null : null
    if (own && !FROM_MAINS.has(own.kind)) return own
    const ownFound = own ? foundWith(own.id) : []
    const ownStops = ownFound.filter(({ severity }) => severity === 'stop')
    let best = { unit: own, weight: own ? weigh(ownFound) : Infinity }
    for (const unit of own && !ownStops.length ? [] : adaptersFor(board, catalogue)) {
      if (best.weight === 0) break
      const weight = weigh(foundWith(unit.id))
      const isStronger = weight >= STOP && weight === best.weight && unit.currentMa > best.unit!.currentMa
      if (weight < best.weight || isStronger) best = { unit, weight }
    }
    if (best.unit && best.unit.id !== own?.id) {
      take([{ edit: 'choose-supply', supply: { type: best.unit.id } }])
      const why = ownStops.find(({ subjects }) => subjects.some(({ node }) => node === '@supply')) ?? ownStops[0]
      if (own && why) lostSupply = `${own.name}: ${why.title.charAt(0).toLowerCase()}${why.title.slice(1)}`
    }
    return best.unit
  }
}

/** Where there is a mains socket, another adapter is a way out. */
const FROM_MAINS = new Set<SupplyUnit['kind']>(['adapter', 'usb-port', 'bench', 'internal-usb'])
/** One stop weighs more than all cautions. */
const STOP = 1000
/** A supply that breaks down hides every stop that it would have had. */
const BROKEN = 100 * STOP
const weigh = (found: readonly Finding[]) => found.some(breaksDown)
  ? BROKEN
  : found.reduce((sum, { severity }) => sum + (severity === 'stop' ? STOP : severity === 'caution' ? 1 : 0), 0)

/** The same thing wrong, wherever it lies: the code and whose it is. */
const keyOf = ({ code, subjects }: Finding) =>
  `${code} ${subjects.find(({ partId }) => partId !== undefined)?.partId ?? ''}`
const unique = <T extends { key: string }>(list: readonly T[]): T[] =>
  [...new Map(list.map(entry => [entry.key, entry])).values()]

/** Adapters that give what a board takes: those whose plug fits first, then the cheapest. */
function adaptersFor(board: Board, { supplies }: Catalogue): SupplyUnit[] {
  const misfit = (unit: SupplyUnit) => unit.cable?.plug === board.signs.power ? 0 : 1
  return [...supplies.values()].filter(unit => unit.kind === 'adapter' && Math.abs(unit.voltageV - 5) <= NEAR_V)
    .sort((a, b) => misfit(a) - misfit(b) || (a.price ?? Infinity) - (b.price ?? Infinity) || a.currentMa - b.currentMa)
}

/** Places that the maker fixed and that another board has not, or has as something else. */
function settled(plan: Plan, board: Board): { terminal: string, words: string }[] {
  const there = new Set(board.header.map(entry => entry.position))
  return Object.entries(plan.assignments)
    .flatMap(([terminal, { fixed, position }]) => fixed && position !== undefined && !there.has(position)
      ? [{ terminal, words: `position ${position}, to which you fixed ${nameOf(plan, terminal)}` }]
      : [])
}

/** Things of the maker's that are made for another board. */
const gone = (before: Plan,
  after: Plan) => before.parts.filter(part => !after.parts.some(other => other.id === part.id))
  .map(({ name }) => `${name}, which does not go with this board`)

function nameOf({ parts }: Plan, terminal: string): string {
  const { partId: id, terminal: end } = terminalNames(terminal)
  return `${parts.find(part => part.id === id)?.name ?? id} ${end}`.trim()
}

function spareOf({ lines, sockets }: Report): BoardTrial['spare'] {
  const usb = sockets.find(({ kind }) => kind === 'usb')
  return { lines: Math.max(0, lines.available - lines.used), usb: usb ? Math.max(0, usb.there - usb.plugs.length) : 0 }
}

/** Trials in the order in which they are offered: what carries the plan first, then fewer cautions, then the price. */
export const bestFirst = (trials: readonly BoardTrial[]): BoardTrial[] => [...trials].sort((a, b) =>
  Number(b.carries) - Number(a.carries) || Number(b.placed) - Number(a.placed) || a.counts.stops - b.counts.stops
  || a.counts.cautions - b.counts.cautions || a.price.total - b.price.total || a.boardId.localeCompare(b.boardId))

/**
 * Every board of the catalogue tried on the plan, those that carry it first. `onTrial` is told after each.
 * The way from one board to the next is where whoever waits may leave: throw in `onTrial`.
 */
export function tryBoards(
  plan: Plan, catalogue: Catalogue, onTrial?: (trial: BoardTrial, done: number, of: number) => void,
): BoardTrial[] {
  const boards = [...catalogue.boards.values()]
  return compared(boards.map((board, i) => {
    const trial = tryBoard(plan, board, catalogue)
    onTrial?.(trial, i + 1, boards.length)
    return trial
  }))
}

/** All trials of a plan together: what stops it on every board is the plan's own, and speaks against none of them. */
export function compared(trials: readonly BoardTrial[]): BoardTrial[] {
  const tried = trials.filter(({ placed }) => placed)
  const common = new Set(tried.length > 1
    ? tried[0]!.stops.map(({ key }) => key)
        .filter(key => tried.every(({ stops }) => stops.some(stop => stop.key === key)))
    : [])
  return bestFirst(trials.map((trial) => {
    const own = trial.stops.filter(({ key }) => !common.has(key))
    const titles = new Set(trial.stops.filter(({ key }) => common.has(key)).map(({ title }) => title))
    return {
      ...trial, carries: trial.placed && !own.length, against: trial.against.filter(title => !titles.has(title)),
      everywhere: [...titles],
      counts: { ...trial.counts, stops: own.length },
    }
  }))
}

/**
 * The difference between two boards in words that a maker weighs: "14 cheaper, wants an adapter more, 3 lines less".
 */
export function against(one: BoardTrial, other: BoardTrial): string {
  const said: string[] = []
  const by = Math.round(other.price.total - one.price.total)
  if (by) said.push(`${Math.abs(by)} ${by > 0 ? 'cheaper' : 'dearer'}`)
  const lines = one.spare.lines - other.spare.lines
  if (lines) said.push(`${Math.abs(lines)} ${Math.abs(lines) === 1 ? 'line' : 'lines'} `
    + `${lines > 0 ? 'more' : 'less'} free`)
  const usb = one.spare.usb - other.spare.usb
  if (usb) said.push(`${Math.abs(usb)} USB ${Math.abs(usb) === 1 ? 'socket' : 'sockets'} `
    + `${usb > 0 ? 'more' : 'less'} free`)
  const mine = one.added.map(({ name }) => name).filter(name => !other.added.some(entry => entry.name === name))
  if (mine.length) said.push(`wants ${mine.join(' and ')}`)
  return said.join(', ') || 'no difference that counts here'
}
