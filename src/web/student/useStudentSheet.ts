import { useMemo, useRef, useState } from 'react'
import { useSWRConfig } from 'swr'
import { answerInvitation, invite, withdrawInvitation } from '../../contract/invitations.ts'
import { type CountsEvent, LIVE_EVENTS, type OwnEvent, type RefreshEvent } from '../../contract/live.ts'
import { makeRequest, withdrawRequest } from '../../contract/requests.ts'
import { type StudentSheet, studentHome, studentSheet } from '../../contract/seats.ts'
import { answerSwap, saveSwapWish } from '../../contract/swaps.ts'
import { saveWishes } from '../../contract/wishes.ts'
import { keyOf, useAnswer } from '../data/answers.ts'
import { call, Fault, faultOf } from '../data/call.ts'
import { useLive } from '../data/live.ts'
import { useSoon } from '../data/useSoon.ts'
import { hear, hearAnswer, NOTHING_HEARD, withAnswer, withHeard } from './heard.ts'
import type { SheetSource } from './source.ts'
import { STOPPED, useClaim } from './useClaim.ts'

/** Milliseconds until names that changed are fetched: soon in one's own group, later and spread in others. */
const OWN_NAMES = 300
const OTHER_NAMES = 3_000
/** Milliseconds in which the stream tells a page what the page itself has just done. */
const JUST_CLAIMED = 1_500

/**
 * A sheet as the signed-in student sees it: the view last fetched, and over it what the stream told since.
 * What is older than the fetched view is passed over, so the two may arrive in any order.
 */
export function useStudentSheet(code: string): {
  source: SheetSource | null
  error: Fault | undefined
  refetch: () => void
} {
  const { data, error, mutate } = useAnswer(studentSheet, { sheet: code }, { revalidateOnFocus: false })
  const [heard, setHeard] = useState(NOTHING_HEARD)
  const { underway, kept, send, stop } = useClaim(code)
  const { mutate: mutateOther } = useSWRConfig()
  const fetchSoon = useSoon(() => void mutate())
  /** Position up to which this page knows its own student's seats. */
  const ownRev = useRef(0)
  const claimedAt = useRef(0)
  const live = useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.counts]: (told: CountsEvent, position) => {
      setHeard((before) => hear(before, told, position))
      const wait = namesChanged(data, told, Date.now() - claimedAt.current < JUST_CLAIMED)
      if (wait !== null) fetchSoon(wait)
    },
    [LIVE_EVENTS.place]: () => fetchSoon(1_000),
    [LIVE_EVENTS.own]: ({ position }: OwnEvent) => {
      if (position > Math.max(ownRev.current, data?.rev ?? 0)) fetchSoon(0)
    },
    [LIVE_EVENTS.refresh]: ({ within }: RefreshEvent) => fetchSoon(Math.random() * within),
  })
  const view = useMemo(() => data && withHeard(data, heard), [data, heard])

  const claim: SheetSource['send'] = async (ask) => {
    const answer = await send(ask)
    if (answer instanceof Fault) {
      // Without an answer nobody knows how it went; the page asks as soon as it can.
      if (answer === STOPPED || live !== 'live') fetchSoon(0)
      return answer
    }
    ownRev.current = answer.rev
    claimedAt.current = Date.now()
    setHeard((before) => hearAnswer(before, answer))
    await mutate((known) => known && withAnswer(known, answer), { revalidate: answer.more })
    void mutateOther(keyOf(studentHome, {}))
    return null
  }
  /** Puts a view in place that the server answered with; says what was wrong where it did not. */
  const put = async (work: Promise<StudentSheet>): Promise<Fault | null> => {
    try {
      const answer = await work
      ownRev.current = answer.rev
      await mutate(answer, { revalidate: false })
      void mutateOther(keyOf(studentHome, {}))
      return null
    } catch (fault) {
      return faultOf(fault)
    }
  }
  const sheet = { sheet: code }
  return {
    source: view
      ? {
          view,
          live,
          underway,
          kept,
          send: claim,
          stop,
          ask: (from, to, reason) => put(call(makeRequest, sheet, { from, to, reason })),
          withdraw: () => put(call(withdrawRequest, { ...sheet, request: view.request?.code ?? '' })),
          wish: {
            save: async ({ ranks, cannot, mates }, over) => {
              const list = await call(saveWishes, sheet, { ranks, cannot, mates, over })
              await mutate(
                (known) => known && { ...known, wishes: known.wishes && { ...known.wishes, ...list } },
                { revalidate: false },
              )
              return list
            },
            refetch: () => void mutate(),
          },
          swap: {
            save: async (ranks, over) => {
              const swaps = await call(saveSwapWish, sheet, { ranks, over })
              await mutate((known) => known && { ...known, swaps }, { revalidate: false })
              return swaps
            },
            answer: async (swap, accepted) => {
              try {
                return await call(answerSwap, { ...sheet, swap }, { accepted })
              } catch (fault) {
                return faultOf(fault)
              } finally {
                // Made or not: seats, names and what is offered may be others now.
                await mutate()
              }
            },
          },
          invitations: {
            invite: (group, person) => put(call(invite, { ...sheet, group }, { person })),
            takeBack: (invitation) => put(call(withdrawInvitation, { ...sheet, invitation })),
            answer: (invitation, accepted) =>
              put(call(answerInvitation, { ...sheet, invitation }, { accepted })),
          },
        }
      : null,
    error,
    refetch: () => void mutate(),
  }
}

/**
 * Names are not told by the stream; where this student may read some that changed, they are fetched, and so is one's
 * own place in a line. Gives the milliseconds to wait, or null when there is nothing to fetch.
 * @param justClaimed true while what is told may be what this page did: then only figures it does not know count
 */
function namesChanged(
  view: StudentSheet | undefined,
  { groups }: CountsEvent,
  justClaimed: boolean,
): number | null {
  if (!view) return null
  const told = new Map(groups.map((group) => [group.code, group]))
  const changed = view.groups.filter((group) => {
    const now = told.get(group.code)
    return now && (!justClaimed || now.taken !== group.taken || now.waiting !== group.waiting)
  })
  const own = new Set(view.seats.map(({ group }) => group))
  if (changed.some(({ code, yourPlace }) => own.has(code) || yourPlace !== null)) return OWN_NAMES
  return changed.some(({ names }) => names !== null) ? OTHER_NAMES * (0.5 + Math.random()) : null
}
