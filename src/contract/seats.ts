import { type InferType, mixed, object, string } from 'yup'
import type { ClaimAsk } from '../core/claim.ts'
import type { Changing, Road } from '../core/rules.ts'
import type { OwnRequest, ReceivedInvitation, SentInvitation } from './asking.ts'
import type { SectionView } from './courses.ts'
import { plainRoute, route, whileArchived } from './route.ts'
import type { SheetHead } from './sheets.ts'
import type { OwnSwaps } from './swaps.ts'
import type { OwnWishes } from './wishes.ts'

/** A sheet as the instructor watches it fill. */
export interface RunView extends SheetHead {
  sections: SectionView[]
  topics: { code: string; title: string }[]
  /** Groups that are offered, with what holds for them. */
  groups: RunGroup[]
  /** Active students of the roster. */
  people: RunPerson[]
  /** Paused and departed students who keep a seat: they take room and count for nobody. */
  away: RunPerson[]
  /** Every seat taken, oldest first. */
  seats: { group: string; person: string; at: string }[]
  /** Requests to change seats that wait for an answer. */
  requests: number
  /** Active tutors and instructors of the course. */
  staff: { code: string; name: string }[]
  /** The reader's own code, by which own groups are found. */
  you: string
  /** Whether the reader may change the sheet and answer requests. */
  mayEdit: boolean
  /** In which groups the reader may seat people: all, those the reader looks after, or none. */
  maySeat: 'all' | 'own' | 'none'
}

export interface RunPerson {
  code: string
  name: string
  section: string | null
}

export interface RunGroup {
  code: string
  topic: string
  /** The name that it gave itself; empty where it has none. */
  called: string
  section: string | null
  /** The limit; 0 is none. */
  seats: number
  /** The limit where it is an exception of this group; null where it follows its topic. */
  ownSeats: number | null
  floor: number
  /** Seats kept free. */
  held: number
  /** Who waits in line, by code, first in line first. */
  line: string[]
  place: string
  startsAt: string | null
  endsAt: string | null
  /** The member who answers for it, by code. */
  convener: string | null
  /** Tutors and instructors who look after it, by code. */
  tutors: string[]
}

/** A group as a student may see it. Names are there only where the house rules show them. */
export interface StudentGroup {
  code: string
  title: string
  /** The name that the group gave itself, where the reader may read the names in it; empty else. */
  called: string
  brief: string
  /** Its section, where groups of other sections are listed too. */
  section: string | null
  place: string
  startsAt: string | null
  endsAt: string | null
  /** The limit; 0 is none. */
  seats: number
  taken: number
  /** Seats kept free for others. */
  held: number
  /** True when one of the seats kept free is for this student. */
  heldForYou: boolean
  /** How many wait in line, and the student's own place among them, counted from 1. */
  waiting: number
  yourPlace: number | null
  /** Who sits there beside the student, or null where the house rules do not show it. */
  names: string[] | null
  /** Who else answers for the group, where names are shown; one's own seat says it of oneself. */
  convener: string | null
}

/** A seat of the student's own. */
export interface OwnSeat {
  group: string
  at: string
  /** Where the group meets online. */
  link: string
  convener: boolean
  /** Addresses of the group mates, or null where the house rules hide who they are. */
  mates: { name: string; email: string }[] | null
  /** Free seats that the student, as convener, could offer somebody; 0 where the rules know no invitations. */
  toOffer: number
  /** Whether the group has handed in work, so that nobody leaves it by themselves. */
  bound: boolean
  /** Posts of the group's talk that the student has not read. */
  unread: number
}

export interface StudentSheet extends SheetHead {
  instructions: string
  contact: string
  section: string | null
  groups: StudentGroup[]
  seats: OwnSeat[]
  /** Tasks of the sheet that are there for the student, how many wait to be handed in, how many for a group. */
  tasks: { there: number; open: number; locked: number }
  /** The newest request to change seats, answered or not. */
  request: OwnRequest | null
  /** Invitations that wait for the student's answer. */
  received: ReceivedInvitation[]
  /** Invitations that the student made as convener: those that wait, and those that were declined. */
  sent: SentInvitation[]
  /** What the student wishes for; null where nobody ranks. */
  wishes: OwnWishes | null
  /** Swapping the seat that was given by wishes; null where it cannot be. */
  swaps: OwnSwaps | null
}

