import * as contract from '../../contract/sheets.ts'
import type { Course } from '../courses/store.ts'
import type { Db } from '../db/open.ts'
import type { Disk } from '../files/disk.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { refuseArchivedCourse } from '../http/serve.ts'
import type { Hub } from '../live/hub.ts'
import type { Mailer } from '../mail/mailer.ts'
import { goOut } from '../plans/goOut.ts'
import { recallSeated } from '../plans/mail.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { AddressOf } from './address.ts'
import { copy } from './copy.ts'
import type { RunEdit } from './editing.ts'
import { archive, begin, changeSheet, setDeleted, withdraw } from './sheetEdits.ts'
import type { Sheet } from './store.ts'
import { composeView } from './views.ts'
import { visibleToStudents } from './window.ts'

/** Limit and floor a new sheet starts with, until its instructor says otherwise. */
const FIRST_LIMIT = 4
const FIRST_FLOOR = 2

/** Writing a sheet, and the short address that leads to it. */
export function bindSheets(
  serve: Serve,
  db: Db,
  stores: Stores,
  hub: Hub,
  edited: RunEdit,
  mailer: Mailer,
  addressOf: AddressOf,
  disk: Disk,
): void {
  const { sheets, roster, courses } = stores

  serve(contract.compose, ({ sheet, course, enrolment, now }) =>
    composeView(sheet, course, enrolment, now, stores),
  )
  serve(contract.addSheet, ({ course, person, enrolment, body, now }) => {
    const added = db
      .transaction(() => {
        const fields = { title: body.title, contact: person.email, seats: FIRST_LIMIT, floor: FIRST_FLOOR }
        const sheet = sheets.add(course.id, fields, now)
        const detail = { title: sheet.title }
        stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'sheet-added', detail })
        return begin({ sheet, course, person, now, stores }, body)
      })
      .immediate()
    return composeView(added, course, enrolment, now, stores)
  })
  serve(contract.changeSheet, (context) => edited(context, (edit) => changeSheet(edit, context.body)))
  serve(contract.publishSheet, (context) =>
    edited(context, (edit) => goOut(edit, context.body.tell, addressOf(edit.sheet, context.req), mailer)),
  )
  serve(contract.withdrawSheet, (context) =>
    edited(context, (edit) => {
      withdraw(edit, context.body.confirmed === true)
      const address = addressOf(edit.sheet, context.req)
      recallSeated(edit.sheet, 'publish', address, edit.now, stores, mailer)
    }),
  )
  serve(contract.archiveSheet, (context) => {
    refuseArchivedCourse(context.course)
    return edited(context, (edit) => archive(edit, context.body.archived), 'allowed')
  })
  serve(contract.deleteSheet, (context) => {
    edited(context, (edit) => setDeleted(edit, true), 'allowed')
    return null
  })
  serve(contract.restoreSheet, ({ course, person, enrolment, params, now }) => {
    const sheet = sheets.deleted(params.gone)
    if (!sheet || sheet.course_id !== course.id) throw notFound('There is no such sheet to bring back.')
    return edited({ sheet, course, person, enrolment, now }, (edit) => setDeleted(edit, false), 'allowed')
  })
  serve(contract.copySheet, ({ sheet, course, person, body, now }) => {
    const into = courses.byCode(body.course)
    const enrolment = into && roster.enrolmentIn(into.id, person.id)
    if (!into || enrolment?.role !== 'instructor' || enrolment.status !== 'active') {
      throw fieldProblem('course', 'Choose a course in which you are an instructor.')
    }
    if (into.archived_at !== null)
      throw fieldProblem('course', `${into.course_code} is archived. Restore it first, or choose another.`)
    const copied = db
      .transaction(() => copy({ sheet, course, person, now, stores }, into, body, disk))
      .immediate()
    hub.refresh([copied.id])
    return composeView(copied, into, enrolment, now, stores)
  })

  serve(contract.followLink, ({ person, params, now }) => {
    const sheet = sheets.byLink(params.link)
    const course = sheet && courses.byId(sheet.course_id)
    if (!sheet || !course) throw noSuchLink()
    const enrolment = roster.enrolmentIn(course.id, person.id)
    // Whoever a sheet for some is not for never learns that there is one.
    const stranger = !enrolment || enrolment.status === 'left' || enrolment.role === 'student'
    const meant = enrolment ? stores.audience.has(sheet, enrolment) : sheet.for_whom === 'course'
    if (stranger && !meant) throw noSuchLink()
    const member = enrolment !== undefined && enrolment.status !== 'left'
    if (member && enrolment.role !== 'student')
      return { sheet: sheet.code, title: sheet.title, role: 'staff' as const }
    if (!visibleToStudents(sheet, now)) {
      throw notFound('This sheet is not out yet. Try again when your instructor has announced it.')
    }
    if (!member) throw strangerAt(sheet, course, person)
    return { sheet: sheet.code, title: sheet.title, role: 'student' as const }
  })

  function noSuchLink(): ProblemError {
    return notFound('No sheet has this address. Check it against the one you were given.')
  }

  function strangerAt(sheet: Sheet, course: Course, person: Person): ProblemError {
    const contacts = roster
      .everybody(course.id)
      .filter(({ role, status }) => role === 'instructor' && status === 'active')
      .map(({ name, email }) => ({ name, email }))
    return new ProblemError(
      'not-on-roster',
      `“${sheet.title}” belongs to ${course.course_code} ${course.title}. You are signed in as ${person.email}, and that address is not on its roster. If you belong to the course, ask to be added.`,
      { contacts },
    )
  }
}
