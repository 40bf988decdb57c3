import { shippedCatalogue } from '../../core/catalogue'
import { placePlan } from '../../core/placement/place'
import { planFromBody } from '../utils/door'

/** Places for every terminal, or the demands that cannot be met together. `?scope=all` keeps only what is fixed. */
export default defineEventHandler(async (event) => {
  const scope = getQuery(event).scope === 'all' ? 'all' : 'rest'
  return placePlan(await planFromBody(event), shippedCatalogue, { scope })
})
