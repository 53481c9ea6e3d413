import type { Logger } from 'pino'
import { type ClaimAsk, type ClaimRefusal, decideClaim } from '../../core/claim.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { createCalm } from '../calm.ts'
import type { Clock } from '../clock.ts'
import type { Db } from '../db/open.ts'
import { ProblemError } from '../http/problem.ts'
import type { RosterStore } from '../roster/store.ts'
import type { Sheet, SheetStore } from '../sheets/store.ts'
import type { TaskStore } from '../tasks/store.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { factsOf } from './facts.ts'
import { leavePlace } from './places.ts'
import { type SeatKeepers, sitDown, standUp } from './sitDown.ts'

/** A claim as it waits for its turn. Groups are named by their codes. */
export interface Claim {
  sheetId: number
  enrolmentId: number
  actorId: number
  key: string
  ask: ClaimAsk<string>
  /** True when an instructor granted it: the window and the rule on changing seats do not stand in the way. */
  granted?: true
  /**
   * What follows from it when it is granted, written in its own transaction: a request answered, an invitation used
   * up. What it throws takes the claim back, and is what the claimer hears.
   */
  follow?: (now: Instant) => void
}

/**
 * Granted, or refused with the reason. Only ever given after the commit. `byLine` when the claim freed a seat and a
 * line then seated the asker.
 */
export type ClaimOutcome = { granted: true; byLine?: true } | { granted: false; reason: ClaimRefusal }

/** A claim that was decided. */
interface Settled {
  outcome: ClaimOutcome
}

/** A claim that broke, with what broke it. */
interface Broken {
  error: unknown
}

interface Waiting {
  claim: Claim
  resolve: (outcome: ClaimOutcome) => void
  reject: (error: unknown) => void
}

/** Claims decided in one transaction at most, and milliseconds that deciding takes at most; the rest wait for the next. */
const BATCH = 256
const TURN = 8

/** Claims that may wait for their turn; more are sent away at once, to come again, instead of making all wait. */
const MOST_WAITING = 4_096

export type Claims = ReturnType<typeof createClaims>

export interface ClaimParts extends SeatKeepers {
  db: Db
  clock: Clock
  log: Logger
  roster: RosterStore
  tasks: TaskStore
  /** What each granted claim ends in, and what tells open pages. */
  unit: Pick<UnitOfWork, 'serve' | 'tell'>
  /** Claims that may wait for their turn at once. */
  mostWaiting?: number
  /** Does something in one of the next rounds of the event loop. */
  whenQuiet?: (work: () => void) => void
  /** Milliseconds, for the length of a turn. */
  time?: () => number
}

/**
 * Takes claims in order of arrival, decides those that came together in one immediate transaction, and answers
 * each after its commit. A claim that breaks is undone alone; when the commit fails, none of its batch happened
 * and each of them hears so.
 */
export function createClaims(parts: ClaimParts) {
  const { mostWaiting = MOST_WAITING, whenQuiet = setImmediate, time = () => performance.now() } = parts
  const queue: Waiting[] = []
  const calm = createCalm(parts.log)
  let planned = false

  const settleOne = (claim: Claim): Settled => ({ outcome: settle(claim, parts) })
  /**
   * Settles claims one after the other for as long as a turn lasts, one at least: between two turns whoever else asks
   * the server something is heard, however many claims wait.
   */
  const forOneTurn = (
    batch: readonly Waiting[],
    one: (claim: Claim) => Settled | Broken,
  ): (Settled | Broken)[] => {
    const ends = time() + TURN
    const settled: (Settled | Broken)[] = []
    for (const { claim } of batch) {
      settled.push(one(claim))
      if (time() >= ends) break
    }
    return settled
  }
  const settleAll = parts.db.transaction((batch: readonly Waiting[]) =>
    forOneTurn(batch, settleOne),
  ).immediate
  // Nested in a transaction this is a savepoint: a claim that breaks takes only its own writes back.
  const settleApart = parts.db.transaction(settleOne)
  const settleEach = parts.db.transaction((batch: readonly Waiting[]) =>
    forOneTurn(batch, (claim) => {
      try {
        return settleApart(claim)
      } catch (error) {
        if (!parts.db.inTransaction) throw error
        return { error }
      }
    }),
  ).immediate
  /** Claims break seldom: only then, with all of the batch undone, is each decided anew in a savepoint of its own. */
  const settleBatch = (batch: readonly Waiting[]) => {
    try {
      return settleAll(batch)
    } catch {
      return settleEach(batch)
    }
  }

  const flush = (): void => {
    planned = false
    const batch = queue.splice(0, BATCH)
    let results: ReturnType<typeof settleBatch>
    try {
      results = settleBatch(batch)
    } catch (error) {
      if (queue.length > 0) plan()
      for (const { reject } of batch) reject(error)
      return
    }
    queue.unshift(...batch.splice(results.length))
    if (queue.length > 0) plan()
    results.forEach((result, i) => {
      const { resolve, reject } = batch[i] as Waiting
      if ('outcome' in result) resolve(result.outcome)
      else {
        if (!(result.error instanceof ProblemError)) calm(result.error, 'a claim broke')
        reject(result.error)
      }
    })
    parts.unit.tell(new Set(batch.map(({ claim }) => claim.sheetId)))
  }

  const plan = (): void => {
    if (planned) return
    planned = true
    whenQuiet(flush)
  }

  return {
    /**
     * Puts a claim in the queue.
     * @returns the outcome, once it is on disk
     * @throws ProblemError `key-used-otherwise` when the key answered a different claim before, `too-busy` when too
     *   many wait already
     */
    submit(claim: Claim): Promise<ClaimOutcome> {
      if (queue.length >= mostWaiting) {
        const words = 'Very many ask at this moment. Nothing was changed; it is tried again in a few seconds.'
        return Promise.reject(new ProblemError('too-busy', words))
      }
      return new Promise((resolve, reject) => {
        queue.push({ claim, resolve, reject })
        plan()
      })
    },
  }
}

