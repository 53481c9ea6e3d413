import type { GroupLine } from '../../../contract/groups.ts'

/** What of the groups is looked at; an empty field takes all. */
export interface GroupFilter {
  /** Words of a group’s name or topic, or of a person in it. */
  sought: string
  /** A section by name, a tutor and a topic by code. */
  section: string
  tutor: string
  topic: string
}

export const NO_FILTER: GroupFilter = { sought: '', section: '', tutor: '', topic: '' }

/** The groups that fit, in the order they came. */
export function matching(
  groups: readonly GroupLine[],
  { sought, section, tutor, topic }: GroupFilter,
): GroupLine[] {
  const words = sought.trim().toLowerCase().split(/\s+/).filter(Boolean)
  return groups.filter((group) => {
    if (section !== '' && group.section !== section) return false
    if (topic !== '' && group.topic.code !== topic) return false
    if (tutor !== '' && !group.tutors.some(({ code }) => code === tutor)) return false
    const said = [
      group.name,
      group.topic.title,
      ...[...group.members, ...group.tutors].map(({ name }) => name),
    ]
      .join(' ')
      .toLowerCase()
    return words.every((word) => said.includes(word))
  })
}
