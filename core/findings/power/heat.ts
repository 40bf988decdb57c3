/** Heat: clocks that fall under load, fans that do nothing, coolers that do not fit. */
import { COOLERS, ENCLOSURES, OTHER_COOLER } from '../../power/heat/coolers'
import { heatSheet } from '../../power/heat/sheet'
import { boardClocking, savedAtPeakMa } from '../../facts/board'
import type { HeatPlan } from '../../plan/power'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { coolings, hasFan, lidMm } from './coolings'
import { limitOf, seconds, sentenceCase, watts } from './words'

/** The board gets so hot in the load test that its clocks fall. */
export const throttles: Rule = (evidence) => {
  const { facts, power } = evidence
  const { heat } = power.report
  if (!heat || heat.slowsAtS === null) return []
  const plan = facts.heat.set
  const loss = 100 - heat.endClockPercent
  return [{
    code: 'heat.slows', id: 'heat.slows', severity: plan.load === 'peak' ? 'caution' : 'stop',
    stages: ['power', 'build'],
    title: `Clocks fall after ${seconds(heat.slowsAtS)} of load`,
    sentence: `Under ${plan.load} load (${watts(heat.boardW)}) with ${COOLERS[plan.cooler].label} `
      + `${ENCLOSURES[plan.enclosure].label} at ${plan.ambientC} °C the processor passes ${heat.slowsC} °C after `
      + `${seconds(heat.slowsAtS)}; it would reach ${Math.round(heat.steadyC)} °C. At the end of the test it runs `
      + `${Math.round(loss)} % slower.`,
    subjects: [{ node: '@board' }], figures: [
      {
        label: 'would reach', value: Math.round(heat.steadyC), unit: '°C',
        ...limitOf(power.tree.byId.get('@board')!, 'slowsC'),
      },
      { label: 'until clocks fall', value: heat.slowsAtS, unit: 's' },
      { label: 'heat', value: Number(heat.boardW.toFixed(1)), unit: 'W' },
    ],
    fixes: coolings(evidence),
    worksheet: heatSheet(facts.board, heat.boardW, plan),
  }]
}

/** Under a lid that lies too low: another case, or another cooler, whichever of the two is no thing of the plan. */
function lower(evidence: Evidence, heightMm: number): Fix[] {
  const { plan, heat: { cooler, enclosure } } = evidence.facts
  const { heat } = plan.power
  const set = (label: string, changes: Partial<HeatPlan>): Fix =>
    ({ label, edits: [{ edit: 'set-power', power: { heat: { ...heat, ...changes } } }] })
  return [
    ...!enclosure && heightMm <= ENCLOSURES.vented.lidMm! ? [set('A case with openings', { enclosure: 'vented' })] : [],
    ...!enclosure && !cooler
      ? [set('A case that is the heat sink', { cooler: 'case-body', fan: { mode: 'none' } })]
      : [],
    ...enclosure && COOLERS.fins.heightMm <= lidMm(evidence)
      ? [set(sentenceCase(COOLERS.fins.label), { cooler: 'fins', ...OTHER_COOLER, fan: { mode: 'none' } })]
      : [],
  ]
}

