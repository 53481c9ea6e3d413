import { array, boolean, object, string } from 'yup'
import { LARGE, route } from './route.ts'

/** Most people whose seats are changed in one step. */
export const MOST_SEATINGS = 1_000

const change = object({
  /** A person by code. */
  person: string().required('Say whose seat changes.'),
  /** Groups by code; null is no seat. */
  from: string().nullable().defined(),
  to: string().nullable().defined(),
})

/** A name for mail about seats, chosen by whoever causes it. */
const mailKey = string().matches(
  /^[\w-]{8,64}$/,
  'A name is 8 to 64 letters, digits, hyphens or underscores.',
)

export const seatingsBody = object({
  changes: array(change.required())
    .required()
    .min(1, 'Nobody is picked.')
    .max(MOST_SEATINGS, `At most ${MOST_SEATINGS.toLocaleString('en')} seats change in one step.`),
  /** True once what speaks against it was read. */
  confirmed: boolean(),
  /** Whether those who are seated are told by mail, and under which name it can be recalled within a minute. */
  tell: object({ as: mailKey.required() }).default(undefined).optional(),
  /** Recalls what was told under this name: it is undone by this. */
  recall: mailKey,
})

/**
 * Seats, moves or unseats people by hand, all of them or none. What speaks against it (a limit, a section, people to
 * keep apart) is asked about first. Tutors may where the instructor lets them, in the groups they look after.
 */
export const seatByHand = route<{ position: number }>()(
  'POST',
  '/api/sheets/:sheet/seatings',
  'staff',
  seatingsBody,
  LARGE,
)
