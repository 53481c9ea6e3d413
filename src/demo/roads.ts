import type { PlanContent } from '../contract/plans.ts'
import { madeKey } from '../contract/plans.ts'
import { DAY, HOUR, shift } from '../core/instant.ts'
import { drawLots } from '../core/lot.ts'
import { topicsOfPattern } from '../core/pattern.ts'
import { makePlan } from '../core/plan/plan.ts'
import type { Mixing, PlanInput } from '../core/plan/types.ts'
import { groupSizes } from '../core/supply.ts'
import type { Course } from '../server/courses/store.ts'
import { applyPlan } from '../server/plans/apply.ts'
import { basisOf } from '../server/plans/basis.ts'
import type { Person } from '../server/roster/store.ts'
import { begin, publish } from '../server/sheets/sheetEdits.ts'
import type { Sheet } from '../server/sheets/store.ts'
import { addCourse, addSheet, bringIn, DOMAIN, type FillParts, seatAll } from './making.ts'
import { drawPeople, type MadeUp } from './names.ts'
import { type SampleTopic, plainTopic as topic } from './plot.ts'

const EVENINGS: SampleTopic[] = [
  topic('Miso, light and dark', 'Four misos side by side, from three weeks to three years.', 3),
  topic('Amazake', 'Warm and cold, with and without salt.', 4),
  topic('Shio koji', 'What it does to a carrot in one night.', 2),
  topic('Rice wines', 'Smell only; write down ten words for each.', 3),
  topic('Tempeh, three beans', 'Soy, lupin and broad bean, fried the same way.', 2),
]
const LABELS: SampleTopic[] = [
  topic('Allergens', 'What has to stand on a jar, and how large.', 2),
  topic('Shelf life', 'How one knows how long it keeps.', 3),
  topic('Names and places', 'What may be called what.', 2),
]

/**
 * A course in which groups came about in every way: made and balanced, chosen over all sections, for a part of the
 * class, and a second project with fresh partners. Drawn by a lot of its own, so that it changes nothing else.
 */
export async function fillRoads(
  parts: FillParts,
  known: ReadonlySet<string>,
  owner: MadeUp,
  tutor: MadeUp,
): Promise<void> {
  const lot = drawLots(parts.lotNumber + 2)
  const students = drawPeople(60, lot, DOMAIN)
    .filter(({ email }) => !known.has(email))
    .slice(0, 29)
  parts.clock.set(shift(parts.now, -40 * DAY))
  const course = addCourse(parts, 'MYCO 130', 'Koji and Moulds', ['Mon kitchen', 'Thu kitchen'], owner)
  bringIn(parts, course, [
    { ...owner, section: '', role: 'instructor' },
    { ...tutor, section: '', role: 'tutor' },
    ...students.map((person, i) => ({
      ...person,
      section: i < 16 ? 'Mon kitchen' : 'Thu kitchen',
      role: 'student',
    })),
  ])
  const attributes = (name: string, how: 'mix' | 'alike'): Mixing['attributes'][number] => ({
    name,
    how,
    of: new Map(
      parts.stores.roster
        .students(course.id)
        .map(({ code, attributes }) => [
          code,
          (JSON.parse(attributes) as Record<string, string>)[name] ?? '',
        ]),
    ),
  })
  const first = make(parts, course, owner, 'Spore teams', 'Team #', -30, {
    met: [],
    attributes: [attributes('level', 'mix'), attributes('programme', 'mix')],
  })
  const evenings = addSheet(parts, course, owner, 'Tasting evenings', EVENINGS, {
    seats: 6,
    floor: 3,
    opens: -3,
    closes: 5,
    rules: { mixed: true },
    instructions:
      'One group for each evening, whichever kitchen you are in. Come hungry, and without perfume.',
  })
  await seatAll(parts, evenings, EVENINGS, lot, 0.7)
  const list = parts.db
    .transaction(() => {
      const made = parts.stores.lists.add(
        course.id,
        'Meets on Mondays',
        'Support plan: no late hours',
        shift(parts.now, -9 * DAY),
      )
      const all = parts.stores.roster.students(course.id)
      parts.stores.lists.setMembers(
        made.id,
        all.filter((_, i) => i % 3 === 0).map(({ id }) => id),
      )
      return made
    })
    .immediate()
  const labels = addSheet(parts, course, owner, 'Label talks', LABELS, {
    seats: 4,
    opens: -2,
    closes: 6,
    rules: { mixed: true, forWhom: 'list', list: list.code },
  })
  await seatAll(parts, labels, LABELS, lot, 0.5)
  const emailOf = new Map(parts.stores.roster.everybody(course.id).map(({ id, email }) => [id, email]))
  const groups = new Map<number, string[]>()
  for (const { group_id, enrolment_id } of parts.stores.seats.ofSheet(first.id))
    groups.set(group_id, [...(groups.get(group_id) ?? []), emailOf.get(enrolment_id) ?? ''])
  const met = [...groups.values()].flatMap((own) =>
    own.flatMap((a, i) => own.slice(i + 1).map((b) => ({ a, b, times: 1 }))),
  )
  make(parts, course, owner, 'Second batch', 'Batch #', -4, { met, attributes: [] })
}

