import type { StudentSheet } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import type { Fault } from '../data/call.ts'
import type { Underway } from './useClaim.ts'

/** Where a student's page gets its sheet from and sends its claims to: the server, or a rehearsal. */
export interface SheetSource {
  view: StudentSheet
  reconnecting: boolean
  underway: Underway | null
  /** Sends a claim; on a yes the view is put in place. */
  send: (ask: ClaimAsk<string>) => Promise<Fault | null>
  /** Asks the instructor for a change; null when the request is made. */
  ask: (from: string, to: string | null, reason: string) => Promise<Fault | null>
  withdraw: () => Promise<Fault | null>
}
