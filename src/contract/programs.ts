import { boolean, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { cleanText } from '../core/text.ts'
import { plainRoute, route, whileArchived } from './route.ts'

/** A token with which a program acts in a course, as its instructors see it. */
export interface ProgramToken {
  code: string
  name: string
  /** False where it may only read. */
  mayWrite: boolean
  madeAt: string
  /** Who made it, and for whom it acts. */
  by: string
  /** When it was last used, to the hour; null where it never was. */
  usedAt: string | null
}

export interface ProgramsView {
  tokens: ProgramToken[]
}

/** Most tokens of a course at a time. */
export const MOST_TOKENS = 20

const newToken = object({
  name: string()
    .transform((value: unknown) => (typeof value === 'string' ? cleanText(value) : value))
    .required('Say what it is for, so that you know it again.')
    .max(LIMITS.title, `A name holds ${LIMITS.title} characters at most.`),
  mayWrite: boolean().required(),
})

/** The tokens of programs that act in a course, those that were ended left out. */
export const programs = plainRoute<ProgramsView>()('GET', '/api/courses/:course/programs', 'instructor')
/** Makes a token for a program. The token itself is in this answer alone. */
export const addProgram = route<ProgramsView & { token: string }>()(
  'POST',
  '/api/courses/:course/programs',
  'instructor',
  newToken,
)
/** Ends a token: from then on it lets nobody in. */
export const endProgram = whileArchived(
  plainRoute<ProgramsView>()('DELETE', '/api/courses/:course/programs/:program', 'instructor'),
)