/** Fan settings without a fan, coolers that do not go under a lid, a fan that chases itself. */
export const fanSense: Rule = (evidence) => {
  const { facts, power } = evidence
  const { set, cooler, enclosure } = facts.heat
  const plan = facts.plan.power.heat
  const findings: Finding[] = []
  const common = { stages: ['power' as const, 'build' as const], subjects: [{ node: '@board' }], fixes: [] as Fix[] }
  if (!facts.board) return []
  if (set.fan.mode !== 'none' && !hasFan(evidence)) findings.push({
    ...common, code: 'fan.none', id: 'fan.none', severity: 'caution', title: 'A fan is set up and none is there',
    sentence: 'The plan says when a fan runs, and has no fan and no cooler with one: the load test counts on air that '
      + 'does not move. Add a fan, or set the fan to none.',
    figures: [{ label: 'fans', value: 0, limit: 1, origin: 'practice' }],
    fixes: [
      { label: 'No fan', edits: [{ edit: 'set-power', power: { heat: { ...plan, fan: { mode: 'none' } } } }] },
      ...!cooler && COOLERS.active.heightMm <= lidMm(evidence)
        ? [{ label: 'A heat sink with its own fan',
            edits: [{ edit: 'set-power' as const, power: { heat: { ...plan, cooler: 'active' as const } } }] }]
        : [],
    ],
  })
  // Where both are things of the plan the rule about things tells it.
  const heightMm = cooler?.part.thing!.heightMm ?? COOLERS[set.cooler].heightMm
  const roomMm = set.cooler === 'case-body' ? Infinity : lidMm(evidence)
  if (!(cooler && enclosure) && heightMm > roomMm) findings.push({
    ...common, code: 'cooler.under-lid', id: 'cooler.under-lid', severity: 'stop',
    title: 'The cooler does not go under the lid',
    sentence: `${sentenceCase(COOLERS[set.cooler].label)} stands ${heightMm} mm above the board, and the lid of what `
      + `the load test runs in lies ${roomMm} mm above `
      + `it${COOLERS[set.cooler].fan ? '; under a lid its fan blows in a circle' : ''}. Leave the lid off, take a case `
      + 'with openings, or a lower cooler.',
    figures: [{
      label: 'height', value: heightMm, unit: 'mm', limit: roomMm,
      origin: cooler?.part.thing!.origin ?? enclosure?.part.thing!.origin ?? 'memory',
    }],
    fixes: lower(evidence, heightMm),
  })
  const { heat } = power.report
  if (heat && plan.fan.mode === 'threshold' && heat.fanStarts > plan.minutes / 2) findings.push({
    ...common, code: 'fan.hunts', id: 'fan.hunts', severity: 'caution',
    title: `The fan comes on ${heat.fanStarts} times in ${plan.minutes} min`,
    sentence: `It starts and stops every ${seconds(plan.minutes * 60 / heat.fanStarts)}: a wider hysteresis, a lower `
      + 'threshold or a speed curve makes it run quietly.',
    figures: [{ label: 'starts', value: heat.fanStarts, limit: Math.round(plan.minutes / 2), origin: 'practice' }],
    fixes: [{
      label: `Hysteresis ${plan.fan.hysteresisC + 8} K`,
      edits: [{ edit: 'set-power',
        power: { heat: { ...plan, fan: { ...plan.fan, hysteresisC: plan.fan.hysteresisC + 8 } } } }],
    }],
  })
  return findings
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
      label: 'clock', value: clock.coreMhz ?? clocking.coreMhz, unit: 'MHz',
      limit: `${clocking.leastMhz} to ${clocking.coreMhz}`,
      origin: clocking.origin,
    },
    { label: 'voltage steps of 25 mV', value: clock.voltageSteps, limit: `${clocking.stepsLeast} to 0`,
      origin: clocking.origin },
    {
      label: saved >= 0 ? 'saved at peak' : 'more at peak', value: Math.round(Math.abs(saved)), unit: 'mA',
      origin: 'textbook: clock × voltage²',
    },
  ]
  const common = { stages: ['power' as const, 'boot' as const], subjects: [{ node: '@board' }], figures }
  const back: Fix = {
    label: 'Back to the board\'s own clock',
    edits: [{ edit: 'set-power', power: { clock: { coreMhz: null, voltageSteps: 0 } } }],
  }
  if (above || low) {
    return [{ ...common, code: 'clock.unusual', id: 'clock.unusual', severity: 'caution', title: above
      ? 'Faster than the board is made for'
      : 'Slower or lower than these boards usually run',
    sentence: above
      ? `Clock or core voltage above the board's own take ${Math.round(-saved)} mA more at peak and may end the `
      + 'board\'s warranty. Watch temperature and supply.'
      : `Boards of this kind usually run down to ${clocking.leastMhz} MHz and ${clocking.stepsLeast} steps; below that `
        + 'one may not start. Keep a card at hand to take the lines back.',
    fixes: [back] }]
  }
  return [{
    ...common, code: 'clock.lowered', id: 'clock.lowered', severity: 'note',
    title: `A lower clock saves ${Math.round(saved)} mA at peak`,
    sentence: `The boot file gets arm_freq${clock.voltageSteps ? ' and over_voltage' : ''}; the board is `
      + `${Math.round((1 - (clock.coreMhz ?? clocking.coreMhz) / clocking.coreMhz) * 100)} % slower under full load.`,
    fixes: [back],
  }]
}
