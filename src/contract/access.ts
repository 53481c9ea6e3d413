import { object, string } from 'yup'
import { isEmail, normalEmail } from '../core/email.ts'
import type { Role } from '../core/roster.ts'
import { plainRoute, route } from './route.ts'

/** The person behind a session, and where they belong. */
export interface Me {
  email: string
  name: string
  mayAddCourses: boolean
  enrolments: { course: string; courseCode: string; courseTitle: string; role: Role }[]
}

const email = string()
  .transform((value: string) => normalEmail(value))
  .required('Type your email address.')
  .max(254, 'That is too long for an email address.')
  .test('email', 'That is not an email address: one @ and a domain are needed.', (value) =>
    isEmail(value ?? ''),
  )

export const codeAsk = object({ email })
export const codeEntry = object({
  email,
  code: string()
    .transform((value: string) => value.replace(/\s/g, ''))
    .required('Type the six digits from the mail.')
    .matches(/^\d{6}$/, 'The code is six digits.'),
})

/** Whether this installation is the demo, and the server's time (UTC ISO text). */
export const about = plainRoute<{ demo: boolean; now: string }>()('GET', '/api/about', 'anyone')
/** Sends a one-time code, if the address is known. The answer is the same either way. */
export const askCode = route<{ sentTo: string; minutes: number }>()(
  'POST',
  '/api/access/codes',
  'anyone',
  codeAsk,
)
/** Signs in with a one-time code and sets the session cookie. */
export const signIn = route<Me>()('POST', '/api/access/session', 'anyone', codeEntry)
/** Ends the session. */
export const signOut = plainRoute<null>()('DELETE', '/api/access/session', 'signed-in')
export const me = plainRoute<Me>()('GET', '/api/me', 'signed-in')
