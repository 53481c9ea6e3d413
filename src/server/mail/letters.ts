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
