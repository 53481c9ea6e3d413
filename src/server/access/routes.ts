import { askCode, signIn } from '../../contract/access.ts'
import { type Me, me, signOut } from '../../contract/session.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Sessions } from './sessions.ts'
import { CODE_MINUTES, type SignIn } from './signIn.ts'

/** Signing in and out, and who is signed in. */
export function bindAccess(
  serve: Serve,
  { roster, courses }: Stores,
  sessions: Sessions,
  signing: SignIn,
  mayAddCourses: (email: string) => boolean,
  /** Called with a session that is over. */
  signedOut: (session: string) => void,
): void {
  const meOf = (person: Person): Me => ({
    email: person.email,
    name: roster.nameOf(person),
    mayAddCourses: mayAddCourses(person.email),
    enrolments: roster.enrolmentsOfPerson(person.id).flatMap((enrolment) => {
      const course = courses.byId(enrolment.course_id)
      if (!course || enrolment.status === 'left') return []
      const { code, course_code, title } = course
      return [{ course: code, courseCode: course_code, courseTitle: title, role: enrolment.role }]
    }),
  })

  serve(askCode, ({ body }) => {
    const nextAt = signing.sendCode(body.email)
    return { sentTo: body.email, minutes: CODE_MINUTES, nextAt }
  })
  serve(signIn, ({ body, res }) => {
    const person = signing.redeem(body.email, body.code)
    if (!person) {
      throw new ProblemError(
        'code-not-valid',
        'That code is wrong, used up or older than ten minutes. Look for the newest mail, or ask for a new code.',
      )
    }
    sessions.begin(res, person.id)
    return meOf(person)
  })
  serve(signOut, ({ req, res }) => {
    const ended = sessions.end(req, res)
    if (ended !== null) signedOut(ended)
    return null
  })
  serve(me, ({ person }) => meOf(person))
}
