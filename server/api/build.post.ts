import { shippedCatalogue } from '../../core/catalogue'
import { evaluate } from '../../core/evaluate'
import { planFromBody } from '../utils/door'

/** Wire list in the order of connecting, parts list, and what stops the building. */
export default defineEventHandler(async (event) => {
  const { wires, partsList, findings } = evaluate(await planFromBody(event), shippedCatalogue)
  return { wires, partsList, findings: findings.filter(finding => finding.stages.includes('build')) }
})
