import type { MailToKeep } from './store.ts'

/** A mail to sign in: a code for the browser that asked, and a link that works anywhere. */
export function signInMail(to: string, code: string | null, link: string, minutes: number): MailToKeep {
  return {
    to,
    // The subject shows on locked phones, so the code does not stand there.
    subject: 'Signing in to Haplon',
    text: [
      ...(code === null ? [] : [`Your code is ${code}. Type it on the page where you asked for it.`]),
      `${code === null ? 'Open' : 'Or open'} this link, in the browser where you want to be signed in:\n${link}`,
      `Either works for ${minutes} minutes, once. If you did not ask for it, ignore this mail: without it nobody gets in.`,
    ].join('\n\n'),
  }
}

/** Tells somebody that wrong codes were typed for their address. */
export function guessedMail(to: string): MailToKeep {
  return {
    to,
    subject: 'Haplon: wrong codes were typed for your address',
    text: 'Somebody asked for a code to sign in with your address and typed wrong ones, five times. They did not get in, and can try nothing more with that mail. If it was you, ask for another code, or open the link in the newest mail. If it was not, there is nothing to do; you are told this once a day at most.',
  }
}

/** Whom a mail about a group goes to, of which course, and where its page is. */
interface AboutGroup {
  to: string
  course: string
  address: string
}

interface NamingPost {
  by: string
  subject: string
  text: string
}

/** Tells somebody that a post names them. */
export function namedMail(
  { to, course, address }: AboutGroup,
  { by, subject, text }: NamingPost,
): MailToKeep {
  return {
    to,
    subject: `${course}: ${by} named you in “${subject}”`,
    text: `${text}\n\nReply on the group’s page: ${address}`,
  }
}

/** Characters of each post that a digest quotes. */
const QUOTED = 300

/** Tells somebody of several posts that name them, in one mail. */
export function namedDigestMail(
  { to, course, address }: AboutGroup,
  posts: readonly NamingPost[],
): MailToKeep {
  const shown = posts.slice(0, 10).map(({ by, subject, text }) => {
    const quoted = text.length > QUOTED ? `${text.slice(0, QUOTED)} …` : text
    return `${by}, in “${subject}”:\n${quoted}`
  })
  const more = posts.length > shown.length ? [`And ${posts.length - shown.length} more.`] : []
  return {
    to,
    subject: `${course}: you were named in ${posts.length} posts`,
    text: [...shown, ...more, `Read and reply on the group’s page: ${address}`].join('\n\n'),
  }
}
