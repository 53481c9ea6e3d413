import { object, string } from 'yup'
import { isEmail, normalEmail } from '../core/email.ts'
import { route } from './route.ts'
import type { Me } from './session.ts'

const email = string()
  .transform((value: unknown) => (typeof value === 'string' ? normalEmail(value) : value))
  .required('Type your email address.')
  .max(254, 'That is too long for an email address.')
  .test('email', 'That is not an email address: one @ and a domain are needed.', (value) =>
    isEmail(value ?? ''),
  )

/** The six digits in what was typed or pasted; what was typed where there are none. */
function codeIn(typed: string): string {
  return /(?<!\d)(\d{3})[\s-]?(\d{3})(?!\d)/.exec(typed)?.slice(1).join('') ?? typed.trim()
}

/** A path of ours that somebody was on the way to. */
const next = string()
  .max(400)
  .matches(/^\/(?![/\\])/)

export const codeAsk = object({ email, next })
/** The token that a mail's link carries behind its #, where no server and no log sees it. */
const linkToken = object({ token: string().required().max(100) })

export const codeEntry = object({
  email,
  code: string()
    // Typed with a gap or a hyphen, or pasted with the sentence around it.
    .transform((value: unknown) => (typeof value === 'string' ? codeIn(value) : value))
    .required('Type the six digits from the mail.')
    .max(2_000, 'The code is six digits.')
    .matches(/^\d{6}$/, 'The code is six digits.'),
})

/** What came of asking for a code; the same for an address that somebody has and one that nobody has. */
export interface CodeAsked {
  sentTo: string
  /** Minutes for which the code works. */
  minutes: number
  /** Where too many were asked for and no mail is sent: when the next can be; null where one is on its way. */
  nextAt: string | null
  /** False where the mail holds its link alone: too many wrong codes were typed lately. */
  withCode: boolean
}

/** Whom a mail's link lets in. `here`: it was asked for in this very browser. */
export interface LinkLook {
  email: string
  here: boolean
}

/** Sends a mail with a one-time code and a link, if the address is known. The answer is the same either way. */
export const askCode = route<CodeAsked>()('POST', '/api/access/codes', 'anyone', codeAsk)
/** Signs in with a one-time code, in the browser that asked for it, and sets the session cookie. */
export const signIn = route<Me>()('POST', '/api/access/session', 'anyone', codeEntry)
/** Whom the link of a mail lets in, before it does. Changes nothing, so that a mail program that looks ahead spends nothing. */
export const lookAtLink = route<LinkLook>()('POST', '/api/access/link/look', 'anyone', linkToken)
/** Signs in with the link of a mail, in whatever browser it was opened, and sets the session cookie. */
export const signInByLink = route<Me>()('POST', '/api/access/link', 'anyone', linkToken)
