/** The vocabulary of the plan. What each field is, and what its check lets through, is declared in `shape.ts`. */
export type * from './shape'
export { PLAN_FORMAT, PLAN_VERSION } from './shape'
export { STAGES, STAGE_IDS, type StageId } from './stages'
