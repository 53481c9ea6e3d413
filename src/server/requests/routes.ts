import { randomUUID } from 'node:crypto'
import { refusalWords } from '../../contract/refusals.ts'
import {
  answerRequest,
  makeRequest,
  requests as requestsRoute,
  type WaitingRequest,
  withdrawRequest,
} from '../../contract/requests.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { LedgerKind } from '../ledger/store.ts'
import { requestMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Claims } from '../seats/claims.ts'
import { refusalFacts } from '../seats/refusalFacts.ts'
import { studentSheet } from '../seats/studentViews.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { SeatRequest } from './store.ts'

/** Requests to change seats: made by students, answered by instructors. */
export function bindRequests(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  claims: Claims,
  mailer: Mailer,
): void {
  const { requests, sheets, seats, roster, ledger } = stores

  const waiting = (sheet: Sheet): { requests: WaitingRequest[] } => {
    const codes = sheets.groupCodes(sheet.id)
    return {
      requests: requests
        .openOn(sheet.id)
        .map(({ code, enrolment_id, from_group_id, to_group_id, reason, made_at }) => ({
          code,
          person: roster.enrolment(enrolment_id)?.code ?? '',
          from: codes.get(from_group_id) ?? '',
          to: to_group_id === null ? null : (codes.get(to_group_id) ?? null),
          reason,
          madeAt: made_at,
        })),
    }
  }
  const fresh = (request: SeatRequest) => requests.byCode(request.sheet_id, request.code) ?? request
  const note = (
    sheet: Sheet,
    kind: LedgerKind,
    request: Pick<SeatRequest, 'enrolment_id'>,
    actorId: number,
    at: string,
    state: string,
  ) =>
    ledger.note({
      sheetId: sheet.id,
      at,
      actorId,
      kind,
      enrolmentId: request.enrolment_id,
      detail: { person: roster.enrolment(request.enrolment_id)?.code, state },
    })

  serve(makeRequest, ({ sheet, course, enrolment, person, body, now }) => {
    if (sheet.road === 'made') {
      const words = refusalWords('groups-are-made', refusalFacts(sheet, course, enrolment, stores))
      throw new ProblemError('groups-are-made', words)
    }
    if (sheet.changing !== 'by-asking') {
      throw new ProblemError(
        'request-not-needed',
        'On this sheet nobody is asked: move by yourself, as far as its rules let you.',
      )
    }
    const from = sheets.group(body.from)
    const sits = from && seats.ofGroup(from.id).some(({ enrolment_id }) => enrolment_id === enrolment.id)
    if (!from || from.sheet_id !== sheet.id || !sits) throw fieldProblem('from', 'You do not sit there.')
    const to = body.to == null ? null : sheets.group(body.to)
    if (to === undefined || (to && (to.sheet_id !== sheet.id || !takesPeople(to)))) {
      throw fieldProblem('to', 'That group is not on the sheet any more. Choose another.')
    }
    const open = requests.newestOf(sheet.id, enrolment.id)
    if (open && open.answer === null) {
      throw new ProblemError(
        'request-open-already',
        'You have asked already; your instructor has not answered yet. Take that request back to ask for something else.',
      )
    }
    unit.onSheet(sheet, now, () => {
      requests.add(sheet.id, enrolment.id, from.id, to?.id ?? null, body.reason, now)
      note(sheet, 'request-made', { enrolment_id: enrolment.id }, person.id, now, 'open')
    })
    return studentSheet(sheet, course, enrolment, now, stores)
  })

  serve(withdrawRequest, ({ sheet, course, enrolment, person, params, now }) => {
    const request = requests.byCode(sheet.id, params.request)
    if (!request || request.enrolment_id !== enrolment.id) throw notFound()
    unit.onSheet(sheet, now, () => {
      if (requests.answer(request.id, 'withdrawn', now, person.id).changes === 0) throw answered(request)
      note(sheet, 'request-answered', request, person.id, now, 'withdrawn')
    })
    return studentSheet(sheet, course, enrolment, now, stores)
  })

  serve(requestsRoute, ({ sheet }) => waiting(sheet))

  serve(answerRequest, async ({ sheet, course, person, params, body, now }) => {
    const request = requests.byCode(sheet.id, params.request)
    const enrolment = request && roster.enrolment(request.enrolment_id)
    if (!request || !enrolment) throw notFound()
    if (request.answer !== null) throw answered(request)
    const codes = sheets.groupCodes(sheet.id)
    const from = codes.get(request.from_group_id) ?? ''
    const to = request.to_group_id === null ? null : (codes.get(request.to_group_id) ?? '')
    const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
    const titleOf = (code: string | null) =>
      code === null ? null : titles.get(sheets.group(code)?.topic_id ?? 0)
    const write = (at: Instant) => {
      const state = body.granted ? 'granted' : 'declined'
      if (requests.answer(request.id, state, at, person.id).changes === 0) throw answered(fresh(request))
      note(sheet, 'request-answered', request, person.id, at, state)
      const sits = titleOf(body.granted ? to : from) ?? null
      mailer.send(requestMail(enrolment.email, sheet.title, body.granted, sits))
    }
    if (body.granted) {
      const ask: ClaimAsk<string> = to === null ? { kind: 'give-up', from } : { kind: 'move', from, to }
      const outcome = await claims.submit({
        sheetId: sheet.id,
        enrolmentId: enrolment.id,
        actorId: person.id,
        key: `request-${request.code}-${randomUUID()}`,
        ask,
        granted: true,
        follow: write,
      })
      if (!outcome.granted) {
        // Granted by somebody else a moment ago, it is refused since the student has moved already.
        const now = fresh(request)
        if (now.answer !== null) throw answered(now)
        const facts = refusalFacts(sheet, course, enrolment, stores)
        throw new ProblemError(
          outcome.reason,
          `${enrolment.name} could not be moved: ${refusalWords(outcome.reason, facts)}`,
        )
      }
    } else {
      unit.onSheet(sheet, now, () => write(now))
    }
    return waiting(sheet)
  })
}

function answered({ answer }: SeatRequest): ProblemError {
  return new ProblemError(
    'request-answered',
    `It was ${answer ?? 'answered'} meanwhile. The list shows what still waits.`,
  )
}
