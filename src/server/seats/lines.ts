import { type ClaimAsk, type ClaimRefusal, decideClaim } from '../../core/claim.ts'
import { keptFrom } from '../../core/fits.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT, seatsLeft } from '../../core/limit.ts'
import { fromLineMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import { type FactSources, factsOf, heldFor } from './facts.ts'
import { leavePlace, type PlaceEnd } from './places.ts'
import { type SeatKeepers, sitDown, standUp } from './sitDown.ts'
import type { LinePlace } from './store.ts'

/** Somebody whom a line seated. */
export interface SeatedFromLine {
  sheetId: number
  enrolmentId: number
  groupId: number
  /** The group whose seat was given up for it; null where it was no move. */
  fromGroupId: number | null
}

export interface LineParts extends FactSources, SeatKeepers {}

/**
 * Refusals that no waiting will mend, and what the ledger says of them: whoever gets one leaves the line. The others are
 * passed over for now.
 */
const FOR_GOOD: Partial<Record<ClaimRefusal, PlaceEnd>> = {
  'enrolment-not-active': 'enrolment-not-active',
  'not-a-student': 'enrolment-not-active',
  'other-section': 'other-section',
  'already-seated-here': 'seated-elsewhere',
  'group-not-offered': 'group-not-offered',
}

/**
 * Seats those who wait, strictly in order, as long as there are free seats and the sheet is open. Called in the
 * transaction that may have freed a seat. A seat won while another is held is a move, whose old seat may seat the
 * next in another line. Somebody who cannot sit just now (two seats at one time) keeps the place and is passed over.
 */
export function serveLines(sheetId: number, now: Instant, parts: LineParts): SeatedFromLine[] {
  const seated: SeatedFromLine[] = []
  const sheet = parts.sheets.byId(sheetId)
  if (sheet?.full_groups !== 'line') return seated
  const groups = new Map(parts.sheets.groups(sheetId).map((group) => [group.id, group]))
  for (let again = true; again; ) {
    again = false
    const free = freeIn(sheetId, groups, parts)
    for (const place of parts.seats.lines(sheetId)) {
      const group = groups.get(place.group_id)
      // Most lines stand still: nobody in them is looked at while their group is full.
      if (group && !free(group, place.enrolment_id)) continue
      const outcome = group ? serve(sheet, group, place, now, parts) : { gone: 'group-not-offered' as const }
      if (outcome === 'waits') continue
      if ('gone' in outcome) {
        leavePlace(placeAt(sheetId, place), outcome.gone, now, parts)
        continue
      }
      seated.push({
        sheetId,
        enrolmentId: place.enrolment_id,
        groupId: place.group_id,
        fromGroupId: outcome.from,
      })
      // The lines have changed; begin anew, so that nobody is served from an old list.
      again = true
      break
    }
  }
  return seated
}

/** Says whether a group has a free seat, one kept for this student included. */
function freeIn(sheetId: number, groups: ReadonlyMap<number, Group>, { seats, sheets }: LineParts) {
  const counts = seats.counts(sheetId)
  const kept = sheets.heldOnSheet(sheetId)
  return ({ id }: Group, enrolmentId: number): boolean => {
    const others = keptFrom(heldFor(kept.filter(({ group_id }) => group_id === id)), enrolmentId)
    return seatsLeft(groups.get(id)?.seats ?? NO_LIMIT, counts.get(id) ?? 0, others) > 0
  }
}

function serve(
  sheet: Sheet,
  group: Group,
  place: LinePlace,
  now: Instant,
  parts: LineParts,
): { from: number | null } | 'waits' | { gone: PlaceEnd } {
  const { seats, sheets, ledger } = parts
  const enrolment = parts.roster.enrolment(place.enrolment_id)
  if (!enrolment) return { gone: 'enrolment-not-active' }
  const facts = factsOf(sheet, enrolment, group, now, parts)
  // Those behind do not count; those before were served or passed over already.
  const target = facts.target && { ...facts.target, line: 0 }
  const from = facts.held.length >= facts.rules.seatsEach ? facts.held[0]?.group : undefined
  const ask: ClaimAsk<number> =
    from === undefined ? { kind: 'take', to: group.id } : { kind: 'move', from, to: group.id }
  const verdict = decideClaim(ask, { ...facts, target })
  if (!verdict.granted) {
    const gone = FOR_GOOD[verdict.reason]
    return gone ? { gone } : 'waits'
  }
  if (from !== undefined) {
    const limit = sheets.groups(sheet.id).find(({ id }) => id === from)?.seats ?? NO_LIMIT
    standUp(from, enrolment.id, limit, parts)
  }
  sitDown(sheet.id, group.id, enrolment.id, now, parts)
  if (sheet.other_lines === 'leave') {
    for (const other of seats.waitsIn(sheet.id, enrolment.id))
      leavePlace(placeAt(sheet.id, other), 'seated-elsewhere', now, parts)
  }
  ledger.note({
    sheetId: sheet.id,
    at: now,
    actorId: null,
    kind: from === undefined ? 'seat-taken' : 'seat-moved',
    enrolmentId: enrolment.id,
    ...(from !== undefined && { fromGroupId: from }),
    toGroupId: group.id,
    detail: { because: 'waiting-line' },
  })
  return { from: from ?? null }
}

const placeAt = (sheetId: number, { group_id, enrolment_id }: LinePlace) => ({
  sheetId,
  groupId: group_id,
  enrolmentId: enrolment_id,
  actorId: null,
})

/** Tells those whom a line seated by mail, within the transaction that seated them. */
export function mailFromLines(
  seated: readonly SeatedFromLine[],
  { sheets, roster }: Pick<Stores, 'sheets' | 'roster'>,
  mailer: Mailer,
): void {
  for (const { sheetId, enrolmentId, groupId, fromGroupId } of seated) {
    const sheet = sheets.byId(sheetId)
    const enrolment = roster.enrolment(enrolmentId)
    const topicOf = (id: number | null) =>
      id === null ? undefined : sheets.topicById(sheets.groupById(id)?.topic_id ?? 0)
    const topic = topicOf(groupId)
    const left = topicOf(fromGroupId)
    if (!sheet || !enrolment || !topic) continue
    mailer.send(fromLineMail(enrolment.email, sheet.title, topic.title, left?.title ?? null))
  }
}
