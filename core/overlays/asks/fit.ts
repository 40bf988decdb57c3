/** What the overlays of a part can be told: asked before the part is placed, and again when its line is written. */
import type { Board, BootNeed } from '../../catalogue/types'
import { isMet } from '../../facts/conditions'
import type { Facts, ResolvedPart } from '../../facts/types'
import { claimsOf, listedName, overlayNamed, resolveOverlay } from '../library'
import type { OverlaySpec } from '../library/types'

export type OverlayNeed = Extract<BootNeed, { kind: 'overlay' }> & Pick<NonNullable<ResolvedPart['part']['boot']>[number], 'whenPlaced'
  | 'whenOpen'>

/** Overlays that the part's file asks for with its present options. */
export function overlaysAsked(owner: Pick<ResolvedPart, 'part' | 'options'>): OverlayNeed[] {
  return (owner.part.boot ?? []).flatMap(need =>
    need.kind === 'overlay' && isMet(need.when, owner.options) ? [need as OverlayNeed] : [])
}

/** A select by its bus and its number there. */
export interface SpiSeat { bus: number, select: number }

const SELECT = /\{select(?::([\w-]+))?\}/

const paramNames = ({ params = {} }: OverlayNeed) => Object.keys(params)
const hasParam = (spec: OverlaySpec, name: string) => spec.params.some(param => param.name === listedName(spec, name))
const seated = (text: string, { bus, select }: SpiSeat) => text.replace(/\{spi\}/g, String(bus))
  .replace(new RegExp(SELECT, 'g'), String(select))

/**
 * True when the part's overlays can be told that its select terminal `signal` is at this seat. An overlay that
 * says nothing of seats is bound to the one it was written for; overlays of the maker's own are not known and
 * are taken to fit.
 */
export function fitsSeat(owner: Pick<ResolvedPart, 'part' | 'options' | 'signals'>, signal: string,
  seat: SpiSeat): boolean {
  const first = owner.signals.find(entry => entry.role === 'spi.select')?.id
  return overlaysAsked(owner).every((need) => {
    const spec = overlayNamed(seated(need.name, seat))
    if (!spec) return !SELECT.test(need.name)
    if (!spec.bus?.startsWith('spi')) return true
    const told = [need.name, ...paramNames(need), ...Object.values(need.params ?? {})].map(text => SELECT.exec(text))
      .find(match => match)
    // Each overlay speaks of one select terminal: the one it names, or the part's first.
    if ((told?.[1] ?? first) !== signal) return true
    if (SELECT.test(need.name)) return seat.bus === busOf(spec)
    const byName = paramNames(need).filter(name => /\{spi\}|\{select/.test(name))
    if (byName.length) return byName.every(name => hasParam(spec, seated(name, seat)))
    const byValue = Object.entries(need.params ?? {}).find(([, value]) => SELECT.test(value))
    if (byValue) {
      return seat.bus === busOf(spec)
        && (spec.params.find(param => param.name === byValue[0])?.values?.includes(String(seat.select)) ?? true)
    }
    return seat.bus === busOf(spec) && seat.select === Number(spec.select ?? 0)
  })
}

const busOf = (spec: OverlaySpec) => Number(/^spi(\d+)$/.exec(spec.bus ?? '')?.[1] ?? 0)

/** True when the part's overlays can be told that it lies on this I²C bus of the board. */
export function fitsI2cBus(owner: Pick<ResolvedPart, 'part' | 'options'>, busId: string): boolean {
  return overlaysAsked(owner).every((need) => {
    const spec = overlayNamed(need.name)
    if (!spec || owner.part.isAddOn || !owner.part.i2c) return true
    return busId === (spec.bus === '{bus}' ? 'i2c1' : spec.bus ?? 'i2c1') || hasParam(spec, busId)
  })
}

/** True when the part has its place and its overlays cannot be told of it, so that one has to be made. */
export function cannotBeTold(owner: ResolvedPart, facts: Facts): boolean {
  if (!overlaysAsked(owner).length) return false
  // Two screens by lines of the library would read one file of start commands.
  if (readsStartFile(owner)) {
    const earlier = facts.parts.slice(0, facts.parts.indexOf(owner)).filter(other => readsStartFile(other))
    if (earlier.some(other => !isMade(other, facts))) return true
  }
  const i2c = facts.groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus
  if (i2c?.controller && !fitsI2cBus(owner, i2c.id)) return true
  // Behind a hub the kernel numbers the bus when it starts: no line of the library's can name it.
  if (i2c && !i2c.controller && !i2c.software) return true
  const spi = facts.groups.find(group => group.owner === owner && group.kind === 'spi')
  if (!spi?.bus) return false
  const selects = owner.signals.filter(signal => signal.role === 'spi.select')
  return selects.some((signal) => {
    const select = facts.selectNumbers.get(`${owner.id}.${signal.id}`)
    return select !== undefined && !fitsSeat(owner, signal.id, { bus: Number(spi.bus!.id.replace('spi', '')), select })
  })
}

/** True for screens whose driver is told by a file of start commands. */
export const readsStartFile = (owner: Pick<ResolvedPart, 'part'>): boolean =>
  owner.part.kernel?.generic === 'panel-mipi-dbi-spi'

/** True when Voltaris can write an overlay of its own for the part on this board. */
export const canBeMade = (owner: Pick<ResolvedPart, 'part'>, board: Board | null): boolean =>
  owner.part.kernel !== undefined && (board?.tree?.symbols ?? true) && board !== null

/**
 * True when the overlay of the part is one that Voltaris makes: the maker chose it, or the library's cannot be told
 * of its place.
 */
export function isMade(owner: ResolvedPart, facts: Facts): boolean {
  return facts.plan.boot?.made?.includes(owner.id) === true
    || (canBeMade(owner, facts.board) && (cannotBeTold(owner, facts)
    // A hub is written together with what lies behind it, so that both speak of one node.
      || facts.groups.some(group =>
        group.owner !== owner && group.bus?.id.startsWith(`${owner.id}.`) && isMade(group.owner, facts))))
}

/**
 * Circuits of which there is one and that the part's overlays hold: two parts that hold the same exclude each other.
 */
export function circuitsOf(owner: Pick<ResolvedPart, 'part' | 'options'>): string[] {
  return [...new Set(overlaysAsked(owner).flatMap(need => overlayNamed(need.name)?.holds ?? []))]
}

/** Lines of the header that the part's overlays take whatever they are told: nobody else can have them. */
export function fixedLinesOf(owner: Pick<ResolvedPart, 'part' | 'options'>, board: Board): number[] {
  return overlaysAsked(owner).flatMap((need) => {
    const spec = overlayNamed(need.name)
    if (!spec) return []
    const told = new Set([
      ...paramNames(need), ...Object.values(need.whenPlaced ?? {}).flatMap(Object.keys),
      ...Object.values(need.whenOpen ?? {}).flatMap(Object.keys),
    ].map(name => listedName(spec, name)))
    const own = new Set((spec.enables ?? []).flatMap(id => board.controllers.filter(controller => controller.id === id)
      .flatMap(controller => controller.routes.flatMap(route => Object.values(route.lines)))))
    const claims = claimsOf(resolveOverlay(spec, []), board)
    return claims.flatMap(claim => claim.kind === 'line' && !own.has(claim.line)
      && !(claim.param && (told.has(claim.param) || told.has('noints')
        || told.has(`no-${claim.param.replace(/-pin$/, '')}`)))
      ? claim.line
      : [])
  })
}
