import type { OwnRequest } from '../../contract/requests.ts'
import type { StudentGroup, StudentHome, StudentSheet, StudentStub } from '../../contract/seats.ts'
import type { Instant } from '../../core/instant.ts'
import { seatsLeft } from '../../core/limit.ts'
import { namesShown } from '../../core/rules.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { sheetHead } from '../sheets/views.ts'
import { visibleToStudents, windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { convenerIn, membersOf } from './members.ts'
import type { Seat } from './store.ts'

/** The student who reads: an enrolment, or somebody invented for a rehearsal. */
export type Reader = Pick<Enrolment, 'id' | 'section_id'>

/** A sheet as one student may see it. What the house rules hide is not in it. */
export function studentSheet(
  sheet: Sheet,
  course: Course,
  reader: Reader,
  now: Instant,
  stores: Stores,
): StudentSheet {
  const groups = stores.sheets.groups(sheet.id)
  const held = stores.seats.heldBy(sheet.id, reader.id)
  const shown = shownTo(reader, sheet, groups, held)
  const look = lookOf(sheet, reader, held, now, stores)
  const section = stores.roster.sections(course.id).find(({ id }) => id === reader.section_id)
  return {
    ...sheetHead(sheet, course, now, stores),
    instructions: sheet.instructions,
    contact: sheet.contact,
    section: section?.name ?? null,
    groups: stores.sheets
      .topics(sheet.id)
      .flatMap((topic) =>
        shown.filter(({ topic_id }) => topic_id === topic.id).map((group) => look(group, topic)),
      ),
    seats: held.flatMap(({ group_id, taken_at }) => {
      const group = groups.find(({ id }) => id === group_id)
      if (!group) return []
      const convener = convenerIn(sheet, group, stores) === reader.id
      return [{ group: group.code, at: taken_at, link: group.link, convener }]
    }),
    request: ownRequest(sheet, reader, stores),
  }
}

/** Groups that a student is offered or sits in. */
function shownTo(reader: Reader, sheet: Sheet, groups: readonly Group[], held: readonly Seat[]): Group[] {
  const own = new Set(held.map(({ group_id }) => group_id))
  const fits = ({ section_id }: Group) =>
    sheet.offers === 'course' || section_id === null || section_id === reader.section_id
  return groups.filter((group) => own.has(group.id) || (group.offered === 1 && fits(group)))
}

/** How a group looks to a reader; names only where the rules show them. */
function lookOf(sheet: Sheet, reader: Reader, held: readonly Seat[], now: Instant, stores: Stores) {
  const state = sheetState(windowOf(sheet), now)
  const counts = stores.seats.counts(sheet.id)
  const own = new Set(held.map(({ group_id }) => group_id))
  const kept = stores.sheets.heldOnSheet(sheet.id)
  const lines = sheet.full_groups === 'line' ? stores.seats.lines(sheet.id) : []
  const sections = new Map(stores.roster.sections(sheet.course_id).map(({ id, name }) => [id, name]))
  return (group: Group, topic: { title: string; brief: string }): StudentGroup => {
    const inGroup = own.has(group.id)
    const readable = namesShown(sheet.names, { state, seated: held.length > 0, inGroup })
    const line = lines.filter(({ group_id }) => group_id === group.id)
    const yourPlace = line.findIndex(({ enrolment_id }) => enrolment_id === reader.id) + 1
    const keptHere = kept.filter(({ group_id }) => group_id === group.id)
    const heldForYou = keptHere.some(({ enrolment_id }) => enrolment_id === reader.id)
    const names = readable
      ? membersOf(group.id, stores)
          .filter(({ id, status }) => id !== reader.id && status === 'active')
          .map(({ name }) => name)
      : null
    const convener = readable ? convenerIn(sheet, group, stores) : null
    return {
      code: group.code,
      title: topic.title,
      brief: topic.brief,
      section: sheet.offers === 'course' ? (sections.get(group.section_id ?? 0) ?? null) : null,
      place: group.place,
      startsAt: group.starts_at,
      endsAt: group.ends_at,
      seats: group.seats,
      taken: counts.get(group.id) ?? 0,
      held: keptHere.length - (heldForYou ? 1 : 0),
      heldForYou,
      waiting: line.length,
      yourPlace: yourPlace === 0 ? null : yourPlace,
      names,
      convener:
        convener === null || convener === reader.id
          ? null
          : (stores.roster.enrolment(convener)?.name ?? null),
    }
  }
}

function ownRequest(sheet: Sheet, reader: Reader, { requests, sheets }: Stores): OwnRequest | null {
  const request = requests.newestOf(sheet.id, reader.id)
  if (!request || request.answer === 'withdrawn') return null
  const codes = sheets.groupCodes(sheet.id)
  return {
    code: request.code,
    from: codes.get(request.from_group_id) ?? '',
    to: request.to_group_id === null ? null : (codes.get(request.to_group_id) ?? null),
    reason: request.reason,
    state: request.answer ?? 'open',
    madeAt: request.made_at,
    answeredAt: request.answered_at,
  }
}

/** What a student's first page shows: every sheet that is out, of every course in which the person is a student. */
export function studentHome(personId: number, now: Instant, stores: Stores): StudentHome {
  const enrolments = stores.roster
    .enrolmentsOfPerson(personId)
    .filter(({ role, status }) => role === 'student' && status === 'active')
  const sheets = enrolments.flatMap((enrolment) => {
    const course = stores.courses.byId(enrolment.course_id)
    if (!course) return []
    return stores.sheets
      .ofCourse(course.id)
      .flatMap((sheet) => studentStub(sheet, course, enrolment, now, stores))
  })
  return { now, sheets }
}

function studentStub(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  now: Instant,
  stores: Stores,
): StudentStub[] {
  const state = sheetState(windowOf(sheet), now)
  if (state === 'draft' || !visibleToStudents(sheet, now)) return []
  const groups = stores.sheets.groups(sheet.id)
  const held = stores.seats.heldBy(sheet.id, enrolment.id)
  const look = lookOf(sheet, enrolment, held, now, stores)
  const topics = new Map(stores.sheets.topics(sheet.id).map((topic) => [topic.id, topic]))
  const looks = shownTo(enrolment, sheet, groups, held).flatMap((group) => {
    const topic = topics.get(group.topic_id)
    return topic ? [{ id: group.id, look: look(group, topic) }] : []
  })
  const own = held.flatMap(({ group_id }) => looks.find(({ id }) => id === group_id)?.look ?? [])
  const section = stores.roster.sections(course.id).find(({ id }) => id === enrolment.section_id)
  return [
    {
      code: sheet.code,
      title: sheet.title,
      courseTitle: course.title,
      courseCode: course.course_code,
      section: section?.name ?? null,
      zone: course.zone,
      state,
      opensAt: sheet.opens_at,
      closesAt: sheet.closes_at,
      changing: sheet.changing,
      groups: looks.length,
      groupsWithRoom: looks.filter(({ look }) => seatsLeft(look.seats, look.taken, look.held) > 0).length,
      seats: own.map(({ title, place, startsAt, endsAt, seats, taken, names }) => ({
        title,
        place,
        startsAt,
        endsAt,
        seats,
        taken,
        names,
      })),
    },
  ]
}
