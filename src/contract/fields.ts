import { type AnyObject, type ArraySchema, array, mixed, number, string } from 'yup'
import { NO_LIMIT } from '../core/limit.ts'
import { LIMITS } from '../core/limits.ts'
import { MOST_DEEP, markdownDepth } from '../core/markdown.ts'

/** A text that may be empty. As it may be drawn as Markdown, its quotes and lists lie only so deep in one another. */
export const text = (what: string, most: number) =>
  string()
    .max(most, `${what} holds ${most.toLocaleString('en')} characters at most.`)
    .test(
      'depth',
      `${what} has quotes or lists more than ${MOST_DEEP} deep in one another. Take some of the marks out.`,
      (value) => typeof value !== 'string' || value.length > most || markdownDepth(value) <= MOST_DEEP,
    )

/** A title: trimmed, never empty when given. */
export const title = (what: string) => text(what, LIMITS.title).trim().min(1, `${what} is missing.`)

/** Characters of the longest code of ours. */
const LONGEST_CODE = 64

/**
 * A list of codes, looked through in one pass: a schema for each item would hold the server for a tenth of a second
 * where thousands are sent.
 */
export const codes = (most: number, tooMany = `There are more than ${most.toLocaleString('en')}.`) =>
  (array().max(most, tooMany) as ArraySchema<string[] | undefined, AnyObject>)
    .meta({ codes: true })
    .test('codes', 'A code belongs here.', (list, test) => {
      const wrong = (list ?? []).findIndex(
        (one: unknown) => typeof one !== 'string' || one === '' || one.length > LONGEST_CODE,
      )
      return wrong < 0 || test.createError({ path: `${test.path}[${wrong}]` })
    })

/** A limit as it is sent: a number of seats, or `none`. */
export type SentLimit = number | 'none'

/** A limit; `none` is no limit. */
export const seats = mixed<SentLimit>(
  (value): value is SentLimit => typeof value === 'number' || value === 'none',
)
  .meta({ json: { anyOf: [{ type: 'integer', minimum: 1, maximum: LIMITS.seats }, { const: 'none' }] } })
  .typeError('Seats are a whole number, or “none” for no limit.')
  .test(
    'whole',
    'Seats are a whole number, or “none” for no limit.',
    (value) => typeof value !== 'number' || Number.isInteger(value),
  )
  .test('least', 'A group has at least one seat.', (value) => typeof value !== 'number' || value >= 1)
  .test(
    'most',
    `A group has ${LIMITS.seats} seats at most.`,
    (value) => typeof value !== 'number' || value <= LIMITS.seats,
  )

/** A sent limit as it is kept. */
export function limitOf(sent: SentLimit): number
export function limitOf(sent: SentLimit | null): number | null
export function limitOf(sent: SentLimit | null): number | null {
  return sent === 'none' ? NO_LIMIT : sent
}

export const floor = number()
  .typeError('The floor is a whole number.')
  .integer('The floor is a whole number.')
  .min(1, 'The floor is at least one.')
  .max(LIMITS.seats, `The floor is ${LIMITS.seats} at most.`)

/** A wall-clock time without a zone, `YYYY-MM-DDTHH:mm`, or null. */
export const localTime = string()
  .nullable()
  .matches(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, {
    message: 'Give day and time as 2026-05-13T17:00.',
    excludeEmptyString: false,
  })

/** An address on the web, or nothing. */
export const webLink = text('A link', LIMITS.link)
  .trim()
  .test('link', 'A link begins with https:// or http://.', (value) => !value || isWebLink(value))

/** True for an http or https address. */
export function isWebLink(value: string): boolean {
  try {
    return ['http:', 'https:'].includes(new URL(value).protocol)
  } catch {
    return false
  }
}
