import { mixed, object, string } from 'yup'
import type { SectionView } from './courses.ts'
import { plainRoute, route } from './route.ts'
import type { SheetHead } from './sheets.ts'

/** A sheet as the instructor watches it fill. */
export interface RunView extends SheetHead {
  sections: SectionView[]
  topics: { code: string; title: string; place: string }[]
  groups: { code: string; topic: string; section: string | null; seats: number; floor: number }[]
  /** Active students of the roster. */
  people: { code: string; name: string; section: string | null }[]
  /** Every seat taken, oldest first. */
  seats: { group: string; person: string; at: string }[]
}

/** A group as a student may see it. Names are there only where the house rules show them. */
export interface StudentGroup {
  code: string
  title: string
  brief: string
  place: string
  seats: number
  taken: number
}

export interface StudentSheet extends SheetHead {
  instructions: string
  contact: string
  section: string | null
  groups: StudentGroup[]
  /** The student's own seat, with the names of those who sit there too. */
  seat: { group: string; at: string; mates: string[] } | null
}

/** What a student's first page says of one sheet. */
export interface StudentStub {
  code: string
  title: string
  courseTitle: string
  courseCode: string
  section: string | null
  zone: string
  state: 'scheduled' | 'open' | 'closed' | 'archived'
  opensAt: string | null
  closesAt: string | null
  groups: number
  groupsWithRoom: number
  seat: { title: string; place: string; seats: number; taken: number; mates: string[] } | null
}

export interface StudentHome {
  now: string
  sheets: StudentStub[]
}

export const claimBody = object({
  /** Chosen by the asker, new for each claim and the same for each retry of it. */
  key: string()
    .required('A claim carries a key.')
    .matches(/^[\w-]{8,64}$/, 'A key is 8 to 64 letters, digits, hyphens or underscores.'),
  kind: mixed<'take' | 'move' | 'give-up'>()
    .oneOf(['take', 'move', 'give-up'], 'A claim takes, moves or gives up.')
    .required('A claim takes, moves or gives up.'),
  /** The group whose seat is left; for moving and giving up. */
  from: string().when('kind', ([kind], schema) =>
    kind === 'take' ? schema.strip() : schema.required('Say which seat you leave.'),
  ),
  /** The group in which a seat is wanted; for taking and moving. */
  to: string().when('kind', ([kind], schema) =>
    kind === 'give-up' ? schema.strip() : schema.required('Say which group you want.'),
  ),
})

/** A granted claim: the sheet as it then stands for the student. */
export const claim = route<StudentSheet>()('POST', '/api/sheets/:sheet/claims', 'student', claimBody)
export const studentHome = plainRoute<StudentHome>()('GET', '/api/home', 'signed-in')
export const studentSheet = plainRoute<StudentSheet>()('GET', '/api/sheets/:sheet/student', 'student')
export const run = plainRoute<RunView>()('GET', '/api/sheets/:sheet/run', 'staff')
