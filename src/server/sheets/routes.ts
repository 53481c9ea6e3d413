import {
  addSheet,
  addTopic as addTopicRoute,
  changeSheet as changeSheetRoute,
  changeTopic as changeTopicRoute,
  compose,
  followLink,
  orderTopics as orderTopicsRoute,
  publishSheet,
  removeTopic as removeTopicRoute,
  restoreTopic as restoreTopicRoute,
} from '../../contract/sheets.ts'
import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import type { Db } from '../db/open.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Hub } from '../live/hub.ts'
import type { Enrolment, Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import {
  addTopic,
  changeSheet,
  changeTopic,
  type Edit,
  orderTopics,
  publish,
  removeTopic,
  restoreTopic,
} from './edit.ts'
import type { Sheet, Topic } from './store.ts'
import { composeView } from './views.ts'
import { windowOf } from './window.ts'

/** Limit and floor a new sheet starts with, until its instructor says otherwise. */
const FIRST_LIMIT = 4
const FIRST_FLOOR = 2

interface Editing {
  sheet: Sheet
  course: Course
  person: Person
  enrolment: Enrolment
  now: Instant
}

/** Writing a sheet, and the short address that leads to it. */
export function bindSheets(serve: Serve, db: Db, stores: Stores, hub: Hub): void {
  const { sheets, roster, courses } = stores

  /** Runs an edit in one transaction, tells the open pages, and answers with the sheet as it then stands. */
  const edited = ({ sheet, course, person, enrolment, now }: Editing, change: (edit: Edit) => void) => {
    db.transaction(() =>
      change({ sheet: sheets.byId(sheet.id) ?? sheet, course, person, now, stores }),
    ).immediate()
    hub.touched(sheet.id)
    return composeView(sheets.byId(sheet.id) ?? sheet, course, enrolment, now, stores)
  }
  const topicOf = (sheet: Sheet, code: string): Topic => {
    const topic = sheets.topic(sheet.id, code)
    if (!topic) throw notFound('The sheet has no such topic.')
    return topic
  }
  const standing = (sheet: Sheet, code: string): Topic => {
    const topic = topicOf(sheet, code)
    if (topic.removed_at !== null) throw notFound('That topic was removed meanwhile.')
    return topic
  }

  serve(compose, ({ sheet, course, enrolment, now }) => composeView(sheet, course, enrolment, now, stores))
  serve(addSheet, ({ course, person, enrolment, body, now }) => {
    const added = db
      .transaction(() => {
        const fields = { title: body.title, contact: person.email, seats: FIRST_LIMIT, floor: FIRST_FLOOR }
        const sheet = sheets.add(course.id, fields, now)
        const detail = { title: sheet.title }
        stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'sheet-added', detail })
        return sheet
      })
      .immediate()
    return composeView(added, course, enrolment, now, stores)
  })
  serve(changeSheetRoute, (context) => edited(context, (edit) => changeSheet(edit, context.body)))
  serve(publishSheet, (context) => edited(context, publish))
  serve(addTopicRoute, (context) => {
    const { title, brief = '', place = '', seats = null, floor = null } = context.body
    return edited(context, (edit) => {
      addTopic(edit, { title, brief, place, seats, floor })
    })
  })
  serve(orderTopicsRoute, (context) => edited(context, (edit) => orderTopics(edit, context.body.topics)))
  serve(changeTopicRoute, (context) => {
    const topic = standing(context.sheet, context.params.topic)
    return edited(context, (edit) => changeTopic(edit, topic, context.body))
  })
  serve(removeTopicRoute, (context) => {
    const topic = standing(context.sheet, context.params.topic)
    return edited(context, (edit) => removeTopic(edit, topic, context.body.confirmed === true))
  })
  serve(restoreTopicRoute, (context) => {
    const topic = topicOf(context.sheet, context.params.topic)
    return edited(context, (edit) => restoreTopic(edit, topic))
  })

  serve(followLink, ({ person, params, now }) => {
    const sheet = sheets.byLink(params.link)
    const course = sheet && courses.byId(sheet.course_id)
    if (!sheet || !course)
      throw notFound('No sheet has this address. Check it against the one you were given.')
    const enrolment = roster.enrolmentIn(course.id, person.id)
    const draft = sheetState(windowOf(sheet), now) === 'draft'
    if (enrolment && enrolment.status !== 'left' && enrolment.role !== 'student') {
      return { sheet: sheet.code, title: sheet.title, role: 'staff' as const }
    }
    if (draft) throw notFound('This sheet is not out yet. Try again when your instructor has announced it.')
    if (!enrolment || enrolment.status === 'left') throw strangerAt(sheet, course, person)
    return { sheet: sheet.code, title: sheet.title, role: 'student' as const }
  })

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
