import type { Response } from 'express'
import * as contract from '../../contract/calendar.ts'
import { fill } from '../../contract/route.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import { datedSeats, entriesOn, placeOfSeat, seatEntry } from './entries.ts'
import { calendarFile } from './file.ts'
import { numbered, outdated, takenOut } from './numbered.ts'

/** Calendar files: one for each dated seat, and a private address for everything dated of somebody. */
export function bindCalendar(serve: Serve, stores: Stores): void {
  const { calendar, roster, courses, sheets, audience } = stores

  /** The sheets that somebody's calendar is about, with their place in the course. */
  const sheetsOf = (personId: number) =>
    roster
      .enrolmentsOfPerson(personId)
      .filter(({ status }) => status === 'active')
      .flatMap((enrolment) => {
        const course = courses.byId(enrolment.course_id)
        if (!course || (course.archived_at !== null && enrolment.role !== 'student')) return []
        return sheets.ofCourse(course.id).flatMap((sheet) => {
          const meant = enrolment.role !== 'student' || audience.has(sheet, enrolment)
          return meant ? [{ sheet, course, enrolment }] : []
        })
      })

  /** Seats that were saved as files and changed since; nothing is looked up for whoever saved none. */
  const savedDates = (personId: number): contract.SavedDate[] => {
    const kept = calendar.entriesOf(personId).filter(({ saved_at }) => saved_at !== null)
    if (kept.length === 0) return []
    const current = sheetsOf(personId).flatMap(({ sheet, course, enrolment }) =>
      enrolment.role === 'student' ? datedSeats(sheet, course, enrolment, stores) : [],
    )
    return outdated(personId, current, calendar).flatMap(({ id, title, startsAt, gone }) => {
      const at = placeOfSeat(id, personId, stores)
      if (!at) return []
      const path = fill(contract.seatCalendar.path, at)
      return [{ title, startsAt, zone: at.zone, path, gone }]
    })
  }

  const feedOf = (personId: number): contract.CalendarFeed => {
    const feed = calendar.ofPerson(personId)
    const saved = savedDates(personId)
    return feed
      ? { path: fill(contract.calendar.path, { token: `${feed.token}.ics` }), madeAt: feed.made_at, saved }
      : { path: null, madeAt: null, saved }
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
    const entries = sheetsOf(feed.person_id).flatMap(({ sheet, course, enrolment }) =>
      entriesOn(sheet, course, enrolment, now, stores),
    )
    send(res, calendarFile('Haplon', numbered(feed.person_id, entries, now, calendar), now, 'feed'))
    return undefined
  })

  serve(contract.seatCalendar, ({ res, sheet, course, person, enrolment, params, now }) => {
    const seat = datedSeats(sheet, course, enrolment, stores).find(({ group }) => group === params.group)
    res.setHeader('Content-Disposition', 'attachment; filename="seat.ics"')
    if (seat) {
      send(res, calendarFile(seat.title, numbered(person.id, [seat], now, calendar, 'saved'), now))
      return undefined
    }
    const before = takenOut(person.id, seatEntry(params.group, enrolment.code), now, calendar)
    if (!before) {
      res.removeHeader('Content-Disposition')
      throw new ProblemError('seat-without-date', 'You hold no seat with a date in this group.')
    }
    send(res, calendarFile(before.title, [before], now, 'cancel'))
    return undefined
  })
}

function send(res: Response, file: string): void {
  res.type('text/calendar; charset=utf-8').send(file)
}