/**
 * Makes groups of at most three over all sections, as Settle does, and publishes them some days ago.
 * @param mixing names people by their addresses, which are the same in every sample, as codes are not
 */
function make(
  parts: FillParts,
  course: Course,
  owner: MadeUp,
  title: string,
  pattern: string,
  day: number,
  mixing: Mixing,
): Sheet {
  const { db, stores, clock } = parts
  const now = shift(parts.now, day * DAY - 5 * HOUR)
  clock.set(now)
  const person = stores.roster.personByEmail(owner.email) as Person
  return db
    .transaction(() => {
      const added = stores.sheets.add(course.id, { title, contact: owner.email, seats: 3, floor: 1 }, now)
      const detail = { title }
      stores.ledger.note({ sheetId: added.id, at: now, actorId: person.id, kind: 'sheet-added', detail })
      const sheet = begin(
        { sheet: added, course, person, now, stores },
        {
          title,
          road: 'made',
          mixed: true,
          convener: 'lot',
          late: 'seat',
          lateFull: 'extra',
          extras: ['messages', 'talk'],
        },
      )
      const basis = basisOf(sheet, now, stores)
      const sizes = groupSizes(basis.people.length, { by: 'most', n: 3 })
      const settings = {
        method: 'evenly' as const,
        lotNumber: parts.lotNumber,
        floorsFirst: true,
        mayDissolve: false,
        release: 'none' as const,
      }
      const emails = new Map(stores.roster.students(course.id).map(({ code, email }) => [code, email]))
      const codes = new Map([...emails].map(([code, email]) => [email, code]))
      const input: PlanInput = {
        ...basis,
        ...settings,
        people: basis.people.map((one) => ({ ...one, key: emails.get(one.key) ?? '' })),
        groups: sizes.map((_, i) => ({
          key: madeKey(i, null),
          section: null,
          seats: 3,
          blocked: 0,
          floor: 1,
        })),
        pins: [],
        mixing,
      }
      const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes } =
        makePlan(input)
      const titles = topicsOfPattern(
        { kind: 'numbers', pattern, count: sizes.length, first: 1 },
        sizes.length,
      ).map((one) => one.title)
      const content: PlanContent = {
        settings: { ...settings, made: { titles, mixed: true, seats: 3 }, wishes: null },
        moves: moves.map((move) => ({ ...move, person: codes.get(move.person) ?? '' })),
        left,
        conflicts,
        dissolved,
        before,
        after,
        gap,
        evenChances,
        mix,
        wishes,
      }
      applyPlan({
        sheet,
        course,
        person,
        code: `sample-${sheet.code}`,
        title: 'Evenly',
        content,
        now,
        stores,
      })
      publish({ sheet: stores.sheets.byId(sheet.id) as Sheet, course, person, now: shift(now, HOUR), stores })
      return stores.sheets.byId(sheet.id) as Sheet
    })
    .immediate()
}
