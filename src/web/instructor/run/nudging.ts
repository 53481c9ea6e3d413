import type { NudgePerson, NudgesView } from '../../../contract/nudges.ts'
import { fillFields } from '../../../core/nudge.ts'

/** Whom a nudge goes to, before single people are picked. */
export type Whom = 'not-ranked' | 'no-group' | 'never-opened' | 'opened' | 'seated' | 'everybody' | 'groups'

/** The people of a choice, in a section or in all; of the groups chosen, where groups are. */
export function peopleFor(
  people: readonly NudgePerson[],
  whom: Whom,
  section: string | null,
  chosen: ReadonlySet<string>,
): NudgePerson[] {
  const without = ({ groups }: NudgePerson) => groups.length === 0
  const fits: Record<Whom, (person: NudgePerson) => boolean> = {
    'not-ranked': ({ ranked }) => ranked === false,
    'no-group': without,
    'never-opened': (person) => without(person) && person.firstOpened === null,
    opened: (person) => without(person) && person.firstOpened !== null,
    seated: (person) => !without(person),
    everybody: () => true,
    groups: ({ groups }) => groups.some((group) => chosen.has(group)),
  }
  return people.filter((person) => fits[whom](person) && (section === null || person.section === section))
}

/** A text as one recipient would read it. */
export function asRead(
  text: string,
  person: Pick<NudgePerson, 'name' | 'firstName'>,
  group: string,
  fields: NudgesView['fields'],
): string {
  const { sheet, course, closes, timeLeft, link } = fields
  return fillFields(text, {
    name: person.name,
    'first name': person.firstName,
    sheet,
    course,
    closes,
    'time left': timeLeft,
    link,
    group,
  })
}

/** What a nudge says before anybody has written another. */
export const FIRST_TEXT = {
  subject: '{sheet}: you have no group yet',
  text: `Dear {first name},

you have no group yet on “{sheet}”. It closes {closes}, in {time left}.

Take a seat here: {link}`,
}

/** The same where topics are ranked. */
export const RANK_TEXT = {
  subject: '{sheet}: rank the topics',
  text: `Dear {first name},

you have ranked nothing yet on “{sheet}”, or too little for it to count. It closes {closes}, in {time left}; being early makes no difference, but who has ranked nothing is seated after the others.

Rank the topics here: {link}`,
}

export const GROUP_TEXT = {
  subject: '{sheet}: {group}',
  text: 'Dear {first name},\n\n',
}
