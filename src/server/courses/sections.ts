import { LIMITS } from '../../core/limits.ts'
import { fieldProblem } from '../http/problem.ts'
import type { Person, Section } from '../roster/store.ts'
import { openInNew, placesOf } from '../sheets/topicEdits.ts'
import type { Stores } from '../stores.ts'
import type { Course } from './store.ts'

/** A change of a course's sections: who makes it, and when. The caller holds the transaction. */
export interface CourseChange {
  course: Course
  person: Person
  now: string
  stores: Stores
}

/**
 * Adds a section to a course; topics that have a group in each section get one in it. Where it is the first, groups that
 * there are stay as they are: their sheets have one group for all sections from then on.
 * @throws ProblemError beside the name
 */
export function addSection(change: CourseChange, name: string): void {
  const { course, person, now, stores } = change
  const known = stores.roster.sections(course.id)
  refuseTwin(known, name)
  if (known.length >= LIMITS.sections)
    throw fieldProblem('name', `A course holds ${LIMITS.sections} sections at most.`)
  const sheets = stores.sheets.ofCourse(course.id)
  stores.roster.addSection(course.id, name, known.length + 1)
  for (const sheet of sheets) {
    if (known.length === 0) {
      stores.sheets.change(sheet.id, { ...sheet, mixed: 1 })
    } else {
      const edit = { sheet, course, person, now, stores }
      const before = stores.sheets.groups(sheet.id)
      for (const topic of stores.sheets.topics(sheet.id))
        stores.sheets.spreadTopic(topic.id, placesOf(edit, topic.mixed ?? sheet.mixed), now)
      openInNew(edit, before)
    }
    const detail = { section: name }
    stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'section-added', detail })
  }
}

/** Gives a section another name. */
export function renameSection({ course, stores }: CourseChange, section: Section, name: string): void {
  refuseTwin(
    stores.roster.sections(course.id).filter(({ id }) => id !== section.id),
    name,
  )
  stores.roster.renameSection(section.id, name)
}

/** @throws ProblemError beside the name, where another section has it */
export function refuseTwin(sections: readonly Section[], name: string): void {
  if (sections.some((one) => one.name.toLowerCase() === name.toLowerCase()))
    throw fieldProblem(
      'name',
      'The course has a section of that name. Choose another.',
      'section-names-repeat',
    )
}
