import type { H3Event } from 'h3'
import { isAllowed, mustBeJson, mustBeOwnOrigin } from '../utils/door'
import { refusal } from '../utils/refusal'
import { ROUTES } from '../utils/routes'

/** Who may come in: known paths, their methods, own or allowed origins, JSON. */
export default defineEventHandler((event) => {
  const path = event.path.split('?')[0]!
  if (path !== '/api' && !path.startsWith('/api/')) return page(event, path)
  setResponseHeader(event, 'cache-control', 'no-store')
  const method = Object.hasOwn(ROUTES, path) ? ROUTES[path]! : undefined
  if (!method) {
    throw refusal(404, 'No such route',
      `There is no route "${path.slice(0, 100)}". There are: ${Object.keys(ROUTES).join(', ')}.`)
  }
  const allowed = answerToAllowed(event.node.req.headers.origin)
  for (const [name, value] of Object.entries(allowed)) setResponseHeader(event, name, value)
  if (event.method === 'OPTIONS') {
    mustBeOwnOrigin(event)
    setResponseHeaders(event, {
      'allow': `${method}, OPTIONS`, 'access-control-allow-methods': method,
      'access-control-allow-headers': 'content-type',
    })
    return sendNoContent(event)
  }
  if (event.method !== method && !(event.method === 'HEAD' && method === 'GET')) {
    throw refusal(405, 'Wrong method', `${path} takes ${method}, not ${event.method}.`, { allow: `${method}, OPTIONS` })
  }
  mustBeOwnOrigin(event)
  if (method === 'POST') mustBeJson(event)
})

const answerToAllowed = (origin: string | undefined): Record<string, string> =>
  origin !== undefined && isAllowed(origin) ? { 'access-control-allow-origin': origin, 'vary': 'origin' } : {}

/** Pages are read; a path with an ending is a file, and one that is there was answered before. */
function page(event: H3Event, path: string): void {
  if (event.method !== 'GET' && event.method !== 'HEAD') {
    throw refusal(405, 'Wrong method', `${path.slice(0, 100)} is a page; it is read with GET.`, { allow: 'GET, HEAD' })
  }
  if (path !== '/settings.js'
    && /\.[a-z\d]+$/i.test(path)) throw refusal(404, 'No such file', `There is no file "${path.slice(0, 100)}".`)
}
