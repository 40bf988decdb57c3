/**
 * What the engines say of plans that are right and wrong in many ways, word for word, beside what they said when last looked at: a change
 * of
 * the core that changes any of it is seen. The texts prove nothing by themselves; what is right stands in the other tests. After a change
 * that is meant, read the difference and renew them: `npx vitest run test/unit/recorded.test.ts -u`.
 */
import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lintBoot } from '../../core/boot/lint'
import { evaluate } from '../../core/evaluate'
import { gatherFacts } from '../../core/facts/gather'
import { netlistOf } from '../../core/netlist/build'
import { placePlan } from '../../core/placement/place'
import type { Plan } from '../../core/plan/types'
import { powerOf } from '../../core/power/report'
import { demoPlans } from '../../demo'
import { anyBootText } from '../bootfiles'
import { anyPlan, worn } from '../generated'
import { catalogue } from '../plans'

/** Figures to four places: what a reader would see change. */
const json = (value: unknown) => JSON.stringify(value, (_, inner: unknown) => typeof inner === 'number'
  ? Number(inner.toPrecision(4))
  : inner)
/** Stands for what would be too long to keep. */
const digest = (value: unknown) => createHash('sha256').update(json(value) ?? '').digest('hex').slice(0, 12)

const findings = (plan: Plan) => evaluate(plan, catalogue).findings
  .map(({ id, severity, title, ...rest }) => `${severity} ${id}: ${title} #${digest(rest).slice(0, 6)}`).join('\n')

const BOARDS = [null, ...catalogue.boards.values()]
function lint(text: string): string {
  return (['key-value', 'extlinux', 'environment'] as const).flatMap((dialect, i) =>
    lintBoot({
      files: { dialect, text, commandLine: text.length % 3 ? 'quiet root=/dev/x' : undefined }, board: BOARDS[(text.length + i) % 6]!,
    })
      .map(({ code, line, from, ...rest }) => `${dialect} ${code} ${line}:${from} #${digest(rest).slice(0, 6)}`)).join('\n')
}

function wires(plan: Plan): string {
  const facts = gatherFacts(plan, catalogue)
  const { components, conductors, nets } = netlistOf(facts, powerOf(facts).tree)
  const { partsList, expected } = evaluate(plan, catalogue)
  return [
    `components ${components.map(({ id, ...rest }) => `${id}#${digest(rest).slice(0, 4)}`).join(' ')}`,
    `conductors ${conductors.map(({ id, ...rest }) => `${id}#${digest(rest).slice(0, 4)}`).join(' ')}`,
    `nets #${digest(nets)} parts list #${digest(partsList)} expected #${digest(expected)}`,
  ].join('\n')
}

function power(plan: Plan): string {
  const { states, report, tree } = powerOf(gatherFacts(plan, catalogue))
  return [
    ...states.map(state => `${state.id} ${json(state.nodes['@5V'] ?? null)} #${digest(state)}`),
    `tree #${digest(tree.nodes)} ${Object.entries(report).map(([name, value]) => `${name} #${digest(value).slice(0, 6)}`).join(' ')}`,
  ].join('\n')
}

const placement = (plan: Plan) => json(placePlan(plan, catalogue, { scope: 'rest' })).replace(/},/g, '},\n')

const PLANS = [...Array.from({ length: 140 }, (_, i) => worn(5000 + i)), ...demoPlans]
const TEXTS = fc.sample(anyBootText, { seed: 2026, numRuns: 160 })
const recorded = (of: (plan: Plan) => string, plans: readonly Plan[]) => plans.map((plan, i) => `## ${i} ${plan.board}\n${of(plan)}\n`)
  .join('\n')

describe('said as before', () => {
  it.each([['findings', findings], ['wires', wires], ['power', power]] as const)('%s', async (name, of) => {
    await expect(recorded(of, PLANS)).toMatchFileSnapshot(`../data/recorded/${name}.txt`)
  })

  it('lint of boot files', async () => {
    const said = TEXTS.map((text, i) => `## ${i} ${JSON.stringify(text)}\n${lint(text)}\n`).join('\n')
    await expect(said).toMatchFileSnapshot('../data/recorded/lint.txt')
  })

  it('placement', async () => {
    await expect(recorded(
      placement, Array.from({ length: 40 }, (_, i) => anyPlan(7000 + i, 6)),
    )).toMatchFileSnapshot('../data/recorded/placement.txt')
  })
})
