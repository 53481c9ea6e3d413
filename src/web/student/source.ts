import type { StudentSheet } from '../../contract/seats.ts'
import type { OwnSwaps } from '../../contract/swaps.ts'
import type { OwnList } from '../../contract/wishes.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import type { Fault } from '../data/call.ts'
import type { LiveState } from '../data/live.ts'
import type { Underway } from './useClaim.ts'

/** Where a student's page gets its sheet from and sends its claims to. */
export interface SheetSource {
  view: StudentSheet
  live: LiveState
  underway: Underway | null
  /** A claim that was left unanswered when the page was loaded anew, to be sent again. */
  kept: ClaimAsk<string> | null
  /** Sends a claim until it is answered; on a yes the view is put in place. */
  send: (ask: ClaimAsk<string>) => Promise<Fault | null>
  /** Stops sending the claim that is under way. */
  stop: () => void
  /** Asks the instructor for a change; null when the request is made. */
  ask: (from: string, to: string | null, reason: string) => Promise<Fault | null>
  withdraw: () => Promise<Fault | null>
  /** Keeps an order of topics over a version of it, and asks for how it stands. */
  wish: {
    save: (order: Pick<OwnList, 'ranks' | 'cannot' | 'mates'>, over: number) => Promise<OwnList>
    refetch: () => void
  }
  /** Says over a version what the student would rather have, and answers a swap that is offered. */
  swap: {
    save: (ranks: string[][], over: number) => Promise<OwnSwaps>
    answer: (swap: string, accepted: boolean) => Promise<OwnSwaps | Fault>
  }
  /** What goes with invitations. */
  invitations: {
    invite: (group: string, person: string) => Promise<Fault | null>
    takeBack: (invitation: string) => Promise<Fault | null>
    answer: (invitation: string, accepted: boolean) => Promise<Fault | null>
  }
}
