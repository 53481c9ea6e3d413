import { number, object, string } from 'yup'
import { isWeek, MOST_MINUTES, MOST_WEEKS } from '../core/meetings.ts'
import { localTime, text, title, webLink } from './fields.ts'
import type { GroupPage } from './groups.ts'
import { plainRoute, route } from './route.ts'

/** Meetings that stand on one group's page at most. */
export const MOST_MEETINGS = 40

/** Times are wall-clock times in the course's zone. */
const fields = {
  title: title('What it is'),
  place: text('The place', 200).trim(),
  link: webLink,
  startsAt: localTime,
  minutes: number()
    .typeError('How long it lasts is a number of minutes.')
    .integer('How long it lasts is a whole number of minutes.')
    .min(5, 'A meeting lasts five minutes at least.')
    .max(MOST_MINUTES, 'A meeting lasts twelve hours at most.'),
  weeks: number()
    .typeError('Weeks are a whole number.')
    .integer('Weeks are a whole number.')
    .min(1, 'It takes place once at least.')
    .max(MOST_WEEKS, `It goes on for ${MOST_WEEKS} weeks at most.`),
}
export const meetingBody = object({
  ...fields,
  title: fields.title.required('Say what it is, for example “Bench meeting”.'),
  startsAt: string().required('Give the day and the time.'),
  minutes: fields.minutes.required('Say how long it lasts.'),
})
/** Fields left out stay as they are. */
export const meetingChanges = object(fields)
export const couldMeetBody = object({
  /** One sign for each hour of the week from Monday at midnight on: `1` where one can. */
  hours: string()
    .required()
    .test('week', 'That is no week of hours. Load the page anew.', (value) => isWeek(value ?? '')),
})
/** An hour of the week, the next time that it comes. */
export const meetThenBody = object({
  hour: number().integer().min(0).max(167).required(),
  hours: number().integer().min(1).max(4).required(),
  weeks: fields.weeks.required(),
})

const AT = '/api/sheets/:sheet/groups/:group/meetings'
/** Sets a meeting of the group: once, or each week. Members, tutors and instructors may. */
export const addMeeting = route<GroupPage>()('POST', AT, 'member', meetingBody)
export const changeMeeting = route<GroupPage>()('PATCH', `${AT}/:meeting`, 'member', meetingChanges)
/** Calls a meeting off with all its weeks; it can be brought back. */
export const removeMeeting = plainRoute<GroupPage>()('DELETE', `${AT}/:meeting`, 'member')
export const restoreMeeting = plainRoute<GroupPage>()('POST', `${AT}/:meeting/restore`, 'member')
/** Calls one day of a weekly meeting off, or on again. */
export const skipDay = plainRoute<GroupPage>()('POST', `${AT}/:meeting/days/:day/skip`, 'member')
export const unskipDay = plainRoute<GroupPage>()('DELETE', `${AT}/:meeting/days/:day/skip`, 'member')
/** Sets a meeting at an hour of the week that suits, the next time it comes, in one press. */
export const meetThen = route<GroupPage>()(
  'POST',
  '/api/sheets/:sheet/groups/:group/could-meet/meetings',
  'member',
  meetThenBody,
)
/** Says when the reader could meet. */
export const setCouldMeet = route<GroupPage>()(
  'PUT',
  '/api/sheets/:sheet/groups/:group/could-meet',
  'member',
  couldMeetBody,
)
