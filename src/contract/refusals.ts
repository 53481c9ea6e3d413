import type { ClaimRefusal } from '../core/claim.ts'
import { seatsLeft } from '../core/limit.ts'
import { sayInstant } from '../core/zone.ts'
import type { StudentSheet } from './seats.ts'

/** Tells a student why a claim was refused, and what can be done, with the sheet as it stands. */
export function refusalWords(reason: ClaimRefusal, sheet: StudentSheet): string {
  const when = (instant: string | null) =>
    instant === null ? '' : ` ${sayInstant(instant, sheet.course.zone)}`
  const ask = sheet.contact === '' ? 'your instructor' : sheet.contact
  const kept = sheet.seats.length > 0 ? ' Your seat is as it was.' : ''
  switch (reason) {
    case 'group-full':
      return `That seat was taken a moment ago. ${withRoom(sheet)}${kept}`
    case 'window-not-open-yet':
      return `Seats can be taken from${when(sheet.opensAt)} on.`
    case 'window-closed':
      return `The sheet closed${when(sheet.closesAt)}.${kept} To change something now, ask ${ask}.`
    case 'sheet-archived':
      return 'The sheet has been put away. Seats no longer change.'
    case 'sheet-not-published':
      return 'The sheet is not out yet.'
    case 'not-a-student':
      return 'Tutors and instructors do not take seats.'
    case 'enrolment-not-active':
      return `Your place in this course is paused. Ask ${ask}.`
    case 'group-not-found':
      return `That topic was taken off the sheet.${kept} Choose another.`
    case 'other-section':
      return `That group belongs to another section; yours is ${sheet.section ?? 'not set'}.${kept}`
    case 'already-seated-here':
      return 'You already sit here; nothing has to be done.'
    case 'seat-limit-reached':
      return sheet.rules.seatsEach === 1
        ? 'You have a seat on this sheet. Move instead of taking a second one.'
        : `You have ${sheet.seats.length} seats on this sheet; ${sheet.rules.seatsEach} is the most. Move one instead.`
    case 'change-only-by-asking':
      return `Seats change only by asking on this sheet. Send a request from its page, or write to ${ask}.`
    case 'change-not-allowed':
      return `Once taken, a seat does not change on this sheet. If something is wrong, write to ${ask}.`
    case 'time-clash':
      return `It takes place while another seat of yours does.${kept} Choose one at another time.`
    case 'line-goes-first':
      return `Others wait in line for that seat and go first.${kept} ${sheet.rules.fullGroups === 'line' ? 'You can wait in line too.' : 'Choose another.'}`
    case 'no-waiting-line':
      return `Full groups have no waiting line on this sheet. ${withRoom(sheet)}`
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

function withRoom({ groups }: StudentSheet): string {
  const room = groups.filter(({ seats, taken, held }) => seatsLeft(seats, taken, held) > 0).length
  if (room === 0) return 'No topic has room now.'
  return room === 1 ? '1 topic still has room.' : `${room} topics still have room.`
}
