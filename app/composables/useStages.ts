import type { StageId } from '~~/core/plan/types'

export interface Stage {
  id: StageId
  name: string
  number: number
}

/** The seven stages in the order of the work. */
export const STAGES: readonly Stage[] = (['Board', 'Parts', 'Wiring', 'Power', 'Boot files', 'Build', 'Bring-up'] as const)
  .map((name, i) => ({ name, number: i + 1, id: (['board', 'parts', 'wiring', 'power', 'boot', 'build', 'bringup'] as const)[i]! }))

/** The stage of the current address, and the way to others. */
export function useStages() {
  const route = useRoute()
  const current = computed(() => STAGES.find(stage => route.path.endsWith(`/${stage.id}`)) ?? STAGES[0]!)
  const pathOf = (stage: StageId) => `/project/${String(route.params.id)}/${stage}`
  const go = (stage: StageId) => navigateTo(pathOf(stage))
  return { stages: STAGES, current, pathOf, go }
}
