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

/** What somebody has not read in one group, and where its page is. */
export interface UnreadGroup {
  group: string
  path: string
  subjects: readonly { title: string; posts: number }[]
}

/** Groups, and subjects of each, that one mail of unread talk names. */
const MOST_GROUPS = 20
const MOST_SUBJECTS = 8

/**
 * What somebody has not read in their groups: subjects and how many posts, and nobody's name.
 * @param origin the address under which the pages are
 */
export function unreadMail(to: string, groups: readonly UnreadGroup[], origin: string): MailToKeep {
  const posts = groups.flatMap(({ subjects }) => subjects).reduce((sum, one) => sum + one.posts, 0)
  const parts = groups.slice(0, MOST_GROUPS).map(({ group, path, subjects }) => {
    const lines = subjects.slice(0, MOST_SUBJECTS).map(({ title, posts }) => `“${title}”: ${posts} new`)
    const more = subjects.length > lines.length ? [`and ${subjects.length - lines.length} more subjects`] : []
    return [group, ...lines, ...more, `${origin}${path}`].join('\n')
  })
  const more = groups.length > parts.length ? [`And ${groups.length - parts.length} more groups.`] : []
  const end = 'You get this once a day at most, because you chose it on a group’s page; there it ends, too.'
  return {
    to,
    subject: posts === 1 ? '1 post of your groups is unread' : `${posts} posts of your groups are unread`,
    text: [...parts, ...more, end].join('\n\n'),
  }
}

/** Tells somebody whom a waiting line seated, and of the seat that was given up for it. */
export function fromLineMail(to: string, sheet: string, topic: string, left: string | null): MailToKeep {
  const givenUp =
    left === null ? '' : ` Your seat at ${left} is given up for it; somebody else can take it now.`
  return {
    to,
    subject: `${sheet}: you sit at ${topic}`,
    text: `A seat came free, and you were the first in line: you now sit at ${topic}.${givenUp}`,
  }
}

/** Tells a student how a request to change seats was answered, and where they sit by it; null: nowhere. */
export function requestMail(to: string, sheet: string, granted: boolean, sits: string | null): MailToKeep {
  const moved = sits === null ? 'You no longer have a seat on it.' : `You now sit at ${sits}.`
  return {
    to,
    subject: `${sheet}: your request was ${granted ? 'granted' : 'declined'}`,
    text: granted
      ? `Your instructor granted your request. ${moved}`
      : `Your instructor declined your request. You sit at ${sits} as before.`,
  }
}

/** Invites somebody to a free seat. `by` is null where the house rules name nobody. */
export function invitationMail(
  to: string,
  { sheet, by, topic, address }: { sheet: string; by: string | null; topic: string | null; address: string },
): MailToKeep {
  return {
    to,
    subject: `${sheet}: ${by === null ? 'you are invited' : `${by} invites you`} to ${topic ?? 'a group'}`,
    text: `${by ?? 'The group'} has a free seat for you at ${topic ?? 'their group'}. The seat is not kept for you: accept or decline at ${address}`,
  }
}

/** A message that somebody wrote to everybody of a group. */
export function messageMail(
  { to, course, address }: AboutGroup,
  { by, topic, subject, text }: NamingPost & { topic: string },
): MailToKeep {
  return {
    to,
    subject: `${course}: ${subject}`,
    text: `${text}\n\n${by} wrote this to everybody of “${topic}”. It is kept on the group’s page: ${address}`,
  }
}

/** The receipt of a hand-in. `by` is null for whoever handed it in. */
export function receiptMail(
  to: string,
  work: {
    course: string
    task: string
    by: string | null
    group: boolean
    late: boolean
    at: string
    /** Whether members are asked how the work was shared. */
    asks: boolean
  },
  files: readonly string[],
): MailToKeep {
  const { course, task, by, group, late, at, asks } = work
  const share = asks
    ? '\n\nHow was the work shared? You are asked on the page of your tasks, in private.'
    : ''
  const list = files.length > 0 ? `\n\nWith it:\n${files.join('\n')}` : ''
  return {
    to,
    subject: `${course}: “${task}” is handed in`,
    text: `${by ?? 'You'} handed in “${task}”${group ? ' for your group' : ''}, ${at}${late ? ', late' : ''}. Until it is due you can hand in another version or take it back.${share}${list}`,
  }
}

