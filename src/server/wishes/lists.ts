import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { sheetState } from '../../core/window.ts'
import {
  countingList,
  type ListFault,
  listFault,
  type Mates,
  matesFault,
  mutualMates,
  offeredOf,
  type WishList,
} from '../../core/wishes/list.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { Enrolment, RosterStore } from '../roster/store.ts'
import { offeredTo } from '../seats/offered.ts'
import type { Audience } from '../sheets/audience.ts'
import type { Sheet, SheetStore } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { WishListRow, WishStore } from './store.ts'

/** Where lists are read from. */
export interface ListSources {
  audience: Audience
  sheets: SheetStore
  wishes: WishStore
}

/** A row as a list, topics by their ids. */
export function listOf({ ranks, cannot }: Pick<WishListRow, 'ranks' | 'cannot'>): WishList<number> {
  return { ranks: JSON.parse(ranks), cannot: JSON.parse(cannot) }
}

/** Topics with a group that is offered to somebody, by id. */
export function topicsFor(
  sheet: Sheet,
  student: Pick<Enrolment, 'section_id'>,
  { sheets }: Pick<ListSources, 'sheets'>,
): Set<number> {
  return new Set(
    sheets.groups(sheet.id).flatMap((group) => (offeredTo(student, sheet, group) ? [group.topic_id] : [])),
  )
}

/** The lists of a sheet's active students, each as it counts now; null where it is too short. */
export function listsOn(
  sheet: Sheet,
  stores: ListSources,
): { row: WishListRow; student: Enrolment; list: WishList<number>; counts: boolean }[] {
  const students = new Map(stores.audience.students(sheet).map((one) => [one.id, one]))
  const bySection = new Map<number | null, Set<number>>()
  const offered = (student: Enrolment) => {
    const known = bySection.get(student.section_id) ?? topicsFor(sheet, student, stores)
    bySection.set(student.section_id, known)
    return known
  }
  const rules = { least: sheet.wishes_least }
  return stores.wishes.ofSheet(sheet.id).flatMap((row) => {
    const student = students.get(row.enrolment_id)
    if (!student) return []
    const topics = offered(student)
    const counting = countingList(listOf(row), topics, rules)
    return [{ row, student, list: counting ?? offeredOf(listOf(row), topics), counts: counting !== null }]
  })
}

/** Students whose list counts, by enrolment. */
export function rankedOn(sheet: Sheet, stores: ListSources): Set<number> {
  return new Set(listsOn(sheet, stores).flatMap(({ student, counts }) => (counts ? [student.id] : [])))
}

/** Seats of several limits together; none where one of them has none. */
export const seatsIn = (limits: readonly number[]): number =>
  limits.includes(NO_LIMIT) ? NO_LIMIT : limits.reduce((sum, n) => sum + n, 0)

/**
 * Stores what a student wishes for. The caller holds the transaction.
 * @throws ProblemError where it is not the time for it, or beside the topic that is wrong
 */
export function saveList(
  sheet: Sheet,
  student: Enrolment,
  wanted: { ranks: string[][]; cannot: { topic: string; reason: string }[]; mates: Mates; over: number },
  now: Instant,
  stores: ListSources,
): void {
  refuseUnlessOpen(sheet, student, now)
  const before = stores.wishes.of(sheet.id, student.id)
  const ids = new Map(stores.sheets.topics(sheet.id).map(({ id, code }) => [code, id]))
  // A code of no topic is one that is not offered.
  const idOf = (code: string) => ids.get(code) ?? -1
  const list: WishList<number> = {
    ranks: wanted.ranks.map((topics) => topics.map(idOf)),
    cannot: wanted.cannot.map(({ topic, reason }) => ({ topic: idOf(topic), reason })),
  }
  const { people, first } = wanted.mates
  const fields = {
    ranks: JSON.stringify(list.ranks),
    cannot: JSON.stringify(list.cannot),
    mates: JSON.stringify({ people, first }),
  }
  // The same again is no change, whichever version it was made over: an answer that was lost.
  if (before?.ranks === fields.ranks && before.cannot === fields.cannot && before.mates === fields.mates)
    return
  if ((before?.version ?? 0) !== wanted.over)
    throw new ProblemError(
      'changed-meanwhile',
      'Your order was changed elsewhere, perhaps in another tab. Look at both and keep one.',
    )
  const fault = listFault(list, topicsFor(sheet, student, stores), {
    most: sheet.wishes_most,
    cannotMost: sheet.cannot_most,
  })
  if (fault) throw fieldProblem(fault.path, listFaultWords(fault))
  const alone = matesFault(wanted.mates, student.email, sheet.mates_most)
  if (alone) throw fieldProblem(alone.path, mateWords(alone.code, sheet.mates_most))
  stores.wishes.save(sheet.id, student.id, fields, now)
}

