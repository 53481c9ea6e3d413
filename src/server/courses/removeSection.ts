import type { Restored } from '../../contract/restored.ts'
import { counted } from '../../core/counted.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { Section } from '../roster/store.ts'
import { bringBack, seatWhoFit } from '../seats/bringBack.ts'
import { askFirst, type Edit, note, unseat } from '../sheets/edit.ts'
import type { Sheet } from '../sheets/store.ts'
import { placesOf } from '../sheets/topicEdits.ts'
import type { Group } from '../sheets/topicStore.ts'
import { type CourseChange, refuseTwin } from './sections.ts'

/** What the removal of a section changed, by ids, for putting it back. */
interface Removal {
  /** The section that took its people; null where none did. */
  into: number | null
  people: number[]
  /** Sheets that were for it, and those of them that are for `into` since. */
  meant: number[]
  added: number[]
  /** Seats that went along to a group of the same topic: who, by code, from which group to which. */
  moved: { sheet: number; person: string; from: string; to: string }[]
}

/** Why somebody lost a seat whose group went with its section. */
const REMOVED = 'section-removed'

/**
 * Takes a section off a course. Its people come into another section, or into none; who sits in one of its groups goes
 * along to the group of the same topic there as far as nothing speaks against it, and loses the seat otherwise. Asks
 * first where it concerns anybody. Sheets that are archived keep their groups as they were.
 * @throws ProblemError `section-in-use` where a sheet would be for nobody, `seated-affected` as long as not confirmed
 */
export function removeSection(
  change: CourseChange,
  section: Section,
  into: Section | null,
  confirmed: boolean,
): void {
  const { course, now, stores } = change
  const { roster, sheets } = stores
  if (into?.id === section.id) throw fieldProblem('into', 'Choose another section.')
  const people = roster.everybody(course.id).filter(({ section_id }) => section_id === section.id)
  const current = sheets.ofCourse(course.id).filter(({ archived_at }) => archived_at === null)
  const removal: Removal = {
    into: into?.id ?? null,
    people: people.map(({ id }) => id),
    ...meantFor(current, section, into, change),
    moved: [],
  }
  for (const { id } of people) roster.putInSection(id, removal.into)
  const lost: number[] = []
  for (const sheet of current) {
    const edit = { sheet, ...change }
    const gone = sheets.groups(sheet.id).filter(({ section_id }) => section_id === section.id)
    const left = roster.sections(course.id).filter(({ id }) => id !== section.id)
    for (const topicId of new Set(gone.map(({ topic_id }) => topic_id)))
      sheets.spreadTopic(topicId, [...placesLeft(left), section.id], now)
    const alone = left.length === 0
    removal.moved.push(...moveAlong(edit, gone, alone ? null : removal.into, alone || into !== null))
    lost.push(...gone.flatMap(({ id }) => stores.seats.ofGroup(id)).map(({ enrolment_id }) => enrolment_id))
    unseat(edit, gone, REMOVED)
    for (const topicId of new Set(gone.map(({ topic_id }) => topic_id)))
      sheets.spreadTopic(topicId, placesLeft(left), now)
    note(edit, 'section-removed', { section: section.name, into: into?.name ?? null })
  }
  const students = people.filter(({ role, status }) => role === 'student' && status === 'active')
  const where = into ? `come into ${into.name}` : 'have no section'
  const seats = removal.moved.length
  askFirst(
    change,
    confirmed,
    lost.length > 0 ? lost : students.map(({ id }) => id),
    [
      `${counted(students.length, 'student')} ${where}.`,
      seats > 0 && `${counted(seats, 'seat goes', 'seats go')} along to the same topic.`,
      lost.length > 0 && `${counted(lost.length, 'person has', 'people have')} no group afterwards:`,
    ]
      .filter(Boolean)
      .join(' '),
  )
  roster.removeSection(section.id, now, JSON.stringify(removal))
  // What the roster was before its last change named this section.
  roster.dropUndo(course.id)
}

const placesLeft = (left: readonly Section[]): (number | null)[] =>
  left.length === 0 ? [null] : left.map(({ id }) => id)

/** Sheets that were for the section are for the one that takes its people. */
function meantFor(
  current: readonly Sheet[],
  section: Section,
  into: Section | null,
  { stores }: CourseChange,
): Pick<Removal, 'meant' | 'added'> {
  const meant: number[] = []
  const added: number[] = []
  for (const sheet of current) {
    const before = stores.sheets.sectionsFor(sheet.id)
    if (!before.includes(section.id)) continue
    meant.push(sheet.id)
    const after = before.filter((id) => id !== section.id)
    if (into && !after.includes(into.id)) {
      after.push(into.id)
      added.push(sheet.id)
    }
    if (after.length === 0)
      throw new ProblemError(
        'section-in-use',
        `“${sheet.title}” is for ${section.name} alone, and would be for nobody. Change for whom it is first, or merge the section into another.`,
      )
    stores.sheets.setSectionsFor(sheet.id, after)
  }
  return { meant, added }
}

