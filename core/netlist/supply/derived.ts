/**
 * The nodes that follow from the plan: its supply, the board with its ways in and its rails, and every part that draws.
 */
import { isPositionFeed } from '../../plan/ids'
import { isMet } from '../../facts/conditions'
import type { Facts, ResolvedPart, Terminal } from '../../facts/types'
import type { NodeRef, PowerPlan } from '../../plan/power'
import { RAIL_V } from '../../catalogue/rails'
import type { Board, BoardHeat, BoardPower, Draw, Supply } from '../../catalogue/types'
import { boardDraw, boardHeat, boardPower } from '../../facts/board'
import { figuresOf, originOf, USUAL_SURGE_S, type Origins } from './figures'
import { leadNode, sourceNode } from './own'
import type { SupplyNode, TreeProblem } from './types'

/** The plan's supply and its lead. */
export function supplyNodes({ supply, supplyMa }: Facts, power: PowerPlan, problems: TreeProblem[]): SupplyNode[] {
  if (!supply) return []
  const given: Record<string, number> = supplyMa !== null && supplyMa !== supply.currentMa
    ? { currentMa: supplyMa }
    : {}
  const source = sourceNode('@supply', supply.name, supply, { ...given, ...power.figures['@supply'] }, false, problems)
  const lead = leadNode('@cable', '@supply', supply, power.figures['@cable'], problems)
  return lead ? [source, lead] : [source]
}

/** The board: sockets, rails and its own draw. */
export function boardNodes(facts: Facts, power: PowerPlan, problems: TreeProblem[]): SupplyNode[] {
  const { board } = facts
  if (!board) return []
  const has = boardPower(board)
  const node = (id: NodeRef, kind: SupplyNode['kind'], role: SupplyNode['role'], name: string,
    joints: Pick<SupplyNode, 'from' | 'input'
    | 'output'>, file: Record<string, number>, more: Partial<SupplyNode> = {}, origins: Origins = has): SupplyNode =>
    ({
      id, kind, role, name, ...joints, figures: figuresOf(id, kind, file, origins, power.figures[id], problems),
      own: false, open: false,
      ...more,
    })
  const fed = (id: NodeRef, usual: NodeRef | null) => feedOf(power, id, usual)
  const ownFeed = facts.supply?.cable ? '@cable' : '@supply'
  const socketFrom = fed('@socket', facts.supply ? ownFeed : null)
  const headerFrom = fed('@header', null)
  const draw = boardDraw(board, power.clock)
  const nodes = [
    ...socketFrom
      ? [node(
          '@socket', 'socket', 'path', 'Power socket', { from: [socketFrom], input: null, output: '@5V' },
          { ohm: has.socketOhm, ratedMa: has.socketRatedMa },
        )]
      : [],
    ...headerFrom
      ? [node(
          '@header', 'header-input', 'path', 'In through the header',
          { from: [headerFrom], input: null, output: '@5V' },
          { ohm: has.positionOhm / fivePositions(board), ratedMa: has.positionRatedMa * fivePositions(board) },
        )]
      : [],
    node(
      '@5V', 'rail', 'joint', '5 V rail',
      { from: [...socketFrom ? ['@socket'] : [], ...headerFrom ? ['@header'] : []], input: '@5V', output: '@5V' }, {},
    ),
    node('@board', 'board', 'load', board.name, { from: ['@5V'], input: '@5V', output: null },
      {
        idleMa: draw.idleMa, typicalMa: draw.typicalMa, peakMa: draw.peakMa,
        surgeMa: Math.max(has.inrushMa, draw.peakMa),
        surgeS: USUAL_SURGE_S, ratedV: 5,
        leastV: has.leastV, mostV: 5.5, signV: has.signV,
        slowsC: boardHeat(board).slowsC, stopsC: boardHeat(board).stopsC,
      },
      { law: 'power' }, boardOrigins(has, draw, boardHeat(board))),
    node('@3V3', has.rail3V3, 'path', '3V3 regulator', { from: ['@5V'], input: '@5V', output: '@3V3' },
      { setV: 3.3, headroomV: has.rail3V3HeadroomV, leastInV: 2.5, quiescentMa: 0, ohm: 0.02, mostInV: 6 },
      { efficiency: has.rail3V3 === 'step-down'
        ? [{ currentMa: 0, efficiency: has.rail3V3Efficiency }, { currentMa: 1000, efficiency: has.rail3V3Efficiency }]
        : undefined }),
    node('@usb', 'usb-rail', 'path', 'USB sockets', { from: ['@5V'], input: '@5V', output: '@usb' },
      { ohm: has.usbOhm }),
  ]
  return nodes
}

