import type { Happening } from '../../contract/groups.ts'

/** What happened, after the name of who did it. */
const WORDS: Record<Happening['kind'], (what: string) => string> = {
  came: () => 'took a seat here',
  went: () => 'left the group',
  'handed-in': (what) => `handed in “${what}”`,
  'taken-back': (what) => `took “${what}” back`,
  subject: (what) => `opened “${what}”`,
  post: (what) => `replied in “${what}”`,
  file: (what) => `brought “${what}”`,
  'file-version': (what) => `brought a new version of “${what}”`,
  'file-removed': (what) => `took “${what}” away`,
  message: (what) => `wrote to all: “${what}”`,
  meeting: (what) => `set the meeting “${what}”`,
  place: (what) => `changed the group’s ${parts(what)}`,
}

/** A happening in words: `Ada Holt brought “plan.pdf”`. */
export function happeningWords({ by, kind, what }: Happening): string {
  return `${by || 'Haplon'} ${WORDS[kind](what)}`
}

/** `meeting name emblem` as it is said: “meeting link, name and emblem”. */
function parts(what: string): string {
  const named = what.split(' ').map((one) => (one === 'meeting' ? 'meeting link' : one))
  const last = named.at(-1) ?? ''
  return named.length > 1 ? `${named.slice(0, -1).join(', ')} and ${last}` : last
}
