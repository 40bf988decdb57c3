/** What of the core is fetched together once the first picture is there. */
export { evaluateFacts } from '~~/core/evaluate'
export { supplyChoices, trySupply } from '~~/core/choose/supplies'
export { firstPlan } from '~~/core/choose/starters'
export { sheetOf, stepsOf, treeOf } from '~~/core/construction/from-facts'
export { bodiesOf } from '~~/core/mechanics/from-facts'
