/**
 * What the pictures of the build show: bodies, and for the step in view which of them are there, new or still to come.
 */
import { createSharedComposable } from '@vueuse/core'
import { stepOfBody } from '~~/core/construction/steps/bodies'
import type { PlacedBody } from '~~/core/mechanics/bodies'
import { engine } from '~/stores/engine'
import { useBuild } from './useBuild'

export type Stand = 'there' | 'now' | 'later'

export const usePicture = createSharedComposable(() => {
  const project = useProjectStore()
  const { build, stepDone, tree } = useBuild()
  const seen = computed(() => project.facts?.board?.body && engine.value && tree.value
    ? engine.value.bodiesOf(project.facts, tree.value)
    : null)
  /** Chosen by the maker; the first that is not done where nothing is. */
  const chosen = ref<string | null>(null)
  const current = computed(() => build.value.steps.find(({ id }) => id === chosen.value)
    ?? build.value.steps.find(step => !stepDone(step)) ?? build.value.steps.at(-1) ?? null)
  const placeOf = computed(() => new Map(build.value.steps.map(({ id }, i) => [id, i])))
  const stepOf = computed(() =>
    new Map((seen.value?.bodies ?? []).map(body => [body.id, stepOfBody(body, build.value.steps)])))

  function standOf({ id }: PlacedBody): Stand {
    const step = stepOf.value.get(id)
    const at = current.value ? placeOf.value.get(current.value.id)! : -1
    if (step == null) return 'there'
    const place = placeOf.value.get(step) ?? -1
    if (place === at) return 'now'
    return place < at ? 'there' : 'later'
  }

  /** Bodies that are in one another or over the lid. */
  const troubled = computed(() => new Set([
    ...(seen.value?.room.clashes ?? []).flatMap(({ one, two }) => [one.id, two.id]),
    ...(seen.value?.room.overLid ?? []).map(({ body }) => body.id),
    ...(seen.value?.room.walls ?? []).map(({ body }) => body.id),
  ]))

  return { seen, current, chosen, standOf, troubled }
})
