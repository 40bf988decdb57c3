/** Sources asked for more than they give, or too small for the board. */
import { offeredItem } from '../../catalogue/offered'
import { freeNodeId } from '../../plan/power-edits'
import { boardPower, meetsWish } from '../../facts/board'
import { feedLimit, usbBudget } from '../../power/budget'
import type { Power } from '../../power/report'
import { stateNamed } from '../../power/states'
import { pathUp } from '../../power/shares'
import { capacitorAddsMa, capacitorsMa, overloadFor, sagV, SURGE_FALL_V, surgesAt, type Surge } from '../../power/surge'
import { sourceEmfV } from '../../netlist/supply/resistance'
import type { Evidence, Finding, Rule } from '../types'
import { hubOwnSupply, largerSource, largerSupplies, lowerClock, ownHub, ownSupply, pastTheBoard } from './candidates'
import { waysOut, type Outcome, type Solved } from './ways'
import { amps, limitOf, ma, moment, nodeSubject, watts } from './words'

/** Leave this part of a supply free: cables and ageing take theirs. practice */
const FREE_SHARE = 0.15
/** A source asked for more than it gives, at peak; or with little to spare; or for a surge it cannot stand. */
export const sourcesAsked: Rule = ({ facts, power }) => power.report.sources.flatMap((source): Finding[] => {
  const node = power.tree.byId.get(source.node)!
  const board = source.node === '@supply'
  const largest = [...source.loads].sort((a, b) => b.peakMa - a.peakMa)[0]
  const key = board ? '' : ` ${source.node}`
  const figures = [
    {
      label: 'peak', value: ma(source.peakMa), unit: 'mA', ...limitOf(node, 'currentMa'),
      ...board && { origin: source.origin, limitKey: 'supply.currentMa', replaces: undefined },
    },
    { label: 'typical', value: ma(source.typicalMa), unit: 'mA' },
    { label: 'at peak', value: Number(source.peakW.toFixed(1)), unit: 'W' },
  ]
  const subjects = [nodeSubject(node), ...board ? [{ rail: '5V' }] : [],
    ...largest?.partId ? [{ partId: largest.partId, rail: '5V' }] : []]
  const common = { subjects, figures, stages: board ? ['power' as const, 'board' as const] : ['power' as const] }
  const enough = (max: number) => (solved: Solved): Outcome => {
    const at = solved.tree.byId.get(source.node)
    const asked = stateNamed(solved.states, 'peak').nodes[source.node]?.currentMa ?? 0
    const gives = at?.figures.currentMa?.value ?? 0
    return {
      enough: !!at && asked <= gives * max, figure: at ? `${amps(asked)} of ${amps(gives)}` : 'no supply',
      gain: source.peakMa / source.availableMa - asked / Math.max(1, gives) - 0.01,
    }
  }
  const fixes = (max: number) => waysOut({ facts, power }, `supply ${source.node} ${max}`, () => [
    ...board ? largerSupplies(facts, source.peakMa / max) : largerSource(facts, node, source.peakMa / max),
    ...ownHub(facts, power.tree),
    ...largest && largest.node !== '@board' ? ownSupply(facts, power.tree, power.tree.byId.get(largest.node)!) : [],
    // A lower clock is no answer to what a motor draws.
    ...largest?.node === '@board' ? lowerClock(facts) : [],
  ], ['peak'], enough(max))
  if (source.peakMa > source.availableMa) return [{
    ...common, code: 'supply.too-small', id: `supply.too-small${key}`, severity: 'stop',
    title: board ? 'The supply is too small' : `${source.name} is too small`,
    sentence: `At peak everything together draws ${amps(source.peakMa)} and ${board ? 'the supply' : source.name} gives `
      + `${amps(source.availableMa)}: the voltage falls and the board restarts. The largest share is ${largest?.name ?? 'unknown'} with `
      + `${amps(largest?.peakMa ?? 0)}.${node.unit?.fixed
        ? ' This port cannot be asked for more: take a supply that gives enough, or let the board ask for less.'
        : ' Take a larger supply, or feed a part from one of its own.'}`,
    fixes: fixes(1),
  }]
  const tight = source.peakMa > source.availableMa * (1 - FREE_SHARE)
  const surge = worstSurge(power, source.node, source.availableMa)
  return [
    ...tight
      ? [{
          ...common, stages: ['power' as const], code: 'supply.tight' as const, id: `supply.tight${key}`,
          severity: 'caution' as const,
          title: board ? 'The supply has little to spare' : `${source.name} has little to spare`,
          sentence: `At peak ${Math.round(source.peakMa / source.availableMa * 100)} % of it is taken. Cables and `
            + 'ageing take their part too: leave 15 %.',
          fixes: fixes(1 - FREE_SHARE),
        }]
      : [],
    ...surge
      ? [surgeFinding({ facts, power }, source.node, surge, subjects)]
      : [],
  ]
})

