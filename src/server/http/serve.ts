import express, { type IRouter, type Request, type RequestHandler, type Response } from 'express'
import { type Access, type CourseAccess, forPrograms, type Params, type Route } from '../../contract/route.ts'
import type { Instant } from '../../core/instant.ts'
import type { Sessions } from '../access/sessions.ts'
import type { Clock } from '../clock.ts'
import type { Course, CourseStore } from '../courses/store.ts'
import type { ProgramTokenRow } from '../programs/store.ts'
import type { Programs } from '../programs/tokens.ts'
import type { Enrolment, Person, RosterStore } from '../roster/store.ts'
import type { Audience } from '../sheets/audience.ts'
import type { Sheet, SheetStore } from '../sheets/store.ts'
import { boundsOf, checkBytes, checkLengths, checkShape } from './bounds.ts'
import { checkInTurns } from './inTurns.ts'
import { sendJson } from './json.ts'
import { notFound, ProblemError, type Refuse } from './problem.ts'

/** What a handler is given: what the path and the session stand for, loaded and checked. */
export type Context<Path extends string, Who extends Access, Body> = {
  req: Request
  res: Response
  now: Instant
  params: Params<Path>
  body: Body
} & (Who extends 'anyone' ? unknown : { person: Person }) &
  (Who extends CourseAccess ? { course: Course; enrolment: Enrolment } : unknown) &
  (Path extends `${string}:sheet${string}` ? { sheet: Sheet } : unknown)

/** Answers a route. What it returns is sent as JSON; undefined means that it has answered by itself. */
export type Handler<Path extends string, Who extends Access, Body, Answer> = (
  context: Context<Path, Who, Body>,
) => Answer | undefined | Promise<Answer | undefined>

export interface ServeTools {
  programs: Programs
  sessions: Sessions
  roster: RosterStore
  courses: CourseStore
  sheets: SheetStore
  audience: Audience
  clock: Clock
  mayAddCourses: (email: string) => boolean
  refuse: Refuse
}

export type Serve = ReturnType<typeof createServe>

/**
 * Makes the one way in which routes are bound: who may call, and that the sheet is not archived, is checked before the
 * body is read, its size and the lengths of its lists before what is in them, all of it before the handler runs.
 * Somebody outside a course gets the answer for something that does not exist.
 */
export function createServe(router: IRouter, tools: ServeTools) {
  return function serve<Path extends string, Who extends Access, Body, Answer>(
    route: Route<Path, Who, Body, Answer>,
    handler: Handler<Path, Who, Body, Answer>,
  ): void {
    const method = route.method.toLowerCase() as 'get' | 'post' | 'patch' | 'put' | 'delete'
    const { body: schema } = route
    const bounds = schema && boundsOf(schema)
    const check = schema && checkInTurns(schema)
    const parse =
      schema && express.json({ limit: route.bytes, verify: (_req, _res, bytes) => checkBytes(bytes) })
    const answered = async (req: Request, res: Response): Promise<void> => {
      const now = tools.clock()
      const allowed = admit(route.who, req, now, tools)
      if (route.method !== 'GET' && !route.whileArchived) refuseArchived(allowed)
      if (parse) {
        await parsed(parse, req, res)
        checkShape(req.body)
        if (bounds) checkLengths(bounds, req.body)
      }
      const body = check ? await check(req.body ?? {}) : null
      const context = { req, res, now, params: req.params, body, ...allowed } as unknown as Context<
        Path,
        Who,
        Body
      >
      const answer = await handler(context)
      if (answer !== undefined && !res.headersSent) sendJson(res, answer)
    }
    router[method](route.path, async (req, res) => {
      try {
        await answered(req, res)
      } catch (error) {
        // What is handed on instead is held against every route that comes after, which costs more than the refusal.
        if (res.headersSent) throw error
        tools.refuse(error, res)
      }
    })
  }
}

/** What is archived can be read, and is not changed. */
function refuseArchived({ course, sheet, enrolment }: Admitted): void {
  if (!sheet && course) refuseArchivedCourse(course)
  if (!sheet || sheet.archived_at === null) return
  const who =
    enrolment?.role === 'instructor' ? 'Restore it before you change it.' : 'It can be read, and not changed.'
  throw new ProblemError('sheet-archived', `The sheet is archived. ${who}`)
}

