import type { Schema } from 'yup'

/**
 * Who may call a route. Course roles are held against the course that the path names by `:course` or `:sheet`:
 * - `anyone`: also signed out
 * - `signed-in`: anybody with a session
 * - `course-adder`: an address listed in HAPLON_INSTRUCTORS
 * - `member`: anybody active in the course
 * - `student`, `staff` (tutor or instructor), `instructor`: in that role in the course
 */
export type Access = 'anyone' | 'signed-in' | 'course-adder' | CourseAccess
export type CourseAccess = 'member' | 'student' | 'staff' | 'instructor'

/** The named parts of a path: `Params<'/api/sheets/:sheet'>` is `{ sheet: string }`. */
export type Params<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? { [K in Name]: string } & Params<Rest>
  : Path extends `${string}:${infer Name}`
    ? { [K in Name]: string }
    : unknown

export type Method = 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'

/** One route as browser and server both know it. `Body` is what is sent, `Answer` what comes back. */
export interface Route<
  Path extends string = string,
  Who extends Access = Access,
  Body = unknown,
  Answer = unknown,
> {
  method: Method
  path: Path
  who: Who
  /** The shape of the request's body, or null when the route takes none. */
  body: Schema<Body> | null
  /** Bytes that a body may have. */
  bytes: number
  /** Goes on while the sheet that the path names is archived. All else that changes something is refused then. */
  whileArchived?: true
  /** Carries the answer's type; never holds a value. */
  answer?: Answer
}

/** Bytes of a body: what forms and texts need, and what whole files and plans need. */
const USUAL = 256 * 1024
export const LARGE = 2 * 1024 * 1024

/** Defines a route with a body: the answer's type is given, the body's is read from the schema. */
export function route<Answer>() {
  return <const Path extends string, const Who extends Access, Body>(
    method: Method,
    path: Path,
    who: Who,
    body: Schema<Body>,
    bytes = USUAL,
  ): Route<Path, Who, Body, Answer> => ({ method, path, who, body, bytes })
}

/** Defines a route that takes no body. */
export function plainRoute<Answer>() {
  return <const Path extends string, const Who extends Access>(
    method: Method,
    path: Path,
    who: Who,
  ): Route<Path, Who, null, Answer> => ({ method, path, who, body: null, bytes: 0 })
}

/** A route that goes on while its sheet is archived: nothing of what was put away is changed by it. */
export const whileArchived = <R extends Route>(route: R): R => ({ ...route, whileArchived: true })

/**
 * Whether a program with a token may call a route: what staff do in a course, but for tokens themselves, the stream that
 * keeps pages live, and what is played in a rehearsal.
 */
export function forPrograms({ who, path }: Pick<Route, 'who' | 'path'>): boolean {
  return (who === 'staff' || who === 'instructor') && !/\/(programs|rehearsals?|live)(\/|$)/.test(path)
}

/** Fills the named parts of a path: `fill('/api/sheets/:sheet', { sheet: 'k3x' })`. */
export function fill<Path extends string>(path: Path, params: Params<Path>): string {
  return path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent((params as Record<string, string>)[name] ?? ''),
  )
}