function settle(claim: Claim, parts: ClaimParts): ClaimOutcome {
  const { seats } = parts
  const asked = JSON.stringify(claim.ask)
  const earlier = seats.answerTo(claim.enrolmentId, claim.key)
  if (earlier) {
    if (earlier.ask !== asked || earlier.sheet_id !== claim.sheetId) {
      throw new ProblemError('key-used-otherwise', 'Use a new key for a new claim.')
    }
    return earlier.refusal === null ? { granted: true } : { granted: false, reason: earlier.refusal }
  }
  const now = parts.clock()
  const outcome = decideAndWrite(claim, now, parts)
  if (outcome.granted) {
    claim.follow?.(now)
    const seated = parts.unit.serve(claim.sheetId, now)
    if (seated.some(({ enrolmentId }) => enrolmentId === claim.enrolmentId)) outcome.byLine = true
  }
  const refusal = outcome.granted ? null : outcome.reason
  seats.keepAnswer(claim.enrolmentId, claim.sheetId, claim.key, asked, refusal, now)
  return outcome
}

function decideAndWrite(claim: Claim, now: Instant, parts: ClaimParts): ClaimOutcome {
  const { sheets, roster } = parts
  const sheet = sheets.byId(claim.sheetId)
  const enrolment = roster.enrolment(claim.enrolmentId)
  if (!sheet || !enrolment) throw new Error('A claim names a sheet or an enrolment that is gone.')
  const target = 'to' in claim.ask ? groupOn(sheet, claim.ask.to, sheets) : null
  const left = 'from' in claim.ask ? groupOn(sheet, claim.ask.from, sheets) : null
  const ask = withIds(claim.ask, left?.id ?? NOBODYS, target?.id ?? NOBODYS)
  const verdict = decideClaim(ask, factsOf(sheet, enrolment, target, now, parts, claim.granted === true))
  if (verdict.granted) write(claim, ask, now, left?.seats ?? NO_LIMIT, parts)
  return { ...verdict }
}

/** The key of a code that names no group of the sheet: nobody sits or waits there. */
const NOBODYS = 0

function withIds(ask: ClaimAsk<string>, from: number, to: number): ClaimAsk<number> {
  switch (ask.kind) {
    case 'take':
    case 'wait':
      return { kind: ask.kind, to }
    case 'move':
      return { kind: 'move', from, to }
    case 'give-up':
    case 'leave-line':
      return { kind: ask.kind, from }
  }
}

function groupOn(sheet: Sheet, code: string, sheets: SheetStore) {
  const group = sheets.group(code)
  return group && group.sheet_id === sheet.id && isOnSheet(group) ? group : null
}

const KINDS = {
  take: 'seat-taken',
  move: 'seat-moved',
  'give-up': 'seat-given-up',
  wait: 'line-joined',
  'leave-line': 'line-left',
} as const

function write(
  claim: Claim,
  ask: ClaimAsk<number>,
  now: Instant,
  limitLeft: number,
  parts: ClaimParts,
): void {
  const { seats, ledger } = parts
  const { sheetId, enrolmentId } = claim
  const entry = { sheetId, at: now, actorId: claim.actorId, kind: KINDS[ask.kind], enrolmentId }
  if (ask.kind === 'wait') {
    seats.joinLine(sheetId, ask.to, enrolmentId, now)
    ledger.note({ ...entry, detail: { group: ask.to } })
    return
  }
  if (ask.kind === 'leave-line') {
    leavePlace({ sheetId, groupId: ask.from, enrolmentId, actorId: claim.actorId }, null, now, parts)
    return
  }
  if (ask.kind !== 'take') standUp(ask.from, enrolmentId, limitLeft, parts)
  if (ask.kind !== 'give-up') sitDown(sheetId, ask.to, enrolmentId, now, parts)
  ledger.note({
    ...entry,
    ...('from' in ask && { fromGroupId: ask.from }),
    ...('to' in ask && { toGroupId: ask.to }),
    ...(claim.granted && { detail: { because: 'request' } }),
  })
}
