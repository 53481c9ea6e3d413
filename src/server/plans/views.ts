import type { KeepingView, KeptPlan, PlanContent, SettleView } from '../../contract/plans.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import { SEAT_KINDS } from '../ledger/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { convenerIn } from '../seats/members.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import { sectionsOn } from '../sheets/sectionsOn.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { basisOf } from './basis.ts'
import { boundWithRoom } from './boundWithRoom.ts'
import type { KeptPlanRow } from './store.ts'

/** Everything that plans for a sheet are made from and chosen by. */
export function settleView(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): SettleView {
  const { roster, sheets, plans } = stores
  const sections = sectionsOn(sheet, stores)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const topics = sheets.topics(sheet.id)
  const topicCodes = new Map(topics.map(({ id, code }) => [id, code]))
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, stores.audience.students(sheet)),
    topics: topics.map(({ code, title }) => ({ code, title })),
    groups: sheets.groups(sheet.id).map((group) => ({
      code: group.code,
      topic: topicCodes.get(group.topic_id) ?? '',
      section: group.section_id === null ? null : (sectionCodes.get(group.section_id) ?? null),
      convener: roster.enrolment(convenerIn(sheet, group, stores) ?? 0)?.code ?? null,
    })),
    basis: basisOf(sheet, now, stores),
    lotNumber: sheet.lot_number,
    seats: sheet.seats,
    floor: sheet.floor,
    mixed: sheet.mixed === 1,
    keepings: keepingViews(course, stores),
    sat: satTogether(sheet, stores),
    attributes: attributesOf(sheet, stores),
    plans: plans.ofSheet(sheet.id).map((plan) => planView(plan, stores)),
    troubles: plans.troubles(sheet.id).map(({ rule, why, since }) => ({ rule, why, since })),
    boundWithRoom: boundWithRoom(sheet, stores),
    mayEdit: mayEdit(reader, sheet),
  }
}

/** What the roster says of the people of a sheet besides, by column. A column in which all are the same says nothing. */
function attributesOf(sheet: Sheet, { audience }: Stores): SettleView['attributes'] {
  const columns = new Map<string, Record<string, string>>()
  const students = audience.students(sheet)
  for (const { code, attributes } of students)
    for (const [name, value] of Object.entries(JSON.parse(attributes) as Record<string, string>))
      columns.set(name, Object.assign(columns.get(name) ?? {}, { [code]: value }))
  return [...columns].flatMap(([name, of]) => {
    const values = new Set(students.map(({ code }) => of[code] ?? ''))
    return values.size > 1 ? [{ name, of }] : []
  })
}

/** Who sits in one group on the other sheets of the course, the newest sheet first. Groups of one are no partners. */
function satTogether(sheet: Sheet, { sheets, seats, roster }: Stores): SettleView['sat'] {
  return sheets
    .ofCourse(sheet.course_id)
    .filter(({ id }) => id !== sheet.id)
    .flatMap(({ id, code, title }) => {
      const groups = new Map<number, string[]>()
      for (const { group_id, enrolment_id } of seats.ofSheet(id)) {
        const person = roster.enrolment(enrolment_id)
        if (person?.status !== 'active') continue
        groups.set(group_id, [...(groups.get(group_id) ?? []), person.code])
      }
      const met = [...groups.values()].filter((people) => people.length > 1)
      return met.length > 0 ? [{ sheet: code, title, groups: met }] : []
    })
}

function keepingViews(course: Course, { plans, roster }: Stores): KeepingView[] {
  return plans.keepings(course.id).map(({ code, kind, note, expires_at, members }) => ({
    code,
    kind,
    note,
    expiresAt: expires_at,
    people: (JSON.parse(members) as number[]).flatMap((id) => {
      const enrolment = roster.enrolment(id)
      return enrolment ? [{ code: enrolment.code, name: enrolment.name }] : []
    }),
  }))
}

const NOTHING_SAID = { gap: null, evenChances: true, mix: null, wishes: null }

function planView(plan: KeptPlanRow, { ledger, roster }: Stores): KeptPlan {
  const maker = plan.made_by === null ? null : roster.personById(plan.made_by)
  return {
    code: plan.code,
    title: plan.title,
    madeAt: plan.made_at,
    madeBy: maker ? roster.nameOf(maker) : null,
    appliedAt: plan.applied_at,
    undoneAt: plan.undone_at,
    changedSince: ledger.countSince(plan.sheet_id, plan.position, SEAT_KINDS),
    // Plans that were kept before these were known have neither.
    content: { ...NOTHING_SAID, ...(JSON.parse(plan.content) as Partial<PlanContent>) } as PlanContent,
  }
}
