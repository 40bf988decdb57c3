/** Failures of the server as JSON for the routes, as a plain page for everything else; never with a stack. */
import type { NitroErrorHandler } from 'nitropack'
import { failureJson, type Problem } from './work/problem'

export default <NitroErrorHandler> function (error, event) {
  const status = error.statusCode || 500
  const ours = status >= 500 && status !== 503
  if (ours) console.error(`${event.method} ${event.path}:`, error.cause ?? error)
  const message = ours ? 'A fault of Voltaris' : error.statusMessage || 'Refused'
  const { problems } = (error.data ?? {}) as { problems?: Problem[] }
  const { res } = event.node
  if (res.headersSent) return void res.end()
  for (const [name, value] of Object.entries((error as { headers?: Record<string, string> }).headers
    ?? {})) res.setHeader(name, value)
  res.statusCode = status
  if (event.path.startsWith('/api')) {
    res.setHeader('content-type', 'application/json')
    const told = problems ?? [
      { path: '', message: ours
        ? 'This is a fault of Voltaris, not of the request; the log of the server has it.'
        : message },
    ]
    res.end(event.method === 'HEAD' ? undefined : JSON.stringify(failureJson(status, message, told)))
    return
  }
  res.setHeader('content-type', 'text/plain; charset=utf-8')
  res.end(`${status} ${message}\n`)
}
