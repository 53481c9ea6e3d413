import { boolean, object, string } from 'yup'
import type { GroupPage } from './groups.ts'
import { plainRoute, route } from './route.ts'

/** Whom a convener can seat: students of the section without a group, by code and name. */
export interface Seatable {
  people: { code: string; name: string }[]
}

export const personBody = object({ person: string().required('Choose somebody.').max(64) })
export const leavingBody = object({ agreed: boolean().required() })

const AT = '/api/sheets/:sheet/groups/:group'
/** Students whom the reader, as convener, can seat in the group. */
export const seatable = plainRoute<Seatable>()('GET', `${AT}/seatable`, 'student')
/** Seats somebody who has no group, as the group's convener. */
export const seatMember = route<GroupPage>()('POST', `${AT}/convened`, 'student', personBody)
/** Takes a member out, as the group's convener: at once in the first days, later by asking them. */
export const takeOutMember = route<GroupPage>()('POST', `${AT}/convened/out`, 'student', personBody)
/** Takes back that a member was asked to leave. */
export const dropLeaveAsk = route<GroupPage>()('POST', `${AT}/convened/out/drop`, 'student', personBody)
/** Says whether one leaves, as one's convener asked. The group's page is not the answer: it may not be theirs any more. */
export const answerLeaving = route<{ left: boolean }>()('POST', `${AT}/leaving`, 'student', leavingBody)