/** What a granted claim changed for its student; the rest of the sheet is as the student knows it, or told live. */
export interface ClaimAnswer {
  now: string
  /** The newest ledger entry that the answer knows of. */
  rev: number
  /** All seats of the student's own. */
  seats: OwnSeat[]
  /** The groups that the claim touched, as they now stand for the student. */
  groups: StudentGroup[]
  received: ReceivedInvitation[]
  sent: SentInvitation[]
  /** True when more changed than is sent (names that may be read now, other lines): fetch the sheet anew. */
  more: boolean
}

/** What a student's first page says of one sheet. */
export interface StudentStub {
  road: Road
  code: string
  title: string
  courseTitle: string
  courseCode: string
  section: string | null
  zone: string
  state: 'scheduled' | 'open' | 'closed' | 'archived'
  opensAt: string | null
  closesAt: string | null
  changing: Changing
  /** Whom to ask, by address; empty for nobody. */
  contact: string
  groups: number
  groupsWithRoom: number
  seats: (Pick<
    StudentGroup,
    'code' | 'title' | 'place' | 'startsAt' | 'endsAt' | 'seats' | 'taken' | 'names'
  > & {
    link: string
  })[]
  /** Tasks that are there for the student, and how many wait to be handed in. */
  tasks: { there: number; open: number; locked: number }
  /** Invitations that wait for an answer: to which topic, by whom. */
  invitations: { title: string; from: string | null }[]
  /** The topic to which a swap would bring the student that waits for their answer; null for none. */
  swap: string | null
  /** Where topics are ranked: how many the student has, and whether that counts; null else. */
  ranked: { topics: number; counts: boolean } | null
}

export interface StudentHome {
  now: string
  sheets: StudentStub[]
}

/** Which groups a claim names: the one whose seat or line is left, and the one in which a seat is wanted. */
const NAMES = {
  take: ['to'],
  move: ['from', 'to'],
  'give-up': ['from'],
  wait: ['to'],
  'leave-line': ['from'],
} as const satisfies Record<ClaimAsk<string>['kind'], readonly ('from' | 'to')[]>

const MISSING = { from: 'Say which seat or line you leave.', to: 'Say which group you want.' }

/** Checked as a whole and not field by field on condition, which would cost more than deciding the claim. */
export const claimBody = object({
  /** Chosen by the asker, new for each claim and the same for each retry of it. */
  key: string()
    .required('A claim carries a key.')
    .matches(/^[\w-]{8,64}$/, 'A key is 8 to 64 letters, digits, hyphens or underscores.'),
  kind: mixed<ClaimAsk<string>['kind']>()
    .oneOf(
      ['take', 'move', 'give-up', 'wait', 'leave-line'],
      'A claim takes, moves, gives up, waits or leaves a line.',
    )
    .required('A claim takes, moves or gives up.'),
  /** Groups by their codes. */
  from: string(),
  to: string(),
}).test('names-its-groups', ({ kind, from, to }, { createError }) => {
  const missing = (NAMES[kind] ?? []).find((name) => !{ from, to }[name])
  return missing === undefined || createError({ path: missing, message: MISSING[missing] })
})

/** What a checked body asks for, without what does not belong to it. */
export function askOf({ kind, from = '', to = '' }: InferType<typeof claimBody>): ClaimAsk<string> {
  switch (kind) {
    case 'take':
    case 'wait':
      return { kind, to }
    case 'move':
      return { kind, from, to }
    case 'give-up':
    case 'leave-line':
      return { kind, from }
  }
}

/** Takes, moves, gives up, waits or leaves a line; told only what changed, so that many can ask at once. */
export const claim = whileArchived(
  route<ClaimAnswer>()('POST', '/api/sheets/:sheet/claims', 'student', claimBody),
)
export const studentHome = plainRoute<StudentHome>()('GET', '/api/home', 'signed-in')
export const studentSheet = plainRoute<StudentSheet>()('GET', '/api/sheets/:sheet/student', 'student')
/** Addresses of everybody who is meant by a sheet or sits on it, to be copied. */
export const sheetAddresses = plainRoute<{ people: { code: string; email: string }[] }>()(
  'GET',
  '/api/sheets/:sheet/addresses',
  'staff',
)
export const run = plainRoute<RunView>()('GET', '/api/sheets/:sheet/run', 'staff')
