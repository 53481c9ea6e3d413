import { useCallback, useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { LIVE_EVENTS } from '../../../contract/live.ts'
import { type ComposeView, compose } from '../../../contract/sheets.ts'
import { sayTime } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import type { Outcome } from '../../data/history.ts'
import { useLive } from '../../data/live.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { useUndoKeys } from '../useUndoKeys.ts'
import { PublishAsk } from './PublishAsk.tsx'
import { SheetCards } from './SheetCards.tsx'
import { SheetMenu } from './SheetMenu.tsx'
import { TopicTable } from './TopicTable.tsx'
import { declined, type Saving, useEdits } from './useEdits.ts'

/** Compose: write a sheet. */
export function ComposePage() {
  const { sheet: code = '' } = useParams()
  const { data, error, mutate } = useAnswer(compose, { sheet: code }, { revalidateOnFocus: false })
  useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.refresh]: () => void mutate(),
    [LIVE_EVENTS.seats]: () => void mutate(),
  })
  const put = useCallback((view: ComposeView) => void mutate(view, { revalidate: false }), [mutate])
  if (error?.code === 'not-allowed') return <Navigate replace to={`/sheets/${code}`} />
  if (!data) {
    return (
      <Frame title="">
        {error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="the sheet" />}
      </Frame>
    )
  }
  return <Composing view={data} put={put} />
}

/** Says why a step was not undone or done again. */
function sayNot(outcome: Outcome, what: string): void {
  if (outcome !== 'done' && outcome !== 'nothing' && !declined(outcome))
    toast.error(`${what}. ${outcome.message}`, { duration: 8_000 })
}

function Composing({ view, put }: { view: ComposeView; put: (view: ComposeView) => void }) {
  const { edit, undo: undoStep, redo: redoStep, last, saving, question } = useEdits(put)
  /** Undoes a step, or the last one; what cannot be undone says why, and stays. */
  const undo = (step?: number) => void undoStep(step).then((outcome) => sayNot(outcome, 'Not undone'))
  const redo = () => void redoStep().then((outcome) => sayNot(outcome, 'Not done again'))
  useUndoKeys(undo, redo)
  const [publishing, setPublishing] = useState(false)
  return (
    <SheetFrame
      sheet={view}
      note={view.mayEdit && <SavedNote saving={saving} view={view} />}
      aside={
        <div className="mb-2 flex flex-wrap items-center gap-2 self-center">
          {view.mayEdit && <SheetMenu view={view} put={put} />}
          <ButtonLink to={`/sheets/${view.code}/rehearsal`}>See it as a student</ButtonLink>
          {view.mayEdit && view.publishedAt === null && (
            <Button look="main" onClick={() => setPublishing(true)}>
              Publish…
            </Button>
          )}
        </div>
      }
    >
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)_23.75rem] max-lg:grid-cols-1">
        <TopicTable view={view} edit={edit} undo={undo} redo={redo} />
        <SheetCards view={view} edit={edit} undo={undo} last={last} />
      </div>
      <PublishAsk view={view} open={publishing} edit={edit} onClose={() => setPublishing(false)} />
      <Ask
        open={question !== null}
        title="People who sit there are affected"
        yes="Save change"
        onYes={() => question?.answer(true)}
        onNo={() => question?.answer(false)}
      >
        <p>{question?.detail}</p>
        <ul className="max-h-48 overflow-auto">
          {question?.affected.map(({ name, section }) => (
            <li key={`${name}${section}`}>
              <strong className="text-ink">{name}</strong>
              {section && `, ${section}`}
            </li>
          ))}
        </ul>
      </Ask>
    </SheetFrame>
  )
}

function SavedNote({ saving, view }: { saving: Saving; view: ComposeView }) {
  const words = {
    saved: `all changes saved, ${sayTime(view.now, view.course.zone)}`,
    saving: 'saving…',
    failed: 'not saved: no connection. What you typed is kept here and tried again.',
  }[saving]
  return (
    <output className={saving === 'failed' ? 'text-ember' : saving === 'saved' ? 'text-moss' : 'text-soft'}>
      · {words}
    </output>
  )
}