interface WorstSurge extends Surge { standsMa: number, addedMa: number }

/** The surge that a source falls furthest behind in; null where it stands them all. */
function worstSurge({ tree, states }: Solved, source: string, ratedMa: number): WorstSurge | null {
  return surgesAt(tree, states, source).map((surge): WorstSurge => {
    const addedMa = capacitorsMa(tree, states, source, surge.seconds)
    return { ...surge, addedMa, standsMa: ratedMa * overloadFor(surge.seconds) + addedMa }
  })
    .filter(surge => surge.currentMa > surge.standsMa)
    .sort((a, b) => b.currentMa / b.standsMa - a.currentMa / a.standsMa)[0] ?? null
}

/** A capacitor that takes longer to charge than this keeps the board from starting. practice */
const MAX_CHARGING_S = 0.2

/** A surge that a source does not stand: how far the rail would fall, and the capacitor that carries the rest. */
function surgeFinding(
  { facts, power }: Pick<Evidence, 'facts' | 'power'>, source: string, surge: WorstSurge, subjects: Finding['subjects'],
): Finding {
  const node = power.tree.byId.get(source)!
  const board = source === '@supply'
  const gapMa = surge.currentMa - surge.standsMa + surge.addedMa
  const carrying = [...facts.catalogue.powerItems.values()].filter(item => item.kind === 'capacitor')
    .sort((a, b) => a.figures.capacitanceF! - b.figures.capacitanceF!)
    .filter(item => capacitorAddsMa(item.figures.capacitanceF!, item.figures.ohm ?? 0,
      surge.seconds) >= gapMa - surge.addedMa
      && item.figures.mostV! >= sourceEmfV(node) * 1.05
      && item.figures.capacitanceF! * sourceEmfV(node) / (surge.standsMa / 1000) <= MAX_CHARGING_S)
  const [kept] = carrying
  const consumer = board && power.tree.byId.get('@socket')?.from[0] ? '@socket' : null
  // A capacitor beside the board's feed also holds it after switch-off: where that is judged, it is another question.
  const offered = kept && consumer && facts.plan.power.shutdownS === null && power.report.holds.length === 0
  return {
    code: 'surge.too-large', id: `surge.too-large${board ? '' : ` ${source}`}`, severity: 'caution', stages: ['power'],
    subjects,
    title: `Switching on asks ${amps(surge.currentMa)} for ${moment(surge.seconds)}`,
    sentence: `When everything comes on at once ${amps(surge.currentMa)} are asked for ${moment(surge.seconds)}; `
      + `${board ? 'the supply' : node.name} gives about ${amps(surge.standsMa)} that long`
      + `${surge.addedMa > 1 ? `, ${amps(surge.addedMa)} of it from capacitors` : ''}. `
      + `${kept
        ? `${amps(gapMa)} are missing: a capacitor of ${farads(kept.figures.capacitanceF!)} gives them and falls by `
        + `${sagV(gapMa, kept.figures.capacitanceF!, kept.figures.ohm ?? 0, surge.seconds).toFixed(2)} V meanwhile. `
        : `${amps(gapMa)} are missing for too long for a capacitor: that is ${Number((gapMa * surge.seconds).toPrecision(2))} mAs. `}`
        + `Or switch the largest parts on later, one after the other.`,
    figures: [{
      label: `at start-up, ${moment(surge.seconds)}`, value: ma(surge.currentMa), unit: 'mA', limit: ma(surge.standsMa),
      origin: `memory: ${overloadFor(surge.seconds).toFixed(2)} × the rating that long, and a fall of ${SURGE_FALL_V} `
        + 'V at capacitors',
    }],
    fixes: offered
      ? waysOut({ facts, power }, `surge ${source}`, () => carrying.map(item => ({
          label: `Put ${item.name} before the board`, price: item.price ?? 0,
          edits: [{
            edit: 'add-node',
            node: {
              id: freeNodeId(facts.plan.power, 'capacitor'), type: item.id, name: item.name,
              from: power.tree.byId.get('@socket')!.from[0]!,
            },
            before: '@socket',
          }],
        })), ['typical', 'start'], (solved) => {
          const after = worstSurge(solved, source,
            power.report.sources.find(entry => entry.node === source)!.availableMa)
          return { enough: !after, figure: 'it starts', gain: after ? 0 : 1 }
        })
      : [],
  }
}

