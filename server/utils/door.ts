/** The door of every route that takes a plan: size, shape and schema are checked before the core sees it. */
import type { H3Event } from 'h3'
import { readPlanText } from '../../core/plan/read'
import type { Plan } from '../../core/plan/types'

export const MOST_BYTES = 4 * 1024 * 1024

/** The plan in the body. Throws 413 over 4 MiB, and 400 with the paths of what is wrong. */
export async function planFromBody(event: H3Event): Promise<Plan> {
  const announced = Number(getRequestHeader(event, 'content-length') ?? 0)
  if (announced > MOST_BYTES) throw tooLarge()
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req) {
    size += (chunk as Buffer).length
    if (size > MOST_BYTES) throw tooLarge()
    chunks.push(chunk as Buffer)
  }
  const read = readPlanText(Buffer.concat(chunks).toString('utf8'))
  if (!read.ok) throw createError({ statusCode: 400, statusMessage: 'Unusable plan', data: { problems: read.problems } })
  return read.plan
}

function tooLarge() {
  return createError({ statusCode: 413, statusMessage: 'Plan over 4 MiB', data: { problems: [{ path: '', message: 'The body is over 4 MiB; a plan is far smaller.' }] } })
}
