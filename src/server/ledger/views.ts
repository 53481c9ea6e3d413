import type { LedgerLine, LedgerMoment, LedgerView } from '../../contract/ledger.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { seatsAt } from './replay.ts'
import { type LedgerEntry, SEAT_KINDS } from './store.ts'

/** A sheet's ledger with everything that its entries name. */
export function ledgerView(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): LedgerView {
  const { roster, sheets, ledger, plans } = stores
  const sections = roster.everySection(course.id)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const groups = sheets.everyGroup(sheet.id)
  const topics = sheets.everyTopic(sheet.id)
  const topicCodes = new Map(topics.map(({ id, code }) => [id, code]))
  const everybody = roster.everybody(course.id)
  const lineOf = createLines(sheet, reader, stores)
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sections.map(({ code, name }) => ({ code, name })),
    topics: topics.map(({ code, title }) => ({ code, title })),
    groups: groups.map(({ code, topic_id, section_id }) => ({
      code,
      topic: topicCodes.get(topic_id) ?? '',
      section: section_id === null ? null : (sectionCodes.get(section_id) ?? null),
    })),
    people: roster.classList(course, everybody).map(({ code, name, section_id }) => ({
      code,
      name,
      section: section_id === null ? null : (sectionCodes.get(section_id) ?? null),
    })),
    entries: ledger.since(sheet.id, 0).map(lineOf),
    plans: plans.ofSheet(sheet.id).map(({ code, title }) => ({ code, title })),
    mayEdit: mayEdit(reader, sheet),
  }
}

/** Makes entries into lines: ids become codes, people become names. */
function createLines(sheet: Sheet, reader: Enrolment, stores: Stores): (entry: LedgerEntry) => LedgerLine {
  const { roster, sheets, seats } = stores
  const codes = sheets.groupCodes(sheet.id)
  const codeOf = (id: number | null) => (id === null ? null : (codes.get(id) ?? null))
  const actors = new Map<number, string | null>()
  const actorOf = (id: number): string | null => {
    const known = actors.get(id)
    if (known !== undefined) return known
    const person = roster.personById(id)
    const name = person ? (roster.enrolmentIn(sheet.course_id, id)?.name ?? roster.nameOf(person)) : null
    actors.set(id, name)
    return name
  }
  const sits = new Set(
    seats.ofSheet(sheet.id).map(({ enrolment_id, group_id }) => `${enrolment_id} ${group_id}`),
  )
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const offered = new Set(sheets.groups(sheet.id).flatMap((group) => (takesPeople(group) ? [group.id] : [])))
  const canUndo = ({ kind, enrolment_id: who, from_group_id: from, to_group_id: to }: LedgerEntry) => {
    if (!SEAT_KINDS.includes(kind) || who === null) return false
    const there = to === null ? !seated.has(who) : sits.has(`${who} ${to}`)
    return there && (from === null || offered.has(from)) && roster.enrolment(who)?.status === 'active'
  }
  const everybody = new Map(roster.everybody(sheet.course_id).map(({ id, code }) => [code, id]))
  // A meeting link can carry a password: tutors read those of the groups they look after.
  const own = new Set(
    sheets.tutors(sheet.id).flatMap((one) => (one.enrolment_id === reader.id ? [one.group_id] : [])),
  )
  const looksAfter = (code: unknown) =>
    everybody.get(String(code)) !== undefined &&
    seats.heldBy(sheet.id, everybody.get(String(code)) ?? 0).some(({ group_id }) => own.has(group_id))
  // Whom else an entry is told to are integers of ours. Points are read by whoever reads the work.
  const told = ({ with: _with, ...detail }: Record<string, unknown>): Record<string, unknown> => {
    if (reader.role === 'instructor' || own.has(Number(detail.group))) return detail
    if (detail.group === undefined && looksAfter(detail.student)) return detail
    const { meeting: _, marked: __, ...rest } = detail
    return rest
  }
  return (entry) => {
    const detail = told(JSON.parse(entry.detail) as Record<string, unknown>)
    const group = typeof detail.group === 'number' ? codeOf(detail.group) : detail.group
    return {
      position: entry.id,
      at: entry.at,
      actor: entry.actor_id === null ? null : actorOf(entry.actor_id),
      kind: entry.kind,
      person: roster.enrolment(entry.enrolment_id ?? 0)?.code ?? null,
      from: codeOf(entry.from_group_id),
      to: codeOf(entry.to_group_id),
      detail: { ...detail, ...(group !== undefined && { group }) },
      canUndo: canUndo(entry),
    }
  }
}

/** The entries of a sheet's ledger that concern one person, oldest first. */
export function linesOf(sheet: Sheet, reader: Enrolment, stores: Stores, enrolmentId: number): LedgerLine[] {
  const lineOf = createLines(sheet, reader, stores)
  return stores.ledger
    .since(sheet.id, 0)
    .filter(({ enrolment_id }) => enrolment_id === enrolmentId)
    .map(lineOf)
}

/** Who sat where at an instant, told from the ledger. */
export function momentView(sheet: Sheet, at: Instant, { ledger, sheets, roster }: Stores): LedgerMoment {
  const codes = sheets.groupCodes(sheet.id)
  const entries = ledger.since(sheet.id, 0).filter((entry) => entry.at <= at)
  return {
    at,
    seats: seatsAt(entries).map(({ enrolmentId, groupId, at: since }) => ({
      person: roster.enrolment(enrolmentId)?.code ?? '',
      group: codes.get(groupId) ?? '',
      at: since,
    })),
  }
}
