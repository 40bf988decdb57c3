/** Heat: clocks that fall under load, fans that do nothing, coolers that do not fit. */
import { thingKind } from '../../catalogue/things'
import { coolerOf, COOLERS, ENCLOSURES, enclosureOf, OTHER_COOLER } from '../../power/heat/coolers'
import { runHeat } from '../../power/heat/run'
import { heatSheet } from '../../power/heat/sheet'
import { boardClocking, savedAtPeakMa } from '../../facts/board'
import { heatTask } from '../../power/report'
import type { Cooler, Enclosure, FanControl, HeatPlan } from '../../plan/power'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { limitOf, seconds, watts } from './words'

/** A fan in the plan, or the cooler's own. */
const hasFan = ({ facts }: Pick<Evidence, 'facts'>) =>
  COOLERS[facts.plan.power.heat.cooler].fan || facts.parts.some(owner => owner.part.id.startsWith('fan'))

/** A fan that was set up for the heat test. */
export const THRESHOLD: FanControl = { mode: 'threshold', onC: 60, hysteresisC: 10 }

/** The board gets so hot in the load test that its clocks fall. */
export const throttles: Rule = (evidence) => {
  const { facts, power } = evidence
  const { heat } = power.report
  if (!heat || heat.slowsAtS === null) return []
  const plan = facts.plan.power.heat
  const loss = 100 - heat.endClockPercent
  return [{
    code: 'heat.slows', id: 'heat.slows', severity: plan.load === 'peak' ? 'caution' : 'stop', stages: ['power', 'build'],
    title: `Clocks fall after ${seconds(heat.slowsAtS)} of load`,
    sentence: `Under ${plan.load} load (${watts(heat.boardW)}) with ${COOLERS[plan.cooler].label} ${ENCLOSURES[plan.enclosure].label} at `
      + `${plan.ambientC} °C the processor passes ${heat.slowsC} °C after ${seconds(heat.slowsAtS)}; it would reach `
      + `${Math.round(heat.steadyC)} °C. At the end of the test it runs ${Math.round(loss)} % slower.`,
    subjects: [{ node: '@board' }], figures: [
      {
        label: 'would reach', value: Math.round(heat.steadyC), unit: '°C', ...limitOf(power.tree.byId.get('@board')!, 'slowsC'),
      },
      { label: 'until clocks fall', value: heat.slowsAtS, unit: 's' }, { label: 'heat', value: Number(heat.boardW.toFixed(1)), unit: 'W' },
    ],
    fixes: coolings(evidence),
    worksheet: heatSheet(facts.board, heat.boardW, plan),
  }]
}

/** What stands higher than a closed lid allows goes into an open case alone. */
const fitsUnder = (cooler: Cooler, enclosure: Enclosure) => COOLERS[cooler].heightMm <= (ENCLOSURES[enclosure].lidMm ?? Infinity)

