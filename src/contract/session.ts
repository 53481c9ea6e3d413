import type { Role } from '../core/roster.ts'
import { plainRoute } from './route.ts'

/** The person behind a session, and where they belong. */
export interface Me {
  email: string
  name: string
  mayAddCourses: boolean
  enrolments: { course: string; courseCode: string; courseTitle: string; role: Role }[]
}

/** Whether this installation is the demo, and the server's time (UTC ISO text). */
export const about = plainRoute<{ demo: boolean; now: string }>()('GET', '/api/about', 'anyone')
/** Ends the session. */
export const signOut = plainRoute<null>()('DELETE', '/api/access/session', 'signed-in')
export const me = plainRoute<Me>()('GET', '/api/me', 'signed-in')
