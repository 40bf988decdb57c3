/** Sources asked for more than they give, or too small for the board. */
import { freeNodeId } from '../../plan/power-edits'
import { boardPower, meetsWish } from '../../facts/board'
import { feedLimit, usbBudget } from '../../power/budget'
import { stateNamed, type Power } from '../../power/report'
import { pathUp } from '../../power/shares'
import type { Finding, Rule } from '../types'
import { largerSource, largerSupplies, lowerClock, ownHub, pastTheBoard } from './candidates'
import { waysOut, type Outcome, type Solved } from './ways'
import { amps, ma, nodeSubject, watts } from './words'

/** Leave this part of a supply free: cables and ageing take theirs. practice */
const FREE_SHARE = 0.15
/** A regulated supply gives this many times its rating for the moment of switching on. Memory. */
const SURGE_SHARE = 1.5

/** A surge lasts about this long, and a rail may fall by this much meanwhile: what a capacitor can add. practice */
const SURGE = { lastsS: 0.01, fallV: 0.25 }

/** Current that the capacitors behind a source add for the moment of a surge: C·ΔU ÷ t. Textbook. */
function capacitorsMa({ tree, states }: Power, source: string): number {
  const start = stateNamed(states, 'start')
  return tree.nodes.filter(node =>
    node.kind === 'capacitor' && !node.open && pathUp(tree, start, node.id).some(entry => entry.id === source))
    .reduce((sum, node) => sum + node.figures.capacitanceF!.value * SURGE.fallV / SURGE.lastsS * 1000, 0)
}

/** A source asked for more than it gives, at peak; or with little to spare; or for a surge it cannot stand. */
export const sourcesAsked: Rule = ({ facts, power }) => power.report.sources.flatMap((source): Finding[] => {
  const node = power.tree.byId.get(source.node)!
  const board = source.node === '@supply'
  const largest = [...source.loads].sort((a, b) => b.peakMa - a.peakMa)[0]
  const key = board ? '' : ` ${source.node}`
  const figures = [
    {
      label: 'peak', value: ma(source.peakMa), unit: 'mA', limit: source.availableMa, origin: source.origin,
      ...board && { limitKey: 'supply.currentMa' },
    },
    { label: 'typical', value: ma(source.typicalMa), unit: 'mA' },
    { label: 'at peak', value: Number(source.peakW.toFixed(1)), unit: 'W' },
  ]
  const subjects = [nodeSubject(node), ...board ? [{ rail: '5V' }] : [], ...largest?.partId ? [{ partId: largest.partId, rail: '5V' }] : []]
  const common = { subjects, figures, stages: board ? ['power' as const, 'board' as const] : ['power' as const] }
  const enough = (most: number) => (solved: Solved): Outcome => {
    const at = solved.tree.byId.get(source.node)
    const asked = stateNamed(solved.states, 'peak').nodes[source.node]?.currentMa ?? 0
    const gives = at?.figures.currentMa?.value ?? 0
    return {
      enough: !!at && asked <= gives * most, figure: at ? `${amps(asked)} of ${amps(gives)}` : 'no supply',
      gain: source.peakMa / source.availableMa - asked / Math.max(1, gives) - 0.01,
    }
  }
  const fixes = (most: number) => waysOut({ facts, power }, `supply ${source.node} ${most}`, () => [
    ...board ? largerSupplies(facts, source.peakMa / most) : largerSource(facts, node, source.peakMa / most), ...ownHub(facts, power.tree),
    ...lowerClock(facts),
  ], ['peak'], enough(most))
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
  const stands = source.availableMa * SURGE_SHARE + capacitorsMa(power, source.node)
  const surge = source.startMa > stands
  return [
    ...tight
      ? [{
          ...common, stages: ['power' as const], code: 'supply.tight' as const, id: `supply.tight${key}`, severity: 'caution' as const,
          title: board ? 'The supply has little to spare' : `${source.name} has little to spare`,
          sentence: `At peak ${Math.round(source.peakMa / source.availableMa * 100)} % of it is taken. Cables and ageing take their part `
            + `too: leave 15 %.`,
          fixes: fixes(1 - FREE_SHARE),
        }]
      : [],
    ...surge
      ? [{
          ...common, stages: ['power' as const], code: 'surge.too-large' as const, id: `surge.too-large${key}`,
          severity: 'caution' as const,
          title: `Switching on asks ${amps(source.startMa)}`,
          sentence: `For a moment everything together asks ${amps(source.startMa)}; ${board ? 'the supply' : source.name} with its `
            + `capacitors stands about ${amps(stands)} for a moment and may not start. Switch the largest parts on later, one after the `
            + `other, or put a large capacitor beside them.`,
          figures: [{
            label: 'at start-up', value: ma(source.startMa), unit: 'mA', limit: ma(stands),
            origin: 'memory: 1.5 × the rating for a moment, and what capacitors add in 10 ms',
          }],
          fixes: [],
        }]
      : [],
  ]
})

