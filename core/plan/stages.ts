/** The stages, in the order of the work: the one table of them. */
export const STAGES = [
  { id: 'board', name: 'Board' }, { id: 'parts', name: 'Parts' }, { id: 'wiring', name: 'Wiring' },
  { id: 'power', name: 'Power' },
  { id: 'boot', name: 'Boot files' }, { id: 'build', name: 'Build' }, { id: 'bringup', name: 'Bring-up' },
] as const

export type StageId = typeof STAGES[number]['id']
export const STAGE_IDS: readonly StageId[] = STAGES.map(stage => stage.id)
