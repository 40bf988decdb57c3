/** How the tree hangs together: two sources on one rail, who feeds whom, grounds, and what does not fit at all. */
import { isJoinNode } from '../../plan/ids'
import { offeredFuse, offeredItem } from '../../catalogue/offered'
import { positionPin } from '../../netlist/board'
import { KINDS, FIGURES } from '../../netlist/supply/kinds'
import { boardPower } from '../../facts/board'
import { gatherFacts } from '../../facts/gather'
import { applyEdit } from '../../plan/edits'
import { powerOf, type Power } from '../../power/report'
import { pathUp } from '../../power/shares'
import { stateNamed } from '../../power/states'
import type { NodeRef } from '../../plan/power'
import type { Edit } from '../../plan/edits'
import type { Facts } from '../../facts/types'
import type { SupplyTree, SupplyNode, TreeProblem } from '../../netlist/supply/types'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { conductingGroups, rootsOf, sourcesByGroup } from './groups'
import { overRating } from './paths'
import { amps, ma, nodeSubject } from './words'

/** Two supplies on one rail with nothing between them; panel and board that feed each other are the usual case. */
export const twoSources: Rule = ({ facts, power }) => {
  const { tree } = power
  const groups = conductingGroups(tree)
  return [...sourcesByGroup(tree, groups)].flatMap(([group, sources]): Finding[] => {
    if (sources.length < 2) return []
    const byHub = tree.nodes.some(node =>
      node.kind === 'hub' && groups.get(node.output ?? '') === group && (node.figures.backOhm?.value ?? 0) > 0)
    // A hub that feeds back joins them: its own finding says so, with its own way out.
    if (byHub) return []
    const joined = facts.plan.power.joins.filter(join =>
      tree.byId.get(join.into)
      && groups.get(tree.byId.get(join.into)!.output ?? tree.byId.get(join.into)!.input ?? '') === group)
    const panel = joined.map(join => tree.byId.get(join.into)!).find(node => node.partId)
    const names = sources.map(source => source.name).join(' and ')
    const diode = offeredItem(facts.catalogue, 'diode')
    return [{
      code: 'rail.two-sources', id: `rail.two-sources ${sources.map(source => source.id).join(' ')}`, severity: 'stop',
      stages: ['power', 'build', 'board'],
      title: panel ? `${panel.name} and the board feed each other` : 'Two supplies on one rail',
      sentence: `${names} lie on one rail with nothing between them: the one with the higher voltage pushes current into the other, and `
        + `what is switched off stays alive through the other. `
        + `${panel
          ? `Feed the board and let it feed ${panel.name}, or feed ${panel.name} and let it feed the board, never both.`
          : 'Leave one of them out, or put an ideal diode behind each.'}`,
      subjects: [...sources.map(nodeSubject), ...panel ? [nodeSubject(panel)] : [],
        ...group === groups.get('@5V') ? [{ rail: '5V' }] : []],
      figures: sources.flatMap((source) => {
        const figure = source.figures.voltageV ?? source.figures.setV
        return figure ? [{ label: source.name, value: figure.value, unit: 'V', origin: figure.origin }] : []
      }),
      fixes: [
        ...joined.map(join => ({
          label: `Leave ${tree.byId.get(join.from)?.name ?? join.from} out of ${tree.byId.get(join.into)!.name}`,
          edits: [{ edit: 'unjoin' as const, join }],
        })),
        ...panel && tree.byId.has('@socket')
          ? [{ label: `Feed the board through ${panel.name} alone`,
              edits: [{ edit: 'feed' as const, consumer: '@socket', from: null }] }]
          : [],
        ...tree.byId.has('@header') && tree.byId.has('@socket') && !panel
          ? [
              { label: 'Leave the header out', edits: [{ edit: 'feed' as const, consumer: '@header', from: null }] },
              ...diode
                ? [{
                    label: `Put ${diode.name} before the header`,
                    edits: [{
                      edit: 'add-node' as const,
                      node: { id: freeId(tree, 'diode'), type: diode.id, name: diode.name,
                        from: tree.byId.get('@header')!.from[0]! },
                      before: '@header',
                    }],
                  }]
                : [],
            ]
          : [],
      ],
    }]
  })
}

/**
 * An add-on board that feeds the 5 V rail from its battery, and a supply in the board's own socket or header beside it.
 */
