import type { Logger } from 'pino'
import { type ClaimAsk, type ClaimRefusal, decideClaim } from '../../core/claim.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { createCalm } from '../calm.ts'
import type { Clock } from '../clock.ts'
import { createBatches } from '../db/batches.ts'
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
 * Decides claims in order of arrival, those that came together in one transaction (`createBatches`), and answers each once
 * it is on disk.
 */
export function createClaims(parts: ClaimParts) {
  const { db, unit, log, mostWaiting, whenQuiet, time } = parts
  const batches = createBatches({
    db,
    calm: createCalm(log),
    one: (claim: Claim) => settle(claim, parts),
    after: (claims) => unit.tell(new Set(claims.map(({ sheetId }) => sheetId))),
    words: 'a claim broke',
    ...(mostWaiting !== undefined && { mostWaiting }),
    ...(whenQuiet && { whenQuiet }),
    ...(time && { time }),
  })
  return {
    /**
     * Puts a claim in the queue.
     * @returns the outcome, once it is on disk
     * @throws ProblemError `key-used-otherwise` when the key answered a different claim before, `too-busy` when too
     *   many wait already
     */
    submit: (claim: Claim): Promise<ClaimOutcome> => batches.submit(claim),
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
