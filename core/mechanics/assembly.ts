/**
 * The thing as it stands on the table: every body in its place. Board, what stands on it, coolers, add-on boards above
 * each other, plugs in sockets, wires on the header, case and lid, plate, and what lies beside. Places follow from the
 * plan; the maker can say another one.
 */
import { supplyComponent } from '../plan/ids'
import type { Board } from '../catalogue/types'
import type { Body, Standing } from '../catalogue/shapes/body'
import { misfitOf, thingKind } from '../catalogue/things'
import { coverOf, passesThrough } from '../facts/seats'
import type { Facts, ResolvedPart } from '../facts/types'
import { boardPlugs, pluggedInto } from '../netlist/supply/plugged'
import type { SupplyTree } from '../netlist/supply/types'
import type { NodeRef } from '../plan/power'
import type { PlacedBody } from './bodies'
import { flatRuns, plugTurns, wireTurns } from './cables'
import { SERIES } from './fasteners'
import { laidOut } from './lay-out'
import { mountOf } from './panel'
import { beyond, PLUG_MM } from './plugs'
import { FILM_MM, PITCH_MM, seatsOf, stackOnSpacers } from './stack'
import { sittings, TOUCHES_MM } from './plug-fit'
import { about, boundsOf, box, gapOf, length, middle, type Range, type Solid } from './solids'

export interface Enclosed {
  partId: string
  name: string
  /** Between the walls. */
  x: Range | null
  y: Range | null
  lidMm: number | null
  origin: string
}

export interface Assembly {
  bodies: PlacedBody[]
  /** The case that is in the plan and goes with the board. */
  inside: Enclosed | null
  /** Things of the plan that nobody knows the size of. */
  unknown: { partId: string, name: string }[]
  /** Plugs for which the board has no socket left. */
  without: string[]
}

/** Plastic of a pin header, and a pin above it, mm. memory */
const PLASTIC_MM = 2.5
const PIN_MM = 6
/** Housing of a wire's socket, mm. memory */
const HOUSING_MM = 14
/** What is wider than the chip begins here, mm. memory */
const SHOULDER_MM = 6
/** What is laid out and is longer lies there rolled up or cut off. */
const LONGEST_LAID_MM = 200

/** The assembly of a plan. Pure. */
export function assemblyOf(facts: Facts, tree: SupplyTree): Assembly {
  return new Assembling(facts, tree).done()
}

class Assembling {
  private readonly bodies: PlacedBody[] = []
  private readonly unknown: Assembly['unknown'] = []
  private readonly without: string[] = []
  private readonly top = new Map<string, number>()
  private readonly body: Body | undefined

  constructor(private readonly facts: Facts, private readonly tree: SupplyTree) {
    this.body = facts.board?.body
    const { board } = facts
    if (board && this.body) this.addBoard(board, this.body)
    for (const owner of facts.stack) this.addSeat(owner)
    if (facts.plan.build.spacers) this.addSpacers()
    this.addWires()
    this.addPlugs()
    // Fans come last: where nothing is said, one hangs under the lid only where there is room for it.
    const rank = (owner: ResolvedPart) => isFan(owner) ? 1 : 0
    for (const owner of [...facts.parts].sort((a,
      b) => rank(a) - rank(b))) if (!this.isPlaced(owner)) this.addPart(owner)
    this.addCables()
    this.layOut()
  }

  done(): Assembly {
    return { bodies: this.bodies, inside: this.inside(), unknown: this.unknown, without: this.without }
  }

  private add(body: PlacedBody): void {
    this.bodies.push(body)
  }

  private isPlaced(owner: ResolvedPart): boolean {
    const isStick = owner.part.plugs?.some(({ wide }) => wide)
    return owner.part.seat !== undefined || this.bodies.some(body => body.owner === owner.id && (body.ground || (isStick
      && body.kind === 'plug')))
  }

  private addBoard(board: Board, body: Body): void {
    const common = { owner: '@board', origin: body.origin }
    const thick = body.boardMm ?? 0
    const outline = { x: [0, body.widthMm], y: [0, body.depthMm] } as const
    this.add({ ...common, id: '@board', name: board.name, kind: 'board',
      solid: box(outline.x, outline.y, [-thick, 0]) })
    if (body.aboveMm) this.add({
      ...common, id: '@board.above', name: 'low parts of the board', kind: 'standing',
      solid: box(outline.x, outline.y, [0, body.aboveMm]),
    })
    if (body.belowMm) this.add({
      ...common, id: '@board.below', name: 'joints under the board', kind: 'standing',
      solid: box(outline.x, outline.y, [-thick - body.belowMm, -thick]),
    })
    for (const part of body.standing ?? []) this.add({
      ...common, id: `@board.${part.id}`, name: part.what, kind: 'standing', solid: standingSolid(part, thick),
      ...part.kind === 'socket' && { standing: part },
    })
    if (body.headerAt && (!board.headerUnpopulated
      || this.facts.parts.some(({ part }) => thingKind(part) === 'header'))) {
      const columns = Math.ceil(board.header.length / 2)
      const { xMm, yMm } = body.headerAt
      const half = PITCH_MM / 2
      this.add({
        ...common, id: '@board.pins', name: 'header pins', kind: 'pins',
        solid: box([xMm - half, xMm + (columns - 0.5) * PITCH_MM], [yMm - half, yMm + 1.5 * PITCH_MM],
          [0, PLASTIC_MM + PIN_MM]),
      })
    }
    const mounted = mountOf(this.facts)
    if (mounted) this.addMount(mounted, body)
  }

