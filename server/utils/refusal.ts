import { createError, type H3Error } from 'h3'

/** A refusal with a status, what is wrong, and headers that go with it. */
export function refusal(status: number, message: string, problem: string,
  headers: Record<string, string> = {}): H3Error {
  const error = createError({ statusCode: status, statusMessage: message,
    data: { problems: [{ path: '', message: problem }] } })
  return Object.assign(error, { headers })
}