/** Moves those who sit in groups that go away to the group of the same topic in a place; gives the seats that moved. */
function moveAlong(
  { sheet, person, now, stores }: Edit,
  gone: readonly Group[],
  place: number | null,
  wanted: boolean,
): Removal['moved'] {
  if (!wanted) return []
  const groups = stores.sheets.groups(sheet.id)
  const changes = gone.flatMap((group) => {
    const target = groups.find(
      ({ topic_id, section_id }) => topic_id === group.topic_id && section_id === place,
    )
    if (!target) return []
    return stores.seats.ofGroup(group.id).flatMap(({ enrolment_id }) => {
      const code = stores.roster.enrolment(enrolment_id)?.code
      return code ? [{ person: code, from: group.code, to: target.code }] : []
    })
  })
  const { made } = seatWhoFit({ sheet, actorId: person.id, now, stores }, changes, REMOVED)
  return made.flatMap(({ person, from, to }) =>
    from !== null && to !== null ? [{ sheet: sheet.id, person, from, to }] : [],
  )
}

/**
 * Puts a removed section back: its people as far as they are still where its removal put them, its groups, and who sat
 * there as far as they can return.
 * @throws ProblemError where another section has its name by now
 */
export function restoreSection(change: CourseChange, code: string): Restored {
  const { course, person, now, stores } = change
  const { roster, sheets } = stores
  const section = roster.everySection(course.id).find((one) => one.code === code)
  if (!section?.removed_at || section.removal === null) return { seated: 0, out: [] }
  refuseTwin(roster.sections(course.id), section.name)
  const removal = JSON.parse(section.removal) as Removal
  const alone = roster.sections(course.id).length === 0
  roster.restoreSection(section.id)
  for (const id of removal.people)
    if (roster.enrolment(id)?.section_id === removal.into) roster.putInSection(id, section.id)
  roster.dropUndo(course.id)
  const restored: Restored = { seated: 0, out: [] }
  for (const sheet of sheets.ofCourse(course.id).filter(({ archived_at }) => archived_at === null)) {
    const edit = { sheet, ...change }
    if (removal.meant.includes(sheet.id)) {
      const others = sheets
        .sectionsFor(sheet.id)
        .filter((id) => id !== section.id && !(removal.added.includes(sheet.id) && id === removal.into))
      sheets.setSectionsFor(sheet.id, [...others, section.id])
    }
    if (alone) keepForEverybody(edit, section)
    const following = { sheet, actorId: person.id, now, stores }
    const before = sheets.groups(sheet.id)
    const spread = sheets.topics(sheet.id).map((topic) => ({
      id: topic.id,
      places: placesOf(edit, topic.mixed ?? sheet.mixed),
      there: before.filter(({ topic_id }) => topic_id === topic.id),
    }))
    // Where it was the last section, the groups for everybody stay until those who go back have gone.
    for (const { id, places, there } of spread)
      sheets.spreadTopic(id, [...places, ...there.map(({ section_id }) => section_id)], now)
    const back = removal.moved.filter((one) => one.sheet === sheet.id)
    seatWhoFit(
      following,
      back.map(({ person, from, to }) => ({ person, from: to, to: from })),
      'brought-back',
    )
    const gone = spread.flatMap(({ places, there }) =>
      there.filter(({ section_id }) => !places.includes(section_id)),
    )
    unseat(edit, gone, 'topic-spread')
    for (const { id, places } of spread) sheets.spreadTopic(id, places, now)
    const own = sheets.groups(sheet.id).filter(({ section_id }) => section_id === section.id)
    const again = bringBack(following, own, REMOVED)
    restored.seated += again.seated
    restored.out.push(...again.out)
    note(edit, 'section-restored', { section: section.name })
  }
  return restored
}

/** Topics that came while the course had no section stay as they are: one group for everybody. */
function keepForEverybody({ sheet, stores }: Edit, section: Section): void {
  const groups = stores.sheets.everyGroup(sheet.id)
  for (const topic of stores.sheets.topics(sheet.id)) {
    const had = groups.some(({ topic_id, section_id }) => topic_id === topic.id && section_id === section.id)
    if (!had && topic.mixed === null) stores.sheets.changeTopic(topic.id, { ...topic, mixed: 1 })
  }
}
