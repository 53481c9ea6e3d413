import * as access from '../../src/contract/access.ts'
import * as announcements from '../../src/contract/announcements.ts'
import * as calendar from '../../src/contract/calendar.ts'
import * as conveners from '../../src/contract/conveners.ts'
import * as coursePage from '../../src/contract/coursePage.ts'
import * as courses from '../../src/contract/courses.ts'
import * as files from '../../src/contract/files.ts'
import * as find from '../../src/contract/find.ts'
import * as groups from '../../src/contract/groups.ts'
import * as invitations from '../../src/contract/invitations.ts'
import * as ledger from '../../src/contract/ledger.ts'
import * as lists from '../../src/contract/lists.ts'
import * as live from '../../src/contract/live.ts'
import * as marks from '../../src/contract/marks.ts'
import * as meetings from '../../src/contract/meetings.ts'
import * as nudges from '../../src/contract/nudges.ts'
import * as ownWork from '../../src/contract/ownWork.ts'
import * as people from '../../src/contract/people.ts'
import * as plans from '../../src/contract/plans.ts'
import * as programs from '../../src/contract/programs.ts'
import * as rehearsal from '../../src/contract/rehearsal.ts'
import * as remarks from '../../src/contract/remarks.ts'
import * as requests from '../../src/contract/requests.ts'
import * as roster from '../../src/contract/roster.ts'
import type { Route } from '../../src/contract/route.ts'
import * as seatings from '../../src/contract/seatings.ts'
import * as seats from '../../src/contract/seats.ts'
import * as session from '../../src/contract/session.ts'
import * as sheets from '../../src/contract/sheets.ts'
import * as signIns from '../../src/contract/signIns.ts'
import * as swaps from '../../src/contract/swaps.ts'
import * as talk from '../../src/contract/talk.ts'
import * as tasks from '../../src/contract/tasks.ts'
import * as topics from '../../src/contract/topics.ts'
import * as wishes from '../../src/contract/wishes.ts'

const isRoute = (value: unknown): value is Route =>
  typeof value === 'object' && value !== null && 'method' in value && 'path' in value && 'who' in value

/** The routes of some parts of the contract. */
export const routesOf = (...parts: readonly object[]): Route[] =>
  parts.flatMap((part) => Object.values(part).filter(isRoute))

/** Every route of the contract but those of the demo. */
export const EVERY_ROUTE = routesOf(
  access,
  session,
  signIns,
  find,
  announcements,
  calendar,
  courses,
  coursePage,
  roster,
  lists,
  people,
  sheets,
  topics,
  seats,
  files,
  groups,
  talk,
  invitations,
  programs,
  rehearsal,
  remarks,
  requests,
  live,
  seatings,
  plans,
  nudges,
  ledger,
  tasks,
  ownWork,
  marks,
  meetings,
  conveners,
  wishes,
  swaps,
)
