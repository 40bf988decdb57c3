/** Clock and voltage settings: out of sane range, or lower, with what that saves. */
import { boardClocking, boardDraw, drawShare } from '../../facts/board'
import { numberOf } from '../../overlays/library'
import type { Asked } from '../scope/effective'
import type { LintFinding, LintRule } from './types'
import { dropLine, found, replace } from './words'

/** Further above its own clock than this a board of these kinds does not run; further below nothing is saved. memory */
const MAX_ABOVE = 1.25

export const clocks: LintRule = ({ effective, files, board, plan }) => {
  if (files.dialect !== 'key-value' || !board) return []
  const last = (name: string) =>
    effective.asked.findLast((asked): asked is Extract<Asked, { kind: 'setting' }> =>
      asked.kind === 'setting' && asked.name === name && asked.applies === 'always')
  const clocking = boardClocking(board)
  const [frequency, voltage, forced] = [last('arm_freq'), last('over_voltage'), last('force_turbo')]
  const findings: LintFinding[] = []
  const mhz = frequency ? numberOf(frequency.value) : Number.NaN
  const steps = voltage ? numberOf(voltage.value) : 0
  const usual = { coreMhz: null, voltageSteps: 0 }
  const asSet = { coreMhz: Number.isNaN(mhz) ? null : mhz, voltageSteps: Number.isNaN(steps) ? 0 : steps }
  // What the plan itself asks for is told by the plan's own rule.
  const planned = plan?.clock.coreMhz === asSet.coreMhz && plan.clock.voltageSteps === asSet.voltageSteps
  const saved = Math.round(boardDraw(board, usual).peakMa - boardDraw(board, asSet).peakMa)
  const share = Math.round((1 - drawShare(clocking, asSet) / drawShare(clocking, usual)) * 100)
  const figures = [
    {
      label: 'clock', value: asSet.coreMhz ?? clocking.coreMhz, unit: 'MHz',
      limit: `${clocking.leastMhz} to ${clocking.coreMhz}`,
      origin: clocking.origin,
    },
    { label: 'voltage steps of 25 mV', value: asSet.voltageSteps, limit: `${clocking.stepsLeast} to 0`,
      origin: clocking.origin },
    { label: saved >= 0 ? 'saved at peak' : 'more at peak', value: Math.abs(saved), unit: 'mA',
      origin: 'textbook: clock × voltage²' },
  ]
  const at = (asked: typeof frequency) => ({ ...asked!.where, from: asked!.where.to - asked!.value.length })
  if (frequency && mhz > clocking.coreMhz * MAX_ABOVE) findings.push(found(
    'clock.out-of-range', 'stop', frequency.where, `${mhz} MHz is more than this board runs at`,
    `Its own clock is ${clocking.coreMhz} MHz; at ${mhz} it most likely does not start, and the card has to be mended `
    + `elsewhere. It would take ${Math.abs(saved)} mA more at peak.`,
    {
      figures,
      fixes: [
        replace(`Write ${clocking.coreMhz}`, at(frequency), String(clocking.coreMhz)),
        dropLine('Take the line out', files, frequency.where),
      ],
    },
  ))
  else if (frequency && mhz > clocking.coreMhz) findings.push(found(
    'clock.above', 'caution', frequency.where, `${mhz} MHz is above the board's own clock`,
    `${Math.abs(saved)} mA more at peak, and hotter. It needs cooling, a supply with room, and often a step `
    + 'of voltage more.',
    { figures, fixes: [dropLine('Back to the board\'s own clock', files, frequency.where)] },
  ))
  else if (frequency && mhz > 0 && mhz < clocking.leastMhz) findings.push(found(
    'clock.out-of-range', 'caution', frequency.where, `${mhz} MHz is below what these boards usually run at`,
    `Under ${clocking.leastMhz} MHz little more is saved (${saved} mA at peak as written), and some boards `
    + 'do not start.',
    { figures, fixes: [replace(`Write ${clocking.leastMhz}`, at(frequency), String(clocking.leastMhz))] },
  ))
  else if (saved > 0 && !planned && (frequency ?? voltage)) {
    findings.push(found(
      'boot.clock-lowered', 'note', (frequency ?? voltage)!.where, `Lower clock and voltage save ${saved} mA at peak`,
      `The board takes ${share} % less when it works hard, and is slower by `
      + `${Math.round((1 - (asSet.coreMhz ?? clocking.coreMhz) / clocking.coreMhz) * 100)} %.`,
      { figures },
    ))
  }
  if (voltage && asSet.voltageSteps > 6) findings.push(found(
    'clock.out-of-range', 'stop', voltage.where, `over_voltage=${voltage.value} is more than boards stand for long`,
    'Above 6 steps the board\'s warranty is gone on many classes, and heat rises with the square of the voltage: '
    + `${Math.abs(saved)} mA more at peak.`,
    { figures, fixes: [replace('Write 0', at(voltage), '0'), dropLine('Take the line out', files, voltage.where)] },
  ))
  else if (voltage && asSet.voltageSteps < clocking.stepsLeast) {
    findings.push(found(
      'clock.out-of-range', 'caution', voltage.where,
      `over_voltage=${voltage.value} is lower than these boards usually start with`,
      `They usually run down to ${clocking.stepsLeast} steps. Keep a card at hand to take the line back.`,
      { figures, fixes: [replace(`Write ${clocking.stepsLeast}`, at(voltage), String(clocking.stepsLeast))] },
    ))
  }
  if (forced?.value === '1') {
    findings.push(found(
      'clock.forced', 'caution', forced.where, 'Full clock all the time',
      'The board draws its peak share and heats even when it idles; together with over_voltage some classes lose their '
      + 'warranty. For a steady small serial port enable_uart=1 is enough.',
      { fixes: [dropLine('Take the line out', files, forced.where)] },
    ))
  }
  return findings
}
