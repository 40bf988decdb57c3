import { shippedCatalogue } from '../../../core/catalogue'
import { rehearse } from '../../../core/boot/rehearse/rehearse'
import { gatherFacts } from '../../../core/facts/gather'
import { planFromBody, treeWork } from '../../utils/door'

/** The story of a start with the plan's files: steps, claims, collisions, device nodes, parts. */
export default defineEventHandler(async (event) => {
  const facts = gatherFacts(await planFromBody(event), shippedCatalogue)
  const { tree: _, ...story } = treeWork('boot.base', () => rehearse(facts))
  return story
})
