import { boolean, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { plainRoute, route } from './route.ts'
import type { StudentSheet } from './seats.ts'

/** A request as it waits for the instructor. Groups and the person by their codes. */
export interface WaitingRequest {
  code: string
  person: string
  from: string
  to: string | null
  reason: string
  madeAt: string
}

export const requestBody = object({
  from: string().required('Say which seat you would leave.'),
  to: string().nullable(),
  reason: string()
    .trim()
    .required('Say why: your instructor decides by it.')
    .max(LIMITS.reason, `A reason holds ${LIMITS.reason.toLocaleString('en')} characters at most.`),
})
export const answerBody = object({ granted: boolean().required('Say whether it is granted.') })

/** Asks the instructor for a change of seats, where the house rules want that. */
export const makeRequest = route<StudentSheet>()(
  'POST',
  '/api/sheets/:sheet/requests',
  'student',
  requestBody,
)
/** Takes back one's own open request. */
export const withdrawRequest = plainRoute<StudentSheet>()(
  'DELETE',
  '/api/sheets/:sheet/requests/:request',
  'student',
)
/** Requests that wait, oldest first. */
export const requests = plainRoute<{ requests: WaitingRequest[] }>()(
  'GET',
  '/api/sheets/:sheet/requests',
  'staff',
)
/** Grants or declines; granting moves the student at once, if the seat is there. The student is told by mail. */
export const answerRequest = route<{ requests: WaitingRequest[] }>()(
  'POST',
  '/api/sheets/:sheet/requests/:request/answer',
  'instructor',
  answerBody,
)
