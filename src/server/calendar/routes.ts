import type { Response } from 'express'
import * as contract from '../../contract/calendar.ts'
import { fill } from '../../contract/route.ts'
import type { Course } from '../courses/store.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { type CalendarSeat, calendarFile } from './file.ts'

/** Dated seats as calendar files: one for each seat, and a private address for all of somebody's. */
export function bindCalendar(serve: Serve, stores: Stores): void {
  const { calendar, roster, courses, sheets } = stores

  const feedOf = (personId: number): contract.CalendarFeed => {
    const feed = calendar.ofPerson(personId)
    return feed
      ? { path: fill(contract.calendar.path, { token: `${feed.token}.ics` }), madeAt: feed.made_at }
      : { path: null, madeAt: null }
  }
  serve(contract.calendarFeed, ({ person }) => feedOf(person.id))
  serve(contract.makeCalendarFeed, ({ person, now }) => {
    calendar.renew(person.id, now)
    return feedOf(person.id)
  })
  serve(contract.endCalendarFeed, ({ person }) => {
    calendar.drop(person.id)
    return feedOf(person.id)
  })

  serve(contract.calendar, ({ res, params, now }) => {
    const feed = calendar.byToken(params.token.replace(/\.ics$/, ''))
    if (!feed) throw notFound('This calendar’s address was replaced or ended. Make a new one in Haplon.')
    const seats = roster
      .enrolmentsOfPerson(feed.person_id)
      .filter(({ role, status }) => role === 'student' && status === 'active')
      .flatMap((enrolment) => {
        const course = courses.byId(enrolment.course_id)
        return course
          ? sheets
              .ofCourse(course.id)
              .filter(({ published_at }) => published_at !== null)
              .flatMap((sheet) => datedSeats(sheet, course, enrolment, stores))
          : []
      })
    send(res, 'Haplon', seats, now)
    return undefined
  })

  serve(contract.seatCalendar, ({ res, sheet, course, enrolment, params, now }) => {
    const seat = datedSeats(sheet, course, enrolment, stores).find(({ group }) => group === params.group)
    if (!seat) throw new ProblemError('seat-without-date', 'You hold no seat with a date in this group.')
    res.setHeader('Content-Disposition', 'attachment; filename="seat.ics"')
    send(res, seat.title, [seat], now)
    return undefined
  })
}

function send(res: Response, name: string, seats: readonly CalendarSeat[], now: string): void {
  res.type('text/calendar; charset=utf-8').send(calendarFile(name, seats, now))
}

/** The seats with a date that a student holds on a sheet. */
function datedSeats(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  { seats, sheets }: Stores,
): (CalendarSeat & { group: string })[] {
  const held = seats.heldBy(sheet.id, enrolment.id)
  if (held.length === 0) return []
  const groups = new Map(sheets.groups(sheet.id).map((group) => [group.id, group]))
  const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
  return held.flatMap(({ group_id }) => {
    const group = groups.get(group_id)
    if (!group || group.starts_at === null) return []
    return [
      {
        id: `${group.code}-${enrolment.code}`,
        group: group.code,
        title: titles.get(group.topic_id) ?? sheet.title,
        sheet: sheet.title,
        course: `${course.course_code} ${course.title}`,
        place: group.place,
        link: group.link,
        startsAt: group.starts_at,
        endsAt: group.ends_at,
      },
    ]
  })
}
