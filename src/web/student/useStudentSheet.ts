import { useMemo, useState } from 'react'
import { type CountsEvent, LIVE_EVENTS } from '../../contract/live.ts'
import { type StudentSheet, studentSheet } from '../../contract/seats.ts'
import { useAnswer } from '../data/answers.ts'
import { useLive } from '../data/live.ts'

/** How full a group is, as the stream told it at a position of the ledger. */
interface Heard {
  taken: number
  position: number
}

/**
 * A sheet as the signed-in student sees it: the view last fetched, and over it what the stream told since.
 * What is older than the fetched view is passed over, so the two may arrive in any order.
 */
export function useStudentSheet(code: string) {
  const { data, error, mutate } = useAnswer(studentSheet, { sheet: code }, { revalidateOnFocus: false })
  const [heard, setHeard] = useState<ReadonlyMap<string, Heard>>(new Map())
  const live = useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.counts]: ({ groups }: CountsEvent, position) => {
      setHeard(
        (before) =>
          new Map([...before, ...groups.map(({ code, taken }) => [code, { taken, position }] as const)]),
      )
      if (groups.some(({ code }) => code === data?.seat?.group)) void mutate()
    },
    [LIVE_EVENTS.refresh]: () => void mutate(),
  })
  const view = useMemo(() => data && withHeard(data, heard), [data, heard])
  return {
    view,
    error,
    live,
    /** Shows a view that the server sent with an answer. */
    put: (next: StudentSheet) => mutate(next, { revalidate: false }),
    refetch: () => void mutate(),
  }
}

function withHeard(view: StudentSheet, heard: ReadonlyMap<string, Heard>): StudentSheet {
  const groups = view.groups.map((group) => {
    const told = heard.get(group.code)
    return told && told.position > view.rev ? { ...group, taken: told.taken } : group
  })
  return { ...view, groups }
}
