import * as contract from '../../contract/wishes.ts'
import type { WhyFound } from '../../core/wishes/why.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Planner } from '../plans/planner.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { saveList } from './lists.ts'
import { createOddsBook } from './odds.ts'
import { ownWhyOf, settledOn, standingSettlings, wishRecordOf } from './settling.ts'
import { ownList, wishesView } from './views.ts'

/** Answers to *why* that are kept, so that looking again costs nothing. */
const MOST_KEPT = 2_000

/** What students wish for, why they have what they have, and the record without names. */
export function bindWishes(serve: Serve, stores: Stores, unit: UnitOfWork, reasoner: Planner): void {
  const found = new Map<string, Promise<WhyFound>>()
  /** Computed once for each person of a settling; a failure is not kept. */
  const whyOnce = (key: string, work: () => Promise<WhyFound>): Promise<WhyFound> => {
    const known = found.get(key)
    if (known) return known
    const first = found.keys().next().value
    if (found.size >= MOST_KEPT && first !== undefined) found.delete(first)
    const next = work()
    found.set(key, next)
    next.catch(() => found.delete(key))
    return next
  }

  serve(contract.saveWishes, async ({ sheet, enrolment, body, now }) => {
    await unit.onSheetSoon(sheet, now, (current) => {
      // A list loses its shape on the way through the schema: a missing reason is an empty one.
      saveList(current, enrolment, body as Parameters<typeof saveList>[2], now, stores)
    })
    const { gone: _, ...list } = ownList(sheet, enrolment, now, stores)
    return list
  })
  serve(contract.ownWhy, async ({ sheet, enrolment, params }) => {
    const settled = settledOn(sheet, Number(params.round), stores)
    const { planId } = settled
    const why = await whyOnce(`${planId} ${enrolment.code}`, () => reasoner.why(settled, enrolment.code))
    return ownWhyOf(sheet, enrolment, settled, why, stores)
  })
  const odds = createOddsBook(stores, reasoner)
  serve(contract.ownOdds, async ({ sheet, enrolment, now }) => {
    if (sheet.road !== 'wished' || sheet.wish_worth !== 'odds')
      throw new ProblemError('no-wishes-here', 'The rules of this sheet show nobody’s chances.')
    const { at, draws, of, versions } = await odds.of(sheet, enrolment, now)
    const own = of.get(enrolment.code) ?? { byRank: [], none: 0, left: 0 }
    return { at, draws, ...own, version: versions.get(enrolment.code) ?? null }
  })
  serve(contract.wishes, ({ sheet, now }) => wishesView(sheet, now, stores))
  serve(contract.wishRecord, ({ sheet, enrolment, params }) => {
    const settled = settledOn(sheet, Number(params.round), stores)
    if (enrolment.role === 'student' && !settled.handedOut)
      throw new ProblemError('not-allowed', 'The record was not handed out. Ask your instructor for it.')
    return wishRecordOf(settled)
  })
  serve(contract.handOutRecord, ({ sheet, person, body, now }) => {
    unit.onSheet(sheet, now, (current) => {
      const settled = standingSettlings(current, stores)
      if (settled.length === 0)
        throw new ProblemError('wishes-not-settled', 'No seats were given by wishes on this sheet so far.')
      if (settled.every(({ row }) => (row.handed_out === 1) === body.handedOut)) return
      for (const { row } of settled) stores.wishes.handOut(row.plan_id, body.handedOut)
      const detail = { recordHandedOut: body.handedOut }
      stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'sheet-changed', detail })
    })
    return wishesView(sheet, now, stores)
  })
}
