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
    // Typed with a gap or a hyphen, or pasted with the sentence around it.
    .transform(
      (value: string) => /(?<!\d)(\d{3})[\s-]?(\d{3})(?!\d)/.exec(value)?.slice(1).join('') ?? value.trim(),
    )
    .required('Type the six digits from the mail.')
    .max(2_000, 'The code is six digits.')
    .matches(/^\d{6}$/, 'The code is six digits.'),
})

/** Whether this installation is the demo, and the server's time (UTC ISO text). */
export const about = plainRoute<{ demo: boolean; now: string }>()('GET', '/api/about', 'anyone')
/** What came of asking for a code; the same for an address that somebody has and one that nobody has. */
export interface CodeAsked {
  sentTo: string
  /** Minutes for which the code works. */
  minutes: number
  /** Where too many were asked for and no mail is sent: when the next can be; null where one is on its way. */
  nextAt: string | null
}

/** Sends a one-time code, if the address is known. The answer is the same either way. */
export const askCode = route<CodeAsked>()('POST', '/api/access/codes', 'anyone', codeAsk)
/** Signs in with a one-time code and sets the session cookie. */
export const signIn = route<Me>()('POST', '/api/access/session', 'anyone', codeEntry)
/** Ends the session. */
export const signOut = plainRoute<null>()('DELETE', '/api/access/session', 'signed-in')
export const me = plainRoute<Me>()('GET', '/api/me', 'signed-in')
