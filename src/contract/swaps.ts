import { boolean, number, object } from 'yup'
import { plainRoute, route } from './route.ts'
import { ranksField } from './wishes.ts'

/** How a swap that was offered ended: it was made, somebody declined or did not answer, or it cannot be any more. */
export type SwapEnding = 'made' | 'declined' | 'lapsed' | 'fallen'

/** Swapping seats as one student has it; topics and groups by their codes. Who else is in a swap is not told. */
export interface OwnSwaps {
  /** The group in which the student sits, and its topic. */
  seat: string
  topic: string
  /** Topics that the student would rather have, the best first: as they said, or else what they ranked above their seat. */
  ranks: string[][]
  /** Counts up with each change; 0 before the student said anything. */
  version: number
  savedAt: string | null
  /** The server’s time when this was read. */
  now: string
  /** A swap that waits for answers. */
  offer: {
    code: string
    /** The group that would be the student’s. */
    to: string
    /** How many are in it, how many of them have accepted, and whether the student has. */
    people: number
    accepted: number
    mine: boolean
    until: string
  } | null
  /** How the student’s newest swap ended, and whether the student had accepted it. */
  last: { ending: SwapEnding; to: string; at: string; mine: boolean } | null
}

/** Swaps of a sheet as staff see them; people, topics and groups by their codes. */
export interface SwapsView {
  now: string
  /** Whether seats of the sheet can be swapped now. */
  going: boolean
  /** Those who have one seat, and would rather have another. */
  wanting: { person: string; seat: string; ranks: string[][] }[]
  /** The newest first; those that wait for answers before all others. */
  swaps: {
    code: string
    foundAt: string
    until: string
    ending: SwapEnding | null
    endedAt: string | null
    parts: { person: string; from: string; to: string; accepted: boolean }[]
  }[]
}

export const swapWishBody = object({
  ranks: ranksField('Say what you would rather have; an empty list is nothing.'),
  /** The version that this changes; 0 for the first. */
  over: number().integer().min(0).required('Say which version this changes.'),
})
export const swapAnswerBody = object({ accepted: boolean().required('Say whether you accept.') })

/** Keeps what a student would rather have than their seat. Swaps that come of it are offered at once. */
export const saveSwapWish = route<OwnSwaps>()('PUT', '/api/sheets/:sheet/swaps/wish', 'student', swapWishBody)
/** Accepts or declines a swap that was offered. It is made once everybody in it has accepted. */
export const answerSwap = route<OwnSwaps>()(
  'POST',
  '/api/sheets/:sheet/swaps/:swap/answer',
  'student',
  swapAnswerBody,
)
/** Who would rather sit elsewhere, and what became of swaps, for staff. */
export const swaps = plainRoute<SwapsView>()('GET', '/api/sheets/:sheet/swaps', 'staff')
