import { useCallback, useState } from 'react'
import { useParams } from 'react-router'
import { LIVE_EVENTS } from '../../../contract/live.ts'
import { type ComposeView, compose } from '../../../contract/sheets.ts'
import { sayTime } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import type { DraftState } from '../../data/draft.ts'
import { useLive } from '../../data/live.ts'
import { useWorst } from '../../data/useDraft.ts'
import { useActing } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { useDo } from '../../kit/useDo.ts'
import { SheetFrame } from '../SheetFrame.tsx'
import { PublishAsk } from './PublishAsk.tsx'
import { SheetCards } from './SheetCards.tsx'
import { SheetMenu } from './SheetMenu.tsx'
import { TopicTable } from './TopicTable.tsx'
import { useComposing } from './useComposing.ts'

/** Compose: write a sheet. */
export function ComposePage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(compose, { sheet: code }, { revalidateOnFocus: false })
  const { data, mutate } = answer
  useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.refresh]: () => void mutate(),
    [LIVE_EVENTS.seats]: () => void mutate(),
  })
  const put = useCallback((view: ComposeView) => void mutate(view, { revalidate: false }), [mutate])
  const refetch = useCallback(() => void mutate(), [mutate])
  return (
    <Awaited of={answer} what="the sheet" elsewhere={`/sheets/${code}`}>
      {(view) => <Composing view={view} put={put} refetch={refetch} />}
    </Awaited>
  )
}

function Composing({
  view,
  put,
  refetch,
}: {
  view: ComposeView
  put: (view: ComposeView) => void
  refetch: () => void
}) {
  const composing = useComposing(view.code, put, refetch)
  const [publishing, setPublishing] = useState(false)
  useDo({ publish: view.mayEdit && view.publishedAt === null && (() => setPublishing(true)) })
  return (
    <SheetFrame
      sheet={view}
      note={view.mayEdit && <SavedNote view={view} />}
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
        <TopicTable view={view} composing={composing} />
        <SheetCards view={view} composing={composing} />
      </div>
      <PublishAsk view={view} open={publishing} composing={composing} onClose={() => setPublishing(false)} />
    </SheetFrame>
  )
}

/** Whether everything on the page is kept: said in one place, for fields, choices and everything that is pressed. */
function SavedNote({ view }: { view: ComposeView }) {
  const acting = useActing()
  const worst = useWorst(`compose ${view.code} `)
  const state = worst === 'kept' && acting ? 'saving' : worst
  const [words, tone] = NOTES[state] ?? [
    `all changes saved, ${sayTime(view.now, view.course.zone)}`,
    'text-moss',
  ]
  return <output className={tone}>· {words}</output>
}

const NOTES: Partial<Record<DraftState, [string, string]>> = {
  refused: ['a field is not saved; beside it stands why', 'text-ember'],
  beside: ['a field is not saved; somebody else changed it too', 'text-ember'],
  unfinished: ['a date is not whole yet, and not saved', 'text-ember'],
  retrying: ['not saved yet, trying again; what you typed is kept here', 'text-ember'],
  saving: ['saving…', 'text-soft'],
  waiting: ['saving…', 'text-soft'],
}