/** Other coolers, cases, a fan, a lower clock: each tried in the same test. Cheapest that is enough first. */
function coolings({ facts, power }: Evidence): Fix[] {
  const plan = facts.plan.power.heat
  const otherW = power.report.regulators.reduce((sum, entry) => sum + entry.lossW, 0)
  const base = heatTask(facts, power, otherW)
  if (!base) return []
  const fanHere = hasFan({ facts })
  const withHeat = (changes: Partial<HeatPlan>): HeatPlan => ({ ...plan, ...changes })
  const ways: { label: string, heat: HeatPlan, price: number }[] = [
    ...(Object.keys(ENCLOSURES) as Enclosure[])
      .filter(enclosure => ENCLOSURES[enclosure].stillKw < ENCLOSURES[plan.enclosure].stillKw)
      .map(enclosure => ({
        label: enclosure === 'open' ? 'Leave the case open' : 'A case with openings', heat: withHeat({ enclosure }),
        price: enclosure === 'open' ? 0 : 6,
      })),
    ...(Object.keys(COOLERS) as Cooler[])
      .filter(cooler => (COOLERS[cooler].stillShare < COOLERS[plan.cooler].stillShare || (COOLERS[cooler].fan && plan.cooler !== cooler))
        && fitsUnder(cooler, plan.enclosure))
      .map(cooler => ({
        label: capital(COOLERS[cooler].label),
        heat: withHeat({ cooler, ...OTHER_COOLER, ...COOLERS[cooler].fan && plan.fan.mode === 'none' && { fan: THRESHOLD } }),
        price: COOLERS[cooler].price,
      })),
    ...fanHere && plan.fan.mode === 'none' ? [{ label: 'Let the fan run from 60 °C', heat: withHeat({ fan: THRESHOLD }), price: 0 }] : [],
  ]
  return ways.map((way) => {
    const run = runHeat({
      ...base, cooler: coolerOf(way.heat), enclosure: enclosureOf(way.heat.cooler, way.heat.enclosure), fan: way.heat.fan,
    })
    return { ...way, run }
  })
    .filter(({ run }) => run.hottestC < power.report.heat!.hottestC - 0.5)
    .sort((a, b) =>
      Number(b.run.slowsAtS === null) - Number(a.run.slowsAtS === null) || a.price - b.price || a.run.hottestC - b.run.hottestC)
    .slice(0, 4)
    .map(({ label, heat, run }) => ({
      label: `${label}: ${Math.round(run.hottestC)} °C at most${run.slowsAtS === null ? '' : ', not enough by itself'}`,
      edits: [{ edit: 'set-power', power: { heat } }], ...run.slowsAtS !== null && { isPartial: true as const },
    }))
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** Fan settings without a fan, coolers that do not go under a lid, a fan that chases itself. */
export const fanSense: Rule = (evidence) => {
  const { facts, power } = evidence
  const plan = facts.plan.power.heat
  const findings: Finding[] = []
  const common = { stages: ['power' as const, 'build' as const], subjects: [{ node: '@board' }], fixes: [] as Fix[] }
  if (!facts.board) return []
  if (plan.fan.mode !== 'none' && !hasFan(evidence)) findings.push({
    ...common, code: 'fan.none', id: 'fan.none', severity: 'caution', title: 'A fan is set up and none is there',
    sentence: 'The plan says when a fan runs, and has no fan and no cooler with one: the load test counts on air that does not move. Add '
      + 'a fan, or set the fan to none.',
    figures: [{ label: 'fans', value: 0, limit: 1, origin: 'practice' }],
    fixes: [
      { label: 'No fan', edits: [{ edit: 'set-power', power: { heat: { ...plan, fan: { mode: 'none' } } } }] },
      ...fitsUnder('active', plan.enclosure)
        ? [{ label: 'A heat sink with its own fan',
            edits: [{ edit: 'set-power' as const, power: { heat: { ...plan, cooler: 'active' as const } } }] }]
        : [],
    ],
  })
  // Where the things themselves are in the plan their own heights count.
  const inPlan = ['cooler', 'case'].every(kind => facts.parts.some(owner => thingKind(owner.part) === kind))
  if (!inPlan && !fitsUnder(plan.cooler, plan.enclosure)) findings.push({
    ...common, code: 'cooler.under-lid', id: 'cooler.under-lid', severity: 'stop', title: 'The cooler does not go under the lid',
    sentence: 'A heat sink with its own fan stands higher than a closed case allows, and under a lid its fan blows in a circle. Leave the '
      + 'lid off, take a case with openings, or a case that is the heat sink itself.',
    figures: [{
      label: 'height', value: COOLERS[plan.cooler].heightMm, unit: 'mm', limit: ENCLOSURES[plan.enclosure].lidMm!, origin: 'memory',
    }],
    fixes: [
      { label: 'A case with openings', edits: [{ edit: 'set-power', power: { heat: { ...plan, enclosure: 'vented' } } }] },
      {
        label: 'A case that is the heat sink',
        edits: [{ edit: 'set-power', power: { heat: { ...plan, cooler: 'case-body', fan: { mode: 'none' } } } }],
      },
    ],
  })
  const { heat } = power.report
  if (heat && plan.fan.mode === 'threshold' && heat.fanStarts > plan.minutes / 2) findings.push({
    ...common, code: 'fan.hunts', id: 'fan.hunts', severity: 'caution',
    title: `The fan comes on ${heat.fanStarts} times in ${plan.minutes} min`,
    sentence: `It starts and stops every ${seconds(plan.minutes * 60 / heat.fanStarts)}: a wider hysteresis, a lower threshold or a speed `
      + `curve makes it run quietly.`,
    figures: [{ label: 'starts', value: heat.fanStarts, limit: Math.round(plan.minutes / 2), origin: 'practice' }],
    fixes: [{
      label: `Hysteresis ${plan.fan.hysteresisC + 8} K`,
      edits: [{ edit: 'set-power', power: { heat: { ...plan, fan: { ...plan.fan, hysteresisC: plan.fan.hysteresisC + 8 } } } }],
    }],
  })
  return findings
}

/** A case or a cooler in the plan that the load test does not count with. */
export const thingsInHeat: Rule = ({ facts }) => {
  const plan = facts.plan.power.heat
  return facts.parts.flatMap((owner): Finding[] => {
    const { cooler, enclosure } = owner.part.thing ?? {}
    const differs = (cooler !== undefined && cooler !== plan.cooler)
      || (enclosure !== undefined && cooler === undefined && enclosure !== plan.enclosure)
    if (!differs) return []
    const fits = fitsUnder(cooler ?? plan.cooler, enclosure ?? plan.enclosure)
    return [{
      code: 'heat.thing-unused', id: `heat.thing-unused ${owner.id}`, severity: 'note', stages: ['power', 'parts'],
      title: `The load test does not count with ${owner.name}`,
      sentence: `The plan has ${owner.name}, and its load test runs with ${COOLERS[plan.cooler].label}, `
        + `${ENCLOSURES[plan.enclosure].label}. `
        + (fits
          ? 'Let it count with what is there.'
          : 'The two do not go together: what has a fan of its own does not fit under a closed lid.'),
      subjects: [{ partId: owner.id }, { node: '@board' }],
      figures: [{
        label: cooler === undefined ? 'case' : 'cooler', value: cooler === undefined
          ? ENCLOSURES[plan.enclosure].label
          : COOLERS[plan.cooler].label,
        limit: cooler === undefined ? ENCLOSURES[enclosure!].label : COOLERS[cooler].label, origin: 'part file',
      }],
      // Of two of a kind nobody knows yet which one stays.
      fixes: fits && facts.parts.filter(other => thingKind(other.part) === thingKind(owner.part)).length === 1
        ? [{
            label: `Count with ${owner.name}`,
            edits: [{
              edit: 'set-power', power: { heat: { ...plan, ...cooler && { cooler, ...OTHER_COOLER }, ...enclosure && { enclosure } } },
            }],
          }]
        : [],
    }]
  })
}

/** Clock and voltage settings: what they save, and when they go further than boards usually can. */
export const clockSense: Rule = ({ facts }) => {
  const { board, plan: { power: { clock } } } = facts
  if (!board || (clock.coreMhz === null && clock.voltageSteps === 0)) return []
  const clocking = boardClocking(board)
  const saved = savedAtPeakMa(board, clock)
  const above = (clock.coreMhz ?? 0) > clocking.coreMhz || clock.voltageSteps > 0
  const low = clock.voltageSteps < clocking.stepsLeast || (clock.coreMhz ?? clocking.leastMhz) < clocking.leastMhz
  const figures = [
    {
      label: 'clock', value: clock.coreMhz ?? clocking.coreMhz, unit: 'MHz', limit: `${clocking.leastMhz} to ${clocking.coreMhz}`,
      origin: clocking.origin,
    },
    { label: 'voltage steps of 25 mV', value: clock.voltageSteps, limit: `${clocking.stepsLeast} to 0`, origin: clocking.origin },
    {
      label: saved >= 0 ? 'saved at peak' : 'more at peak', value: Math.round(Math.abs(saved)), unit: 'mA',
      origin: 'textbook: clock × voltage²',
    },
  ]
  const common = { stages: ['power' as const, 'boot' as const], subjects: [{ node: '@board' }], figures }
  const back: Fix = {
    label: 'Back to the board\'s own clock', edits: [{ edit: 'set-power', power: { clock: { coreMhz: null, voltageSteps: 0 } } }],
  }
  if (above || low) {
    return [{ ...common, code: 'clock.unusual', id: 'clock.unusual', severity: 'caution', title: above
      ? 'Faster than the board is made for'
      : 'Slower or lower than these boards usually run',
    sentence: above
      ? `Clock or core voltage above the board's own take ${Math.round(-saved)} mA more at peak and may end the board's warranty. Watch `
      + `temperature and supply.`
      : `Boards of this kind usually run down to ${clocking.leastMhz} MHz and ${clocking.stepsLeast} steps; below that one may not `
        + `start. Keep a card at hand to take the lines back.`,
    fixes: [back] }]
  }
  return [{
    ...common, code: 'clock.lowered', id: 'clock.lowered', severity: 'note', title: `A lower clock saves ${Math.round(saved)} mA at peak`,
    sentence: `The boot file gets arm_freq${clock.voltageSteps ? ' and over_voltage' : ''}; the board is `
      + `${Math.round((1 - (clock.coreMhz ?? clocking.coreMhz) / clocking.coreMhz) * 100)} % slower under full load.`,
    fixes: [back],
  }]
}