  private addMount({ mount, ground,
    answer: { spacerMm: seatMm, studWashers = 0 } }: NonNullable<ReturnType<typeof mountOf>>, body: Body,
  ): void {
    if (seatMm === null) return
    const spacerMm = seatMm + studWashers * SERIES[mount.thread].washerMm
    const under = -(body.boardMm ?? 0)
    const common = { owner: '@plate', origin: 'practice' }
    for (const [i, { xMm, yMm, dMm }] of (body.holes ?? []).entries()) this.add({
      ...common, id: `@plate.spacer-${i + 1}`, name: `spacer ${i + 1}`, kind: 'spacer',
      solid: { shape: 'cylinder', x: about(xMm, 2 * dMm), y: about(yMm, 2 * dMm), z: [under - spacerMm, under] },
    })
    if (ground) {
      const { owner, x0, y0 } = ground
      const { widthMm, depthMm, boardMm = 0, aboveMm, origin } = owner.part.body!
      return this.add({
        id: owner.id, owner: owner.id, name: owner.name, kind: 'part', origin, ground: true,
        solid: box(from(x0, widthMm), from(y0, depthMm), [under - spacerMm - boardMm - aboveMm, under - spacerMm]),
      })
    }
    this.add({
      ...common, id: '@plate', name: 'the plate', kind: 'plate', origin: 'yours',
      solid: box([-10, body.widthMm + 10], [-10, body.depthMm + 10],
        [under - spacerMm - mount.plateMm, under - spacerMm]),
    })
  }

  /** A board that is pushed on: over the header where it belongs, above what is there already. */
  private addSeat(owner: ResolvedPart): void {
    const at = this.body?.headerAt
    const { body } = owner.part
    const seat = seatsOf(this.facts).find(one => one.owner === owner)
    if (!seat || !body || !at) return void (body || this.unknown.push({ partId: owner.id, name: owner.name }))
    const { x0, y0, underMm: under } = seat
    const thick = body.boardMm ?? 0
    const [x, y]: [Range, Range] = [[x0, x0 + body.widthMm], [y0, y0 + body.depthMm]]
    const common = { owner: owner.id, origin: body.origin, kind: 'add-on' as const }
    this.add({ ...common, id: owner.id, name: owner.name, solid: box(x, y, [under, under + thick]) })
    if (body.aboveMm) this.add({
      ...common, id: `${owner.id}.above`, name: `what stands on ${owner.name}`,
      origin: body.origins?.aboveMm ?? body.origin,
      // Where the header comes out again its strip is free.
      solid: box(x, passesThrough(owner) ? [y[0], Math.max(y[0] + 1, at.yMm - PITCH_MM)] : y,
        [under + thick, under + thick
        + body.aboveMm]),
    })
    if (body.belowMm) this.add({
      ...common, id: `${owner.id}.below`, name: `joints under ${owner.name}`,
      solid: box(x, y, [under - body.belowMm, under]),
    })
    if (this.facts.plan.build.places[owner.id]?.film) {
      const lowest = under - (body.belowMm ?? 0)
      this.add({
        ...common, kind: 'film', id: `${owner.id}.film`, name: `the film under ${owner.name}`, origin: 'practice',
        solid: box(x, y, [lowest - FILM_MM, lowest]),
      })
    }
    this.top.set(owner.id, under + thick)
  }

  /** What holds the boards that are pushed on. */
  private addSpacers(): void {
    const { thread, levels } = stackOnSpacers(this.facts)
    const across = 2 * SERIES[thread].d
    for (const { partId, below, spacerMm, holes, problem } of levels) {
      if (spacerMm === null || problem !== null) continue
      const from = below === null ? 0 : this.top.get(below) ?? 0
      for (const [i, { x, y }] of holes.entries()) this.add({
        id: `${partId}.spacer-${i + 1}`, owner: partId, name: `spacer ${i + 1} under ${partId}`, kind: 'spacer',
        origin: 'practice',
        solid: { shape: 'cylinder', x: about(x, across), y: about(y, across), z: [from, from + spacerMm] },
      })
    }
  }

