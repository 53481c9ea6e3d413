import { refusalWords } from '../../contract/refusals.ts'
import {
  askOf,
  claim as claimRoute,
  studentHome as homeRoute,
  run,
  sheetAddresses,
  studentSheet as sheetRoute,
} from '../../contract/seats.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Visits } from '../nudges/visits.ts'
import type { Stores } from '../stores.ts'
import type { Claims } from './claims.ts'
import { refusalFacts } from './refusalFacts.ts'
import { claimAnswer, studentHome, studentSheet } from './studentViews.ts'
import { runView } from './views.ts'

/** Taking seats, and the views of who sits where. */
export function bindSeats(serve: Serve, stores: Stores, claims: Claims, visits: Visits): void {
  // The route that hundreds press at once: routes are tried in this order.
  serve(claimRoute, async ({ sheet, course, enrolment, person, body, now }) => {
    const ask = askOf(body)
    const outcome = await claims.submit({
      sheetId: sheet.id,
      enrolmentId: enrolment.id,
      actorId: person.id,
      key: body.key,
      ask,
    })
    if (!outcome.granted) {
      const facts = refusalFacts(sheet, course, enrolment, stores)
      throw new ProblemError(outcome.reason, refusalWords(outcome.reason, facts))
    }
    const asked = [...('from' in ask ? [ask.from] : []), ...('to' in ask ? [ask.to] : [])]
    return claimAnswer(sheet, enrolment, asked, outcome.byLine === true, now, stores)
  })
  serve(homeRoute, ({ person, now }) => studentHome(person.id, now, stores))
  serve(sheetRoute, ({ sheet, course, enrolment, now }) => {
    visits.note(sheet.id, enrolment.id, now)
    return studentSheet(sheet, course, enrolment, now, stores)
  })
  serve(sheetAddresses, ({ sheet, course }) => {
    const seated = new Set(stores.seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
    const meant = new Set(stores.audience.students(sheet).map(({ id }) => id))
    const people = stores.roster.everybody(course.id).filter(({ id }) => seated.has(id) || meant.has(id))
    return { people: stores.roster.classList(course, people).map(({ code, email }) => ({ code, email })) }
  })
  serve(run, ({ sheet, course, enrolment, now }) => runView(sheet, course, enrolment, now, stores))
}
