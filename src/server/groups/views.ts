import type { GroupLine, GroupPage, GroupsView } from '../../contract/groups.ts'
import type { Instant } from '../../core/instant.ts'
import { askedIn, type Convening, convening } from '../conveners/may.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import { groupBytes, groupFileViews } from '../files/groupFiles.ts'
import { groupCalendar } from '../meetings/views.ts'
import type { Enrolment } from '../roster/store.ts'
import { convenerIn } from '../seats/members.ts'
import { mateNamesShown, namesFor } from '../seats/namesFor.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import { sectionsOn } from '../sheets/sectionsOn.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { namedIn } from '../talk/named.ts'
import { subjectHeads } from '../talk/views.ts'
import { groupTasks, missingIn } from '../tasks/forGroup.ts'
import { lately } from './lately.ts'
import { type As, reachedBy, reaches } from './reach.ts'

/** All groups of a sheet that a member of staff reaches; own ones first. */
export function groupsView(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): GroupsView {
  const { roster, sheets, seats, groups, groupFiles, talk } = stores
  const sections = sectionsOn(sheet, stores)
  const sectionNames = new Map(sections.map(({ id, name }) => [id, name]))
  const students = stores.audience.students(sheet)
  const people = new Map(roster.everybody(course.id).map((one) => [one.id, one]))
  const person = (id: number) => ({ code: people.get(id)?.code ?? '', name: people.get(id)?.name ?? '' })
  const tutors = sheets.tutors(sheet.id)
  const extras = groups.extras(sheet.id)
  const there = sheets.groups(sheet.id)
  const fileCounts = groupFiles.counts(there.map(({ id }) => id))
  const topics = sheets.topics(sheet.id)
  const order = new Map(topics.map(({ id }, i) => [id, i]))
  const reached = there
    .filter((group) => reaches(sheet, reader, group, stores) !== null)
    .toSorted((a, b) => (order.get(a.topic_id) ?? 0) - (order.get(b.topic_id) ?? 0))
  // Each figure is read for all groups at once: a sheet can have hundreds.
  const ids = reached.map(({ id }) => id)
  const places = groups.placesOf(ids)
  const messages = groups.messagesOf(ids)
  const subjects = talk.subjectsOf(ids)
  const unread = talk.unreadOf(ids, reader.id)
  const missing = missingIn(sheet, ids, now, stores)
  const topicOf = new Map(topics.map((topic) => [topic.id, topic]))
  const lines = reached.map((group): GroupLine => {
    const extras = groups.extrasFor(group)
    const topic = topicOf.get(group.topic_id)
    const own = places.get(group.id)
    const care = tutors.filter(({ group_id }) => group_id === group.id)
    const convener = convenerIn(sheet, group, stores)
    return {
      code: group.code,
      topic: { code: topic?.code ?? '', title: topic?.title ?? '' },
      section: sectionNames.get(group.section_id ?? 0) ?? null,
      name: extras.name ? (own?.name ?? '') : '',
      emblem: extras.name ? (own?.emblem ?? '') : '',
      members: seats
        .ofGroup(group.id)
        .filter(({ enrolment_id }) => people.get(enrolment_id)?.status === 'active')
        .map(({ enrolment_id }) => person(enrolment_id)),
      convener: convener === null ? null : person(convener).name,
      tutors: care.map(({ enrolment_id }) => person(enrolment_id)),
      yours: care.some(({ enrolment_id }) => enrolment_id === reader.id),
      unread: extras.talk ? (unread.get(group.id) ?? 0) : 0,
      files: extras.files ? (fileCounts.get(group.id) ?? 0) : 0,
      missing: missing.get(group.id) ?? 0,
      differs: groups.ownExtras(group.id) !== null,
    }
  })
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, students),
    extras,
    kept: {
      talk: reached.reduce((sum, { id }) => sum + (subjects.get(id) ?? 0), 0),
      files: [...fileCounts.values()].reduce((sum, n) => sum + n, 0),
      messages: reached.reduce((sum, { id }) => sum + (messages.get(id) ?? 0), 0),
    },
    groups: lines.toSorted((a, b) => Number(b.yours) - Number(a.yours)),
    mayEdit: mayEdit(reader, sheet),
  }
}