  /** Upper face of what lies over these positions: of an add-on board, or the board's own. */
  private topOver(from: number, to: number): number {
    return Math.max(0, ...this.facts.stack.map((lower) => {
      const cover = coverOf(lower)
      return cover && cover.from <= to && cover.to >= from ? this.top.get(lower.id) ?? 0 : 0
    }))
  }

  /** One housing for each position that a wire goes to. */
  private addWires(): void {
    const at = this.body?.headerAt
    if (!at || (this.facts.board?.headerUnpopulated && !this.bodies.some(({ id }) => id === '@board.pins'))) return
    for (const [position, terminals] of [...this.facts.atPosition].sort(([a], [b]) => a - b)) {
      if (terminals.every(({ owner }) => owner.part.seat)) continue
      const x = at.xMm + (Math.ceil(position / 2) - 1) * PITCH_MM
      const y = at.yMm + (position % 2 ? 0 : PITCH_MM)
      const over = this.topOver(position, position)
      this.add({
        id: `@wire.${position}`, owner: '@wires', name: `the wire at position ${position}`, kind: 'wire',
        origin: 'memory',
        solid: box(about(x, PITCH_MM), about(y, PITCH_MM), [over + PLASTIC_MM, over + PLASTIC_MM + HOUSING_MM]),
      })
    }
  }

  /** Plugs and sticks in the board's sockets, where they fit beside each other if there is a way. */
  private addPlugs(): void {
    const sockets = this.bodies.filter(body => body.standing)
    for (const kind of ['usb', 'video'] as const) {
      const there = sockets.filter(({ standing }) => standing!.socket === kind)
      const plugs = [
        ...this.facts.parts.flatMap(owner => boardPlugs(owner, this.tree).filter(({ socket }) => socket === kind)
          .map(plug => ({ owner: owner.id, name: owner.name, body: plug.wide ? owner.part.body : undefined }))),
        ...kind === 'usb'
          ? pluggedInto(this.tree, '@usb' as NodeRef).filter(node => !node.partId).map(({ id, name }) =>
              ({ owner: supplyComponent(id), name, body: undefined }))
          : [],
      ]
      if (!there.length || !plugs.length) continue
      const small = (this.facts.board?.socketSizes?.[kind] ?? 'full') !== 'full'
      const solids = plugs.map(({ body }) => there.map(({ solid, standing }) => {
        const [across, high, out] = PLUG_MM[small ? 'small' : kind]
        return beyond(solid, standing!.opens, body ? [body.widthMm, body.aboveMm, body.depthMm] : [across, high, out])
      }))
      const wished = plugs.map(({ owner }) => {
        const at = there.findIndex(({ standing }) => standing!.id === this.facts.plan.build.places[owner]?.socket)
        return at < 0 ? null : at
      })
      sittings(solids, wished).forEach((at, i) => {
        const plug = plugs[i]!
        if (at === null) return void this.without.push(plug.owner)
        this.add({
          id: `${plug.owner}#${kind}`, owner: plug.owner, kind: 'plug', solid: solids[i]![at]!,
          socket: there[at]!.standing!.id,
          name: plug.body ? plug.name : `the plug of ${plug.name}`,
          origin: plug.body?.origins?.widthMm ?? plug.body?.origin ?? 'memory',
        })
      })
    }
  }

