/** The door of every route: size, shape and schema are checked before the core sees a body. */
import type { H3Event } from 'h3'
import Joi from 'joi'
import { DeviceTreeError } from '../../core/devicetree/types'
import { readPlanText } from '../../core/plan/read'
import type { Plan } from '../../core/plan/types'

export const MOST_BYTES = 4 * 1024 * 1024

/** The body as text. Throws 413 over 4 MiB. */
async function bodyText(event: H3Event): Promise<string> {
  const announced = Number(getRequestHeader(event, 'content-length') ?? 0)
  if (announced > MOST_BYTES) throw tooLarge()
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req) {
    size += (chunk as Buffer).length
    if (size > MOST_BYTES) throw tooLarge()
    chunks.push(chunk as Buffer)
  }
  return Buffer.concat(chunks).toString('utf8')
}

const unusable = (what: string, problems: { path: string, message: string }[]) => createError({
  statusCode: 400, statusMessage: `Unusable ${what}`, data: { problems },
})

/** The plan in the body. Throws 413 over 4 MiB, and 400 with the paths of what is wrong. */
export async function planFromBody(event: H3Event): Promise<Plan> {
  return planFromText(await bodyText(event))
}

function planFromText(text: string): Plan {
  const read = readPlanText(text)
  if (!read.ok) throw unusable('plan', read.problems)
  return read.plan
}

/** A body of the given shape. Throws 413 over 4 MiB, and 400 with the paths of what is wrong. */
export async function bodyOf<T>(event: H3Event, schema: Joi.ObjectSchema<T>): Promise<T> {
  let value: unknown
  try {
    value = JSON.parse(await bodyText(event))
  }
  catch (error) {
    if (!(error instanceof SyntaxError)) throw error
    throw unusable('body', [{ path: '', message: `The body is no JSON: ${error.message}` }])
  }
  const checked = schema.validate(value, { abortEarly: false })
  if (checked.error) throw unusable('body', checked.error.details.map(({ path, message }) => ({ path: path.join('.'), message })))
  return checked.value
}

/** A plan, or a plan beside other fields: `{ plan, text }`. */
export async function planAndMore(event: H3Event): Promise<{ plan: Plan, text?: string }> {
  const text = await bodyText(event)
  let value: unknown
  try {
    value = JSON.parse(text)
  }
  catch {
    // Told with the place by the reader of plans.
    return { plan: planFromText(text) }
  }
  if (typeof value !== 'object' || value === null || !('plan' in value)) return { plan: planFromText(text) }
  const { plan, text: given } = value as { plan: unknown, text?: unknown }
  if (given !== undefined && typeof given !== 'string') throw unusable('body', [{ path: 'text', message: 'text must be a string' }])
  return { plan: planFromText(JSON.stringify(plan)), ...(given !== undefined && { text: given }) }
}

/** Runs device tree work; its typed errors become 400 with place or offset. */
export function treeWork<T>(path: string, work: () => T): T {
  try {
    return work()
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    throw createError({
      statusCode: error.fault === 'overlay' ? 422 : 400,
      statusMessage: error.fault === 'overlay' ? 'Overlay does not go on' : 'Unusable device tree',
      data: { problems: [{ path, message: error.message, fault: error.fault, ...error.at }] },
    })
  }
}

/** A blob in base64. */
export const blobField = Joi.string().base64().max(MOST_BYTES)
export const fromBase64 = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'base64'))
export const toBase64 = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64')

function tooLarge() {
  return createError({
    statusCode: 413, statusMessage: 'Body over 4 MiB',
    data: { problems: [{ path: '', message: 'The body is over 4 MiB; plans, boot files and trees are far smaller.' }] },
  })
}
