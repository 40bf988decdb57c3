/** The door of the routes: size, kind and origin of a request, before anything reads its body. */
import type { H3Event } from 'h3'
import { refusal } from './refusal'

export const MAX_BYTES = 4 * 1024 * 1024

const tooLarge = () =>
  refusal(413, 'Body over 4 MiB', 'The body is over 4 MiB; plans, boot files and trees are far smaller.')

/** So long may a body take to come in. */
const BODY_MS = 30_000
/** So much more is let run past after a refusal, so that the caller gets to read it; then the line is cut. */
const MAX_PAST = 16 * MAX_BYTES

/** The bytes of a body. Throws 413 over 4 MiB, announced or not, and keeps nothing of it; 408 when it does not come. */
export async function bodyBytes(event: H3Event): Promise<Uint8Array> {
  const { req } = event.node
  return new Promise((resolve, reject) => {
    let chunks: Buffer[] = []
    let size = 0
    const late = setTimeout(() => reject(refusal(
      408, 'Body did not come', `The body did not come within ${BODY_MS / 1000} s.`, { connection: 'close' },
    )), BODY_MS)
    if (Number(req.headers['content-length'] ?? 0) > MAX_BYTES) reject(tooLarge())
    req.on('data', (chunk: Buffer) => {
      size += chunk.length
      if (size <= MAX_BYTES) return void chunks.push(chunk)
      chunks = []
      reject(tooLarge())
      if (size > MAX_PAST) req.destroy()
    })
    req.on('end', () => resolve(Buffer.concat(chunks)))
    req.on('error', reject)
    req.on('close', () => {
      clearTimeout(late)
      reject(refusal(400, 'Body cut short', 'The connection ended before the body was whole.'))
    })
  })
}

/** Throws 415 unless the body is said to be JSON. */
export function mustBeJson(event: H3Event): void {
  const type = (getRequestHeader(event, 'content-type') ?? '').split(';')[0]!.trim().toLowerCase()
  if (type === 'application/json') return
  throw refusal(
    415, 'Only JSON', 'The body has to be JSON and say so: "content-type: '
    + `application/json"${type ? `, not "${type}"` : ''}.`,
    { accept: 'application/json' },
  )
}

/**
 * Throws 403 for requests that a page of another host makes, unless its origin is allowed by
 * the setting `NUXT_ALLOWED_ORIGINS`.
 */
export function mustBeOwnOrigin(event: H3Event): void {
  const origin = getRequestHeader(event, 'origin')
  if (origin === undefined ? !isCrossSite(event) : isOwn(origin, event) || isAllowed(origin)) return
  throw refusal(
    403, 'Foreign origin',
    `Pages of ${origin ?? 'another site'} may not ask here. Whoever runs this server can allow `
    + 'them: NUXT_ALLOWED_ORIGINS=https://… .',
  )
}

const isCrossSite = (event: H3Event) => getRequestHeader(event, 'sec-fetch-site') === 'cross-site'

function isOwn(origin: string, event: H3Event): boolean {
  const host = getRequestHeader(event, 'host')
  return host !== undefined && (origin === `http://${host}` || origin === `https://${host}`)
}

/** True for an origin that the setting names. */
export function isAllowed(origin: string): boolean {
  return String(useRuntimeConfig().allowedOrigins ?? '').split(/[\s,]+/).includes(origin)
}
