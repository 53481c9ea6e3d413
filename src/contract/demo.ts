import { object, string } from 'yup'
import { plainRoute, route } from './route.ts'

/** Somebody of the sample courses, as the demo's door lists them. */
export interface DoorPerson {
  email: string
  name: string
  /** Where they belong: `instructor in FERM 210, student in SENS 105`. */
  roles: string
  featured: boolean
}

export interface OutboxMail {
  code: string
  to: string
  subject: string
  text: string
  at: string
  /** Until when it is held, so that it can be recalled; null where it is not. */
  heldUntil: string | null
}

export const enterBody = object({ email: string().required('Say who enters.') })

export const door = plainRoute<{ people: DoorPerson[] }>()('GET', '/api/door', 'anyone')
export const enter = route<null>()('POST', '/api/door', 'anyone', enterBody)
export const outbox = plainRoute<{ mails: OutboxMail[] }>()('GET', '/api/outbox', 'anyone')