export const batteryBeside: Rule = (evidence) => {
  const { facts, power: { tree } } = evidence
  return facts.parts.flatMap(owner => owner.supplies.filter(supply => supply.gives).flatMap((supply): Finding[] => {
    const id = `${owner.id}.${supply.id}`
    const ways = ['@socket', '@header'].filter(way => tree.byId.has(way) && rootsOf(tree, way).size > 0)
    const node = tree.byId.get(id)
    if (!ways.length || !node) return []
    const feeders = ways.map(way => tree.byId.get([...rootsOf(tree, way)][0]!)!)
    const plugged = ways.map(way => pluggedFrom(tree, way))
    return [{
      code: 'rail.two-sources', id: `rail.two-sources ${id}`, severity: 'stop', stages: ['power', 'build', 'board'],
      title: `${owner.name} and ${feeders[0]!.name} feed the same rail`,
      sentence: `${owner.name} feeds the 5 V rail from its battery, and `
        + `${feeders.map(feeder => feeder.name).join(' and ')} ${feeders.length === 1 ? 'feeds' : 'feed'} it past the `
        + 'add-on board: each pushes current into the other, and a cell is charged with nothing to end it. Plug the '
        + 'supply into the add-on board\'s own socket.',
      subjects: [nodeSubject(node), ...feeders.map(nodeSubject), { rail: '5V' }],
      figures: [{ label: 'sources on the rail', value: 1 + feeders.length, limit: 1, origin: 'practice' }],
      fixes: [{
        label: `Plug it into ${owner.name} instead`,
        edits: [
          ...ways.map(consumer => ({ edit: 'feed' as const, consumer, from: null })),
          { edit: 'join' as const, join: { from: plugged[0]!, into: id } },
        ],
      }].filter(({ edits }) => !overloads(evidence, edits)),
    }]
  }))
}

/**
 * A way to feed the board that something in its path does not stand: the board's whole current goes through
 * two positions then.
 */
function overloads(evidence: Evidence, edits: readonly Edit[]): boolean {
  const facts = gatherFacts(applyEdit(evidence.facts.plan, { edit: 'all', edits: [...edits] }).plan,
    evidence.facts.catalogue)
  const known = new Set(overRating(evidence).map(({ id }) => id))
  return overRating({ ...evidence, facts, power: powerOf(facts) })
    .some(({ id, severity }) => severity === 'stop' && !known.has(id))
}

/**
 * What is named as the feeder of a way into the board, for a plug that moves elsewhere: the supply itself,
 * not its lead.
 */
const pluggedFrom = (tree: SupplyTree, way: NodeRef): NodeRef => {
  const from = tree.byId.get(way)!.from[0]!
  return from === '@cable' ? '@supply' : from.replace(/@lead$/, '')
}

function freeId(tree: SupplyTree, base: string): string {
  let id = base
  for (let n = 2; tree.byId.has(id); n++) id = `${base}-${n}`
  return id
}

/** Power through the header or through a part: said, allowed, with what is given up. */
export const pastTheFuse: Rule = ({ facts, power }) => {
  const { tree, states } = power
  if (!facts.board) return []
  const typical = stateNamed(states, 'typical')
  const { fused, origin } = boardPower(facts.board)
  const lost = `${fused
    ? 'It goes past the board\'s input fuse and its protection against reversed poles'
    : 'It goes past the protection behind the board\'s socket'}: `
    + `a wrong wire meets the board itself. `
    + `${fusedOnTheWay(power) ? 'Mark' : 'Put a fuse of your own into the supply\'s wire, mark'} plus and minus, and check them with a `
    + `meter before plugging in.`
  const findings: Finding[] = []
  const header = tree.byId.get('@header')
  if (header) findings.push({
    code: 'header.past-fuse', id: 'header.past-fuse', severity: 'note', stages: ['power', 'wiring', 'build'],
    title: 'The board is fed through its header',
    sentence: `${lost} Practitioners do both: the socket for protection, the header where it carries more or where the `
      + 'board sits on a carrier.',
    subjects: [{ node: '@header', rail: '5V', position: 2 }],
    figures: [{
      label: 'through the header', value: ma(typical.nodes['@header']!.currentMa), unit: 'mA',
      limit: header.figures.ratedMa?.value, origin,
    }],
    fixes: ownFuse(power, facts),
  })
  const sources = tree.nodes.filter(node => node.role === 'source')
  for (const node of tree.nodes) {
    if (node.kind !== 'part' || !node.from.some(id => isJoinNode(id))) continue
    const wire = tree.byId.get(`${node.id}@wire`)
    const towards = wire ? typical.nodes[wire.id]!.currentMa : 0
    // Two that feed each other are the other rule's matter.
    if (!wire || Math.abs(towards) < 0.5 || (sources.length > 1 && tree.byId.has('@socket'))) continue
    findings.push(towards < 0
      ? {
          code: 'panel.feeds-board', id: `panel.feeds-board ${node.id}`, severity: 'note', stages: ['power', 'build'],
          title: `${node.name} feeds the board`,
          sentence: `The plug goes into ${node.name}; ${amps(-towards)} flow from it through its wires to `
            + `the board. ${lost}`,
          subjects: [nodeSubject(node), nodeSubject(wire), { rail: '5V' }],
          figures: [{ label: 'into the board', value: ma(-towards), unit: 'mA', origin: 'arithmetic' }], fixes: [],
        }
      : {
          code: 'board.feeds-panel', id: `board.feeds-panel ${node.id}`, severity: 'note', stages: ['power', 'build'],
          title: `The board feeds ${node.name}`,
          sentence: `${amps(towards)} flow from the board to ${node.name}, although a plug goes in there too.`,
          subjects: [nodeSubject(node), nodeSubject(wire)],
          figures: [{ label: 'out of the board', value: ma(towards), unit: 'mA', origin: 'arithmetic' }], fixes: [],
        })
  }
  return findings
}

