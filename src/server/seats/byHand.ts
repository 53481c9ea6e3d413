import type { Concern } from '../../contract/problems.ts'
import { seatingWords } from '../../contract/seatingWords.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import {
  checkSeatings,
  inOrderOfSeating,
  type SeatingChange,
  type SeatingConcern,
  type SeatingFacts,
  type SeatingFault,
  type SeatingRemark,
} from '../../core/seating.ts'
import { ProblemError } from '../http/problem.ts'
import { keepingsOn } from '../plans/keepings.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { sitDown } from './sitDown.ts'

/** Seats that staff or a plan change together. The caller holds the transaction, and serves the lines afterwards. */
export interface Seatings {
  sheet: Sheet
  changes: readonly SeatingChange[]
  /** Who makes them; null for a house rule. */
  actorId: number | null
  now: Instant
  stores: Stores
  /** What the ledger says of a person's change beside it. */
  detailOf: (person: string) => Readonly<Record<string, unknown>>
}

export type Remark = SeatingRemark<SeatingConcern | SeatingFault>

/** Everything that seatings of a sheet are checked against, people and groups by their codes. */
export function seatingFacts(sheet: Sheet, now: Instant, stores: Stores): SeatingFacts {
  const { roster, sheets, seats, tasks } = stores
  const sections = new Map(roster.sections(sheet.course_id).map(({ id, code }) => [id, code]))
  const sectionOf = (id: number | null) => (id === null ? null : (sections.get(id) ?? null))
  const everybody = roster.everybody(sheet.course_id)
  const codes = new Map(everybody.map(({ id, code }) => [id, code]))
  const groups = sheets.groups(sheet.id)
  const groupCodes = sheets.groupCodes(sheet.id)
  const held = sheets.heldOnSheet(sheet.id)
  const bound = tasks.bound(sheet.id)
  const meant = new Set(stores.audience.students(sheet).map(({ id }) => id))
  return {
    people: everybody
      .filter(({ id, role, status }) => role === 'student' && (status !== 'active' || meant.has(id)))
      .map(({ code, section_id, status }) => ({
        key: code,
        section: sectionOf(section_id),
        active: status === 'active',
      })),
    groups: groups.map((group) => ({
      key: group.code,
      section: sectionOf(group.section_id),
      offered: takesPeople(group),
      seats: group.seats,
      heldFor: held
        .filter(({ group_id }) => group_id === group.id)
        .map(({ enrolment_id }) => (enrolment_id === null ? null : (codes.get(enrolment_id) ?? null))),
      bound: bound.has(group.id),
      startsAt: group.starts_at,
      endsAt: group.ends_at,
    })),
    seats: seats.ofSheet(sheet.id).map(({ enrolment_id, group_id }) => ({
      person: codes.get(enrolment_id) ?? '',
      group: groupCodes.get(group_id) ?? '',
    })),
    rules: { seatsEach: sheet.seats_each, offers: sheet.offers },
    keepings: keepingsOn(sheet, now, stores),
  }
}

/** Writes changes of seats that were checked. Gives the ledger's position afterwards. */
export function writeSeatings(seatings: Seatings, extra: ReadonlySet<number>): number {
  const { sheet, changes, actorId, now, stores, detailOf } = seatings
  const { seats, sheets, roster, ledger } = stores
  const people = new Map<string, Enrolment>(roster.everybody(sheet.course_id).map((one) => [one.code, one]))
  const groupOf = (code: string | null) => (code === null ? undefined : sheets.group(code))
  for (const { person, from } of changes) {
    const group = groupOf(from)
    const enrolment = people.get(person)
    if (group && enrolment) seats.giveUp(group.id, enrolment.id)
  }
  changes.forEach(({ person, from, to }, i) => {
    const enrolment = people.get(person)
    if (!enrolment) return
    const [left, taken] = [groupOf(from), groupOf(to)]
    if (taken) sitDown(sheet.id, taken.id, enrolment.id, now, stores, extra.has(i))
    ledger.note({
      sheetId: sheet.id,
      at: now,
      actorId,
      kind: taken ? (left ? 'seat-moved' : 'seat-taken') : 'seat-removed',
      enrolmentId: enrolment.id,
      ...(left && { fromGroupId: left.id }),
      ...(taken && { toGroupId: taken.id }),
      detail: { ...detailOf(person), ...(extra.has(i) && { extra: true }) },
    })
  })
  for (const code of new Set(changes.flatMap(({ from }) => from ?? []))) {
    const group = groupOf(code)
    if (group && group.seats !== NO_LIMIT) seats.settleExtras(group.id, group.seats)
  }
  return ledger.newest(sheet.id)
}

/**
 * Checks and writes changes of seats.
 * @param knows whether somebody has read this remark and wants it all the same
 * @throws ProblemError `seating-not-possible` or `seating-needs-care`, with what speaks against it in words
 */
export function seatPeople(seatings: Seatings, knows: (remark: Remark) => boolean): number {
  const { sheet, now, stores } = seatings
  if (sheet.archived_at !== null)
    throw new ProblemError('sheet-archived', 'The sheet is archived. Restore it before you change it.')
  const facts = seatingFacts(sheet, now, stores)
  const changes = inOrderOfSeating(seatings.changes, facts)
  const { faults, concerns, extra } = checkSeatings(changes, facts)
  if (faults.length > 0) {
    const said = sayRemarks(faults, sheet, stores)
    throw new ProblemError('seating-not-possible', `${said[0]?.words ?? ''} Nothing was changed.`, {
      concerns: said,
    })
  }
  const open = concerns.filter((remark) => !knows(remark))
  if (open.length > 0) {
    const said = sayRemarks(open, sheet, stores)
    throw new ProblemError('seating-needs-care', said.map(({ words }) => words).join(' '), { concerns: said })
  }
  return writeSeatings({ ...seatings, changes }, extra)
}

/** Faults and concerns in words. */
export function sayRemarks(remarks: readonly Remark[], sheet: Sheet, { roster, sheets }: Stores): Concern[] {
  const names = new Map(roster.everybody(sheet.course_id).map(({ code, name }) => [code, name]))
  const nameOf = (code: string) => names.get(code) ?? 'Somebody'
  const titleOf = (code: string | null) =>
    code === null ? null : (sheets.topicById(sheets.group(code)?.topic_id ?? 0)?.title ?? null)
  return remarks.map((remark) => ({
    person: remark.person,
    name: nameOf(remark.person),
    words: seatingWords(remark, nameOf, titleOf),
  }))
}