/** @throws ProblemError where a course is put away: it is restored as a whole */
export function refuseArchivedCourse({ archived_at }: Course): void {
  if (archived_at !== null)
    throw new ProblemError('course-archived', 'The course is archived. Restore it before you change it.')
}

/** Reads a body. Somebody who may not call has been refused before. */
function parsed(parse: RequestHandler, req: Request, res: Response): Promise<void> {
  return new Promise((resolve, reject) => {
    void parse(req, res, (error?: unknown) => (error === undefined ? resolve() : reject(error)))
  })
}

interface Admitted {
  person?: Person
  course?: Course
  enrolment?: Enrolment
  sheet?: Sheet
}

function admit(who: Access, req: Request, now: Instant, tools: ServeTools): Admitted {
  if (who === 'anyone') return {}
  const program = tools.programs.of(req)
  if (program) return admitProgram(who, req, now, program, tools)
  const person = tools.sessions.personOf(req, now)
  if (!person) throw new ProblemError('not-signed-in', 'Sign in, then try again.')
  if (who === 'signed-in') return { person }
  if (who === 'course-adder') {
    if (tools.mayAddCourses(person.email)) return { person }
    throw new ProblemError('not-allowed', 'Your address is not among those that may add courses.')
  }
  return { person, ...admitToCourse(who, req, now, person, tools) }
}

/**
 * Lets a program do in its course what the instructor who made its token may do there: read, or read and write. What is
 * somebody's own (sign-ins, a student's seats) is no program's, and neither are tokens.
 */
function admitProgram(
  who: Access,
  req: Request,
  now: Instant,
  { person_id, course_id, may_write }: ProgramTokenRow,
  tools: ServeTools,
): Admitted {
  if (!forPrograms({ who, path: String(req.route?.path ?? '') }))
    throw new ProblemError('not-for-programs', 'A token is for what instructors do in one course.')
  if (req.method !== 'GET' && may_write === 0)
    throw new ProblemError('not-for-programs', 'This token may only read. Make one that may write, too.')
  const person = tools.roster.personById(person_id)
  if (!person) throw new ProblemError('not-signed-in', 'Whoever made this token is not there any more.')
  const admitted = admitToCourse(who as CourseAccess, req, now, person, tools)
  if (admitted.course?.id !== course_id) throw notFound()
  if (admitted.enrolment?.role !== 'instructor')
    throw new ProblemError(
      'not-allowed',
      'Whoever made this token is not an instructor of the course any more.',
    )
  return { person, ...admitted }
}

function admitToCourse(
  who: CourseAccess,
  req: Request,
  now: Instant,
  person: Person,
  tools: ServeTools,
): Admitted {
  const { course: courseCode, sheet: sheetCode } = req.params as { course?: string; sheet?: string }
  const sheet = sheetCode === undefined ? undefined : tools.sheets.byCode(sheetCode)
  if (sheetCode !== undefined && !sheet) throw notFound()
  const course = sheet ? tools.courses.byId(sheet.course_id) : tools.courses.byCode(courseCode ?? '')
  const enrolment = course && tools.roster.enrolmentIn(course.id, person.id)
  if (!course || !enrolment || enrolment.status === 'left') throw notFound()
  if (sheet && enrolment.role === 'student' && !tools.audience.sees(sheet, enrolment, now)) throw notFound()
  const isStaff = enrolment.role !== 'student'
  const fits = {
    member: true,
    student: !isStaff,
    staff: isStaff,
    instructor: enrolment.role === 'instructor',
  }[who]
  if (!fits) throw new ProblemError('not-allowed', REFUSED[who])
  if (enrolment.status === 'paused' && who !== 'member' && who !== 'student') {
    throw new ProblemError('enrolment-not-active', 'Your place in this course is paused. Ask its instructor.')
  }
  return { course, enrolment, ...(sheet && { sheet }) }
}

const REFUSED: Record<CourseAccess, string> = {
  member: 'This is open to the members of the course.',
  student: 'This is open to the students of the course.',
  staff: 'This is open to the instructors and tutors of the course.',
  instructor: 'This is open to the instructors of the course.',
}
