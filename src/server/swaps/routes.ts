import * as contract from '../../contract/swaps.ts'
import type { Instant } from '../../core/instant.ts'
import { MOST_WISHES } from '../../core/rules.ts'
import { listFault } from '../../core/wishes/list.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { listFaultWords, topicsFor } from '../wishes/lists.ts'
import { answerSwap, type SwapParts } from './serve.ts'
import { ownSwaps, swapsView } from './views.ts'

/** Swaps of seats: what students would rather have, their answers to swaps that were found, and how it all stands. */
export function bindSwaps(serve: Serve, parts: SwapParts, unit: UnitOfWork): void {
  const { stores } = parts
  const { swaps, sheets } = stores

  /** How it stands for a student. @throws ProblemError where the student cannot swap */
  const own = (sheet: Sheet, enrolment: Enrolment, now: Instant): contract.OwnSwaps => {
    const view = enrolment.status === 'active' ? ownSwaps(sheet, enrolment, now, stores) : null
    if (view) return view
    throw new ProblemError(
      'no-swaps-here',
      'Your seat on this sheet cannot be swapped now. Look at the sheet again.',
    )
  }

  serve(contract.saveSwapWish, ({ sheet, enrolment, body, now }) => {
    unit.onSheet(sheet, now, (current) => {
      own(current, enrolment, now)
      const ids = new Map(sheets.topics(sheet.id).map(({ id, code }) => [code, id]))
      const ranks = body.ranks.map((topics) => (topics ?? []).map((code) => ids.get(code) ?? -1))
      const before = swaps.wish(sheet.id, enrolment.id)
      // The same again is no change, whichever version it was made over: an answer that was lost.
      if (before?.ranks === JSON.stringify(ranks)) return
      if ((before?.version ?? 0) !== body.over)
        throw new ProblemError(
          'changed-meanwhile',
          'What you would rather have was changed elsewhere, perhaps in another tab. Look at both and keep one.',
        )
      const rules = { most: MOST_WISHES, cannotMost: 0 }
      const fault = listFault({ ranks, cannot: [] }, topicsFor(current, enrolment, stores), rules)
      if (fault) throw fieldProblem(fault.path, listFaultWords(fault))
      swaps.saveWish(sheet.id, enrolment.id, ranks, now)
    })
    return own(sheets.byId(sheet.id) ?? sheet, enrolment, now)
  })

  serve(contract.answerSwap, ({ sheet, enrolment, person, params, body, now }) => {
    unit.onSheet(sheet, now, (current) => {
      const swap = swaps.byCode(sheet.id, params.swap)
      const part = swap && swaps.parts(swap.id).find(({ enrolment_id }) => enrolment_id === enrolment.id)
      if (!swap || !part) throw notFound()
      if (enrolment.status !== 'active')
        throw new ProblemError('enrolment-not-active', 'Your place in this course is paused.')
      if (swap.ended_at !== null || swap.until <= now) {
        // Accepted before, and made meanwhile: an answer that was lost.
        if (swap.ending === 'made' && body.accepted) return
        throw new ProblemError('swap-over', 'This swap is over. Your page shows how it stands.')
      }
      answerSwap(swap, part, body.accepted, person.id, { ...parts, sheet: current, now })
    })
    return own(sheets.byId(sheet.id) ?? sheet, enrolment, now)
  })

  serve(contract.swaps, ({ sheet, now }) => swapsView(sheet, now, stores))
}
