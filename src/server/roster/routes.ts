import * as contract from '../../contract/roster.ts'
import { partsToKeep } from '../../core/roster.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import {
  changeRoster,
  type RosterChange,
  refuseTakenNumber,
  rosterView,
  sayBesides,
  setPerson,
  undoRoster,
} from './changes.ts'
import { importRoster, previewImport } from './import.ts'
import type { Enrolment } from './store.ts'

/** The roster: who is in it, bringing in a file, changing people by hand, and the way back. */
export function bindRoster(serve: Serve, stores: Stores, unit: UnitOfWork): void {
  const { roster, sheets, seats } = stores

  /** Names the seats that an enrolment holds: `Tempeh (Culture benches)`. */
  const seatsOf = (courseId: number) => {
    const known = sheets.ofCourse(courseId).map((sheet) => {
      const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
      const topicOf = new Map(sheets.groups(sheet.id).map(({ id, topic_id }) => [id, topic_id]))
      return { sheet, titleOf: (groupId: number) => titles.get(topicOf.get(groupId) ?? 0) ?? '' }
    })
    return (enrolmentId: number) =>
      known.flatMap(({ sheet, titleOf }) =>
        seats.heldBy(sheet.id, enrolmentId).map(({ group_id }) => `${titleOf(group_id)} (${sheet.title})`),
      )
  }
  const changed = (
    { course, person, now }: Omit<RosterChange, 'stores'>,
    freeSeats: boolean,
    work: (change: RosterChange) => string,
  ) => {
    const change = { course, person, now, stores }
    unit.onCourse(course, now, () => changeRoster(change, freeSeats, () => work(change)))
    return rosterView(course, stores)
  }
  const sectionId = (
    course: Course,
    code: string | null | undefined,
    before: number | null,
  ): number | null => {
    if (code === undefined) return before
    if (code === null) return null
    const section = roster.sections(course.id).find((one) => one.code === code)
    if (!section) throw fieldProblem('section', 'The course has no such section.')
    return section.id
  }
  const enrolmentOf = (course: Course, code: string): Enrolment => {
    const enrolment = roster.everybody(course.id).find((one) => one.code === code)
    if (!enrolment) throw notFound('Nobody on this roster is meant by that.')
    return enrolment
  }

  serve(contract.roster, ({ course }) => rosterView(course, stores))
  serve(contract.previewRoster, ({ course, body }) =>
    previewImport(course.id, body.csv, body, roster, seatsOf(course.id)),
  )
  serve(contract.importRoster, (context) => {
    const { course, body, now } = context
    const done = { added: 0, changed: 0, unlisted: 0, skipped: 0 }
    changed(context, body.freeSeats, () => {
      Object.assign(done, importRoster(course.id, body, now, roster))
      return `a file: ${done.added} new, ${done.changed} changed${done.unlisted > 0 ? `, ${done.unlisted} not listed` : ''}`
    })
    return done
  })
  serve(contract.addPerson, (context) => {
    const { course, body, now } = context
    return changed(context, false, () => {
      const person = roster.ensurePerson(body.email, now)
      if (roster.enrolmentIn(course.id, person.id)) {
        throw fieldProblem('email', 'Somebody on this roster has this address already.')
      }
      const section_id = sectionId(course, body.section, null)
      if (body.role === 'student' && section_id === null && roster.sections(course.id).length > 0) {
        throw fieldProblem('section', 'A student of this course belongs to a section.')
      }
      const { name, given = '', family = '', called = '', number = '', role } = body
      refuseTakenNumber(course, number, null, roster)
      const parts = partsToKeep({ name, given, family })
      roster.enrol(
        course.id,
        person.id,
        { name, ...parts, called, number, role, section_id, status: 'active' },
        now,
      )
      const added = roster.enrolmentIn(course.id, person.id)
      if (added) sayBesides(added, body.attributes, roster)
      return `${body.name} was added`
    })
  })
  serve(contract.changePerson, (context) => {
    const { course, body, params } = context
    const enrolment = enrolmentOf(course, params.person)
    return changed(context, body.freeSeats === true, (change) => {
      const { name = enrolment.listed, given, family } = body
      // Of another name the parts that were said are no parts.
      const before = name === enrolment.listed ? enrolment : { given: '', family: '' }
      const fields = {
        listed: name,
        ...partsToKeep({ name, given: given ?? before.given, family: family ?? before.family }),
        called: body.called ?? enrolment.called,
        number: body.number ?? enrolment.number,
        role: body.role ?? enrolment.role,
        section_id: sectionId(course, body.section, enrolment.section_id),
        status: body.status ?? enrolment.status,
      }
      setPerson(change, enrolment, body.email, fields)
      sayBesides(enrolment, body.attributes, roster)
      return `${fields.called || name} was changed`
    })
  })
  serve(contract.changePeople, (context) => {
    const { course, body, now } = context
    return changed(context, body.freeSeats === true, () => {
      const people = body.people.map((code) => enrolmentOf(course, code))
      for (const enrolment of people) {
        const section_id = sectionId(course, body.section, enrolment.section_id)
        roster.changeEnrolment(
          enrolment,
          { ...enrolment, section_id, status: body.status ?? enrolment.status },
          now,
        )
      }
      return people.length === 1 ? `${people[0]?.name} was changed` : `${people.length} people were changed`
    })
  })
  serve(contract.undoRoster, ({ course, person, now, body }) => {
    unit.onCourse(course, now, () => undoRoster({ course, person, now, stores }, body.step))
    return rosterView(course, stores)
  })
}
