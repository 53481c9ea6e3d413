import { useCallback, useRef, useState } from 'react'
import type { AffectedPerson } from '../../../contract/problems.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import { Fault, faultOf } from '../../data/call.ts'
import { createHistory } from '../../data/history.ts'

/** Work sent to the server; called again with `true` once the instructor has confirmed it. */
export type Work = (confirmed: boolean) => Promise<ComposeView>

/** Sends an edit; with an inverse it can be undone. Null when it is kept. */
export type SendEdit = (work: Work, inverse?: Work) => Promise<Fault | null>

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
 * with. An edit that affects seated people asks first. Edits with an inverse are remembered for undo and redo.
 */
export function useEdits(put: (view: ComposeView) => void) {
  const [underway, setUnderway] = useState(0)
  const [failed, setFailed] = useState(false)
  const [question, setQuestion] = useState<Question | null>(null)
  const last = useRef<Promise<unknown>>(Promise.resolve())
  const [history] = useState(createHistory)

  const run = useCallback(
    (work: Work): Promise<Fault | null> => {
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
  const edit: SendEdit = useCallback(
    async (work, inverse) => {
      const fault = await run(work)
      if (!fault && inverse)
        history.add(
          () => run(inverse),
          () => run(work),
        )
      return fault
    },
    [run, history],
  )
  /** Undoes a step, or the last one. A step that cannot be undone stays. */
  const undo = useCallback((step?: number) => history.undo(step), [history])
  /** Makes the last undone edit again. */
  const redo = useCallback(() => history.redo(), [history])
  const saving: Saving = underway > 0 ? 'saving' : failed ? 'failed' : 'saved'
  return { edit, undo, redo, last: history.last, saving, question }
}

/** True when an edit was held back because the instructor said no to it. */
export function declined(fault: Fault | null): boolean {
  return fault instanceof Fault && fault.code === 'seated-affected'
}
