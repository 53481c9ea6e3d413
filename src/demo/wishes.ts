import { HOUR, type Instant, MINUTE, msOf, shift } from '../core/instant.ts'
import type { Lot } from '../core/lot.ts'
import { drawLots } from '../core/lot.ts'
import { makePlan } from '../core/plan/plan.ts'
import { USUAL_ORDER } from '../core/wishes/rules.ts'
import type { Course } from '../server/courses/store.ts'
import type { Mailer } from '../server/mail/mailer.ts'
import { applyPlan } from '../server/plans/apply.ts'
import { basisOf } from '../server/plans/basis.ts'
import type { Enrolment, Person } from '../server/roster/store.ts'
import type { Sheet } from '../server/sheets/store.ts'
import { answerSwap, serveSwaps } from '../server/swaps/serve.ts'
import { topicsFor } from '../server/wishes/lists.ts'
import { addSheet, type FillParts } from './making.ts'
import type { MadeUp } from './names.ts'
import { type SampleTopic, plainTopic as topic } from './plot.ts'

/** What can be brewed in pairs of pairs, and how much each is wanted. */
const BREWS: SampleTopic[] = [
  topic('Sourdough, wild yeast', 'Keep and compare three starters over four weeks.', 6),
  topic('Kimchi and lactic sours', 'Cabbage, radish, and one sour of your own choice.', 14),
  topic('Kombucha mats', 'Grow a mat from a bottle, and weigh it each week.', 5),
  topic('Miso and koji', 'Koji on rice, then a miso that is eaten after the exam.', 8),
  topic('Tempeh', 'Three beans, two days, one very warm cupboard.', 4),
  topic('Vinegar mothers', 'From cider and from wine, side by side.', 3),
  topic('Washed-rind cheese', 'Small wheels, washed every second day. It smells.', 3),
  topic('Cocoa heaps', 'A heap of two kilograms, turned and measured.', 9),
  topic('Kefir grains', 'Milk and water grains, and what each eats.', 3),
  topic('Ginger bug sodas', 'Pressure, sugar, and how to open a bottle.', 7),
  topic('Garum and fish sauce', 'Slow, salty, kept outside.', 1),
  topic('Cultured butter', 'Cream, time and a churn.', 4),
]

/** Reasons of those who cannot have a topic. */
const REASONS = ['nut allergy in the family kitchen', 'does not eat fish', 'works on the days it is turned']

/** A sheet by wishes, four days old, on which twelve of 118 have ranked nothing yet. */
export function fillBrewPartners(parts: FillParts, course: Course, owner: MadeUp): void {
  const lot = drawLots(parts.lotNumber + 3)
  const sheet = addSheet(parts, course, owner, 'Brew partners', BREWS, {
    seats: 4,
    floor: 2,
    opens: -4,
    closes: 3,
    instructions: 'Four of you brew one thing for five weeks. You keep the notebook together.',
    rules: { road: 'wished', wishWorth: 'odds', convener: 'lot', wishesMost: 8, matesMost: 1 },
  })
  const students = lot.shuffle(parts.stores.audience.students(sheet))
  rankAll(parts, sheet, BREWS, students.slice(12), lot)
}

/** A sheet by wishes of last term: closed, settled, its record handed out. */
export function fillPastWishes(parts: FillParts, course: Course, owner: MadeUp): void {
  const { stores, db, clock, now } = parts
  const lot = drawLots(parts.lotNumber + 4)
  const topics = BREWS.slice(0, 8)
  const sheet = addSheet(parts, course, owner, 'Brew partners', topics, {
    seats: 3,
    floor: 1,
    opens: -52,
    closes: -47,
    rules: {
      road: 'wished',
      convener: 'lot',
      wishesLeast: 5,
      wishesMost: 8,
      cannotMost: 0,
      swaps: 'offered',
    },
  })
  rankAll(parts, sheet, topics, lot.shuffle(stores.audience.students(sheet)), lot)
  const at = shift(sheet.closes_at ?? now, 2 * HOUR)
  clock.set(at)
  db.transaction(() => settle(parts, sheet, course, owner, at)).immediate()
  // Two swapped soon after; another two are offered a swap now.
  db.transaction(() => {
    swapTwo(parts, sheet, shift(at, 3 * HOUR), 'made')
    swapTwo(parts, sheet, shift(now, -2 * HOUR), 'waits')
  }).immediate()
}

