import type { OwnRequest } from '../../contract/asking.ts'
import type {
  ClaimAnswer,
  OwnSeat,
  StudentGroup,
  StudentHome,
  StudentSheet,
  StudentStub,
} from '../../contract/seats.ts'
import { grouped } from '../../core/grouped.ts'
import type { Instant } from '../../core/instant.ts'
import { seatsLeft } from '../../core/limit.ts'
import { namesShown } from '../../core/rules.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { receivedInvitations, seatsToOffer, sentInvitations } from '../invitations/views.ts'
import type { Enrolment, Named } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { sheetHead } from '../sheets/views.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { ownSwaps, swapToAnswer } from '../swaps/views.ts'
import { tasksThere } from '../tasks/there.ts'
import { ownWishes, rankedBy } from '../wishes/views.ts'
import { convenerIn, membersOf } from './members.ts'
import { offeredTo } from './offered.ts'
import type { LinePlace, Seat } from './store.ts'

/** The student who reads: an enrolment, or somebody invented for a rehearsal. */
export type Reader = Pick<Enrolment, 'id' | 'section_id' | 'status'>

/** Whether a reader's place in the course lets them read of others at all: one that is paused does not. */
const mayReadNames = ({ status }: Reader) => status === 'active'

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
  const sitting = sittingOnce(sheet, reader, stores)
  const look = lookOf(sheet, reader, held, now, wholeSheet(sheet, stores), sitting, stores)
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
    ...ownSeats(sheet, reader, held, now, sitting, stores),
    tasks: tasksThere(sheet, reader, now, stores),
    request: ownRequest(sheet, reader, stores),
    wishes: ownWishes(sheet, reader, now, stores),
    swaps: ownSwaps(sheet, reader, now, stores),
  }
}

/** What a granted claim changed for its student: own seats, and the groups that it touched. */
export function claimAnswer(
  sheet: Sheet,
  reader: Reader,
  asked: readonly string[],
  byLine: boolean,
  now: Instant,
  stores: Stores,
): ClaimAnswer {
  const { seats, sheets, ledger } = stores
  const held = seats.heldBy(sheet.id, reader.id)
  const sitting = sittingOnce(sheet, reader, stores)
  const look = lookOf(sheet, reader, held, now, singleGroups(stores), sitting, stores)
  const touched = asked.flatMap((code) => sheets.group(code) ?? [])
  // With names shown once seated, the first seat and the last shows or hides the names of every group.
  const namesTurn = sheet.names === 'seated' && (held.length === 0 || asked.length === 1)
  return {
    now,
    rev: ledger.newest(sheet.id),
    ...ownSeats(sheet, reader, held, now, sitting, stores),
    groups: touched.flatMap((group) => {
      const topic = sheets.topicById(group.topic_id)
      return topic ? [look(group, topic)] : []
    }),
    more: byLine || namesTurn,
  }
}

/** A student's own seats, and the invitations that go with having them or not. */
function ownSeats(
  sheet: Sheet,
  reader: Reader,
  held: readonly Seat[],
  now: Instant,
  sittingIn: SittingIn,
  stores: Stores,
): Pick<StudentSheet, 'seats' | 'received' | 'sent'> {
  const state = sheetState(windowOf(sheet), now)
  const sent: StudentSheet['sent'] = []
  const seats = held.flatMap(({ group_id, taken_at }): OwnSeat[] => {
    const group = stores.sheets.groupById(group_id)
    if (!group) return []
    const sitting = sittingIn(group)
    const convener = sitting.convener === reader.id
    const invites =
      convener && sheet.road !== 'wished' && sheet.invitations === 'convener' && state === 'open'
    if (invites) sent.push(...sentInvitations(group, reader.id, stores))
    const shown = mayReadNames(reader) && namesShown(sheet.names, { state, seated: true, inGroup: true })
    const mates = shown ? sitting.mates.map(({ name, email }) => ({ name, email })) : null
    const toOffer = invites ? seatsToOffer(group, stores) : 0
    const bound = stores.tasks.isBound(group.id)
    const unread = stores.groups.extrasFor(group).talk ? stores.talk.unread(group.id, reader.id) : 0
    return [{ group: group.code, at: taken_at, link: group.link, convener, mates, toOffer, bound, unread }]
  })
  const received =
    held.length === 0 && sheet.invitations === 'convener'
      ? receivedInvitations(sheet, reader.id, now, stores)
      : []
  return { seats, received, sent }
}

/** Who sits in a group, as one who reads of it sees them. */
interface Sitting {
  members: readonly Named[]
  /** Active members besides the reader. */
  mates: readonly Named[]
  /** The member who answers for the group, or null. */
  convener: number | null
}

const NOBODY: Sitting = { members: [], mates: [], convener: null }

/** Gives who sits in a group, read once however often it is asked for. */
type SittingIn = (group: Group) => Sitting

function sittingOnce(sheet: Sheet, reader: Reader, stores: Stores): SittingIn {
  const known = new Map<number, Sitting>()
  return (group) => {
    const before = known.get(group.id)
    if (before) return before
    const members = membersOf(group.id, stores)
    const mates = members.filter(({ id, status }) => id !== reader.id && status === 'active')
    const sitting = { members, mates, convener: convenerIn(sheet, group, stores) }
    known.set(group.id, sitting)
    return sitting
  }
}

