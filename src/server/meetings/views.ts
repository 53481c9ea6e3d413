import type { CouldMeetView, GroupCalendar, MeetingView } from '../../contract/groupCalendar.ts'
import type { Instant } from '../../core/instant.ts'
import { type MeetingTimes, occurrences, suitingTimes, WEEK_HOURS } from '../../core/meetings.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Meeting } from './store.ts'

/** Hours of meetings for which times are looked for. */
const LENGTHS = [1, 2]

/** When a stored meeting takes place. */
export const timesOf = ({ starts_at, minutes, weeks, skipped }: Meeting): MeetingTimes => ({
  startsAt: starts_at,
  minutes,
  weeks,
  skipped: JSON.parse(skipped) as string[],
})

/**
 * The calendar of a group: meetings that are still to come or go on, and when its members could meet.
 * @param members who sits there
 * @param named whether the reader is given their names
 */
export function groupCalendar(
  groupId: number,
  course: Course,
  { reader, members, named }: { reader: Enrolment; members: readonly Enrolment[]; named: boolean },
  nameOf: (id: number) => string,
  now: Instant,
  { meetings }: Pick<Stores, 'meetings'>,
): GroupCalendar {
  const all = meetings.ofGroup(groupId).flatMap((meeting): MeetingView[] => {
    const times = timesOf(meeting)
    const ahead = occurrences(times, course.zone).filter(({ endsAt }) => endsAt > now)
    const whole = occurrences({ ...times, skipped: [] }, course.zone).filter(({ endsAt }) => endsAt > now)
    if (whole.length === 0) return []
    return [
      {
        code: meeting.code,
        title: meeting.title,
        place: meeting.place,
        link: meeting.link,
        startsAt: meeting.starts_at,
        minutes: meeting.minutes,
        weeks: meeting.weeks,
        ahead,
        skipped: whole.map(({ day }) => day).filter((day) => times.skipped.includes(day)),
        by: nameOf(meeting.by_id),
      },
    ]
  })
  const next = ({ ahead, startsAt }: MeetingView) => ahead[0]?.startsAt ?? startsAt
  return {
    meetings: all.toSorted((a, b) => next(a).localeCompare(next(b))),
    couldMeet: couldMeet(meetings.could(groupId), { reader, members, named }),
  }
}

function couldMeet(
  kept: ReadonlyMap<number, string>,
  { reader, members, named }: { reader: Enrolment; members: readonly Enrolment[]; named: boolean },
): CouldMeetView {
  // Whoever has left does not count any more.
  const said = members.filter(({ id }) => kept.has(id))
  const weeks = new Map(said.map((one) => [one, kept.get(one.id) ?? '']))
  return {
    own: kept.get(reader.id) ?? null,
    said: said.length,
    size: members.length,
    counts: Array.from(
      { length: WEEK_HOURS },
      (_, hour) => [...weeks.values()].filter((hours) => hours[hour] === '1').length,
    ),
    best: LENGTHS.map((hours) => ({
      hours,
      times: suitingTimes(weeks, hours).map(({ hour, can, cannot }) => ({
        hour,
        can: can.length,
        cannot: named ? cannot.map(({ name }) => name) : [],
      })),
    })),
  }
}