function refuseUnlessOpen(sheet: Sheet, student: Enrolment, now: Instant): void {
  if (sheet.road !== 'wished')
    throw new ProblemError('no-wishes-here', 'Nobody ranks topics on this sheet. Look at it again.')
  if (student.status !== 'active')
    throw new ProblemError('enrolment-not-active', 'Your place in this course is paused.')
  switch (sheetState(windowOf(sheet), now)) {
    case 'open':
      return
    case 'scheduled':
      throw new ProblemError(
        'window-not-open-yet',
        'It is not open yet. What you rank can be kept from its opening on.',
      )
    default:
      throw new ProblemError('window-closed', 'The sheet has closed. What counts is what was kept before.')
  }
}

function mateWords(code: NonNullable<ReturnType<typeof matesFault>>['code'], most: number): string {
  switch (code) {
    case 'too-many-mates':
      return most === 0
        ? 'On this sheet nobody says with whom they would sit.'
        : `You can name ${most} ${most === 1 ? 'mate' : 'mates'} at most.`
    case 'mate-twice':
      return 'This mate is named twice.'
    case 'mate-self':
      return 'That is your own address.'
  }
}

/** With whom somebody would sit. */
export const matesOf = ({ mates }: Pick<WishListRow, 'mates'>): Mates => JSON.parse(mates)

/** Mates on a sheet who have all named each other, by the ids of their enrolments. */
export function matesOn(
  sheet: Sheet,
  { audience, wishes }: ListSources,
): { people: number[]; first: boolean }[] {
  if (sheet.mates_most === 0) return []
  const students = new Map(audience.students(sheet).map((one) => [one.id, one]))
  const named = new Map(
    wishes.ofSheet(sheet.id).flatMap((row) => {
      const student = students.get(row.enrolment_id)
      return student ? [[String(student.id), { address: student.email, mates: matesOf(row) }] as const] : []
    }),
  )
  return mutualMates(named).map(({ people, first }) => ({ people: people.map(Number), first }))
}

/**
 * The mates of one student, once all of them have named each other; null otherwise. Reads their lists alone, however many
 * there are: it is asked for whenever somebody keeps an order.
 */
export function matesAgreed(
  sheet: Sheet,
  studentId: number,
  { audience, wishes, roster }: ListSources & { roster: RosterStore },
): Enrolment[] | null {
  const own = roster.enrolment(studentId)
  const row = own && wishes.of(sheet.id, studentId)
  if (sheet.mates_most === 0 || !row) return null
  const named = matesOf(row).people.flatMap((address) => {
    const person = roster.personByEmail(address)
    const enrolment = person && roster.enrolmentIn(sheet.course_id, person.id)
    const belongs = enrolment?.role === 'student' && enrolment.status === 'active'
    return belongs && audience.has(sheet, enrolment) ? [enrolment] : []
  })
  const rows = [own, ...named].flatMap((one) => {
    const theirs = wishes.of(sheet.id, one.id)
    return theirs ? [[String(one.id), { address: one.email, mates: matesOf(theirs) }] as const] : []
  })
  const agreed = mutualMates(new Map(rows)).some(({ people }) => people.includes(String(studentId)))
  return agreed ? named : null
}

/** What is wrong with a list, for whoever made it. */
export function listFaultWords(fault: ListFault): string {
  switch (fault.code) {
    case 'not-offered':
      return 'This topic is not offered to you any more. Take it out of your order.'
    case 'twice':
      return 'This topic stands in your order twice.'
    case 'too-many':
      return `Your order can have ${fault.most} topics at most.`
    case 'too-many-cannot':
      return fault.most === 0
        ? 'On this sheet no topic can be left out as impossible.'
        : `You can leave out ${fault.most} ${fault.most === 1 ? 'topic' : 'topics'} as impossible at most.`
    case 'no-reason':
      return 'Say in a few words why you cannot have it.'
  }
}
