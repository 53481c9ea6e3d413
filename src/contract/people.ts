import type { EnrolmentStatus, Role } from '../core/roster.ts'
import type { Road } from '../core/rules.ts'
import type { SheetState } from '../core/window.ts'
import type { LedgerLine } from './ledger.ts'
import { plainRoute } from './route.ts'

/** What of one person there is on one sheet. */
export interface PersonOnSheet {
  code: string
  title: string
  state: SheetState
  road: Road
  /** Whether the sheet is for them, or they sit on it. */
  meant: boolean
  seats: { group: string; since: string; convener: boolean }[]
  /** When they opened the sheet first and last; null where they never did. */
  visited: { first: string; last: string } | null
  /** Nudges that went to them. */
  nudges: number
  /** Their newest request to change seats. */
  request: { state: string; reason: string; madeAt: string } | null
  tasks: PersonTask[]
  /** What was changed about their seats, lines and requests, oldest first. */
  changes: LedgerLine[]
  /** What groups are called that the changes and seats name. */
  groups: Record<string, string>
}

/** A task as one person has it: what was handed in for them, and the mark that counts for them. */
export interface PersonTask {
  code: string
  title: string
  /** False where nothing is handed in by them. */
  handsIn: boolean
  /** Whether the task differs for them. */
  differs: boolean
  handedAt: string | null
  late: boolean
  points: number | null
  most: number
  released: boolean
}

/** One student over all sheets of a course, as instructors see them. */
export interface PersonView {
  now: string
  course: { code: string; courseCode: string; title: string; zone: string }
  code: string
  name: string
  /** The roster’s name for them, where they are called otherwise; else empty. */
  listed: string
  /** The student number, or empty. */
  number: string
  email: string
  section: string | null
  role: Role
  status: EnrolmentStatus
  attributes: Record<string, string>
  /** Lists they are on. */
  lists: string[]
  sheets: PersonOnSheet[]
}

export const personPage = plainRoute<PersonView>()('GET', '/api/courses/:course/people/:person', 'instructor')
