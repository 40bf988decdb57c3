import { readCatalogue } from '../utils/catalogue'
import { takesGzip } from '../utils/heavy'

/** All boards, parts, supplies and power items that ship. */
export default defineEventHandler(async (event) => {
  const gzip = takesGzip(getRequestHeader(event, 'accept-encoding'))
  const { body } = await readCatalogue(gzip)
  setResponseHeaders(event, {
    'content-type': 'application/json', 'cache-control': 'public, max-age=300', 'vary': 'accept-encoding',
    ...(gzip && { 'content-encoding': 'gzip' }),
  })
  return Buffer.from(body)
})