/** Tells somebody that their mark is out. The mark itself stands on the page alone. */
export function markedMail(to: string, course: string, task: string, sheet: string): MailToKeep {
  return {
    to,
    subject: `${course}: “${task}” is marked`,
    text: `Your mark for “${task}” on the sheet “${sheet}” is out, with what was said about it. Only you see yours.`,
  }
}

/** Tells somebody that works were drawn for their second reading. */
export function secondReadingMail(to: string, course: string, task: string, works: number): MailToKeep {
  const many = works === 1 ? 'One work was' : `${works} works were`
  return {
    to,
    subject: `${course}: a second reading of “${task}”`,
    text: `${many} drawn by lot for you to read a second time. You find them on the page of the sheet’s work; the first marks are not shown there, and what you give changes none.`,
  }
}

/** Tells somebody that the convener of a group seated them. Nobody is named: the rules may hide who it was. */
export function seatedByConvenerMail(to: string, course: string, sheet: string, topic: string): MailToKeep {
  return {
    to,
    subject: `${course}: you sit at ${topic}`,
    text: `Whoever answers for the group ${topic} on “${sheet}” gave you a seat there, as you had no group. While the sheet is open you can move as its rules let you.`,
  }
}

/** Tells somebody that the convener of their group took them out. */
export function takenOutMail(to: string, course: string, sheet: string, topic: string): MailToKeep {
  return {
    to,
    subject: `${course}: you no longer sit at ${topic}`,
    text: `Whoever answers for the group ${topic} on “${sheet}” took you out, within the first days. Choose another group while the sheet is open, or ask your instructor, who can undo it.`,
  }
}

/** Asks somebody on behalf of their convener whether they leave. */
export function askedToLeaveMail(to: string, course: string, sheet: string, topic: string): MailToKeep {
  return {
    to,
    subject: `${course}: would you leave ${topic}?`,
    text: `Whoever answers for the group ${topic} on “${sheet}” asks you to leave it. You stay unless you agree on the group’s page.`,
  }
}

/** An announcement, with the sheet's address below it. */
export function announcementMail(
  to: string,
  { course, sheet, text, address }: { course: string; sheet: string; text: string; address: string },
): MailToKeep {
  return { to, subject: `${course}: ${sheet}`, text: `${text}\n\n${address}` }
}

/** Tells somebody where they were seated: when, where, with whom and who leads, each where there is anything to say. */
export function seatedByPlanMail(
  to: string,
  seat: {
    sheet: string
    topic: string
    /** By wishes: which of theirs it is, as a sentence. */
    wish: string
    when: string
    place: string
    mates: string
    lead: string
    address: string
  },
): MailToKeep {
  const { sheet, topic, wish, when, place, mates, lead, address } = seat
  const lines = [
    `You now sit at ${topic} on the sheet “${sheet}”.`,
    wish,
    when && `When: ${when}.`,
    place && `Where: ${place}.`,
    mates && `With: ${mates}.`,
    lead && `Who answers for the group: ${lead}.`,
    address && `\n${address}`,
  ]
  return { to, subject: `${sheet}: you sit at ${topic}`, text: lines.filter(Boolean).join('\n') }
}

/** Tells somebody that what a mail told them of a seat was undone. */
export function seatTakenBackMail(
  to: string,
  { sheet, address }: { sheet: string; address: string },
): MailToKeep {
  return {
    to,
    subject: `${sheet}: what you were told of your seat was taken back`,
    text: [
      `A mail told you where you sit on the sheet “${sheet}”. Your instructor has taken that back; what holds now stands on the sheet, once it is out.`,
      address && `\n${address}`,
    ]
      .filter(Boolean)
      .join('\n'),
  }
}