const farads = (farad: number) => farad >= 0.1 ? `${Number(farad.toFixed(1))} F` : `${Math.round(farad * 1e6)} µF`

/**
 * Whether the plan's supply carries the board by itself: what lies between (a switch, a fuse, a longer lead) changes
 * nothing of it, a converter or another source that carries it does.
 */
function carriesBoard({ tree, states }: Power): boolean {
  if (!tree.byId.has('@socket') && !tree.byId.has('@header')) return false
  const path = pathUp(tree, stateNamed(states, 'typical'), '@5V')
  return path.at(-1)?.id === '@supply' && !path.some(node => node.figures.setV)
}

/** The board's own wish: the least it starts with, and what is advised. */
export const boardsWish: Rule = ({ facts, power }) => {
  const { board, supply, supplyMa } = facts
  const met = board && supply && supplyMa !== null ? meetsWish(board, supply, supplyMa) : null
  if (!board || !supply || supplyMa === null || met === null || !carriesBoard(power)) return []
  const { leastSupplyMa, origin } = boardPower(board)
  const inWatts = (current: number) => watts(5 * current / 1000)
  const figures = [
    { label: 'supply', value: supplyMa, unit: 'mA', limit: leastSupplyMa, origin },
    { label: 'advised', value: board.advisedSupplyMa.value, unit: 'mA', origin: board.advisedSupplyMa.origin },
  ]
  const wish = `This board wants ${inWatts(leastSupplyMa)} at least (${amps(leastSupplyMa)} at 5 V), and `
    + `${inWatts(board.advisedSupplyMa.value)} is advised.`
  if (met === 'below-least') return [{
    code: 'supply.below-least', id: 'supply.below-least', severity: 'stop', stages: ['power', 'board'],
    title: `The supply gives ${inWatts(supplyMa)}; the board wants ${inWatts(leastSupplyMa)}`,
    sentence: `${wish} Below that it may not start, or restarts under load. `
      + `${supply.fixed
        ? 'This port cannot be asked for more: take a better source, or lower the clock and the core voltage and try.'
        : 'Take a larger supply.'}`,
    subjects: [{ node: '@supply', rail: '5V' }, { node: '@board' }], figures,
    fixes: waysOut({ facts, power }, 'supply.below-least', () => [
      ...largerSupplies(facts, leastSupplyMa), ...lowerClock(facts),
    ], ['peak'], (solved) => {
      const gives = solved.tree.byId.get('@supply')?.figures.currentMa?.value ?? 0
      const asked = stateNamed(solved.states, 'peak').nodes['@supply']?.currentMa ?? 0
      const before = power.report.sources.find(source => source.node === '@supply')
      return {
        enough: gives >= leastSupplyMa && asked <= gives, figure: `${amps(asked)} of ${amps(gives)} at peak`,
        gain: (before?.peakMa ?? 0) / Math.max(1, before?.availableMa ?? 1) - asked / Math.max(1, gives) - 0.01,
      }
    }),
  }]
  if (met === 'below-advised') return [{
    code: 'supply.below-advised', id: 'supply.below-advised', severity: 'note', stages: ['power', 'board'],
    title: `${inWatts(board.advisedSupplyMa.value)} is advised`,
    sentence: `${wish} The chosen supply gives ${inWatts(supplyMa)}: enough for what the plan holds now, with less `
      + 'room for what is plugged in later.',
    subjects: [{ node: '@supply', rail: '5V' }], figures, fixes: [],
  }]
  return []
}

