import { useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { useSWRConfig } from 'swr'
import { type StudentGroup, type StudentSheet, studentHome } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import { matches } from '../../core/names.ts'
import { keyOf } from '../data/answers.ts'
import { Fault } from '../data/call.ts'
import { useNow } from '../data/clock.ts'
import { stateAt, stateWords } from '../data/state.ts'
import { Ask } from '../kit/Ask.tsx'
import { Frame } from '../kit/Frame.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { StateWord } from '../kit/StateWord.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'
import { SeatBar } from './SeatBar.tsx'
import { Choices, TopicStub } from './TopicStub.tsx'
import { useClaim } from './useClaim.ts'
import { useStudentSheet } from './useStudentSheet.ts'

/** A sheet as a student chooses from it. */
export function SheetPage() {
  const { sheet: code = '' } = useParams()
  const { view, error, live, put, refetch } = useStudentSheet(code)
  if (error?.code === 'not-allowed') return <Navigate replace to={`/sheets/${code}/run`} />
  return (
    <Frame
      title={view?.title ?? ''}
      crumbs={view ? [{ label: view.course.title, to: '/' }, { label: view.title }] : []}
    >
      {view ? (
        <Sheet view={view} put={put} reconnecting={live === 'reconnecting'} />
      ) : error ? (
        <Trouble fault={error} retry={refetch} />
      ) : (
        <Loading what="the sheet" />
      )}
    </Frame>
  )
}

function Sheet({
  view,
  put,
  reconnecting,
}: {
  view: StudentSheet
  put: (view: StudentSheet) => Promise<unknown>
  reconnecting: boolean
}) {
  const now = useNow()
  const { mutate } = useSWRConfig()
  const { underway, send } = useClaim(view.code)
  const [leaving, setLeaving] = useState<StudentGroup | null>(null)
  const [roomOnly, setRoomOnly] = useState(false)
  const [typed, setTyped] = useState<string | null>(null)
  const [said, setSaid] = useState('')

  const state = stateAt(view, now)
  const own = view.groups.find(({ code }) => code === view.seat?.group)
  const withRoom = view.groups.filter(({ taken, seats }) => taken < seats)
  const found = (roomOnly ? withRoom : view.groups).filter(({ title, brief, place }) =>
    matches(typed ?? '', title, brief, place),
  )
  // Full groups stand last, as they were when the page came: nothing jumps while somebody reads.
  const [fullAtFirst] = useState(
    () => new Set(view.groups.filter((g) => g.taken >= g.seats).map(({ code }) => code)),
  )
  const place = (group: StudentGroup) => (group === own ? 0 : fullAtFirst.has(group.code) ? 2 : 1)
  const shown = found.toSorted((a, b) => place(a) - place(b))

  const titleOf = (code: string) => view.groups.find((group) => group.code === code)?.title ?? ''
  const claim = async (ask: ClaimAsk<string>, undo?: ClaimAsk<string>) => {
    const answer = await send(ask)
    if (answer instanceof Fault) {
      toast.error(answer.message, { duration: 8_000 })
      setSaid(answer.message)
      return
    }
    await put(answer)
    void mutate(keyOf(studentHome, {}))
    const words = sayDone(ask, titleOf)
    setSaid(words)
    toast.success(words, {
      duration: 7_000,
      ...(undo && { action: { label: 'Undo', onClick: () => void claim(undo) } }),
    })
  }
  const take = (to: string) => {
    if (own) void claim({ kind: 'move', from: own.code, to }, { kind: 'move', from: to, to: own.code })
    else void claim({ kind: 'take', to }, { kind: 'give-up', from: to })
  }
  const giveUp = (from: string) => void claim({ kind: 'give-up', from }, { kind: 'take', to: from })

  return (
    <>
      <div className="mx-auto flex w-full max-w-2xl flex-1 flex-col gap-3 px-4 pt-4 pb-28">
        <div className="flex flex-col gap-2">
          <p className="text-soft">
            {view.course.title}
            {view.section && ` · ${view.section}`}
          </p>
          <h1 className="text-[1.75rem]">{view.title}</h1>
          <p className="flex flex-wrap items-center gap-x-2 gap-y-1">
            <StateWord state={state} /> <span>{stateWords(view, view.course.zone, now)}</span>
          </p>
          {reconnecting && (
            <output className="text-sm text-sun-ink">
              The connection is lost. Seats shown here may have changed; trying again…
            </output>
          )}
        </div>
        {view.instructions && <Markdown text={view.instructions} />}
        {view.contact && (
          <p className="text-sm text-soft">
            Questions?{' '}
            <a
              className="font-semibold text-seat underline underline-offset-2"
              href={`mailto:${view.contact}?subject=${encodeURIComponent(view.title)}`}
            >
              {view.contact}
            </a>
          </p>
        )}
        <Choices
          all={view.groups.length}
          withRoom={withRoom.length}
          roomOnly={roomOnly}
          onRoomOnly={setRoomOnly}
          typed={typed}
          onTyped={setTyped}
        />
        {state === 'open' && own && withRoom.length > 0 && (
          <p className="text-sm text-soft">
            Moving gives up your seat at {own.title}, once the new one is yours.
          </p>
        )}
        <ul className="flex flex-col gap-3">
          {shown.map((group) => (
            <li key={group.code}>
              <TopicStub
                group={group}
                mates={group === own ? (view.seat?.mates ?? []) : null}
                moving={own !== undefined}
                open={state === 'open'}
                busy={underway?.group === group.code}
                again={underway?.again ?? false}
                anyBusy={underway !== null}
                onTake={() => take(group.code)}
              />
            </li>
          ))}
        </ul>
        {shown.length === 0 && (
          <p className="rounded-card border tear p-6 text-center text-soft">
            {view.groups.length === 0
              ? 'No topic is offered to you on this sheet yet.'
              : typed
                ? 'No topic fits what you typed.'
                : 'No topic has room now. When a seat comes free, it shows here by itself.'}
          </p>
        )}
      </div>
      <div aria-live="polite" className="sr-only">
        {said}
      </div>
      <SeatBar own={own ?? null} state={state} onGiveUp={() => own && setLeaving(own)} />
      <Ask
        open={leaving !== null}
        title={`Give up your seat at ${leaving?.title ?? ''}?`}
        yes="Give it up"
        no="Keep it"
        onNo={() => setLeaving(null)}
        onYes={() => {
          if (leaving) giveUp(leaving.code)
          setLeaving(null)
        }}
      >
        <p>Somebody else can take it at once. You then have no group until you take another seat.</p>
      </Ask>
    </>
  )
}

function sayDone(ask: ClaimAsk<string>, titleOf: (code: string) => string): string {
  switch (ask.kind) {
    case 'take':
      return `You sit at ${titleOf(ask.to)}.`
    case 'move':
      return `You moved from ${titleOf(ask.from)} to ${titleOf(ask.to)}.`
    case 'give-up':
      return `You gave up your seat at ${titleOf(ask.from)}.`
  }
}
