/**
 * What Voltaris says of ten plans, word for word, beside what it said when a person last read it: a change of a text
 * shows as a few lines. The texts prove nothing by themselves; what is right stands in the other tests. After a change
 * that is meant, read the difference and renew them: `npx vitest run test/unit/recorded.test.ts -u`.
 */
import { describe, expect, it } from 'vitest'
import { lintBoot } from '../../core/boot/lint'
import { evaluate } from '../../core/evaluate'
import type { Plan } from '../../core/plan/types'
import { frozen, HAND_PICKED } from '../frozen'

const short = (value: number | string) => typeof value === 'number' ? Number(value.toPrecision(4)) : value

/** What a person reads of a plan, a line each. */
function saidOf(plan: Plan): string {
  const { findings, placements, wires, partsList, boot, power } = evaluate(plan, frozen)
  const lint = lintBoot({ files: { dialect: 'key-value', text: plan.boot?.text ?? '' },
    board: frozen.boards.get(plan.board!)! })
  return [
    ...findings.flatMap(({ severity, code, title, sentence, figures, fixes }) => [
      `${severity} ${code}: ${title}`, `  ${sentence}`,
      ...figures.map(({ label, value, unit, limit, origin }) =>
        [`  ${label} ${short(value)} ${unit ?? ''}`.trimEnd(), ...limit === undefined ? [] : [`limit ${limit}`],
          ...origin ? [origin] : []].join(', ')),
      ...fixes.map(({ label }) => `  fix: ${label}`),
    ]),
    ...lint.map(({ code, line, title }) => `file ${line}: ${code}: ${title}`),
    ...placements.map(({ terminal, position, at, reason }) => `${terminal} at ${position ?? at}: ${reason}`),
    ...wires.map(({ from, to, partName, colour, lengthM }) =>
      `wire ${partName} ${from} → ${to}, ${colour ?? 'no colour'}, ${lengthM} m`),
    ...partsList.map(({ count, what }) => `buy ${count} × ${what}`),
    ...boot.text.split('\n').map(line => `| ${line}`),
    ...power.states.map(({ label, nodes }) =>
      `${label}: ${nodes['@5V'] ? `${short(nodes['@5V'].voltageV)} V on 5V` : 'nothing on 5V'}`),
  ].join('\n')
}

describe('said as before', () => {
  it.each(Object.entries(HAND_PICKED))('of %s', async (name, plan) => {
    await expect(`${saidOf(plan)}\n`)
      .toMatchFileSnapshot(`../data/recorded/${name.replace(/[^a-z0-9]+/gi, '-').toLowerCase()}.txt`)
  })
})
