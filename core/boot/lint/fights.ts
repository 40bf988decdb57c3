/** Overlays that want the same thing, and overlays that want what a part of the plan has. */
import type { Board } from '../../catalogue/types'
import { claimsOf, isOn, newestName, overlayNamed, resolveOverlay } from '../../overlays/library'
import { BASE_PARAMS } from '../../overlays/library/settings'
import type { Claim } from '../../overlays/library/types'
import type { Asked, Where } from '../scope/effective'
import { busName } from './order'
import type { LintContext, LintFinding, LintRule, TextFix } from './types'
import { commentOut, dropParam, found } from './words'

/** Somebody who takes something: an overlay line, or a bus that a base parameter switches on. */
interface Taker {
  name: string
  /** The line with its parameters, in one order: the same line twice is told by another rule. */
  said: string
  where: Where
  claims: Claim[]
  drop: TextFix
  overlay: boolean
  excludes: string[]
}

/** Claims of every line that applies, in file order. */
export function takersOf({ effective, files, board }: LintContext): Taker[] {
  // The other dialects load overlays of other families, whose names say nothing here.
  if (files.dialect !== 'key-value') return []
  // An overlay for the selects says itself which lines they are; the others are free.
  const selects = new Set(effective.asked.flatMap(asked => asked.kind === 'overlay' && asked.applies !== 'never'
    ? /^(\w+)-\dcs$/.exec(asked.name)?.[1] ?? []
    : []))
  const said = new Set<string>()
  return effective.asked.flatMap((asked): Taker[] => {
    // The same line twice takes nothing more.
    if (asked.kind === 'overlay' || asked.kind === 'param') {
      const key = `${asked.kind} ${asked.applies} ${asked.name} `
        + `${asked.kind === 'param' ? asked.value : JSON.stringify(asked.params.map(param => [param.name, param.value]))}`
      if (said.has(key)) return []
      said.add(key)
    }
    if (asked.kind === 'overlay' && asked.applies !== 'never') {
      const spec = overlayNamed(asked.name)
      if (!spec || files.overlays?.some(overlay => overlay.name === asked.name)) return []
      // An overlay of the newest family does not go on elsewhere, and takes nothing.
      if (newestName(asked.name) && board?.bootModels?.length && !board.bootModels.includes('pi5')) return []
      return [{
        name: asked.name, said: `${asked.name} `
          + `${asked.params.map(param => `${param.name}=${param.value}`).sort().join(',')}`,
        where: asked.where, claims: claimsOf(resolveOverlay(spec, asked.params), board), overlay: true,
        excludes: spec.excludes ?? [],
        drop: commentOut(`Make line ${asked.where.line} a comment`, files, asked.where),
      }]
    }
    if (asked.kind === 'param' && asked.applies === 'always') return baseTaker(asked, files, board, selects)
    return []
  })
}

function baseTaker(
  asked: Extract<Asked, { kind: 'param' }>, files: LintContext['files'], board: Board | null,
  selects: ReadonlySet<string>,
): Taker[] {
  const enables = BASE_PARAMS.find(param => param.name === asked.name)?.enables
  if (!enables || !isOn(asked.value)) return []
  const lines = linesOfBus(enables, board, selects.has(enables))
  return [{
    name: asked.name, said: enables, where: asked.where, overlay: false, excludes: [],
    drop: dropParam(`Switch ${busName(enables)} off`, files, asked.where),
    claims: [{ kind: 'enables', bus: enables },
      ...lines.map(line => ({ kind: 'line' as const, line, as: busName(enables) }))],
  }]
}

/** The lines of a controller's first route; those of the usual header where no board is known. */
export function linesOfBus(bus: string, board: Board | null, withoutSelects = false): number[] {
  const route = board?.controllers.find(controller => controller.id === bus)?.routes[0]
  // Flow control is asked for by itself, where a port has it at all.
  if (route) {
    return Object.entries(route.lines)
      .filter(([signal]) => signal !== 'cts' && signal !== 'rts' && !(withoutSelects && signal.startsWith('select')))
      .map(([, line]) => line)
  }
  return { i2c1: [2, 3], i2c0: [0, 1], spi0: [7, 8, 9, 10, 11], i2s: [18, 19, 20, 21], uart0: [14, 15] }[bus] ?? []
}

/** More overlays than these no board loads; each is held against all others. */
const MAX_TAKERS = 150

export const overlaysFight: LintRule = (context) => {
  const takers = takersOf(context).slice(0, MAX_TAKERS)
  const findings: LintFinding[] = []
  takers.forEach((taker, i) => {
    for (const earlier of takers.slice(0, i)) {
      const clash = between(earlier, taker)
      if (clash) findings.push(clash)
    }
  })
  return findings
}