/** The board's own wish: the least it starts with, and what is advised. */
export const boardsWish: Rule = ({ facts, power }) => {
  const { board, supply, supplyMa } = facts
  const met = board && supply && supplyMa !== null ? meetsWish(board, supply, supplyMa) : null
  if (!board || !supply || supplyMa === null || met === null || power.tree.byId.get('@socket')?.from[0] !== (supply.cable
    ? '@cable'
    : '@supply')) {
    return []
  }
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
    sentence: `${wish} The chosen supply gives ${inWatts(supplyMa)}: enough for what the plan holds now, with less room for what is `
      + `plugged in later.`,
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
    sentence: `The board sees a supply below ${amps(wanted)} and gives its USB sockets ${amps(budget.value)} together in place of `
      + `${amps(full)}: drives and sticks may not start.`,
    subjects: [{ node: '@usb', rail: 'USB' }],
    figures: [{ label: 'USB sockets', value: budget.value, unit: 'mA', limit: full, origin: budget.origin, limitKey: 'board.usbBudgetMa' }],
    fixes: largerSupplies(facts, wanted).slice(0, 1).map(({ label, edits }) => ({ label: `${label}: ${amps(full)} for USB`, edits })),
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
      enough: asked <= small, figure: `${amps(asked)} of ${amps(small)}`, gain: rail.peakMa / rail.availableMa! - asked / small - 0.01,
    }
  }
  // A larger supply can raise what the USB sockets give.
  const usbBudgetOf = ({ tree }: Solved) =>
    facts.plan.limits['board.usbBudgetMa']?.value ?? usbBudget(facts, feedLimit(facts, tree).availableMa)?.value ?? rail.availableMa!
  const small = usb && usbBudget(facts, power.report.rails[0]!.availableMa)?.small
  const load = largest && power.tree.byId.get(largest.node)
  return [{
    code: 'rail.over-budget', id: `rail.over-budget ${rail.rail}`, severity: 'stop', stages: ['power'],
    title: usb ? 'The USB sockets are overloaded' : 'The 3V3 rail is over its budget',
    sentence: `${usb ? 'Plugs' : 'Parts'} ask ${amps(rail.peakMa)} at peak of ${usb ? 'the USB sockets' : 'the 3V3 positions'}, which `
      + `give ${amps(rail.availableMa)} together: ${usb ? 'the board switches them off' : 'the regulator sags and the board restarts'}. `
      + `The largest share is ${largest!.name} with ${amps(largest!.peakMa)}; feed it from `
      + `${usb ? 'a powered hub' : 'a regulator of its own'}.`,
    subjects: [{ node, rail: rail.rail }, ...largest?.partId ? [{ partId: largest.partId, rail: rail.rail }] : []],
    figures: [
      { label: 'peak', value: ma(rail.peakMa), unit: 'mA', limit: rail.availableMa, origin: rail.origin, limitKey: rail.limitKey },
      { label: 'typical', value: ma(rail.typicalMa), unit: 'mA' },
    ],
    fixes: waysOut(
      { facts, power }, `rail.over-budget ${rail.rail}`,
      () => usb
        ? [...ownHub(facts, power.tree), ...small ? largerSupplies(facts, 5000) : [], ...load ? pastTheBoard(power.tree, load) : []]
        : load
          ? ownRegulator(facts, load.id)
          : [],
      ['peak'], judge,
    ),
  }]
})

/** A regulator of its own for a part on 3V3, fed from the 5 V rail. */
function ownRegulator({ catalogue, plan }: Parameters<typeof largerSupplies>[0], load: string) {
  const item = catalogue.powerItems.get('regulator-low-drop-3v3')
  if (!item) return []
  const id = freeNodeId(plan.power, 'regulator-3v3')
  return [{
    label: `Put ${item.name} in for it`, price: item.price ?? 0,
    edits: [{ edit: 'add-node' as const, node: { id, type: item.id, name: item.name, from: '@5V' }, before: load }],
  }]
}
