import type { ErrorRequestHandler, Response } from 'express'
import type { Logger } from 'pino'
import { ValidationError } from 'yup'
import { PROBLEMS, type Problem, type ProblemCode } from '../../contract/problems.ts'
import { createCalm } from '../calm.ts'
import { sendJson } from './json.ts'

/** A "no" on its way to the answer. Thrown anywhere below a route, it becomes problem details. */
export class ProblemError extends Error {
  constructor(
    readonly code: ProblemCode,
    /** What is wrong in this case and what to do. */
    readonly detail: string,
    readonly more: Pick<Problem, 'errors' | 'affected' | 'contacts' | 'concerns'> & {
      /** Seconds after which it may be tried again; told in the header that is meant for it. */
      retryAfter?: number
    } = {},
  ) {
    // A "no" is foreseen and many may be said at once; where it was said from is of no use to anybody.
    const { stackTraceLimit } = Error
    Error.stackTraceLimit = 0
    super(`${code}: ${detail}`)
    Error.stackTraceLimit = stackTraceLimit
  }
}

/** A fault beside one field of the request's body. */
export function fieldProblem(
  path: string,
  message: string,
  code: ProblemCode = 'body-invalid',
): ProblemError {
  return new ProblemError(code, message, { errors: [{ path, message }] })
}

/** Does something with one part of a body; a refusal is told with where that part stands, as `topics[3]` (empty: all of it). */
export function within<T>(part: string, work: () => T): T {
  try {
    return work()
  } catch (error) {
    if (part === '' || !(error instanceof ProblemError) || !error.more.errors) throw error
    const errors = error.more.errors.map(({ path, message }) => ({ path: `${part}.${path}`, message }))
    throw new ProblemError(error.code, error.detail, { ...error.more, errors })
  }
}

/** The answer for something that does not exist, or that the caller may not know of. */
export function notFound(what = 'There is nothing at this address, or it is not open to you.'): ProblemError {
  return new ProblemError('not-found', what)
}

function problemOf(error: ProblemError): Problem {
  const { status, title } = PROBLEMS[error.code]
  const { retryAfter: _, ...more } = error.more
  return {
    type: `/api/problems/${error.code}`,
    code: error.code,
    title,
    status,
    detail: error.detail,
    ...more,
  }
}

/** Faults of one body that are told; whoever sends more mends these first. */
export const MOST_TOLD = 100

const WRITE_FAILURES = /^SQLITE_(FULL|READONLY|IOERR|BUSY|CANTOPEN|LOCKED)/

/** What a thrown thing means to the caller. Anything unforeseen is a fault of ours, told without its inside. */
export function asProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error
  if (error instanceof ValidationError) {
    const all = error.inner.length > 0 ? error.inner : [error]
    const errors = all.slice(0, MOST_TOLD).map(({ path, message }) => ({
      path: path ?? '',
      message,
    }))
    return new ProblemError('body-invalid', errors[0]?.message ?? error.message, { errors })
  }
  const { type, code, limit } = error as { type?: string; code?: string; limit?: number }
  if (type === 'entity.too.large') {
    const most = Math.floor((limit ?? 0) / 1024)
    return new ProblemError(
      'body-too-large',
      `That is more than the ${most.toLocaleString('en')} KiB that fit here. Send less at once.`,
    )
  }
  // Compressed bodies that cannot be unpacked come as faults of the unpacking.
  const unpacking = typeof code === 'string' && /^(Z_|ERR__?ZLIB|ERR_BROTLI)/.test(code)
  if (
    unpacking ||
    type?.startsWith('entity.') ||
    type?.startsWith('encoding.') ||
    type?.startsWith('request.') ||
    type === 'charset.unsupported'
  ) {
    return new ProblemError('body-malformed', 'The request’s body is not JSON that can be read.')
  }
  if (typeof code === 'string' && WRITE_FAILURES.test(code)) {
    return new ProblemError('store-unavailable', 'Nothing was changed. Try again in a moment.')
  }
  if (error instanceof URIError) return notFound()
  return new ProblemError(
    'server-fault',
    'Nothing was changed. Try again; if it stays, tell whoever runs Haplon.',
  )
}

/** Answers an error as problem details. */
export type Refuse = (error: unknown, res: Response) => void

/** Makes the one way in which errors are answered; those that are ours are logged. */
export function createRefuse(log: Logger): Refuse {
  const calm = createCalm(log)
  return (error, res) => {
    const refusal = asProblem(error)
    const problem = problemOf(refusal)
    if (problem.status >= 500) calm(error, problem.title)
    const { retryAfter = problem.status === 503 ? 2 : null } = refusal.more
    if (retryAfter !== null) res.setHeader('Retry-After', String(retryAfter))
    res.status(problem.status)
    sendJson(res, problem, 'application/problem+json')
  }
}

/** Answers what was thrown outside of any route: before one was found, or because there is none. */
export function answerProblems(refuse: Refuse): ErrorRequestHandler {
  return (error, _req, res, next) => (res.headersSent ? next(error) : refuse(error, res))
}