/** Two displays of one job, two owners of a line, two parts at an address: the first reason that holds. */
function between(a: Taker, b: Taker): LintFinding | null {
  if (same(a, b)) return null
  const both = `${a.name} (line ${a.where.line}) and ${b.name} (line ${b.where.line})`
  const fixes = [b.drop, a.drop]
  if (a.excludes.includes(b.name) || b.excludes.includes(a.name)) {
    return found(
      'overlay.fight', 'caution', b.where, `${a.name} and ${b.name} exclude each other`,
      `${both} do the same job in two ways: load one of them.`, { fixes },
    )
  }
  const circuit = a.claims.find(claim =>
    claim.kind === 'circuit' && b.claims.some(other => other.kind === 'circuit' && other.name === claim.name))
  if (circuit?.kind === 'circuit') {
    return found(
      'overlay.fight', 'caution', b.where, `Two overlays want ${circuit.name}`,
      `${both} both want ${circuit.name}, and there is one. The second finds it taken.`, { fixes },
    )
  }
  const line = clashingLine(a, b)
  if (line) {
    return found(
      'overlay.line-twice', 'stop', b.where, `Line ${line.line} is taken twice`,
      `${both} both take line ${line.line}: ${line.as} there, ${line.other} here. The second driver is refused the `
      + 'line, or the first goes silent. Give one of them another line.',
      { figures: [{ label: 'line', value: line.line, origin: 'overlay library: memory' }], fixes },
    )
  }
  const address = a.claims.find(claim =>
    claim.kind === 'address'
    && b.claims.some(other => other.kind === 'address' && other.bus === claim.bus && other.address === claim.address))
  if (address?.kind === 'address') {
    return found(
      'overlay.address-twice', 'stop', b.where,
      `Two parts at 0x${address.address.toString(16)} on ${busName(address.bus)}`,
      `${both} put two parts at one address of one bus: the second driver is refused it. Strap one part to another `
      + 'address, or put it on another bus.',
      { figures: [{ label: 'address', value: `0x${address.address.toString(16)}`, origin: 'overlay library: memory' }],
        fixes },
    )
  }
  const select = a.claims.find(claim =>
    claim.kind === 'select'
    && b.claims.some(other => other.kind === 'select' && other.bus === claim.bus && other.select === claim.select))
  if (select?.kind === 'select') {
    return found(
      'overlay.select-twice', 'stop', b.where, `Select ${select.select} of ${busName(select.bus)} is taken twice`,
      `${both} both put a part on select ${select.select}: the second driver is refused it.`, { fixes },
    )
  }
  return null
}

const same = (a: Taker, b: Taker) => a.said === b.said

/**
 * A line both have. A bus that an overlay switches on as well as a parameter is no clash, and a part's own bus lines
 * are not either.
 */
function clashingLine(a: Taker, b: Taker): { line: number, as: string, other: string } | null {
  const buses = (taker: Taker) =>
    taker.claims.flatMap(claim => claim.kind === 'enables' || claim.kind === 'bus' ? claim.bus : [])
  if (buses(a).some(bus =>
    buses(b).includes(bus) && a.claims.some(claim => claim.kind === 'enables' && claim.bus === bus)
    && b.claims.some(claim => claim.kind === 'enables' && claim.bus === bus))) {
    return null
  }
  for (const claim of a.claims) {
    if (claim.kind !== 'line') continue
    const other = b.claims.find((entry): entry is Extract<Claim, { kind: 'line' }> =>
      entry.kind === 'line' && entry.line === claim.line)
    // The selects of SPI 0 give way: an overlay that has its part there says so itself.
    if (other && !(isSelect(a, b, claim.line) || isSelect(b, a, claim.line))) return { line: claim.line, as: claim.as,
      other: other.as }
  }
  return null
}

/**
 * True when `bus` is SPI 0 by parameter and the line one of its selects that the other overlay names as its own select.
 */
const isSelect = (bus: Taker, other: Taker, line: number) =>
  bus.name === 'spi' && (line === 7 || line === 8)
  && other.claims.some(claim => claim.kind === 'enables' && claim.bus === 'spi0')

/** A line of an overlay that a part of the plan has, and that the overlay is not for. */
export const linesOfThePlan: LintRule = (context) => {
  const { plan } = context
  if (!plan) return []
  return takersOf(context).flatMap((taker): LintFinding[] => taker.claims.flatMap((claim): LintFinding[] => {
    if (claim.kind !== 'line') return []
    const owner = plan.lineOwners.get(claim.line)
    if (!owner) return []
    const mine = plan.needs.some(need => need.partIds.includes(owner.partId) && need.need.name === taker.name)
    const bus = taker.claims.some(entry =>
      entry.kind === 'enables' && plan.buses.get(entry.bus)?.partIds.includes(owner.partId))
    // An overlay of the driver that the part itself is bound to is most likely for it.
    const same = owner.compatible !== undefined && overlayNamed(taker.name)?.tree.includes(owner.compatible)
    if (mine || bus || same) return []
    return [found(
      'overlay.line-of-part', 'caution', taker.where, `${taker.name} takes line ${claim.line}, which ${owner.name} has`,
      `${owner.name} has it for ${owner.serves}; the overlay takes it for ${claim.as}. One of the two does not work. `
      + 'Give one another line, or take the overlay out.',
      { partIds: [owner.partId], figures: [{ label: 'line', value: claim.line, origin: 'overlay library: memory' }],
        fixes: [taker.drop] },
    )]
  }))
}
