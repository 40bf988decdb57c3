import { shippedCatalogue } from '../../core/catalogue'
import { evaluate } from '../../core/evaluate'
import { planFromBody } from '../utils/door'

/** The whole report on the plan in the body. */
export default defineEventHandler(async event => evaluate(await planFromBody(event), shippedCatalogue))
