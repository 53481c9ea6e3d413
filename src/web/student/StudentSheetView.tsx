import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import { seatsLeft } from '../../core/limit.ts'
import { matches } from '../../core/names.ts'
import { useNow } from '../data/clock.ts'
import { stateAt, stateWords } from '../data/state.ts'
import { Ask } from '../kit/Ask.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { StateWord } from '../kit/StateWord.tsx'
import { AskForChange, RequestNote } from './AskForChange.tsx'
import { offerOf } from './choices.ts'
import { SeatBar } from './SeatBar.tsx'
import type { SheetSource } from './source.ts'
import { Choices, TopicStub } from './TopicStub.tsx'

/** What stands before a decision that needs one more word. */
type Pending =
  | { kind: 'give-up'; group: StudentGroup }
  | { kind: 'which'; to: StudentGroup; from: string[] }
  | { kind: 'ask'; to: StudentGroup | null; from: string[] }

/** A sheet as a student chooses from it, from whatever source. */
export function StudentSheetView({ source }: { source: SheetSource }) {
  const { view, underway, reconnecting } = source
  const now = useNow()
  const [pending, setPending] = useState<Pending | null>(null)
  const [roomOnly, setRoomOnly] = useState(false)
  const [typed, setTyped] = useState<string | null>(null)
  const [said, setSaid] = useState('')
  useSeatedFromLine(view, setSaid)

  const state = stateAt(view, now)
  const own = view.seats.flatMap(({ group }) => view.groups.find(({ code }) => code === group) ?? [])
  const hasRoom = ({ seats, taken, held }: StudentGroup) => seatsLeft(seats, taken, held) > 0
  const withRoom = view.groups.filter(hasRoom)
  const found = (roomOnly ? withRoom : view.groups).filter(({ title, brief, place, section }) =>
    matches(typed ?? '', title, brief, place, section),
  )
  // Full groups stand last, as they were when the page came: nothing jumps while somebody reads.
  const [fullAtFirst] = useState(
    () => new Set(view.groups.filter((group) => !hasRoom(group)).map(({ code }) => code)),
  )
  const place = (group: StudentGroup) => (own.includes(group) ? 0 : fullAtFirst.has(group.code) ? 2 : 1)
  const shown = found.toSorted((a, b) => place(a) - place(b))
  const titleOf = (code: string) => view.groups.find((group) => group.code === code)?.title ?? ''

  const claim = async (ask: ClaimAsk<string>, undo?: ClaimAsk<string>) => {
    setPending(null)
    const fault = await source.send(ask)
    if (fault) {
      toast.error(fault.message, { duration: 8_000 })
      setSaid(fault.message)
      return
    }
    const words = sayDone(ask, titleOf)
    setSaid(words)
    const mayUndo = undo && (view.rules.changing === 'until-close' || ask.kind === 'wait')
    toast.success(words, {
      duration: 7_000,
      ...(mayUndo && { action: { label: 'Undo', onClick: () => void claim(undo) } }),
    })
  }
  const move = (from: string, to: string) =>
    void claim({ kind: 'move', from, to }, { kind: 'move', from: to, to: from })
  const press = (group: StudentGroup) => {
    const offer = offerOf(view, state, group)
    if (offer.kind === 'take')
      void claim({ kind: 'take', to: group.code }, { kind: 'give-up', from: group.code })
    if (offer.kind === 'wait')
      void claim({ kind: 'wait', to: group.code }, { kind: 'leave-line', from: group.code })
    if (offer.kind === 'in-line') void claim({ kind: 'leave-line', from: group.code })
    if (offer.kind === 'ask') setPending({ kind: 'ask', to: group, from: offer.from })
    if (offer.kind === 'move' && offer.from.length > 1)
      setPending({ kind: 'which', to: group, from: offer.from })
    if (offer.kind === 'move' && offer.from.length === 1) move(offer.from[0] ?? '', group.code)
  }
  const leave = (group: StudentGroup) =>
    setPending(
      view.rules.changing === 'by-asking'
        ? { kind: 'ask', to: null, from: [group.code] }
        : { kind: 'give-up', group },
    )
  const lastSeat = own.length === 1 ? own[0] : undefined

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
        <p className="text-sm text-soft">{RULE_WORDS[view.rules.changing](view)}</p>
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
        <RequestNote view={view} titleOf={titleOf} onWithdraw={source.withdraw} />
        <Choices
          all={view.groups.length}
          withRoom={withRoom.length}
          roomOnly={roomOnly}
          onRoomOnly={setRoomOnly}
          typed={typed}
          onTyped={setTyped}
        />
        {state === 'open' &&
          lastSeat &&
          view.rules.seatsEach === 1 &&
          view.rules.changing === 'until-close' &&
          withRoom.length > 0 && (
            <p className="text-sm text-soft">
              Moving gives up your seat at {lastSeat.title}, once the new one is yours.
            </p>
          )}
        <ul className="flex flex-col gap-3">
          {shown.map((group) => (
            <li key={group.code}>
              <TopicStub
                group={group}
                own={view.seats.find((seat) => seat.group === group.code) ?? null}
                zone={view.course.zone}
                offer={offerOf(view, state, group)}
                busy={underway?.group === group.code}
                again={underway?.again ?? false}
                anyBusy={underway !== null}
                onPress={() => press(group)}
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
      <SeatBar own={own} state={state} rules={view.rules} onGiveUp={leave} />
      {pending?.kind === 'give-up' && (
        <Ask
          open
          title={`Give up your seat at ${pending.group.title}?`}
          yes="Give it up"
          no="Keep it"
          onNo={() => setPending(null)}
          onYes={() =>
            void claim(
              { kind: 'give-up', from: pending.group.code },
              { kind: 'take', to: pending.group.code },
            )
          }
        >
          <p>
            Somebody else can take it at once.
            {own.length === 1 && ' You then have no group until you take another seat.'}
          </p>
        </Ask>
      )}
      {pending?.kind === 'which' && (
        <Which
          pending={pending}
          titleOf={titleOf}
          onNo={() => setPending(null)}
          onYes={(from) => move(from, pending.to.code)}
        />
      )}
      {pending?.kind === 'ask' && (
        <AskForChange
          to={pending.to}
          from={pending.from}
          titleOf={titleOf}
          onClose={() => setPending(null)}
          onSend={async (from, reason) => {
            const fault = await source.ask(from, pending.to?.code ?? null, reason)
            if (!fault) setPending(null)
            return fault
          }}
        />
      )}
    </>
  )
}

/** Says so when a waiting line has seated the student while the page was open. */
function useSeatedFromLine(view: StudentSheet, say: (words: string) => void): void {
  const before = useRef(view)
  useEffect(() => {
    const waited = new Set(
      before.current.groups.filter(({ yourPlace }) => yourPlace !== null).map(({ code }) => code),
    )
    const won = view.groups.find(
      ({ code }) => waited.has(code) && view.seats.some(({ group }) => group === code),
    )
    before.current = view
    if (!won) return
    const words = `A seat came free and it was your turn: you sit at ${won.title}.`
    say(words)
    toast.success(words, { duration: 12_000 })
  }, [view, say])
}

const RULE_WORDS: Record<StudentSheet['rules']['changing'], (view: StudentSheet) => string> = {
  'until-close': ({ rules }) =>
    rules.seatsEach === 1
      ? 'You take one seat, and can move until the window closes.'
      : `You take up to ${rules.seatsEach} seats, and can move until the window closes.`,
  'by-asking': () => 'Once taken, a seat changes only by asking: you say why, your instructor decides.',
  never: () => 'Choose with care: once taken, a seat does not change.',
}

function Which({
  pending,
  titleOf,
  onYes,
  onNo,
}: {
  pending: Extract<Pending, { kind: 'which' }>
  titleOf: (code: string) => string
  onYes: (from: string) => void
  onNo: () => void
}) {
  const [from, setFrom] = useState(pending.from[0] ?? '')
  return (
    <Ask
      open
      title={`Move to ${pending.to.title}`}
      yes="Move here"
      no="Stay"
      onNo={onNo}
      onYes={() => onYes(from)}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1">Which seat do you leave?</legend>
        {pending.from.map((code) => (
          <label key={code} className="flex min-h-11 items-center gap-2 text-ink">
            <input
              type="radio"
              name="from"
              checked={from === code}
              onChange={() => setFrom(code)}
              className="size-4 accent-seat"
            />
            {titleOf(code)}
          </label>
        ))}
      </fieldset>
    </Ask>
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
    case 'wait':
      return `You wait in line for ${titleOf(ask.to)}. When a seat comes free and it is your turn, you sit there by itself.`
    case 'leave-line':
      return `You no longer wait for ${titleOf(ask.from)}.`
  }
}