/** The page of a group for somebody who reaches it. */
export function groupPage(
  sheet: Sheet,
  course: Course,
  { group, as }: { group: Group; as: As },
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): GroupPage {
  const { roster, sheets, groups } = stores
  const extras = groups.extrasFor(group)
  const own = groups.place(group.id)
  const topic = sheets.topicById(group.topic_id)
  const { members, tutors } = reachedBy(sheet, group.id, stores)
  const named = reader.role !== 'student' || mateNamesShown(sheet, now)
  const convener = convenerIn(sheet, group, stores)
  const nameOf = namesFor(sheet, reader, now, stores)
  const write = sheet.archived_at === null
  const view = ({ code, name, email }: Enrolment) => ({ code, name, email })
  return {
    now,
    rev: stores.ledger.newest(sheet.id),
    sheet: {
      code: sheet.code,
      title: sheet.title,
      course: course.code,
      courseCode: course.course_code,
      zone: course.zone,
      archived: sheet.archived_at !== null,
    },
    code: group.code,
    as,
    topic: { title: topic?.title ?? '', brief: topic?.brief ?? '' },
    section: roster.sectionNames(course.id).get(group.section_id ?? 0) ?? null,
    startsAt: group.starts_at,
    endsAt: group.ends_at,
    place: group.place,
    link: group.link,
    name: extras.name ? own.name : '',
    emblem: extras.name ? own.emblem : '',
    size: members.length,
    members: members
      .filter(({ id }) => named || id === reader.id)
      .map((one) => ({ ...view(one), you: one.id === reader.id })),
    convener: convener !== null && (named || convener === reader.id) ? nameOf(convener) : null,
    tutors: tutors.map(view),
    people: namedIn(sheet, group.id, reader, now, stores).map(({ code, name }) => ({ code, name })),
    extras,
    extrasDiffer: as === 'member' ? null : groups.ownExtras(group.id) !== null,
    meeting: extras.meeting ? own.meeting : '',
    tasks: groupTasks(sheet, group.id, as, now, stores),
    messages: extras.messages
      ? groups.messages(group.id).map(({ code, by_id, subject, text, sent_at, reached }) => ({
          code,
          by: nameOf(by_id),
          subject,
          text,
          sentAt: sent_at,
          reached,
        }))
      : [],
    talk: extras.talk ? subjectHeads(sheet, group.id, reader, now, stores) : [],
    calendar: extras.calendar
      ? groupCalendar(group.id, course, { reader, members, named }, nameOf, now, stores)
      : null,
    files: extras.files ? groupFileViews(group.id, nameOf, stores) : [],
    bytes: extras.files ? groupBytes(group.id, stores) : 0,
    lately: lately(sheet, group, reader, now, stores),
    convening: conveningView(convening(sheet, group, reader, now, stores), members),
    askedToLeave: as === 'member' && askedIn(group, stores).has(reader.id),
    may: {
      write,
      meeting: write && maySetMeeting(sheet, group, as, reader, stores),
      name: write && extras.name && mayName(sheet, group, as, reader, stores),
      start: write && extras.talk && (as !== 'member' || extras.starts === 'everybody'),
      thread: write && extras.talk && extras.starts === 'threads',
      replyToSubject: write && extras.talk && (as !== 'member' || extras.starts !== 'threads'),
    },
  }
}

const conveningView = (may: Convening | null, members: readonly Enrolment[]): GroupPage['convening'] =>
  may && {
    seat: may.seat,
    out: Object.fromEntries(
      members.flatMap(({ id, code }) => {
        const how = may.out.get(id)
        return how ? [[code, how] as const] : []
      }),
    ),
  }

/** Whether somebody sets the meeting link of a group: staff do, and its convener where that was chosen. */
export function maySetMeeting(
  sheet: Sheet,
  group: Group,
  as: As,
  reader: Enrolment,
  stores: Stores,
): boolean {
  const { meeting, meetingBy } = stores.groups.extrasFor(group)
  if (!meeting) return false
  return as !== 'member' || (meetingBy === 'convener' && convenerIn(sheet, group, stores) === reader.id)
}

/** Whether somebody gives a group its name: staff, its convener, or any member where nobody answers for it. */
export function mayName(sheet: Sheet, group: Group, as: As, reader: Enrolment, stores: Stores): boolean {
  const convener = convenerIn(sheet, group, stores)
  return as !== 'member' || convener === null || convener === reader.id
}
