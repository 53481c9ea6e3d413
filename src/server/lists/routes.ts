import * as contract from '../../contract/lists.ts'
import type { DifferenceFor } from '../../core/task.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { PeopleList } from './store.ts'

/** Lists of people of a course. */
export function bindLists(serve: Serve, stores: Stores, unit: UnitOfWork): void {
  const { lists, roster } = stores
  const listOf = (course: Course, code: string): PeopleList => {
    const list = lists.byCode(course.id, code)
    if (!list) throw notFound('The course has no such list.')
    return list
  }
  /** Enrolments of students by their codes. Whoever is paused or has left stays on a list. */
  const studentsBy = (course: Course, codes: readonly string[]): number[] => {
    const students = new Map(
      roster.everybody(course.id).flatMap(({ id, code, role }) => (role === 'student' ? [[code, id]] : [])),
    )
    return codes.map((code, i) => {
      const id = students.get(code)
      if (id === undefined)
        throw fieldProblem(
          `people[${i}]`,
          'Somebody of the list is not a student of the course. Load the page anew.',
        )
      return id
    })
  }
  const refuseTwin = (course: Course, title: string, own: PeopleList | null): void => {
    const twin = lists
      .ofCourse(course.id)
      .some((list) => list.id !== own?.id && list.title.toLowerCase() === title.toLowerCase())
    if (twin) throw fieldProblem('title', 'The course has a list of that name. Choose another.')
  }

  serve(contract.lists, ({ course }) => listsView(course, stores))
  serve(contract.addList, ({ course, body, now }) => {
    refuseTwin(course, body.title, null)
    const people = studentsBy(course, body.people)
    const added = unit.onCourse(course, now, () => {
      const list = lists.add(course.id, body.title, body.note, now)
      lists.setMembers(list.id, people)
      return list.code
    })
    return { ...listsView(course, stores), added }
  })
  serve(contract.changeList, ({ course, params, body, now }) => {
    const list = listOf(course, params.list)
    if (list.removed_at !== null) throw notFound('That list was removed meanwhile.')
    if (body.title !== undefined) refuseTwin(course, body.title, list)
    const people = body.people && studentsBy(course, body.people)
    if (people?.length === 0 && usedBy(list, stores).length > 0)
      throw fieldProblem('people', 'A sheet or a task is for this list, so somebody has to be on it.')
    unit.onCourse(course, now, () => {
      lists.change(list.id, body.title ?? list.title, body.note ?? list.note)
      if (people) lists.setMembers(list.id, people)
    })
    return listsView(course, stores)
  })
  serve(contract.removeList, ({ course, params, now }) => {
    const list = listOf(course, params.list)
    const used = usedBy(list, stores)
    if (used.length > 0) {
      const words = `“${used.join('”, “')}” ${used.length === 1 ? 'is' : 'are'} for this list. Make them for others first, or leave the list.`
      throw new ProblemError('list-in-use', words)
    }
    unit.onCourse(course, now, () => lists.setRemoved(list.id, now))
    return listsView(course, stores)
  })
  serve(contract.restoreList, ({ course, params, now }) => {
    const list = listOf(course, params.list)
    unit.onCourse(course, now, () => lists.setRemoved(list.id, null))
    return listsView(course, stores)
  })
}

function usedBy(
  list: PeopleList,
  { sheets, tasks, differences }: Pick<Stores, 'sheets' | 'tasks' | 'differences'>,
): string[] {
  return sheets.ofCourse(list.course_id).flatMap((sheet) => [
    ...(sheet.for_whom === 'list' && sheet.list_id === list.id ? [sheet.title] : []),
    ...tasks.ofSheet(sheet.id).flatMap((task) => {
      const differs =
        differences.forList(list.id) && differences.ofTask(task.id).some((one) => isFor(one.for))
      return task.list_id === list.id || differs ? [task.title] : []
    }),
  ])

  function isFor(targets: readonly DifferenceFor<number>[]): boolean {
    return targets.some((target) => target.kind === 'list' && target.list === list.id)
  }
}

/** The lists of a course as its staff see them. */
function listsView(course: Course, stores: Stores): contract.ListsView {
  const { lists, roster } = stores
  const sections = new Map(roster.sections(course.id).map(({ id, code }) => [id, code]))
  const everybody = roster.classList(course, roster.everybody(course.id))
  return {
    lists: lists.ofCourse(course.id).map((list) => {
      const members = lists.members(list.id)
      const own = everybody.filter(({ id }) => members.has(id))
      const counts = (one: (typeof own)[number]) => one.role === 'student' && one.status === 'active'
      return {
        code: list.code,
        title: list.title,
        note: list.note,
        people: own.filter(counts).map(({ code, name, section_id }) => ({
          code,
          name,
          section: section_id === null ? null : (sections.get(section_id) ?? null),
        })),
        away: own.filter((one) => !counts(one)).map(({ code, name }) => ({ code, name })),
        sheets: usedBy(list, stores),
      }
    }),
  }
}
