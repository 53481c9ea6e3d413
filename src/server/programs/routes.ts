import * as contract from '../../contract/programs.ts'
import type { Course } from '../courses/store.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import { newToken } from './tokens.ts'

/** Tokens with which programs act in a course: made, shown and ended by its instructors. */
export function bindPrograms(serve: Serve, { programs, roster }: Stores): void {
  const view = (course: Course): contract.ProgramsView => {
    const names = new Map(roster.everybody(course.id).map(({ person_id, name }) => [person_id, name]))
    return {
      tokens: programs.ofCourse(course.id).map(({ code, name, may_write, made_at, person_id, used_at }) => ({
        code,
        name,
        mayWrite: may_write === 1,
        madeAt: made_at,
        by: names.get(person_id) ?? '',
        usedAt: used_at,
      })),
    }
  }
  serve(contract.programs, ({ course }) => view(course))
  serve(contract.addProgram, ({ course, person, body, now }) => {
    if (programs.ofCourse(course.id).length >= contract.MOST_TOKENS) {
      const detail = `A course has ${contract.MOST_TOKENS} tokens at most. End one that is not used any more.`
      throw new ProblemError('too-many-tokens', detail)
    }
    const { token, hash } = newToken()
    programs.add(
      { courseId: course.id, personId: person.id, name: body.name, hash, mayWrite: body.mayWrite },
      now,
    )
    return { ...view(course), token }
  })
  serve(contract.endProgram, ({ course, params, now }) => {
    if (!programs.end(course.id, params.program, now))
      throw notFound('There is no such token any more. It lets nobody in.')
    return view(course)
  })
}
