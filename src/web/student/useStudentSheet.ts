import { useMemo, useState } from 'react'
import { useSWRConfig } from 'swr'
import { type CountsEvent, LIVE_EVENTS } from '../../contract/live.ts'
import { makeRequest, withdrawRequest } from '../../contract/requests.ts'
import { type StudentSheet, studentHome, studentSheet } from '../../contract/seats.ts'
import { keyOf, useAnswer } from '../data/answers.ts'
import { call, Fault, faultOf } from '../data/call.ts'
import { useLive } from '../data/live.ts'
import type { SheetSource } from './source.ts'
import { useClaim } from './useClaim.ts'

/** How full a group is, as the stream told it at a position of the ledger. */
interface Heard {
  taken: number
  held: number
  waiting: number
  position: number
}

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
  const [heard, setHeard] = useState<ReadonlyMap<string, Heard>>(new Map())
  const { underway, send } = useClaim(code)
  const { mutate: mutateOther } = useSWRConfig()
  const live = useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.counts]: ({ groups }: CountsEvent, position) => {
      setHeard(
        (before) =>
          new Map([...before, ...groups.map(({ code, ...told }) => [code, { ...told, position }] as const)]),
      )
      // Names of groups that changed are not told; where this student may read some, they are fetched.
      // So is one's own place in a line, and a seat that a line gave.
      const readable = new Set(
        data?.groups
          .filter(({ names, yourPlace }) => names !== null || yourPlace !== null)
          .map(({ code }) => code),
      )
      if (groups.some(({ code }) => readable.has(code))) void mutate()
    },
    [LIVE_EVENTS.refresh]: () => void mutate(),
  })
  const view = useMemo(() => data && withHeard(data, heard), [data, heard])
  /** Puts a view in place that the server answered with; says what was wrong where it did not. */
  const put = async (work: () => Promise<StudentSheet | Fault>): Promise<Fault | null> => {
    try {
      const answer = await work()
      if (answer instanceof Fault) return answer
      await mutate(answer, { revalidate: false })
      void mutateOther(keyOf(studentHome, {}))
      return null
    } catch (fault) {
      return faultOf(fault)
    }
  }
  return {
    source: view
      ? {
          view,
          reconnecting: live === 'reconnecting',
          underway,
          send: (ask) => put(() => send(ask)),
          ask: (from, to, reason) => put(() => call(makeRequest, { sheet: code }, { from, to, reason })),
          withdraw: () =>
            put(() => call(withdrawRequest, { sheet: code, request: view.request?.code ?? '' })),
        }
      : null,
    error,
    refetch: () => void mutate(),
  }
}

function withHeard(view: StudentSheet, heard: ReadonlyMap<string, Heard>): StudentSheet {
  const groups = view.groups.map((group) => {
    const told = heard.get(group.code)
    if (!told || told.position <= view.rev) return group
    return {
      ...group,
      taken: told.taken,
      waiting: told.waiting,
      held: Math.max(0, told.held - (group.heldForYou ? 1 : 0)),
    }
  })
  return { ...view, groups }
}
