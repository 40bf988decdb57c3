/** The steps of the open plan, once for the whole stage. */
import { createSharedComposable } from '@vueuse/core'
import { isDone, stepKey, type BuildSteps } from '~~/core/construction/steps'
import type { BuildStep } from '~~/core/construction/steps/types'
import { engine } from '~/stores/engine'

const EMPTY: BuildSteps = {
  steps: [], bench: { steps: [], precedences: [] }, best: null, flips: 0, toolChanges: 0, isOwn: false, broken: [],
  circle: null,
  leftovers: [], minutes: 0,
}

export const useBuild = createSharedComposable(() => {
  const project = useProjectStore()
  /** Worked out once for steps and pictures. */
  const tree = computed(() => project.facts && engine.value ? engine.value.treeOf(project.facts) : null)
  const build = computed(() =>
    project.facts && engine.value && tree.value ? engine.value.stepsOf(project.facts, tree.value) : EMPTY)
  const done = computed(() => new Set(project.plan?.build.done ?? []))
  const stepDone = (step: BuildStep) => isDone(step, done.value)

  /** Ticks a step with all its wires, or takes its own tick and theirs away; one edit. */
  function tick(step: BuildStep, to: boolean): void {
    const keys = [...step.conductors, stepKey(step.id)].filter(key => done.value.has(key) !== to)
    if (!keys.length) return
    project.edit({ edit: 'all', edits: keys.map(wire => ({ edit: 'wire-done', wire, done: to } as const)) }, to
      ? 'Tick a step'
      : 'Untick a step')
  }

  /** One place up or down; the order is the maker's own from then on. */
  function move(id: string, by: -1 | 1): void {
    const order = build.value.steps.map(step => step.id)
    const at = order.indexOf(id)
    const to = at + by
    if (at < 0 || to < 0 || to >= order.length) return
    order.splice(to, 0, ...order.splice(at, 1))
    project.edit({ edit: 'order-steps', order }, 'Move a step')
  }

  const computedOrder = () => project.edit({ edit: 'order-steps', order: [] }, 'Take the computed order')

  return { build, tree, done, stepDone, tick, move, computedOrder }
})