/** A fuse of the maker's own anywhere between the source and the header. */
const fusedOnTheWay = ({ tree, states }: Pick<Power, 'tree' | 'states'>): boolean =>
  tree.byId.has('@header')
  && pathUp(tree, stateNamed(states, 'typical'), '@header').some(node => node.kind.startsWith('fuse'))

function ownFuse({ tree, states }: Power, { catalogue }: Facts): Fix[] {
  const header = tree.byId.get('@header')
  const from = header?.from[0]
  const feeder = from === undefined ? undefined : tree.byId.get(from)
  if (!from || !feeder || fusedOnTheWay({ tree, states })) return []
  const peakMa = stateNamed(states, 'peak').nodes['@header']!.currentMa
  const item = offeredFuse(catalogue, peakMa / 0.75)
  return item
    ? [{
        label: `Put a fuse of ${amps(item.figures.ratedMa!)} into its wire`,
        edits: [{
          edit: 'add-node', node: { id: freeId(tree, 'fuse'), type: item.id, name: item.name, from },
          before: '@header',
        }],
      }]
    : []
}

/** A part fed by a supply of its own, whose signals have no common ground with the board. */
export const groundMissing: Rule = ({ facts, power, netlist }) => {
  const { tree } = power
  const roots = (id: NodeRef) => rootsOf(tree, id)
  const boards = roots('@5V')
  if (!boards.size) return []
  const boardReturns = new Set(facts.board?.header.filter(entry => entry.kind === 'ground')
    .map(entry => positionPin(entry.position)))
  return facts.parts.flatMap((owner): Finding[] => {
    const fed = tree.nodes.filter(node =>
      node.partId === owner.id && (node.kind === 'part' || node.kind === 'contact-load'))
      .flatMap(node => [...roots(node.id)])
    const apart = fed.filter(source => !boards.has(source))
    if (!apart.length || fed.some(source => boards.has(source))) return []
    // A load behind its stage has its reference there, and one without a stage has a finding of its own.
    const toBoard = facts.terminals.filter(terminal =>
      terminal.owner === owner && terminal.is === 'signal' && !terminal.signal!.load
      && terminal.place?.kind === 'header'
      && terminal.between?.kind !== 'opto-coupler')
    const grounds = facts.terminals.filter(terminal => terminal.owner === owner && terminal.is === 'ground')
    // Whatever way the return takes: a wire of its own, a plug, the return of a supply that both hang on.
    const joined = grounds.some(terminal => netlist.netOf.get(terminal.key)?.pins.some(pin => boardReturns.has(pin)))
    const byUsb = owner.supplies.some(supply => supply.from === 'usb')
    if (!toBoard.length || joined || byUsb
      || tree.nodes.every(node => node.partId !== owner.id || node.kind !== 'part')) {
      return []
    }
    const free = facts.board?.header.find(entry => entry.kind === 'ground' && !facts.atPosition.has(entry.position))
      ?? facts.board?.header.find(entry => entry.kind === 'ground')
    return [{
      code: 'ground.missing', id: `ground.missing ${owner.id}`, severity: 'stop', stages: ['wiring', 'power'],
      title: `${owner.name} has no ground in common with the board`,
      sentence: `${owner.name} is fed by ${tree.byId.get(apart[0]!)!.name} and the board by `
        + `${tree.byId.get([...boards][0]!)!.name}; no ground joins the two: its signals have no reference, and read `
        + 'as noise or not at all. Wire its ground to a ground position of the board as well.',
      subjects: [{ partId: owner.id }, ...grounds.map(terminal => ({ partId: owner.id, terminal: terminal.key }))],
      figures: [{ label: 'signals without a return', value: toBoard.length, limit: 0, origin: 'practice' }],
      fixes: grounds[0] && free
        ? [{
            label: `Wire ${grounds[0].label} to position ${free.position}`,
            edits: [{ edit: 'assign', terminal: grounds[0].key, to: { position: free.position } }],
          }]
        : [],
    }]
  })
}