/** A seat that somebody has and one that they would rather have, of which sheet, and where its page is. */
interface SwapOf {
  sheet: string
  from: string
  to: string
  address: string
}

/** Offers somebody a swap. Nobody who is in it is named. */
export function swapOfferedMail(
  mail: string,
  { sheet, from, to, address, people, until }: SwapOf & { people: number; until: string },
): MailToKeep {
  const others = people === 2 ? 'Somebody else is in it' : `${people - 1} others are in it`
  return {
    to: mail,
    subject: `${sheet}: a swap would bring you to ${to}`,
    text: [
      `You would have a seat at ${to} for yours at ${from}, which you said you would rather have. ${others}; it is made once everybody has accepted, and until then nothing changes.`,
      `Accept or decline it on the sheet’s page, until ${until}.${address && `\n\n${address}`}`,
    ].join('\n\n'),
  }
}

/** Tells somebody that a swap was made. */
export function swapMadeMail(mail: string, { sheet, from, to, address }: SwapOf): MailToKeep {
  return {
    to: mail,
    subject: `${sheet}: you sit at ${to}`,
    text: `Everybody in the swap has accepted: you now sit at ${to}, and no longer at ${from}.${address && `\n\n${address}`}`,
  }
}

/** Tells somebody who had accepted that a swap is not made. Why is not told: it would say what others did. */
export function swapEndedMail(mail: string, { sheet, from, to, address }: SwapOf): MailToKeep {
  return {
    to: mail,
    subject: `${sheet}: the swap to ${to} is not made`,
    text: `The swap that you accepted did not come about. You sit at ${from} as before. If another is found, it is offered to you.${address && `\n\n${address}`}`,
  }
}

/** Tells an instructor whom the rule for late enrolments seated since yesterday, each with the group. */
export function lateSeatedMail(
  to: string,
  { course, sheet, seated }: { course: string; sheet: string; seated: readonly string[] },
): MailToKeep {
  const many = seated.length === 1 ? 'Somebody new was seated' : `${seated.length} new people were seated`
  return {
    to,
    subject: `${course}: ${many.toLowerCase()} on ${sheet}`,
    text: `${many} by the rule for late enrolments, on the sheet “${sheet}”:\n\n${seated.join('\n')}\n\nEach can be undone in the sheet’s ledger.`,
  }
}

/** Tells an instructor that a house rule could not be carried out, and why. */
export function ruleTroubleMail(
  to: string,
  { course, sheet, rule, why }: { course: string; sheet: string; rule: 'close' | 'late'; why: string },
): MailToKeep {
  const what = rule === 'close' ? 'What is to happen when it closes' : 'Seating those who came later'
  return {
    to,
    subject: `${course}: a rule of ${sheet} could not be carried out`,
    text: `${what}, on the sheet “${sheet}”, could not be done. ${why} Open Settle to seat them by a plan or by hand; the rule is tried again when the sheet changes.`,
  }
}

/** Tells an instructor that a sheet has closed, what its house rule did, and how many are left. */
export function closedMail(
  to: string,
  closing: { course: string; sheet: string; moves: number; applied: boolean; left: number; better: boolean },
): MailToKeep {
  const { course, sheet, moves, applied, left, better } = closing
  const rest = left === 0 ? 'Nobody is left.' : `${left} could not be seated; Settle says why.`
  const done =
    moves === 0
      ? `The sheet “${sheet}” has closed. There was nobody to seat. ${rest}`
      : applied
        ? `The sheet “${sheet}” has closed and ${moves} were seated by plan. ${rest} Settle shows the plan and can take it back.`
        : `The sheet “${sheet}” has closed. A plan for ${moves} waits for you under Settle; nothing was applied. ${rest}`
  const text = better ? `${done} A better plan may exist: Settle says by how much.` : done
  return { to, subject: `${course}: ${sheet} has closed`, text }
}
