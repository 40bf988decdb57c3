/** The order of a build: rules that go round in a circle, and steps of the maker's own order that come too late. */
import { shownOrder } from '../construction/steps'
import { workbenchOf } from '../construction/steps/make'
import { bestOrder, brokenBy, smallestCircle } from '../construction/steps/order'
import { wiresOf } from '../construction/wires'
import { thingKind } from '../catalogue/things'
import { SERIES } from '../mechanics/fasteners'
import { fixingsOf, mountOf } from '../mechanics/panel'
import { stackOnSpacers } from '../mechanics/stack'
import type { Edit } from '../plan/edits'
import type { Finding, Rule } from './types'

const MAX_TOLD = 6
/** The thinner of the threads that boards are held by. */
const THINNER = 'M2.5'

/** Boards on spacers that no screw of the series holds, or whose holes are too small for the thread. */
export const mountHolds: Rule = ({ facts }) => {
  const { board, plan: { build: { mount, spacers } } } = facts
  const told = (id: string, title: string, sentence: string, more: Partial<Finding> = {}): Finding => ({
    code: 'build.mount', id, severity: 'caution', stages: ['build'], subjects: [], figures: [], title, sentence,
    fixes: [], ...more,
  })
  const mounted = mountOf(facts)
  const box = facts.parts.find(({ part }) => thingKind(part) === 'case')
  const ground = mounted?.ground
  const tight = mount && board?.body?.holes?.find(({ dMm }) => dMm < SERIES[mount.thread].d)
  const goesThrough = tight && tight.dMm >= SERIES[THINNER].d
  return [
    ...tight
      ? [told('build.mount thread', `${mount.thread} does not go through the holes of the board`,
          `Its holes have ${tight.dMm} mm: `
          + `${goesThrough ? `take ${THINNER}` : 'hold it by its edges, or in a case made for it'}. Do not drill them `
          + 'up: conductors run beside them.', {
            figures: [{
              label: 'hole', value: tight.dMm, unit: 'mm', limit: SERIES[mount.thread].d, origin: board!.body!.origin,
            }],
            fixes: goesThrough
              ? [{ label: `Take ${THINNER}`, edits: [{ edit: 'set-mount', mount: { ...mount, thread: THINNER } }] }]
              : [],
          })]
      : [],
    ...mounted
      ? mounted.answer.problems.map(problem => told('build.mount',
          `Nothing that is sold holds the board on ${ground ? ground.owner.name : 'its plate'}`, problem, ground
            ? {
                subjects: [{ partId: ground.owner.id }],
                fixes: mounted.mount.thread === ground.thread
                  ? []
                  : [{
                      label: `Take ${ground.thread}`,
                      edits: [{ edit: 'set-mount', mount: { ...mounted.mount, thread: ground.thread } }],
                    }],
              }
            : {}))
      : [],
    ...mount && box
      ? [told(`build.mount ${box.id}`, `The board stands on spacers and in ${box.name}`,
          `${box.name} has places of its own for the board: spacers and plate are for a board in the open. Say where `
          + 'it is, and the screws and heights are those of that place.', {
            severity: 'note', subjects: [{ partId: box.id }], fixes: [{
              label: 'No spacers under the board', edits: [{ edit: 'set-mount', mount: null }],
            }],
          })]
      : [],
    ...fixingsOf(facts)
      .flatMap(({ owner, thread, depthMm, clampedMm, screwMm }) => clampedMm === null || screwMm !== null
        ? []
        : [told(`build.mount ${owner.id}`, `No screw of the series holds what is screwed to ${owner.name}`,
            `Between ${clampedMm} mm and a thread of ${thread} that is ${depthMm} mm deep no length holds without `
            + 'hitting the ground: put a washer under the head, or take something thinner.',
            { subjects: [{ partId: owner.id }] })]),
    ...spacers && !tight
      ? stackOnSpacers(facts).levels.flatMap(({ partId, name, problem }) => problem === null
          ? []
          : [told(`build.mount ${partId}`, `${name} has nothing that holds it on spacers`, problem,
              { subjects: [{ partId }] })])
      : [],
  ]
}

/** Only where the maker has an order or rules: what follows from the plan alone goes round in no circle. */
export const buildOrder: Rule = ({ facts, netlist }) => {
  const { build } = facts.plan
  if (!build.order.length && !build.rules.length) return []
  const bench = workbenchOf(facts, netlist, wiresOf(facts, netlist))
  const titleOf = (id: string) => bench.steps.find(step => step.id === id)?.title ?? id
  const circle = smallestCircle(bench)
  if (circle) {
    const own = circle.filter(rule => rule.own)
    const drop = (first: string, then: string): Edit =>
      ({ edit: 'set-step-rules', rules: build.rules.filter(rule => !(rule.first === first && rule.then === then)) })
    return [{
      code: 'build.circle', id: 'build.circle', severity: 'stop', stages: ['build'], subjects: [], figures: [],
      title: 'There is no order for this build: its rules go round in a circle',
      sentence: `${circle.map(({ first, why }) => `“${titleOf(first)}” comes first, because ${why}`).join('; then ')}; `
        + 'and so on from the start. Give one of these up.',
      fixes: own.map(({ first, then }) => ({ label: `Give up “${titleOf(first)} before ${lowered(titleOf(then))}”`,
        edits: [drop(first,
          then)] })),
    }]
  }
  if (!build.order.length) return []
  // The same order as is shown, with what came into the plan since.
  const broken = brokenBy(shownOrder(build.order, bench, bestOrder(bench)), bench.precedences)
  if (!broken.length) return []
  const isFed = broken.some(({ then }) => then === 'supply')
  const told = broken.slice(0, MAX_TOLD)
    .map(({ first, then, why }) => `“${titleOf(first)}” comes after “${titleOf(then)}”, but ${why}`)
  const finding: Finding = {
    code: 'build.too-late', id: 'build.too-late', severity: isFed ? 'stop' : 'caution', stages: ['build'],
    subjects: [], figures: [],
    title: broken.length === 1
      ? `A step comes too late: ${titleOf(broken[0]!.first)}`
      : `${broken.length} steps come too late`,
    sentence: `${told.join('; ')}${broken.length > MAX_TOLD ? `; and ${broken.length - MAX_TOLD} more` : ''}.`,
    fixes: [{ label: 'Take the order without regret', edits: [{ edit: 'order-steps', order: [] }] }],
  }
  return [finding]
}

const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
