/**
 * One worker thread of the pool: a job's name and the bytes of its body in, a status and the bytes of an answer out.
 */
import { gzipSync } from 'node:zlib'
import { JOBS, type JobName, type Query } from './jobs'
import { failureJson, RequestProblem } from './problem'

export interface Task {
  job: JobName
  body: Uint8Array
  query: Query
  /** The caller reads gzip. */
  gzip: boolean
}

export interface Answer {
  status: number
  body: Uint8Array
  gzip: boolean
}

/** Smaller answers are not worth packing. */
const MIN_TO_PACK = 1024

/** Does a job. Unusable input comes back as an answer with its status; only a fault of ours is thrown. */
export default async function work({ job, body, query, gzip }: Task): Promise<Answer> {
  const { status, value } = await answerTo(job,
    Buffer.from(body.buffer, body.byteOffset, body.byteLength).toString('utf8'), query)
  const plain = Buffer.from(JSON.stringify(value))
  const packs = gzip && plain.length >= MIN_TO_PACK
  return { status, body: packs ? gzipSync(plain, { level: 5 }) : plain, gzip: packs }
}

async function answerTo(job: JobName, text: string, query: Query): Promise<{ status: number, value: unknown }> {
  try {
    return { status: 200, value: await JOBS[job](text, query) }
  }
  catch (error) {
    if (error instanceof RequestProblem) return { status: error.status,
      value: failureJson(error.status, error.message, error.problems) }
    // Nested deeper than any reader's own limit told: the input's fault, not ours.
    if (error instanceof RangeError && /call stack/.test(error.message)) {
      return { status: 400,
        value: failureJson(400, 'Unusable body', [{ path: '', message: 'The body is nested too deep to be read.' }]) }
    }
    throw error
  }
}
