import { shippedCatalogue } from '../../core/catalogue'
import { evaluate } from '../../core/evaluate'
import { planFromBody } from '../utils/door'

/** Voltage, current and power at every node in every state, and what the rules say of the supply. */
export default defineEventHandler(async (event) => {
  const { power, findings } = evaluate(await planFromBody(event), shippedCatalogue)
  return { ...power, findings: findings.filter(finding => finding.stages.includes('power')) }
})