/** The board's draw is measured; what its supply circuit wants comes from its own figures. */
const boardOrigins = (has: BoardPower, draw: Draw, heat: BoardHeat): Origins => ({
  origin: draw.origin,
  origins: {
    surgeMa: originOf(has, 'inrushMa'), surgeS: 'memory', slowsC: heat.origin, stopsC: heat.origin,
    leastV: originOf(has, 'leastV'),
    mostV: 'practice', signV: originOf(has, 'signV'),
  },
})

const fivePositions = (board: Board) => Math.max(1, board.header.filter(entry => entry.kind === '5V').length)

/** What feeds a consumer: the maker's choice, or the usual. Null where it is fed by nothing. */
export function feedOf(power: PowerPlan, consumer: NodeRef, usual: NodeRef | null): NodeRef | null {
  return Object.hasOwn(power.feeds, consumer) ? power.feeds[consumer]! : usual
}

/** Header positions that carry supply, and every part's supply terminals with their wires. */
export function partNodes(facts: Facts, power: PowerPlan, problems: TreeProblem[]): SupplyNode[] {
  const positions = new Map<number, SupplyNode>()
  const nodes = facts.parts.flatMap(owner =>
    owner.supplies.flatMap(supply => supplyTerminal(owner, supply, facts, power, positions, problems)))
  return [...positions.values(), ...nodes, ...facts.parts.flatMap(owner => contactNodes(owner, power, problems))]
}

function supplyTerminal(
  owner: ResolvedPart, supply: Supply, facts: Facts, power: PowerPlan, positions: Map<number, SupplyNode>,
  problems: TreeProblem[],
): SupplyNode[] {
  const { board } = facts
  const id = `${owner.id}.${supply.id}`
  const terminal = facts.byKey.get(id)
  // The position carries nothing where the maker feeds the terminal from elsewhere.
  const elsewhere = Object.hasOwn(power.feeds, id) && !isPositionFeed(power.feeds[id] ?? '')
  let usual: string | null
  if (elsewhere || supply.from === 'own') usual = null
  else if (supply.from === 'usb') usual = board ? '@usb' : null
  else usual = positionNode(terminal, supply, facts, power, positions, problems)
  const from = feedOf(power, id, usual)
  const units = supply.perOption ? Number(owner.options[supply.perOption]) || 1 : 1
  const ratedV = RAIL_V[supply.rail]
  const share = supply.percentOption
    ? Math.min(100, Math.max(0, Number(owner.options[supply.percentOption] ?? 100))) / 100
    : 1
  const aboveIdle = (ma: number) => (supply.idleMa + (ma - supply.idleMa) * share) * units
  const load: SupplyNode = {
    id, kind: 'part', role: 'load',
    name: owner.part.supplies.length > 1 ? `${owner.name} ${supply.label}` : owner.name, partId: owner.id,
    from: [`${id}@wire`], input: id, output: id, law: supply.law ?? 'current', own: false, open: false,
    ...supply.socket && { ownSocket: true }, ...supply.from === 'usb' && { byPlug: true },
    figures: figuresOf(id, 'part', {
      idleMa: supply.idleMa * units, typicalMa: aboveIdle(supply.typicalMa), peakMa: aboveIdle(supply.peakMa),
      surgeMa: (supply.surgeMa ?? 0) * units, ...supply.surgeMa && { surgeS: supply.surgeS ?? USUAL_SURGE_S },
      ratedV, leastV: supply.leastV ?? ratedV * 0.9, mostV: supply.mostV ?? ratedV * 1.1,
    }, loadOrigins(supply), power.figures[id], problems),
  }
  if (!from) return [{ ...load, from: [] }]
  return [wireNode(owner, supply, id, from, facts, power, problems), load]
}