/** What the plan says of its supply and cannot be. */
export const powerProblems: Rule = evidence =>
  evidence.power.report.problems.map(problem => problemFinding(problem, evidence))

function problemFinding(problem: TreeProblem, evidence: Evidence): Finding {
  const { tree } = evidence.power
  const ownerOf = (id: NodeRef) => id.endsWith('@wire') ? tree.byId.get(id.slice(0, -'@wire'.length))?.name : undefined
  const nameOf = (id: NodeRef) => ownerOf(id) ?? tree.byId.get(id)?.name ?? `"${id}"`
  const finding = (
    code: Finding['code'], about: string, severity: Finding['severity'], title: string, sentence: string,
    nodes: NodeRef[],
    more: Partial<Finding> = {},
  ): Finding =>
    ({
      code, id: `${code} ${about}`, severity, stages: ['power'], title, sentence,
      subjects: nodes.map(id => tree.byId.has(id) ? nodeSubject(tree.byId.get(id)!) : { node: id }), figures: [],
      fixes: [], ...more,
    })
  switch (problem.kind) {
    case 'unknown-type': return finding(
      'power.unknown', problem.node, 'stop', `Unknown: ${problem.type}`,
      `The plan puts "${problem.type}" into the supply and the catalogue has no such thing. Take it `
      + 'out, or choose another.',
      [problem.node], { fixes: [{ label: 'Take it out', edits: [{ edit: 'remove-node', id: problem.node }] }] },
    )
    case 'unknown-feed': return finding(
      'power.no-such-feed', `${problem.node} ${problem.feed}`, 'stop',
      `${nameOf(problem.node)} is fed by what is not there`,
      `The plan feeds ${nameOf(problem.node)} from "${problem.feed}", which is not in the plan or gives nothing. `
      + 'Choose what feeds it.',
      [problem.node],
      {
        fixes: [{
          label: 'Feed it as usual',
          edits: [{ edit: 'feed', consumer: problem.node.replace(/@wire$/, ''), from: { usual: true } }],
        }],
      },
    )
    case 'unknown-upstream': return finding(
      'power.no-such-port', `${problem.node} ${problem.upstream}`, 'stop',
      `${nameOf(problem.node)} hangs on what is not there`,
      `The hub's data plug goes into "${problem.upstream}", which is not in the plan or gives nothing. Choose a port, `
      + 'or pull it out.',
      [problem.node],
      { fixes: [{ label: 'Pull its data plug out',
        edits: [{ edit: 'edit-node', id: problem.node, changes: { upstream: null } }] }] },
    )
    case 'unknown-join': return finding(
      'power.no-such-plug', `${problem.join.from} ${problem.join.into}`, 'stop',
      `A plug into ${nameOf(problem.join.into)} from what is not there`,
      `The plan plugs "${problem.join.from}" into "${problem.join.into}"; one of them is not in the plan, gives `
      + 'nothing or takes nothing. Pull it out, or choose another.',
      [problem.join.into], { fixes: [{ label: 'Pull it out', edits: [{ edit: 'unjoin', join: problem.join }] }] },
    )
    case 'ring': return finding(
      'power.ring', problem.nodes.join(' '), 'stop', 'A ring without a source',
      `${problem.nodes.map(nameOf).join(', ')} feed each other and no source feeds them. Choose a source for `
      + 'one of them.', problem.nodes,
    )
    case 'unfed': return finding(
      'power.unfed', problem.node, 'caution', `${nameOf(problem.node)} is fed by nothing`,
      `No source reaches ${nameOf(problem.node)}: it stays dark. Choose what feeds it.`, [problem.node],
      { fixes: feedingFixes(problem.node, evidence) },
    )
    case 'absurd': {
      const spec = FIGURES[problem.figure]!
      return finding(
        'power.absurd', `${problem.node} ${problem.figure}`, 'stop',
        `${nameOf(problem.node)}: ${spec.label} cannot be ${problem.value} ${spec.unit}`.trim(),
        `${KINDS[tree.byId.get(problem.node)?.kind ?? 'load'].label}: ${spec.label} lies between ${spec.min} and `
        + `${spec.max} ${spec.unit}; ${problem.value} was not used and the usual figure stands in. Type another.`,
        [problem.node],
        {
          figures: [{
            label: spec.label, value: problem.value, unit: spec.unit, limit: `${spec.min} to ${spec.max}`,
            origin: 'arithmetic',
          }],
          fixes: [{
            label: 'Take the usual figure',
            edits: [{ edit: 'set-figure', node: problem.node, figure: problem.figure, value: null }],
          }],
        },
      )
    }
  }
}

