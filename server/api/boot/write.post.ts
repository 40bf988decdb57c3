import { shippedCatalogue } from '../../../core/catalogue'
import { needsOf } from '../../../core/overlays/asks/needs'
import { gatherFacts } from '../../../core/facts/gather'
import { mergedFile } from '../../../core/boot/own/file'
import { planAndMore } from '../../utils/door'

/** The boot file with the plan's lines in it. The body is a plan, or `{ plan, text }` for another file than the plan's own. */
export default defineEventHandler(async (event) => {
  const { plan, text } = await planAndMore(event)
  const facts = gatherFacts(text === undefined ? plan : { ...plan, boot: { ...plan.boot, text } }, shippedCatalogue)
  if (!facts.board) {
    throw createError({
      statusCode: 400, statusMessage: 'Unusable plan',
      data: { problems: [{ path: 'board', message: 'The plan names no board that the catalogue knows; the lines depend on it.' }] },
    })
  }
  return mergedFile(facts, needsOf(facts))
})
