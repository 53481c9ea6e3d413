import { PROBLEMS, type Problem, type ProblemCode } from '../../contract/problems.ts'
import type { Access, Params, Route } from '../../contract/route.ts'
import { address } from './base.ts'
import { noteBuild } from './build.ts'
import { noteServerTime } from './clock.ts'
import { turnNow } from './whose.ts'

/** A "no" from the server, or no answer at all. */
export class Fault extends Error {
  constructor(
    readonly problem: Problem,
    /** Milliseconds after which the server would like to be asked again, where it said so. */
    readonly retryAfter = 0,
  ) {
    super(problem.detail)
  }
  get code(): ProblemCode | 'no-connection' {
    return this.problem.status === 0 ? 'no-connection' : this.problem.code
  }
  /** What is wrong with one field of what was sent. */
  field(path: string): string | undefined {
    return this.problem.errors?.find((error) => error.path === path)?.message
  }
}

/** Milliseconds after which an answer counts as lost. */
const PATIENCE = 20_000

/** Characters of a body that may go on arriving once its page is gone. */
const KEPT_ALIVE = 20_000

/** What is said where no answer came. Of a change that was sent nobody knows then whether it was done. */
const UNREACHED = {
  unsent: 'The server cannot be reached. Nothing was changed; check your connection and try again.',
  read: 'The server cannot be reached. Check your connection and try again.',
  sent: 'The server cannot be reached, so it is not known whether this was done. Check your connection; the page shows it once it is back.',
}

/** What becomes of an answer that was meant for somebody who has signed out. */
const OVER: Problem = {
  type: '/api/problems/not-signed-in',
  code: 'not-signed-in',
  title: PROBLEMS['not-signed-in'].title,
  status: PROBLEMS['not-signed-in'].status,
  detail: 'Whoever asked for this has signed out.',
}

/** The fault of a call that has no answer: something is read, or a change was sent, or could not even be sent. */
function unreached(what: keyof typeof UNREACHED): Fault {
  return new Fault({
    type: 'about:blank',
    code: 'store-unavailable',
    title: 'There is no connection',
    status: 0,
    detail: UNREACHED[what],
  })
}

/**
 * Calls a route of the contract.
 * @returns what the route answers
 * @throws Fault when the server says no, cannot be reached or does not answer in time, or whoever asked has signed out
 */
export async function call<Path extends string, Who extends Access, Body, Answer>(
  route: Route<Path, Who, Body, Answer>,
  params: Params<Path>,
  ...[body]: Body extends null ? [] : [body: Body]
): Promise<Answer> {
  const sent = Date.now()
  const turn = turnNow()
  const offline = !navigator.onLine
  const text = body === undefined ? undefined : JSON.stringify(body)
  let response: Response
  try {
    response = await fetch(address(route.path, params), {
      method: route.method,
      signal: AbortSignal.timeout(PATIENCE),
      ...(text !== undefined && {
        body: text,
        headers: { 'Content-Type': 'application/json' },
        // What is on its way while its page is left still arrives; browsers let so much of it through.
        keepalive: text.length < KEPT_ALIVE,
      }),
    })
  } catch {
    throw unreached(route.method === 'GET' ? 'read' : offline ? 'unsent' : 'sent')
  }
  noteBuild(response.headers)
  const answer: unknown = await response.json().catch(() => null)
  // Somebody else's pages are here by now.
  if (turn !== turnNow()) throw new Fault(OVER)
  if (!response.ok) {
    const after = Number(response.headers.get('Retry-After')) * 1_000
    throw new Fault(isProblem(answer) ? answer : unreadable(response.status), after || 0)
  }
  noteServerTime(answer, sent)
  return answer as Answer
}

/** The fault in an answer to something sent that was not fetched by `call`; a status of 0 is no answer at all. */
export function faultIn(status: number, body: string): Fault {
  if (status === 0) return unreached('sent')
  let answer: unknown = null
  try {
    answer = JSON.parse(body)
  } catch {}
  return new Fault(isProblem(answer) ? answer : unreadable(status))
}

function isProblem(answer: unknown): answer is Problem {
  return typeof answer === 'object' && answer !== null && 'code' in answer && 'detail' in answer
}

function unreadable(status: number): Problem {
  const { title } = PROBLEMS['server-fault']
  const detail = 'The answer could not be read. Try again in a moment.'
  return { type: 'about:blank', code: 'server-fault', title, status, detail }
}

/** The fault behind a thrown thing, so that a page can show it. */
export function faultOf(error: unknown): Fault {
  return error instanceof Fault ? error : new Fault(unreadable(500))
}