/** Two of one section, in groups of different topics, would each rather have the other’s; both accept, or one has so far. */
function swapTwo({ stores }: FillParts, sheet: Sheet, now: Instant, ends: 'made' | 'waits'): void {
  const topicOf = new Map(stores.sheets.groups(sheet.id).map(({ id, topic_id }) => [id, topic_id]))
  const swapped = new Set(
    stores.swaps.ofSheet(sheet.id).flatMap(({ id }) => stores.swaps.parts(id).map((one) => one.enrolment_id)),
  )
  const sits = stores.audience.students(sheet).flatMap((student) => {
    const [seat] = stores.seats.heldBy(sheet.id, student.id)
    const topic = topicOf.get(seat?.group_id ?? 0)
    return topic === undefined || swapped.has(student.id) ? [] : [{ student, topic }]
  })
  const [one] = sits
  const other = sits.find(
    ({ student, topic }) => topic !== one?.topic && student.section_id === one?.student.section_id,
  )
  if (!one || !other) return
  const parts = { stores, mailer: SILENT, origin: null }
  stores.swaps.saveWish(sheet.id, one.student.id, [[other.topic]], now)
  stores.swaps.saveWish(sheet.id, other.student.id, [[one.topic]], now)
  serveSwaps(sheet.id, now, parts)
  const [swap] = stores.swaps.openOn(sheet.id)
  if (!swap) return
  const accepting = stores.swaps.parts(swap.id).slice(0, ends === 'made' ? 2 : 1)
  for (const part of accepting) {
    const who = stores.roster.enrolment(part.enrolment_id)?.person_id ?? 0
    answerSwap(swap, part, true, who, { ...parts, sheet, now })
  }
  serveSwaps(sheet.id, now, parts)
}

/** Nobody in the sample has a mailbox. */
const SILENT: Pick<Mailer, 'send'> = { send: () => 0 }

/** Lets students rank over the days since opening, by how much topics are wanted. */
function rankAll(
  { stores, now }: FillParts,
  sheet: Sheet,
  topics: readonly SampleTopic[],
  students: readonly Enrolment[],
  lot: Lot,
): void {
  const from = msOf(sheet.opens_at as Instant)
  const until = Math.min(msOf(now) - 10 * MINUTE, msOf(sheet.closes_at as Instant) - HOUR)
  const ids = stores.sheets.topics(sheet.id).map(({ id }) => id)
  const weight = new Map(ids.map((id, i) => [id, topics[i]?.wanted ?? 1]))
  // The first two pairs of one section wish to sit together, each naming the other.
  const mateOf = new Map(sheet.mates_most > 0 ? pairsOf(students, 2) : [])
  students.forEach((student, n) => {
    const offered = topicsFor(sheet, student, stores)
    const order = ids
      .filter((id) => offered.has(id))
      .map((id) => ({ id, at: -Math.log(1 - lot.next()) / (weight.get(id) ?? 1) }))
      .sort((a, b) => a.at - b.at)
      .map(({ id }) => id)
    const longest = Math.min(sheet.wishes_most, order.length)
    const length = sheet.wishes_least + lot.below(longest - sheet.wishes_least + 1)
    const ranked = order.slice(0, length)
    // Now and then two are as good as each other, where the sheet is still open.
    const equal = sheet.cannot_most > 0 && lot.next() < 0.2
    const ranks = equal
      ? [[ranked[0]], [ranked[1], ranked[2]], ...ranked.slice(3).map((id) => [id])]
      : ranked.map((id) => [id])
    const last = order.at(-1)
    const cannot =
      sheet.cannot_most > 0 && length < order.length && lot.next() < 0.08 && last !== undefined
        ? [{ topic: last, reason: REASONS[n % REASONS.length] }]
        : []
    const at = new Date(from + (until - from) * lot.next()).toISOString()
    stores.nudges.visit(sheet.id, student.id, at)
    // Drawn, so that the same sample gives the same seats.
    const code = Array.from({ length: 10 }, () => ALPHABET[lot.below(ALPHABET.length)]).join('')
    const mates = mateOf.get(student.id)
    const fields = {
      ranks: JSON.stringify(ranks),
      cannot: JSON.stringify(cannot),
      mates: JSON.stringify({ people: mates ? [mates] : [], first: n % 2 === 0 }),
    }
    stores.wishes.save(sheet.id, student.id, fields, at, code)
  })
}

/** So many pairs of people of one section, each with the address of the other. */
function pairsOf(students: readonly Enrolment[], count: number): [number, string][] {
  const [first] = students
  const own = students.filter(({ section_id }) => section_id === first?.section_id).slice(0, 2 * count)
  return own.flatMap((one, i): [number, string][] => {
    const other = own[i % 2 === 0 ? i + 1 : i - 1]
    return other ? [[one.id, other.email]] : []
  })
}

const ALPHABET = 'abcdefghjkmnpqrstuvwxyz23456789'

/** Gives seats by wishes as Settle does, and hands the record out. */
function settle(parts: FillParts, sheet: Sheet, course: Course, owner: MadeUp, now: Instant): void {
  const { stores } = parts
  const byWishes = { aim: 'nobody-far-down' as const, order: [...USUAL_ORDER] }
  const settings = {
    method: 'wishes' as const,
    // The sheet’s own is drawn anew in every sample.
    lotNumber: parts.lotNumber,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none' as const,
  }
  const basis = basisOf(sheet, now, stores)
  const { proven: _, moved: __, ...content } = makePlan({ ...basis, ...settings, byWishes, pins: [] })
  const code = `sample-${sheet.code}`
  applyPlan({
    sheet,
    course,
    person: stores.roster.personByEmail(owner.email) as Person,
    code,
    title: 'By wishes',
    content: { ...content, settings: { ...settings, made: null, wishes: byWishes } },
    now,
    stores,
  })
  const plan = stores.plans.byCode(sheet.id, code)
  if (plan) stores.wishes.handOut(plan.id, true)
}