  private addPart(owner: ResolvedPart): void {
    const { part, id, name } = owner
    const kind = thingKind(part)
    const { body } = part
    if (kind === 'case' || kind === 'card' || kind === 'header' || kind === 'adapter' || kind === 'tool') return
    if (!body) return void this.unknown.push({ partId: id, name })
    const chip = this.bodies.find(({ id: other }) => this.body?.standing?.some(standing =>
      standing.kind === 'processor' && other === `@board.${standing.id}`))
    const place = this.facts.plan.build.places[id]
    if (kind === 'cooler' && chip) {
      if (misfitOf(part, this.facts.board) !== null) return
      const padMm = part.thing?.padMm ?? 0
      const from = chip.solid.z[1] + padMm
      const to = Math.max(from + 0.1, part.thing?.heightMm ?? from + body.aboveMm)
      const origin = part.thing?.origin ?? body.origin
      if (padMm) this.add({
        id: `${id}.pad`, owner: id, name: `the pad of ${name}`, kind: 'cooler', origin,
        solid: { ...chip.solid, z: [chip.solid.z[1], from] },
      })
      // A wide one stands on a foot as large as the chip, above what is beside it.
      const shoulder = body.widthMm > length(chip.solid.x) + 4 && to > SHOULDER_MM ? SHOULDER_MM : from
      const common = { owner: id, name, kind: 'cooler' as const, origin }
      if (shoulder > from) this.add({ ...common, id: `${id}.foot`, solid: { ...chip.solid, z: [from, shoulder] } })
      return this.add({
        ...common, id, solid: box(about(middle(chip.solid.x), body.widthMm), about(middle(chip.solid.y), body.depthMm),
          [shoulder, to]),
      })
    }
    const [wide, deep] = place?.turned ? [body.depthMm, body.widthMm] : [body.widthMm, body.depthMm]
    const high = (body.boardMm ?? 0) + body.aboveMm
    const inside = this.inside()
    const common = {
      id, owner: id, name, kind: isFan(owner) ? 'fan' as const : 'part' as const,
      origin: body.origins?.aboveMm ?? body.origin,
    }
    const on = place?.on ?? (isFan(owner) ? 'lid' : 'table')
    if (on === 'lid' && inside?.lidMm != null) {
      const x = place?.xMm === undefined
        ? about(chip ? middle(chip.solid.x) : middle(inside.x ?? [0, 0]), wide)
        : from(place.xMm, wide)
      const y = place?.yMm === undefined
        ? about(chip ? middle(chip.solid.y) : middle(inside.y ?? [0, 0]), deep)
        : from(place.yMm, deep)
      const solid = box(x, y, [inside.lidMm - high, inside.lidMm])
      const hasRoom = this.bodies.every(other => other.laid || gapOf(other.solid, solid) > -TOUCHES_MM)
      if (place || hasRoom) return this.add({ ...common, solid })
    }
    const ground = on === 'board' ? this.body?.aboveMm ?? 0 : this.table()
    const laid = on !== 'board' && (place?.xMm === undefined || place.yMm === undefined)
    const [left, near] = on === 'board' && this.body
      ? [(this.body.widthMm - wide) / 2, (this.body.depthMm - deep) / 2]
      : [0, 0]
    const shown = (long: number) => laid ? Math.min(long, LONGEST_LAID_MM) : long
    this.add({
      ...common, laid, solid: box(from(place?.xMm ?? left, shown(wide)), from(place?.yMm ?? near, shown(deep)),
        [ground, ground + high]),
    })
  }

  /** Cables where they leave the board. */
  private addCables(): void {
    const { parts } = this.facts
    const bodies = [...this.bodies]
    const cables = [...wireTurns(bodies), ...plugTurns(bodies, parts),
      ...this.body ? flatRuns(bodies, parts, this.body) : []]
    for (const cable of cables) this.add(cable)
  }

  /** What everything lies on. */
  private table(): number {
    const plate = this.bodies.find(({ kind }) => kind === 'plate')
    const lowest = Math.min(0,
      ...this.bodies.filter(({ owner, ground }) => owner === '@board' || ground).map(({ solid }) => solid.z[0]))
    return plate ? plate.solid.z[1] : lowest
  }

  /** What has no place yet is laid out beside and below everything else. */
  private layOut(): void {
    const laid = this.bodies.filter(body => body.laid)
    const bounds = boundsOf(this.bodies.filter(body => !body.laid).map(({ solid }) => solid))
    const places = laidOut(laid.map(({ solid }) => [length(solid.x), length(solid.y)]), bounds)
    laid.forEach((body, i) => {
      const [x, y] = places[i]!
      body.solid = { ...body.solid, x: from(x, length(body.solid.x)), y: from(y, length(body.solid.y)) }
    })
  }

  private inside(): Enclosed | null {
    const owner = this.facts.parts.find(({ part }) => thingKind(part) === 'case')
    const { board } = this.facts
    const thing = owner?.part.thing
    if (!owner || !thing || !board?.outline || (thing.outlines && !thing.outlines.includes(board.outline))) return null
    const over = (outside: number,
      within: number | undefined): Range | null => within === undefined ? null : about(outside / 2, within)
    return {
      partId: owner.id, name: owner.name, origin: thing.origin ?? 'memory', lidMm: thing.lidMm ?? null,
      x: this.body ? over(this.body.widthMm, thing.insideMm?.widthMm) : null,
      y: this.body ? over(this.body.depthMm, thing.insideMm?.depthMm) : null,
    }
  }
}

/** What hangs under a lid where there is one: a fan. */
const isFan = ({ part }: ResolvedPart) => part.body?.hangs ?? false
const from = (start: number, long: number): Range => [start, start + long]

/** What stands on a board, where it stands. */
function standingSolid({ xMm, yMm, widthMm, depthMm, fromMm = 0, toMm, under, round }: Standing, thick: number): Solid {
  const z: Range = under ? [-thick - toMm, -thick - fromMm] : [fromMm, toMm]
  return round
    ? { shape: 'cylinder', x: from(xMm, widthMm), y: from(yMm, widthMm), z }
    : box(from(xMm, widthMm), from(yMm, depthMm), z)
}
