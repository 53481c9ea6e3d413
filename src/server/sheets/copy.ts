import type { InferType } from 'yup'
import type { copyBody } from '../../contract/sheets.ts'
import type { Instant } from '../../core/instant.ts'
import { movedAlong } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Disk } from '../files/disk.ts'
import { seatPeople } from '../seats/byHand.ts'
import type { Task } from '../tasks/store.ts'
import { type Edit, instantOf, note } from './edit.ts'
import type { Sheet } from './store.ts'
import { placesOf } from './topicEdits.ts'

/**
 * Copies a sheet into a course as a draft: texts, numbers, rules, topics. Where the copy gets an opening time,
 * its close and dated topics move along, by the clocks on the wall; otherwise neither is copied.
 * Exceptions of single groups are copied where the course has a section of the same name.
 */
export function copy(edit: Edit, into: Course, wanted: CopyWanted, disk: Pick<Disk, 'keepAgain'>): Sheet {
  const { title, opensAt } = wanted
  const { sheet, stores, now } = edit
  const opens = instantOf({ ...edit, course: into }, 'opensAt', opensAt, null, 'first')
  const from = sheet.opens_at === null ? null : { at: sheet.opens_at, zone: edit.course.zone }
  const to = opens === null ? null : { at: opens, zone: into.zone }
  const later = (instant: string | null) =>
    instant === null || from === null || to === null ? null : movedAlong(instant, from, to)
  const copied = stores.sheets.add(into.id, { ...sheet, title }, now)
  stores.groups.setExtras(copied.id, stores.groups.extras(sheet.id))
  stores.sheets.change(copied.id, {
    ...sheet,
    // Lists and sections are those of a course.
    ...(into.id !== sheet.course_id && { for_whom: 'course', list_id: null }),
    title,
    road: wanted.road ?? sheet.road,
    opens_at: opens,
    closes_at: later(sheet.closes_at),
  })
  if (into.id === sheet.course_id)
    stores.sheets.setSectionsFor(copied.id, stores.sheets.sectionsFor(sheet.id))
  const copyEdit = { ...edit, course: into }
  const sections = stores.roster.sections(into.id)
  const names = new Map(
    stores.roster.sections(sheet.course_id).map(({ id, name }) => [id, name.toLowerCase()]),
  )
  const groups = stores.sheets.groups(sheet.id)
  const copies = new Map<string, string>()
  for (const topic of stores.sheets.topics(sheet.id)) {
    const starts_at = later(topic.starts_at)
    const fields = { ...topic, starts_at, ends_at: starts_at === null ? null : later(topic.ends_at) }
    const made = stores.sheets.addTopic(
      copied.id,
      fields,
      placesOf(copyEdit, topic.mixed ?? sheet.mixed),
      now,
    )
    for (const group of stores.sheets.groups(copied.id).filter(({ topic_id }) => topic_id === made.id)) {
      const section = sections.find(({ id }) => id === group.section_id)?.name.toLowerCase()
      const like = groups.find(
        (g) =>
          g.topic_id === topic.id &&
          (g.section_id === null ? undefined : names.get(g.section_id)) === section,
      )
      if (!like) continue
      copies.set(like.code, group.code)
      const own_starts_at = later(like.own_starts_at)
      const own_ends_at = own_starts_at === null ? null : later(like.own_ends_at)
      stores.sheets.changeGroup(group.id, { ...like, own_starts_at, own_ends_at })
    }
  }
  note({ ...edit, sheet: copied }, 'sheet-added', { title, copyOf: sheet.code })
  if (wanted.people && into.id === sheet.course_id) seatAgain(edit, copied, copies)
  if (wanted.tasks) {
    for (const task of stores.tasks.ofSheet(sheet.id)) {
      const { id: _, code: __, sheet_id: ___, removed_at: ____, ...fields } = task
      const for_whom = fields.for_whom === 'some-groups' ? 'groups' : fields.for_whom
      const dates = datesOf(task, later)
      // A list is one of its course.
      if (into.id !== sheet.course_id) fields.list_id = null
      const added = stores.tasks.add(copied.id, { ...fields, for_whom, ...dates, out_at: null }, now)
      copyFiles(task, added, copied, { ...edit, course: into }, disk)
    }
  }
  return stores.sheets.byId(copied.id) ?? copied
}

/** Gives a copied task the files that come with it, as files of the copy's own. */
function copyFiles(
  from: Task,
  to: Task,
  copied: Sheet,
  { course, person, now, stores }: Edit,
  disk: Pick<Disk, 'keepAgain'>,
): void {
  const { tasks, files, roster } = stores
  const by = roster.enrolmentIn(course.id, person.id)
  if (!by) return
  for (const { name, size, type, stored, digest } of files.byIds(tasks.taskFiles(from.id))) {
    const known = { name, size, type, digest, stored: disk.keepAgain(stored) }
    const fields = { ...known, sheet_id: copied.id, by_id: by.id }
    tasks.addTaskFile(to.id, files.add(fields, now).id)
  }
}

type CopyWanted = InferType<typeof copyBody>

/** Dates of a copied task; those that would contradict each other without the others go too. */
function datesOf(
  task: { available_from: Instant | null; due_at: Instant | null; late: string; late_until: Instant | null },
  later: (instant: Instant | null) => Instant | null,
) {
  const due_at = later(task.due_at)
  const late_until = later(task.late_until)
  return {
    available_from: later(task.available_from),
    due_at,
    late_until,
    ...(task.late === 'until' &&
      (due_at === null || late_until === null) && { late: 'no' as const, late_until: null }),
  }
}

/** Seats on a copy whoever sits on the sheet, each in the copy of their group. */
function seatAgain(
  { sheet, person, now, stores }: Edit,
  copied: Sheet,
  copies: ReadonlyMap<string, string>,
): void {
  const codes = stores.sheets.groupCodes(sheet.id)
  const meant = new Set(stores.audience.students(copied).map(({ id }) => id))
  const changes = stores.seats.ofSheet(sheet.id).flatMap(({ group_id, enrolment_id }) => {
    const to = copies.get(codes.get(group_id) ?? '')
    const who = stores.roster.enrolment(enrolment_id)
    return to && who && meant.has(enrolment_id) ? [{ person: who.code, from: null, to }] : []
  })
  if (changes.length === 0) return
  const detailOf = () => ({ because: 'carried-on', sheet: sheet.code })
  const current = stores.sheets.byId(copied.id) ?? copied
  // They sat there already: what would be asked about somebody new is known.
  seatPeople({ sheet: current, changes, actorId: person.id, now, stores, detailOf }, () => true)
}