/** Groups that a student is offered or sits in. */
function shownTo(reader: Reader, sheet: Sheet, groups: readonly Group[], held: readonly Seat[]): Group[] {
  const own = new Set(held.map(({ group_id }) => group_id))
  return groups.filter((group) => own.has(group.id) || offeredTo(reader, sheet, group))
}

/** Where the figures of a group come from: read for the whole sheet at once, or for single groups. */
interface Figures {
  taken: (groupId: number) => number
  kept: (groupId: number) => readonly { enrolment_id: number | null }[]
  line: (groupId: number) => readonly LinePlace[]
}

function wholeSheet(sheet: Sheet, { seats, sheets }: Stores): Figures {
  const counts = seats.counts(sheet.id)
  const kept = grouped(sheets.heldOnSheet(sheet.id), ({ group_id }) => group_id)
  const inLine = sheet.full_groups === 'line' ? seats.lines(sheet.id) : []
  const lines = grouped(inLine, ({ group_id }) => group_id)
  return {
    taken: (id) => counts.get(id) ?? 0,
    kept: (id) => kept.get(id) ?? [],
    line: (id) => lines.get(id) ?? [],
  }
}

function singleGroups({ seats, sheets }: Stores): Figures {
  return { taken: seats.takenIn, kept: sheets.heldIn, line: seats.lineOf }
}

/** How a group looks to a reader; names only where the rules show them. */
function lookOf(
  sheet: Sheet,
  reader: Reader,
  held: readonly Seat[],
  now: Instant,
  figures: Figures,
  sittingIn: SittingIn,
  stores: Stores,
) {
  const state = sheetState(windowOf(sheet), now)
  const own = new Set(held.map(({ group_id }) => group_id))
  const sections = sheet.offers === 'course' ? stores.roster.sectionNames(sheet.course_id) : null
  return (group: Group, topic: { title: string; brief: string }): StudentGroup => {
    const inGroup = own.has(group.id)
    const readable =
      mayReadNames(reader) && namesShown(sheet.names, { state, seated: held.length > 0, inGroup })
    const line = figures.line(group.id)
    const yourPlace = line.findIndex(({ enrolment_id }) => enrolment_id === reader.id) + 1
    const kept = figures.kept(group.id)
    const heldForYou = kept.some(({ enrolment_id }) => enrolment_id === reader.id)
    const { members, mates, convener } = readable ? sittingIn(group) : NOBODY
    return {
      code: group.code,
      title: topic.title,
      called: readable && stores.groups.extrasFor(group).name ? stores.groups.place(group.id).name : '',
      brief: topic.brief,
      section: sections?.get(group.section_id ?? 0) ?? null,
      place: group.place,
      startsAt: group.starts_at,
      endsAt: group.ends_at,
      seats: group.seats,
      taken: figures.taken(group.id),
      held: kept.length - (heldForYou ? 1 : 0),
      heldForYou,
      waiting: line.length,
      yourPlace: yourPlace === 0 ? null : yourPlace,
      names: readable ? mates.map(({ name }) => name) : null,
      convener:
        convener === null || convener === reader.id
          ? null
          : (members.find(({ id }) => id === convener)?.name ?? null),
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
  if (state === 'draft' || !stores.audience.sees(sheet, enrolment, now)) return []
  const groups = stores.sheets.groups(sheet.id)
  const held = stores.seats.heldBy(sheet.id, enrolment.id)
  const sitting = sittingOnce(sheet, enrolment, stores)
  const look = lookOf(sheet, enrolment, held, now, wholeSheet(sheet, stores), sitting, stores)
  const topics = new Map(stores.sheets.topics(sheet.id).map((topic) => [topic.id, topic]))
  const looks = shownTo(enrolment, sheet, groups, held).flatMap((group) => {
    const topic = topics.get(group.topic_id)
    return topic ? [{ id: group.id, look: look(group, topic) }] : []
  })
  const links = new Map(groups.map(({ code, link }) => [code, link]))
  const own = held.flatMap(({ group_id }) => looks.find(({ id }) => id === group_id)?.look ?? [])
  const titleOf = (group: string) => looks.find(({ look }) => look.code === group)?.look.title ?? ''
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
      road: sheet.road,
      contact: sheet.contact,
      groups: looks.length,
      groupsWithRoom: looks.filter(({ look }) => seatsLeft(look.seats, look.taken, look.held) > 0).length,
      seats: own.map(({ code, title, place, startsAt, endsAt, seats, taken, names }) => ({
        code,
        link: links.get(code) ?? '',
        title,
        place,
        startsAt,
        endsAt,
        seats,
        taken,
        names,
      })),
      tasks: tasksThere(sheet, enrolment, now, stores),
      invitations: ownSeats(sheet, enrolment, held, now, sitting, stores).received.map(({ group, from }) => ({
        title: titleOf(group),
        from,
      })),
      swap: swapToAnswer(sheet, enrolment, now, stores),
      ranked: rankedBy(sheet, enrolment, stores),
    },
  ]
}
