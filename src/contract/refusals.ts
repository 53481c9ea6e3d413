import type { ClaimRefusal } from '../core/claim.ts'
import type { Instant } from '../core/instant.ts'
import { seatsLeft } from '../core/limit.ts'
import type { HouseRules } from '../core/rules.ts'
import { sayInstant } from '../core/zone.ts'
import type { StudentSheet } from './seats.ts'

/** What of a sheet the words for a refusal speak of. */
export interface RefusalFacts {
  opensAt: Instant | null
  closesAt: Instant | null
  zone: string
  contact: string
  /** The student's section, by name. */
  section: string | null
  rules: Pick<HouseRules, 'seatsEach' | 'fullGroups'>
  /** Seats that the student holds. */
  held: number
  /** Groups offered to the student that have a free seat. */
  withRoom: number
}

/** What the words for a refusal speak of, from a sheet as its student sees it. */
export function refusalFactsOf(view: StudentSheet): RefusalFacts {
  const { opensAt, closesAt, course, contact, section, rules, seats, groups } = view
  const withRoom = groups.filter(({ seats, taken, held }) => seatsLeft(seats, taken, held) > 0).length
  return { opensAt, closesAt, zone: course.zone, contact, section, rules, held: seats.length, withRoom }
}

/** Tells a student why a claim was refused, and what can be done, with the sheet as it stands. */
export function refusalWords(reason: ClaimRefusal, facts: RefusalFacts): string {
  const when = (instant: Instant | null) => (instant === null ? '' : ` ${sayInstant(instant, facts.zone)}`)
  const ask = facts.contact === '' ? 'your instructor' : facts.contact
  const kept = facts.held > 0 ? ' Your seat is as it was.' : ''
  switch (reason) {
    case 'group-full':
      return `That seat was taken a moment ago. ${roomWords(facts)}${kept}`
    case 'window-not-open-yet':
      return `Seats can be taken from${when(facts.opensAt)} on.`
    case 'window-closed':
      return `The sheet closed${when(facts.closesAt)}.${kept} To change something now, ask ${ask}.`
    case 'groups-are-made':
      return `On this sheet the instructor makes the groups.${kept} For a change, ask ${ask}.`
    case 'seats-by-wishes':
      return `On this sheet seats are given by wishes when it closes. Rank the topics; being early makes no difference.${kept}`
    case 'sheet-archived':
      return 'The sheet is archived. Seats no longer change.'
    case 'sheet-not-published':
      return 'The sheet is not out yet.'
    case 'not-a-student':
      return 'Tutors and instructors do not take seats.'
    case 'enrolment-not-active':
      return `Your place in this course is paused. Ask ${ask}.`
    case 'group-not-found':
      return `That topic was taken off the sheet.${kept} Choose another.`
    case 'other-section':
      return `That group belongs to another section; yours is ${facts.section ?? 'not set'}.${kept}`
    case 'already-seated-here':
      return 'You already sit here; nothing has to be done.'
    case 'seat-limit-reached':
      return facts.rules.seatsEach === 1
        ? 'You have a seat on this sheet. Move instead of taking a second one.'
        : `You have ${facts.held} seats on this sheet; ${facts.rules.seatsEach} is the most. Move one instead.`
    case 'change-only-by-asking':
      return `Seats change only by asking on this sheet. Send a request from its page, or write to ${ask}.`
    case 'change-not-allowed':
      return `Once taken, a seat does not change on this sheet. If something is wrong, write to ${ask}.`
    case 'work-handed-in':
      return `Your group has handed in work, so nobody leaves it by themselves.${kept} Ask ${ask}.`
    case 'time-clash':
      return `It takes place while another seat of yours does.${kept} Choose one at another time.`
    case 'line-goes-first':
      return `Others wait in line for that seat and go first.${kept} ${facts.rules.fullGroups === 'line' ? 'You can wait in line too.' : 'Choose another.'}`
    case 'no-waiting-line':
      return `Full groups have no waiting line on this sheet. ${roomWords(facts)}`
    case 'seat-is-free':
      return 'There is a free seat now: take it instead of waiting.'
    case 'already-in-line':
      return 'You wait in that line already; nothing has to be done.'
    case 'not-in-line':
      return 'You no longer wait there. The page shows how it stands now.'
    case 'group-not-offered':
      return `That group is not offered.${kept} Choose another.`
    case 'seat-not-held':
      return 'You no longer sit there. The page shows where you sit now.'
  }
}

function roomWords({ withRoom }: RefusalFacts): string {
  if (withRoom === 0) return 'No topic has room now.'
  return withRoom === 1 ? '1 topic still has room.' : `${withRoom} topics still have room.`
}
