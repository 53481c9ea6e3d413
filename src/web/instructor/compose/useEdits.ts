import { useCallback, useRef, useState } from 'react'
import type { AffectedPerson } from '../../../contract/problems.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import { Fault, faultOf } from '../../data/call.ts'

/** An edit on its way to the server; called again with `true` once the instructor has confirmed it. */
export type Edit = (confirmed: boolean) => Promise<ComposeView>

/** An edit that affects seated people and waits for the instructor's word. */
export interface Question {
  detail: string
  affected: AffectedPerson[]
  answer: (yes: boolean) => void
}

/** Whether everything is kept. */
export type Saving = 'saved' | 'saving' | 'failed'

/**
 * Sends edits one after the other, in the order they were made, and puts the sheet in place that each answers
 * with. An edit that affects seated people asks first.
 */
export function useEdits(put: (view: ComposeView) => void) {
  const [underway, setUnderway] = useState(0)
  const [failed, setFailed] = useState(false)
  const [question, setQuestion] = useState<Question | null>(null)
  const last = useRef<Promise<unknown>>(Promise.resolve())

  const edit = useCallback(
    (work: Edit): Promise<Fault | null> => {
      const mine = last.current.then(async (): Promise<Fault | null> => {
        try {
          put(await work(false))
          setFailed(false)
          return null
        } catch (error) {
          const fault = faultOf(error)
          if (fault.code !== 'seated-affected') {
            setFailed(fault.code === 'no-connection')
            return fault
          }
          const yes = await new Promise<boolean>((resolve) =>
            setQuestion({ detail: fault.message, affected: fault.problem.affected ?? [], answer: resolve }),
          )
          setQuestion(null)
          if (!yes) return fault
          try {
            put(await work(true))
            return null
          } catch (later) {
            return faultOf(later)
          }
        } finally {
          setUnderway((n) => n - 1)
        }
      })
      setUnderway((n) => n + 1)
      last.current = mine
      return mine
    },
    [put],
  )
  const saving: Saving = underway > 0 ? 'saving' : failed ? 'failed' : 'saved'
  return { edit, saving, question }
}

/** True when an edit was held back because the instructor said no to it. */
export function declined(fault: Fault | null): boolean {
  return fault instanceof Fault && fault.code === 'seated-affected'
}
