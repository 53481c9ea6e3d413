import { limitOf } from '../../contract/fields.ts'
import type { NewTopic } from '../../contract/topics.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { fieldProblem, within } from '../http/problem.ts'
import { differences, type Edit, note, slotOf } from './edit.ts'
import { holdIn } from './heldSeats.ts'
import type { Group, GroupException, Topic } from './topicStore.ts'

/** A topic that was just added, with what its groups are to have of their own. */
interface Added {
  topic: Topic
  groups: NonNullable<NewTopic['groups']>
  /** Where the topic stands in the body; empty where it is the body. */
  part: string
}

/** Gives groups of new topics, in which nobody sits, what is theirs alone: other numbers, a date, seats kept free. */
export function setApart(edit: Edit, added: readonly Added[]): void {
  if (added.every(({ groups }) => groups.length === 0)) return
  const { sheet, stores, course } = edit
  const sections = new Map(stores.roster.sections(course.id).map(({ id, code }) => [code, id]))
  const students = stores.audience.students(sheet)
  const placeOf = (topicId: number, sectionId: number | null) => `${topicId} ${sectionId}`
  const at = new Map(
    stores.sheets.groups(sheet.id).map((group) => [placeOf(group.topic_id, group.section_id), group]),
  )
  const seen = new Set<number>()
  for (const { topic, groups, part } of added) {
    groups.forEach((given, i) => {
      within(part === '' ? `groups[${i}]` : `${part}.groups[${i}]`, () => {
        const section = given.section ?? null
        const place = section === null ? null : sections.get(section)
        const group = place === undefined ? undefined : at.get(placeOf(topic.id, place))
        if (!group) throw fieldProblem('section', 'The topic has no group there. Load the page anew.')
        if (seen.has(group.id)) throw fieldProblem('section', 'The same group stands before it already.')
        seen.add(group.id)
        const next = change(edit, group, given)
        const limit = next.own_seats ?? topic.seats ?? sheet.seats
        const held: (number | null)[] = []
        given.held?.forEach(({ person = null, note: words = '' }, n) => {
          const free = limit === NO_LIMIT || held.length < limit
          held.push(
            within(`held[${n}]`, () => holdIn(edit, { person, words }, students, { group, held, free })),
          )
        })
      })
    })
  }
}

function change(edit: Edit, group: Group, given: Added['groups'][number]): GroupException {
  const { starts_at, ends_at } = slotOf(edit, given, { starts_at: null, ends_at: null })
  const next: GroupException = {
    offered: given.offered === false ? 0 : 1,
    own_seats: limitOf(given.seats ?? null),
    own_floor: given.floor ?? null,
    own_place: given.place ?? null,
    own_link: given.link ?? null,
    own_starts_at: starts_at,
    own_ends_at: ends_at,
  }
  edit.stores.sheets.changeGroup(group.id, next)
  const changed = differences<GroupException>(group, next)
  if (Object.keys(changed).length > 0) note(edit, 'group-changed', { group: group.code, ...changed })
  return next
}
