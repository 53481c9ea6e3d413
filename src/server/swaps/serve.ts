import type { SwapEnding } from '../../contract/swaps.ts'
import { DAY, type Instant, msOf, shift } from '../../core/instant.ts'
import { checkSeatings, type SeatingFacts } from '../../core/seating.ts'
import { findSwaps, type Swap } from '../../core/wishes/swaps.ts'
import { sayInstant } from '../../core/zone.ts'
import { swapEndedMail, swapMadeMail, swapOfferedMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { seatingFacts, writeSeatings } from '../seats/byHand.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { keptFromIn, type MarketSwapper, misfitIn, ratherThan, swappersOn, swapsGo } from './market.ts'
import type { SwapPartRow, SwapRow } from './store.ts'

/** For how long a swap can be accepted. */
export const SWAP_STANDS = 2 * DAY
/** Somebody gets one mail about offered swaps in this time; others stand on the sheet’s page. */
const MAIL_EVERY = DAY

export interface SwapParts {
  stores: Stores
  mailer: Pick<Mailer, 'send'>
  /** The address under which the pages are; null where none is set. */
  origin: string | null
}

/** What is needed of a sheet while its swaps are looked after. */
interface Look extends SwapParts {
  sheet: Sheet
  now: Instant
}

/**
 * Brings a sheet’s swaps up to date, within the transaction of whatever changed it: ends those that cannot be any more,
 * makes those that everybody in them has accepted, and offers what is found among those who are in none.
 */
export function serveSwaps(sheetId: number, now: Instant, parts: SwapParts): void {
  const { stores } = parts
  const sheet = stores.sheets.byId(sheetId)
  if (!sheet) return
  const open = stores.swaps.openOn(sheetId)
  if (sheet.swaps === 'no' && open.length === 0) return
  const look = { ...parts, sheet, now }
  if (!swapsGo(sheet, now, stores)) {
    for (const swap of open) endSwap(swap, 'fallen', look)
    return
  }
  let ground = groundOf(look)
  // Each is looked at as the others have left the seats.
  for (const swap of open) if (settleOne(swap, ground, look) !== null) ground = groundOf(look)
  offerFound(ground, look)
}

/** Who would rather sit elsewhere, and what seatings are checked against. */
interface Ground {
  swappers: MarketSwapper[]
  facts: SeatingFacts
}

const groundOf = ({ sheet, now, stores }: Look): Ground => ({
  swappers: swappersOn(sheet, stores),
  facts: seatingFacts(sheet, now, stores),
})

/** Looks at one swap that waits for answers. Gives how it ended; null where it still waits. */
function settleOne(swap: SwapRow, { swappers, facts }: Ground, look: Look): SwapEnding | null {
  const { stores, sheet, now } = look
  const parts = stores.swaps.parts(swap.id)
  const asSwap = swapOf(parts, look)
  const stands = asSwap.every(({ person, from, to }) => {
    const one = swappers.find((swapper) => swapper.person === person)
    return one?.seat === from && one.better.flat().includes(to)
  })
  const accepted = parts.every(({ accepted_at }) => accepted_at !== null)
  const against = accepted ? misfitIn(asSwap, facts) : keptFromIn(asSwap, facts)
  if (!stands || against !== null) return endSwap(swap, 'fallen', look)
  if (accepted) return makeSwap(swap, asSwap, facts, look)
  if (swap.until > now) return null
  // Whoever did not answer is not asked again before they say what they would rather have.
  for (const { enrolment_id, accepted_at } of parts)
    if (accepted_at === null) stores.swaps.saveWish(sheet.id, enrolment_id, [], now)
  return endSwap(swap, 'lapsed', look)
}

/** The parts of a swap with people and groups by their codes. */
function swapOf(parts: readonly SwapPartRow[], { stores, sheet }: Look): Swap {
  const codes = stores.sheets.groupCodes(sheet.id)
  return parts.map(({ enrolment_id, from_group_id, to_group_id }) => ({
    person: stores.roster.enrolment(enrolment_id)?.code ?? '',
    from: codes.get(from_group_id) ?? '',
    to: codes.get(to_group_id) ?? '',
  }))
}

function makeSwap(row: SwapRow, swap: Swap, facts: SeatingFacts, look: Look): 'made' {
  const { stores, mailer, sheet, now } = look
  const { extra } = checkSeatings(swap, facts)
  const detailOf = () => ({ because: 'swap', swap: row.code, people: swap.length })
  writeSeatings({ sheet, changes: swap, actorId: null, now, stores, detailOf }, extra)
  stores.swaps.end(row.id, 'made', now)
  for (const part of stores.swaps.parts(row.id)) {
    const to = stores.roster.enrolment(part.enrolment_id)?.email
    if (to) mailer.send(swapMadeMail(to, mailOf(part, look)))
  }
  return 'made'
}

/** Ends a swap that is not made. Those who had accepted are told by mail; nobody learns whose doing it was. */
function endSwap<How extends Exclude<SwapEnding, 'made'>>(swap: SwapRow, how: How, look: Look): How {
  const { stores, mailer, now } = look
  stores.swaps.end(swap.id, how, now)
  for (const part of stores.swaps.parts(swap.id)) {
    note('swap-ended', swap.code, part, { ending: how }, look)
    const student = stores.roster.enrolment(part.enrolment_id)
    if (part.accepted_at !== null && student?.status === 'active')
      mailer.send(swapEndedMail(student.email, mailOf(part, look)))
  }
  return how
}

/** Offers swaps among those who are in none that waits for answers. */
function offerFound({ swappers, facts }: Ground, look: Look): void {
  const { stores, sheet } = look
  const busy = new Set(
    stores.swaps.openOn(sheet.id).flatMap(({ id }) => stores.swaps.parts(id).map((one) => one.enrolment_id)),
  )
  const free = swappers.filter(({ student }) => !busy.has(student.id))
  if (free.length < 2) return
  const byCode = new Map(free.map((one) => [one.person, one]))
  for (const swap of findSwaps(free, sheet.lot_number, (one) => keptFromIn(one, facts)))
    offer(swap, byCode, look)
}

function offer(swap: Swap, byCode: ReadonlyMap<string, MarketSwapper>, look: Look): void {
  const { stores, mailer, sheet, now } = look
  const { sheets, swaps } = stores
  const until = shift(now, SWAP_STANDS)
  const { id, code } = swaps.add(sheet.id, now, until)
  for (const { person, from, to } of swap) {
    const student = byCode.get(person)?.student
    const [left, taken] = [sheets.group(from), sheets.group(to)]
    if (!student || !left || !taken) continue
    const last = swaps.toldLast(sheet.id, student.id)
    const tell = last === null || msOf(now) - msOf(last) >= MAIL_EVERY
    const part = { enrolment_id: student.id, from_group_id: left.id, to_group_id: taken.id }
    swaps.addPart(id, { ...part, told_at: tell ? now : null })
    note('swap-offered', code, part, { people: swap.length }, look)
    if (tell)
      mailer.send(
        swapOfferedMail(student.email, {
          ...mailOf(part, look),
          people: swap.length,
          until: sayInstant(until, zoneOf(look)),
        }),
      )
  }
}

function zoneOf({ stores, sheet }: Look): string {
  return stores.courses.byId(sheet.course_id)?.zone ?? 'UTC'
}

type Part = Pick<SwapPartRow, 'enrolment_id' | 'from_group_id' | 'to_group_id'>

/** What mails say of somebody’s part in a swap. */
function mailOf({ from_group_id, to_group_id }: Part, { stores, sheet, origin }: Look) {
  const titleOf = (id: number) =>
    stores.sheets.topicById(stores.sheets.groupById(id)?.topic_id ?? 0)?.title ?? 'a group'
  const address = origin === null ? '' : `${origin}/sheets/${sheet.code}`
  return { sheet: sheet.title, from: titleOf(from_group_id), to: titleOf(to_group_id), address }
}

/** Notes something of a swap in the ledger, for one person in it and staff. */
function note(
  kind: 'swap-offered' | 'swap-answered' | 'swap-ended',
  code: string,
  { enrolment_id, to_group_id }: Part,
  more: Readonly<Record<string, unknown>>,
  { stores, sheet, now }: Look,
  actorId: number | null = null,
): void {
  const detail = { swap: code, group: to_group_id, ...more }
  stores.ledger.note({ sheetId: sheet.id, at: now, actorId, kind, enrolmentId: enrolment_id, detail })
}

/**
 * Notes what somebody answers to a swap that waits for it. One that is declined ends; whatever else follows from an answer
 * comes at the end of the change (`serveSwaps`), which the caller makes.
 */
export function answerSwap(
  swap: SwapRow,
  part: SwapPartRow,
  accepted: boolean,
  actorId: number,
  look: Look,
): void {
  const { stores, now } = look
  if (accepted && !stores.swaps.accept(swap.id, part.enrolment_id, now)) return
  const others = stores.swaps.parts(swap.id).map(({ enrolment_id }) => enrolment_id)
  note('swap-answered', swap.code, part, { accepted, with: others }, look, actorId)
  if (accepted) return
  ratherNot(part, look)
  endSwap(swap, 'declined', look)
}

/** Takes a topic out of what somebody would rather have: they declined it, and are not asked about it again. */
function ratherNot(part: SwapPartRow, { sheet, now, stores }: Look): void {
  const student = stores.roster.enrolment(part.enrolment_id)
  const own = stores.sheets.groupById(part.from_group_id)
  const declined = stores.sheets.groupById(part.to_group_id)?.topic_id
  if (!student || !own) return
  const ranks = ratherThan(sheet, student, own.topic_id, stores)
    .map((topics) => topics.filter((topic) => topic !== declined))
    .filter((topics) => topics.length > 0)
  stores.swaps.saveWish(sheet.id, student.id, ranks, now)
}