/** A board that sees a small supply gives its USB sockets less. */
export const smallSupplyUsb: Rule = ({ facts, power }) => {
  const budget = usbBudget(facts, power.report.rails[0]!.availableMa)
  if (!budget?.small || !facts.board || facts.plan.limits['board.usbBudgetMa']) return []
  const full = facts.board.limits.usbBudgetMa.value
  const wanted = boardPower(facts.board).usbSmallSupply!.belowMa
  return [{
    code: 'usb.small-supply', id: 'usb.small-supply', severity: 'note', stages: ['power', 'board'],
    title: `USB sockets give ${amps(budget.value)} together with this supply`,
    sentence: `The board sees a supply below ${amps(wanted)} and gives its USB sockets ${amps(budget.value)} together `
      + `in place of ${amps(full)}: drives and sticks may not start.`,
    subjects: [{ node: '@usb', rail: 'USB' }],
    figures: [{ label: 'USB sockets', value: budget.value, unit: 'mA', limit: full, origin: budget.origin,
      limitKey: 'board.usbBudgetMa' }],
    fixes: largerSupplies(facts, wanted).slice(0, 1)
      .map(({ label, edits }) => ({ label: `${label}: ${amps(full)} for USB`, edits })),
  }]
}

/** The 3V3 rail and the USB sockets against what they give together. */
export const railsOver: Rule = ({ facts, power }) => power.report.rails.flatMap((rail): Finding[] => {
  if (rail.rail === '5V' || rail.availableMa === null || rail.peakMa <= rail.availableMa) return []
  const usb = rail.rail === 'USB'
  const node = usb ? '@usb' : '@3V3'
  const largest = [...rail.loads].sort((a, b) => b.peakMa - a.peakMa)[0]
  const judge = (solved: Solved): Outcome => {
    const asked = stateNamed(solved.states, 'peak').nodes[node]?.currentMa ?? 0
    const small = usb ? usbBudgetOf(solved) : rail.availableMa!
    return {
      enough: asked <= small, figure: `${amps(asked)} of ${amps(small)}`,
      gain: rail.peakMa / rail.availableMa! - asked / small - 0.01,
    }
  }
  // A larger supply can raise what the USB sockets give.
  const usbBudgetOf = (solved: Solved) =>
    facts.plan.limits['board.usbBudgetMa']?.value ?? usbBudget(facts, feedLimit(facts, solved).availableMa)?.value
    ?? rail.availableMa!
  const small = usb && usbBudget(facts, power.report.rails[0]!.availableMa)?.small
  const load = largest && power.tree.byId.get(largest.node)
  return [{
    code: 'rail.over-budget', id: `rail.over-budget ${rail.rail}`, severity: 'stop', stages: ['power'],
    title: usb ? 'The USB sockets are overloaded' : 'The 3V3 rail is over its budget',
    sentence: `${usb ? 'Plugs' : 'Parts'} ask ${amps(rail.peakMa)} at peak of `
      + `${usb ? 'the USB sockets' : 'the 3V3 positions'}, which give ${amps(rail.availableMa)} together: `
      + `${usb ? 'the board switches them off' : 'the regulator sags and the board restarts'}. The largest share is `
      + `${largest!.name} with ${amps(largest!.peakMa)}; feed it from `
      + `${usb ? 'a powered hub' : 'a regulator of its own'}.`,
    subjects: [{ node, rail: rail.rail }, ...largest?.partId ? [{ partId: largest.partId, rail: rail.rail }] : []],
    figures: [
      { label: 'peak', value: ma(rail.peakMa), unit: 'mA', limit: rail.availableMa, origin: rail.origin,
        limitKey: rail.limitKey },
      { label: 'typical', value: ma(rail.typicalMa), unit: 'mA' },
    ],
    fixes: waysOut(
      { facts, power }, `rail.over-budget ${rail.rail}`,
      () => {
        if (usb) return [...ownHub(facts, power.tree), ...hubOwnSupply(facts, power.tree),
          ...small ? largerSupplies(facts, 5000) : [], ...load
            ? pastTheBoard(power.tree, load)
            : []]
        return load
          ? ownRegulator(facts, load.id)
          : []
      },
      ['peak'], judge,
    ),
  }]
})

/** A regulator of its own for a part on 3V3, fed from the 5 V rail. */
function ownRegulator({ catalogue, plan }: Parameters<typeof largerSupplies>[0], load: string) {
  const item = offeredItem(catalogue, 'regulator-3v3')
  if (!item) return []
  const id = freeNodeId(plan.power, 'regulator-3v3')
  return [{
    label: `Put ${item.name} in for it`, price: item.price ?? 0,
    edits: [{ edit: 'add-node' as const, node: { id, type: item.id, name: item.name, from: '@5V' }, before: load }],
  }]
}
