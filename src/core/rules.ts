import type { SheetState } from './window.ts'
import type { WishAim } from './wishes/types.ts'

/**
 * How groups come about: students take seats as they come, or rank topics and get seats by their wishes, or the
 * instructor makes the groups.
 */
export type Road = 'chosen' | 'wished' | 'made'
/** Whom a sheet is for: the whole course, some sections of it, or a list of people. */
export type ForWhom = 'course' | 'sections' | 'list'
export const FOR_WHOM = ['course', 'sections', 'list'] as const satisfies readonly ForWhom[]
/** May a student change seats once one is taken? */
export type Changing = 'until-close' | 'by-asking' | 'never'
/** To whom are names shown? */
export type NamesShown = 'mates' | 'seated' | 'after-close' | 'everyone' | 'nobody'
/** To whom does a topic offer seats: its own section, or the whole course? */
export type Offers = 'section' | 'course'
/** What about a full group: is there a waiting line, or is it simply full? */
export type FullGroups = 'full' | 'line'
/** When a waiting line seats somebody, are the other lines left or kept? */
export type OtherLines = 'leave' | 'keep'
/** May the convener of a group invite somebody who has no group? */
export type InvitationRule = 'no' | 'convener'
/** What may the convener of a group do besides: nothing, seat people without a group, or also take members out? */
export type ConvenerMay = 'no' | 'seat' | 'both'
/** Who answers for a group? */
export type ConvenerRule = 'first' | 'lot' | 'named' | 'none'

/** By wishes, what students are told: nothing, how much each topic is wanted, or their own chances besides? */
export type WishWorth = 'nothing' | 'demand' | 'odds'

/** By wishes, can seats be swapped once they were given? */
export type SwapRule = 'no' | 'offered'

/** What happens to those who are left when the window closes? */
export type AtClose = 'leave' | 'draft' | 'seat'
/** Who seats those who come onto the roster after the close? */
export type LateRule = 'leave' | 'seat'
/** From when on somebody who joins is late: since the close, or already while the sheet is open? */
export type LateFrom = 'close' | 'opening'
/** What of somebody who comes late and finds no free seat: left, one more seat in the smallest group, or a further group? */
export type LateFull = 'wait' | 'extra' | 'group'

/** What a sheet allows. */
export interface HouseRules {
  road: Road
  /** Seats one student may hold. */
  seatsEach: number
  changing: Changing
  names: NamesShown
  offers: Offers
  fullGroups: FullGroups
  otherLines: OtherLines
  convener: ConvenerRule
  invitations: InvitationRule
  convenerMay: ConvenerMay
  atClose: AtClose
  late: LateRule
  lateFrom: LateFrom
  lateFull: LateFull
  /** By wishes: how many topics a list needs to count, and how many it may have. */
  wishesLeast: number
  wishesMost: number
  /** By wishes: how many topics somebody may say that they cannot have. */
  cannotMost: number
  /** By wishes: with how many named mates somebody may wish to sit. */
  matesMost: number
  wishWorth: WishWorth
  aim: WishAim
  swaps: SwapRule
}

/** House rules that are numbers. */
export type NumberRule = 'seatsEach' | 'wishesLeast' | 'wishesMost' | 'cannotMost' | 'matesMost'

/** The careful choices, which every new sheet starts with. */
export const CAREFUL: HouseRules = {
  road: 'chosen',
  seatsEach: 1,
  changing: 'until-close',
  names: 'mates',
  offers: 'section',
  fullGroups: 'full',
  otherLines: 'leave',
  convener: 'first',
  invitations: 'no',
  convenerMay: 'no',
  atClose: 'leave',
  late: 'leave',
  lateFrom: 'close',
  lateFull: 'wait',
  wishesLeast: 3,
  wishesMost: 10,
  cannotMost: 1,
  matesMost: 0,
  wishWorth: 'nothing',
  aim: 'most-first',
  swaps: 'no',
}

export const CHOICES = {
  road: ['chosen', 'wished', 'made'],
  changing: ['until-close', 'by-asking', 'never'],
  names: ['mates', 'seated', 'after-close', 'everyone', 'nobody'],
  offers: ['section', 'course'],
  fullGroups: ['full', 'line'],
  otherLines: ['leave', 'keep'],
  convener: ['first', 'lot', 'named', 'none'],
  invitations: ['no', 'convener'],
  convenerMay: ['no', 'seat', 'both'],
  atClose: ['leave', 'draft', 'seat'],
  late: ['leave', 'seat'],
  lateFrom: ['close', 'opening'],
  lateFull: ['wait', 'extra', 'group'],
  wishWorth: ['nothing', 'demand', 'odds'],
  aim: ['most-first', 'nobody-far-down', 'least-total', 'in-turn'],
  swaps: ['no', 'offered'],
} as const satisfies { [Rule in Exclude<keyof HouseRules, NumberRule>]: readonly HouseRules[Rule][] }

/** Most seats that the rules can let one student hold. */
export const MOST_SEATS_EACH = 20
/** Most topics that a list of wishes may have, or leave out as impossible, whatever the rules say. */
export const MOST_WISHES = 50
/** Most mates that somebody may name, whatever the rules say. */
export const MOST_MATES = 3

/** May a student read the names of those who sit in a group? */
export function namesShown(
  rule: NamesShown,
  reader: { state: SheetState; seated: boolean; inGroup: boolean },
): boolean {
  switch (rule) {
    case 'mates':
      return reader.inGroup
    case 'seated':
      return reader.seated
    case 'after-close':
      return reader.state === 'closed' || reader.state === 'archived'
    case 'everyone':
      return true
    case 'nobody':
      return false
  }
}

const STATES: readonly SheetState[] = ['scheduled', 'open', 'closed', 'archived']

/** True when a change of rule shows names to somebody who could not read them before, now or later. */
export function showsMoreNames(before: NamesShown, after: NamesShown): boolean {
  return STATES.some((state) =>
    [
      { state, seated: false, inGroup: false },
      { state, seated: true, inGroup: false },
      { state, seated: true, inGroup: true },
    ].some((reader) => namesShown(after, reader) && !namesShown(before, reader)),
  )
}