/** Limits that its file does not give are ten percent either side. */
const loadOrigins = (supply: Supply): Origins => ({
  origin: supply.origin,
  origins: {
    ...supply.leastV === undefined && { leastV: 'practice' }, ...supply.mostV === undefined && { mostV: 'practice' },
    ...supply.surgeS === undefined && { surgeS: 'memory' }, ...supply.origins,
  },
})

/**
 * The wire to a terminal: jumper wires to the header, a lead to a USB plug, the contact alone for a board that
 * is pushed on.
 */
function wireNode(
  owner: ResolvedPart, supply: Supply, id: NodeRef, from: NodeRef, { plan }: Facts, power: PowerPlan,
  problems: TreeProblem[],
): SupplyNode {
  const wire = `${id}@wire`
  const pushedOn = supply.claimsPosition !== undefined
    || owner.part.plugs?.some(plug => plug.wide && isMet(plug.when, owner.options))
  const figures: Record<string, number> = pushedOn
    ? { ohm: 0.03, ratedMa: 2000 }
    : {
        awg: supply.from === 'usb' ? 24 : supply.from === 'own' ? 20 : 26,
        lengthM: plan.build.wires[id]?.lengthM ?? owner.part.leadM ?? 0.2,
        contactOhm: 0.03, bundledPairs: 1, measuredOhm: 0,
      }
  return {
    id: wire, kind: pushedOn ? 'connector' : 'cable', role: 'path', name: pushedOn ? 'its plug' : 'its wires',
    partId: owner.id,
    from: [from], input: null, output: id,
    figures: figuresOf(wire, pushedOn ? 'connector' : 'cable', figures, { origin: 'memory' }, power.figures[wire],
      problems), own: false,
    open: false,
  }
}

/** The header position a supply terminal is wired to; its rail while it has none. */
function positionNode(
  terminal: Terminal | undefined, supply: Supply, { board }: Facts, power: PowerPlan,
  positions: Map<number, SupplyNode>,
  problems: TreeProblem[],
): NodeRef
  | null {
  if (!board) return null
  const place = terminal?.place
  if (place?.kind !== 'header' || (place.header.kind !== '5V' && place.header.kind !== '3V3')) return `@${supply.rail}`
  const { position, header } = place
  const id = `@P${position}`
  if (!positions.has(position)) {
    const { positionOhm, positionRatedMa, ...from } = boardPower(board)
    positions.set(position, {
      id, kind: 'position', role: 'path', name: `Position ${position}`, from: [`@${header.kind}`],
      input: `@${header.kind}`, output: id,
      figures: figuresOf(id, 'position', { ohm: positionOhm, ratedMa: positionRatedMa }, from, power.figures[id],
        problems), own: false,
      open: false,
    })
  }
  return id
}

/**
 * Relay contacts whose load the maker said the feed of. The load draws what the plan says, but for idle and start-up.
 */
function contactNodes(owner: ResolvedPart, power: PowerPlan, problems: TreeProblem[]): SupplyNode[] {
  return (owner.inPlan.loads ?? []).flatMap((load): SupplyNode[] => {
    const id = `${owner.id}#${load.contact}`
    const from = feedOf(power, id, null)
    if (!from) return []
    const ma = load.currentA * 1000
    const rating = owner.part.contacts
    const common = { partId: owner.id, own: false, open: false } as const
    return [
      {
        ...common, id, kind: 'contact', role: 'path', name: `${owner.name}, contact ${load.contact}`, from: [from],
        input: null, output: id,
        figures: figuresOf(
          id, 'contact', { ohm: 0.05,
            ...rating && { ratedMa: (load.kind === 'AC' ? rating.maxAcA : rating.maxDcA) * 1000 } },
          rating ?? { origin: 'memory' }, power.figures[id], problems,
        ),
      },
      {
        ...common, id: `${id}@load`, kind: 'contact-load', role: 'load',
        name: load.what || `On contact ${load.contact}`, from: [id],
        input: id, output: null, law: 'current',
        figures: figuresOf(
          `${id}@load`, 'contact-load',
          {
            idleMa: 0, typicalMa: ma, peakMa: ma, surgeMa: 0, ratedV: Math.max(0.1, load.voltageV),
            leastV: load.voltageV * 0.85,
            mostV: load.voltageV * 1.15,
          },
          { origin: 'yours' }, power.figures[`${id}@load`], problems,
        ),
      },
    ]
  })
}
