import { STAGES as STAGE_TABLE, type StageId } from '~~/core/plan/types'

export interface Stage {
  id: StageId
  name: string
  number: number
}

/** The seven stages in the order of the work. */
export const STAGES: readonly Stage[] = STAGE_TABLE.map((stage, i) => ({ ...stage, number: i + 1 }))

/** The stage of the current address, and the way to others. */
export function useStages() {
  const route = useRoute()
  const current = computed(() => STAGES.find(stage => route.path.endsWith(`/${stage.id}`)) ?? STAGES[0]!)
  const pathOf = (stage: StageId) => `/project/${String(route.params.id)}/${stage}`
  const go = (stage: StageId) => navigateTo(pathOf(stage))
  return { stages: STAGES, current, pathOf, go }
}