/** A source's own voltage may differ from the rail's name by so much. practice */
const NEAR = 0.1

/**
 * Ways to feed what nothing feeds: what is there already at its voltage, else the smallest supply of that voltage
 * that gives enough.
 */
function feedingFixes(id: NodeRef, { facts, power: { tree } }: Evidence): Fix[] {
  const node = tree.byId.get(id)
  const ratedV = node?.figures.ratedV?.value
  if (!node || ratedV === undefined) return []
  const isNear = (voltageV: number | undefined) =>
    voltageV !== undefined && Math.abs(voltageV - ratedV) <= ratedV * NEAR
  const feed = (from: NodeRef) => node.own
    ? { edit: 'edit-node' as const, id, changes: { from } }
    : { edit: 'feed' as const, consumer: id, from }
  const usual: Fix[] = !node.own && Object.hasOwn(facts.plan.power.feeds, id) && facts.board
    && facts.parts.some(owner =>
      owner.id === node.partId
      && owner.supplies.some(supply => `${owner.id}.${supply.id}` === id && supply.from !== 'own'))
    ? [{ label: 'Feed it as usual', edits: [{ edit: 'feed', consumer: id, from: { usual: true } }] }]
    : []
  const there = tree.nodes.filter(entry =>
    entry.own && entry.output !== null && !entry.id.endsWith('@lead')
    && (isNear(entry.figures.voltageV?.value) || isNear(entry.figures.setV?.value)) && rootsOf(tree, entry.id).size > 0)
    .map((entry): Fix => ({ label: `Feed it from ${entry.name}`, edits: [feed(entry.id)] }))
  if (usual.length || there.length) return [...usual, ...there].slice(0, 3)
  const neededMa = node.figures.peakMa?.value ?? 0
  const unit = [...facts.catalogue.supplies.values()]
    .filter(entry => (entry.kind === 'adapter' || entry.kind === 'din-rail') && isNear(entry.voltageV)
      && entry.currentMa >= neededMa)
    .sort((a, b) => a.currentMa - b.currentMa)[0]
  if (!unit) return []
  const source = freeId(tree, 'source')
  return [{
    label: `Add ${unit.name} and feed it from there`,
    edits: [
      { edit: 'add-node', node: { id: source, type: unit.id, name: unit.name } }, feed(source),
      ...groundToBoard(node, facts),
    ],
  }]
}

/**
 * A part with signals at the board and a supply of its own wants its ground there too: the wire, where none lies yet.
 */
function groundToBoard({ partId }: SupplyNode, facts: Facts): Edit[] {
  const mine = facts.terminals.filter(terminal => terminal.owner.id === partId)
  const ground = mine.find(terminal => terminal.is === 'ground')
  const hasSignals = mine.some(terminal => terminal.is === 'signal' && terminal.place?.kind === 'header')
  const grounds = facts.board?.header.filter(entry => entry.kind === 'ground') ?? []
  const free = grounds.find(entry => !facts.atPosition.has(entry.position)) ?? grounds[0]
  return ground && hasSignals && free && !mine.some(terminal => terminal.is === 'ground' && terminal.place)
    ? [{ edit: 'assign', terminal: ground.key, to: { position: free.position } }]
    : []
}
