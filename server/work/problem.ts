/**
 * What is wrong with a request, as it is told to the caller. Plain data: it crosses from a worker thread to the server.
 */
export interface Problem {
  path: string
  message: string
}

/** Ends a job with a status and what is wrong by path. */
export class RequestProblem extends Error {
  constructor(readonly status: number, message: string, readonly problems: readonly Problem[]) {
    super(message)
    this.name = 'RequestProblem'
  }
}

export const unusable = (what: string,
  problems: readonly Problem[]) => new RequestProblem(400, `Unusable ${what}`, problems)

/** A failure as JSON, the same for every route. */
export const failureJson = (status: number, message: string, problems: readonly Problem[]) => ({
  error: true, statusCode: status, statusMessage: message, message, data: { problems },
})
