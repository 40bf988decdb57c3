/** The board's own analog sound beside what the plan has on the circuit that makes it. */
import type { LintFinding, LintRule } from './types'
import { found, replace } from './words'

const ON = /^(on|true|yes|1|)$/i

/**
 * `audio=on` lets the sound driver run the PWM circuit whose channels parts of the plan have. Memory: images'
 * README of `pwm`.
 */
export const soundBesidePwm: LintRule = ({ board, effective, plan }) => {
  if (!board?.soundSocket || !plan?.pwmUsers.length) return []
  // The last word counts.
  const asked = effective.asked.flatMap(entry =>
    entry.kind === 'param' && entry.name === 'audio' && entry.applies === 'always' ? [entry] : []).at(-1)
  if (!asked || !ON.test(asked.value)) return []
  const names = plan.pwmUsers.map(user => user.name)
  return [found('pwm.and-sound', 'caution', asked.where, 'Analog sound and PWM are one circuit',
    `The board makes the sound of its socket with the PWM channels that ${names.join(' and ')} `
    + `${names.length === 1 ? 'has' : 'have'}: whenever sound plays there, the pulses are lost. Switch analog sound `
    + 'off; sound by video, USB or I²S is not touched.',
    {
      partIds: plan.pwmUsers.map(user => user.partId), figures: [],
      fixes: [replace('Switch analog sound off', asked.where, 'audio=off')],
    })] satisfies LintFinding[]
}
