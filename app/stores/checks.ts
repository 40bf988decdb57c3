/** What of the core is fetched together once the first picture is there. */
export { evaluateFacts } from '~~/core/evaluate'
export { supplyChoices, trySupply } from '~~/core/supply-choice'
export { firstPlan } from '~~/core/starters'
export { sheetOf, stepsOf, treeOf } from '~~/core/build/of-facts'
export { bodiesOf } from '~~/core/mechanics/of-facts'
