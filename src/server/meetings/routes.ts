import * as contract from '../../contract/meetings.ts'
import type { Instant } from '../../core/instant.ts'
import { nextAt, occurrences } from '../../core/meetings.ts'
import { extraOn } from '../groups/extras.ts'
import { reachGroup } from '../groups/reach.ts'
import { groupPage } from '../groups/views.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Enrolment } from '../roster/store.ts'
import { instantOf } from '../sheets/edit.ts'
import type { Editing } from '../sheets/editing.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { Meeting, MeetingFields } from './store.ts'
import { timesOf } from './views.ts'

type Asked = Editing & { params: { group: string }; enrolment: Enrolment }

/** The calendar of a group: meetings, and when its members could meet. */
export function bindMeetings(serve: Serve, stores: Stores, unit: UnitOfWork): void {
  const { meetings } = stores

  /** Does something in a group that the caller reaches, and answers with its page as it then is. */
  const inGroup = (asked: Asked, work: (group: Group) => void) => {
    const { sheet, course, enrolment, params, now } = asked
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    extraOn(reach.group, 'calendar', stores)
    unit.onSheet(sheet, now, (_, telling) => {
      work(reach.group)
      telling.page(reach.group.id)
    })
    return groupPage(sheet, course, reach, enrolment, now, stores)
  }
  const meetingOf = (group: Group, code: string): Meeting => {
    const meeting = meetings.byCode(group.id, code)
    if (!meeting) throw notFound('The group has no such meeting.')
    return meeting
  }
  const standing = (group: Group, code: string): Meeting => {
    const meeting = meetingOf(group, code)
    if (meeting.removed_at !== null) throw notFound('That meeting was called off meanwhile.')
    return meeting
  }
  const room = (group: Group) => {
    if (meetings.ofGroup(group.id).length >= contract.MOST_MEETINGS)
      throw new ProblemError(
        'body-invalid',
        `A group has ${contract.MOST_MEETINGS} meetings at most. Call some off first.`,
      )
  }

  serve(contract.addMeeting, (asked) =>
    inGroup(asked, (group) => {
      room(group)
      const { body, course, now } = asked
      const starts_at = startOf(asked, body.startsAt, null)
      const fields = {
        title: body.title,
        place: body.place ?? '',
        link: body.link ?? '',
        starts_at,
        minutes: body.minutes,
        weeks: body.weeks ?? 1,
        skipped: '[]',
      }
      checkAhead(fields, course.zone, now)
      meetings.add(group.id, asked.enrolment.id, fields, now)
    }),
  )
  serve(contract.changeMeeting, (asked) =>
    inGroup(asked, (group) => {
      const { body, course, now } = asked
      const meeting = standing(group, asked.params.meeting)
      const starts_at = startOf(asked, body.startsAt ?? undefined, meeting.starts_at)
      const moved = starts_at !== meeting.starts_at
      const fields = {
        title: body.title ?? meeting.title,
        place: body.place ?? meeting.place,
        link: body.link ?? meeting.link,
        starts_at,
        minutes: body.minutes ?? meeting.minutes,
        weeks: body.weeks ?? meeting.weeks,
        // Days that were called off were days of the meeting as it was.
        skipped: moved ? '[]' : meeting.skipped,
      }
      if (moved) checkAhead(fields, course.zone, now)
      meetings.change(meeting.id, fields)
    }),
  )
  serve(contract.removeMeeting, (asked) =>
    inGroup(asked, (group) => {
      meetings.setRemoved(standing(group, asked.params.meeting).id, asked.now)
    }),
  )
  serve(contract.restoreMeeting, (asked) =>
    inGroup(asked, (group) => {
      const meeting = meetingOf(group, asked.params.meeting)
      if (meeting.removed_at === null) return
      room(group)
      meetings.setRemoved(meeting.id, null)
    }),
  )
  const setSkipped = (asked: Asked & { params: { meeting: string; day: string } }, skip: boolean) =>
    inGroup(asked, (group) => {
      const { meeting: code, day } = asked.params
      const meeting = standing(group, code)
      const times = timesOf(meeting)
      const days = occurrences({ ...times, skipped: [] }, asked.course.zone).map((one) => one.day)
      if (!days.includes(day)) throw notFound('It does not take place on that day.')
      const others = times.skipped.filter((one) => one !== day)
      meetings.change(meeting.id, { ...meeting, skipped: JSON.stringify(skip ? [...others, day] : others) })
    })
  serve(contract.skipDay, (asked) => setSkipped(asked, true))
  serve(contract.unskipDay, (asked) => setSkipped(asked, false))

  serve(contract.meetThen, (asked) =>
    inGroup(asked, (group) => {
      room(group)
      const { body, course, now, enrolment } = asked
      const local = nextAt(body.hour, now, course.zone)
      const fields = {
        title: 'Meeting',
        place: '',
        link: '',
        starts_at: startOf(asked, local, null),
        minutes: body.hours * 60,
        weeks: body.weeks,
        skipped: '[]',
      }
      meetings.add(group.id, enrolment.id, fields, now)
    }),
  )
  serve(contract.setCouldMeet, (asked) => {
    const { as } = reachGroup(asked.sheet, asked.enrolment, asked.params.group, stores)
    if (as !== 'member')
      throw new ProblemError('not-allowed', 'When a group could meet is said by those who sit in it.')
    return inGroup(asked, (group) => {
      meetings.setCould(group.id, asked.enrolment.id, asked.body.hours)
    })
  })

  function startOf(asked: Editing, local: string | undefined, before: Instant | null): Instant {
    const at = instantOf({ ...asked, stores }, 'startsAt', local, before, 'first')
    if (at === null) throw fieldProblem('startsAt', 'Give the day and the time.')
    return at
  }
}

/** Refuses a meeting of which nothing is still to come. */
function checkAhead(fields: MeetingFields, zone: string, now: Instant): void {
  const last = occurrences({ ...fields, startsAt: fields.starts_at, skipped: [] }, zone).at(-1)
  if (last && last.endsAt <= now)
    throw fieldProblem('startsAt', 'That has passed already. Give a time that is still to come.')
}
