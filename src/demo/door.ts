import { type DoorPerson, door, enter, outbox } from '../contract/demo.ts'
import type { Sessions } from '../server/access/sessions.ts'
import { notFound } from '../server/http/problem.ts'
import type { Serve } from '../server/http/serve.ts'
import type { Stores } from '../server/stores.ts'
import { STAFF } from './fill.ts'

/** Routes that only the demo has: a list of its people to enter as, and the mails that went out. */
export function bindDoor(serve: Serve, sessions: Sessions, stores: Stores): void {
  const { roster, courses, sheets, seats, mail } = stores

  const everybody = () => {
    const ids = new Map<string, number>()
    for (const course of courses.all()) {
      for (const { email, person_id } of roster.everybody(course.id)) ids.set(email, person_id)
    }
    return ids
  }

  serve(door, () => {
    const open = courses.all().flatMap(({ id }) => sheets.ofCourse(id))
    const people = [...everybody()].map(([email, personId]): DoorPerson & { standing: string } => {
      const enrolments = roster.enrolmentsOfPerson(personId)
      const roles = enrolments.map(
        ({ role, course_id }) => `${role} in ${courses.byId(course_id)?.course_code ?? ''}`,
      )
      const seated = enrolments.some((enrolment) =>
        open.some(
          (sheet) => sheet.title === 'Culture benches' && seats.heldBy(sheet.id, enrolment.id).length > 0,
        ),
      )
      const standing = enrolments.some(({ role }) => role !== 'student')
        ? 'staff'
        : `${enrolments.map(({ course_id }) => courses.byId(course_id)?.course_code).join(' ')} ${seated}`
      return {
        email,
        name: roster.nameOf({ id: personId, email }),
        roles: roles.join(', '),
        featured: false,
        standing,
      }
    })
    const staff = new Set(Object.values(STAFF).map(({ email }) => email))
    // One student of each course, and of two at once, with a group and without.
    const shown = new Set(
      [...new Set(people.map(({ standing }) => standing))].map(
        (standing) => people.find((person) => person.standing === standing)?.email,
      ),
    )
    return {
      people: people.map(({ standing: _, ...person }) => ({
        ...person,
        featured: staff.has(person.email) || shown.has(person.email),
      })),
    }
  })
  serve(enter, ({ req, body, res }) => {
    const id = everybody().get(body.email)
    if (id === undefined) throw notFound('Nobody of the sample has this address.')
    sessions.begin(req, res, id)
    return null
  })
  serve(outbox, () => ({
    mails: mail.newest(100).map(({ code, recipient, subject, body, created_at, due_at }) => ({
      code,
      to: recipient,
      subject,
      text: body,
      at: created_at,
      heldUntil: due_at,
    })),
  }))
}
