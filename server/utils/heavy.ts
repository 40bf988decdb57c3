/** A route whose work is done by a thread of the pool. */
import type { JobName } from '../work/jobs'
import { bodyBytes } from './door'
import { inPool, mustHaveRoom } from './pool'

/** Reads the body, has the job done, and hands the answer's bytes on as they are. */
export const heavyRoute = (job: JobName) => defineEventHandler(async (event) => {
  const { res } = event.node
  // Asked before the body is read: what is refused anyway need not be sent.
  mustHaveRoom()
  const left = new AbortController()
  res.on('close', () => {
    if (!res.writableFinished) left.abort()
  })
  const query = Object.fromEntries(Object.entries(getQuery(event)).map(([name, value]) => [name, String(value)]))
  const gzip = takesGzip(getRequestHeader(event, 'accept-encoding'))
  const body = event.method === 'GET' ? new Uint8Array() : await bodyBytes(event)
  try {
    const answer = await inPool({ job, body, query, gzip }, left.signal)
    setResponseStatus(event, answer.status)
    setResponseHeaders(event, {
      'content-type': 'application/json', 'vary': 'accept-encoding', ...(answer.gzip && { 'content-encoding': 'gzip' }),
    })
    return Buffer.from(answer.body)
  }
  catch (error) {
    // Nobody is there to be told.
    if (left.signal.aborted) return null
    throw error
  }
})

/** True when the header of the request names gzip and does not rule it out. */
export function takesGzip(header: string | undefined): boolean {
  return (header ?? '').split(',').some((entry) => {
    const [name, ...parameters] = entry.trim().toLowerCase().split(';')
    return (name === 'gzip' || name === '*') && !parameters.some(parameter => /^\s*q=0(\.0*)?\s*$/.test(parameter))
  })
}
