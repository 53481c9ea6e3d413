import { useCallback, useEffect, useRef, useState } from 'react'
import type { StudentGroup } from '../../contract/seats.ts'
import { seatsLeft } from '../../core/limit.ts'
import { matches } from '../../core/names.ts'
import { useSheetState } from '../data/state.ts'
import { Markdown } from '../kit/Markdown.tsx'
import { part } from '../kit/part.tsx'
import { Choices } from './Choices.tsx'
import { KeptNote } from './Connection.tsx'
import { useOffers } from './choices.ts'
import { LostRace } from './LostRace.tsx'
import { OwnSeat } from './OwnSeat.tsx'
import { Received } from './Received.tsx'
import { RequestNote } from './RequestNote.tsx'
import { SeatBar } from './SeatBar.tsx'
import { RulesInWords, SheetBeginning } from './SheetTop.tsx'
import type { SheetSource } from './source.ts'
import { TopicStub } from './TopicStub.tsx'
import { useClaiming } from './useClaiming.ts'

// What is asked before a seat is given up or exchanged comes when it is wanted; the sheet does not wait for it.
const Ask = part(async () => (await import('../kit/Ask.tsx')).Ask)
const Which = part(async () => (await import('./Which.tsx')).Which)
// Where seats were given by wishes before they are taken as they come.
const SwapSeat = part(async () => (await import('./wishes/SwapSeat.tsx')).SwapSeat)
const Outcome = part(async () => (await import('./wishes/Outcome.tsx')).Outcome)
const AskForChange = part(async () => (await import('./AskForChange.tsx')).AskForChange)

/** Above this number of topics their briefs are folded away at first. */
const MANY_TOPICS = 20

const hasRoom = ({ seats, taken, held }: StudentGroup) => seatsLeft(seats, taken, held) > 0

/** A sheet as a student chooses from it, from whatever source. */
export function StudentSheetView({ source }: { source: SheetSource }) {
  const { view, underway, invitations } = source
  const state = useSheetState(view)
  const offers = useOffers(view, state)
  const claiming = useClaiming(source, state)
  const { pending, setPending, lost, setLost, said, setSaid, titleOf, claim, press } = claiming
  const [roomOnly, setRoomOnly] = useState(false)
  const [section, setSection] = useState('')
  const [typed, setTyped] = useState<string | null>(null)
  const [folded, setFolded] = useState(view.groups.length > MANY_TOPICS)

  const made = view.rules.road === 'made'
  const own = view.seats.flatMap(({ group }) => view.groups.find(({ code }) => code === group) ?? [])
  const withRoom = view.groups.filter(hasRoom)
  const sections = [...new Set(view.groups.flatMap((group) => group.section ?? []))]
  // Where nobody chooses, the other groups are of use only to those who see who sits there.
  const listed =
    made && view.groups.every((group) => own.includes(group) || !group.names?.length) ? own : view.groups
  const found = (made ? listed : roomOnly ? withRoom : view.groups).filter(
    (group) =>
      (section === '' || group.section === section) &&
      matches(typed ?? '', group.title, group.called, group.brief, group.place, group.section),
  )
  // One's own stand first and full groups last, as they were when the page came: nothing jumps while somebody reads.
  const [fullAtFirst] = useState(
    () => new Set(view.groups.filter((group) => !hasRoom(group)).map(({ code }) => code)),
  )
  const [ownAtFirst] = useState(() => new Set(view.seats.map(({ group }) => group)))
  const place = ({ code }: StudentGroup) => (ownAtFirst.has(code) ? 0 : fullAtFirst.has(code) ? 2 : 1)
  const shown = found.toSorted((a, b) => place(a) - place(b))
  const newestPress = useRef(press)
  useEffect(() => {
    newestPress.current = press
  })
  const onPress = useCallback((group: StudentGroup) => newestPress.current(group), [])
  const lastSeat = own.length === 1 ? own[0] : undefined

  /** Said where somebody waits, or could, who would give up a seat for it. */
  const goesForIt = (group: StudentGroup) => {
    const offer = offers.get(group.code)?.kind
    const given = own.length >= view.rules.seatsEach ? own[0] : undefined
    if (!given || (offer !== 'wait' && offer !== 'in-line')) return undefined
    return (
      <p className="w-full text-sm text-soft">
        When it is your turn here, your seat at {given.title} is given up for it.
      </p>
    )
  }

  /** What stands below the seats of a group: what goes with one's own, or that it was just lost. */
  const below = (group: StudentGroup) => {
    const seat = view.seats.find((one) => one.group === group.code)
    if (seat) return <OwnSeat group={group} seat={seat} view={view} state={state} invitations={invitations} />
    if (lost?.group !== group.code) return goesForIt(group)
    return (
      <LostRace
        lost={lost}
        view={view}
        state={state}
        busy={underway !== null}
        onPress={onPress}
        onClose={() => setLost(null)}
      />
    )
  }

  return (
    <>
      <div className="mx-auto flex w-full max-w-2xl flex-1 flex-col gap-3 px-4 pt-4 pb-28">
        <SheetBeginning source={source} />
        {state === 'open' && <Received view={view} titleOf={titleOf} invitations={invitations} />}
        {view.instructions && <Markdown text={view.instructions} />}
        <RulesInWords view={view} state={state} />
        <RequestNote view={view} titleOf={titleOf} onWithdraw={source.withdraw} />
        {view.wishes?.outcomes.map((outcome) => (
          <Outcome key={outcome.round} view={view} outcome={outcome} />
        ))}
        {view.swaps && view.wishes && (
          <SwapSeat view={view} swaps={view.swaps} wishes={view.wishes} source={source} />
        )}
        {!made && (
          <Choices
            all={view.groups.length}
            withRoom={withRoom.length}
            roomOnly={roomOnly}
            onRoomOnly={setRoomOnly}
            typed={typed}
            onTyped={setTyped}
            folded={view.groups.some(({ brief }) => brief !== '') ? folded : null}
            onFolded={setFolded}
            sections={sections}
            section={section}
            onSection={setSection}
          />
        )}
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
            // What is out of sight costs no layout: a list of 120 stays quick on a slow phone.
            <li key={group.code} className="[contain-intrinsic-size:auto_9rem] [content-visibility:auto]">
              <TopicStub
                group={group}
                own={own.includes(group)}
                zone={view.course.zone}
                offer={offers.get(group.code) ?? NO_OFFER}
                folded={folded}
                busy={underway?.group === group.code}
                again={underway?.group === group.code && underway.again}
                anyBusy={underway !== null}
                onPress={onPress}
              >
                {below(group)}
              </TopicStub>
            </li>
          ))}
        </ul>
        {shown.length === 0 && (
          <p className="rounded-card border tear p-6 text-center text-soft">
            {made
              ? 'Your instructor makes the groups, and you are in none yet. Nothing is to be done by you.'
              : view.groups.length === 0
                ? 'No topic is offered to you on this sheet yet.'
                : typed || section
                  ? 'No topic fits what you look for.'
                  : 'No topic has room now. When a seat comes free, it shows here by itself.'}
          </p>
        )}
      </div>
      <div aria-live="polite" className="sr-only">
        {said}
      </div>
      <div className="sticky bottom-0 z-10">
        <KeptNote underway={underway} titleOf={titleOf} onStop={source.stop} />
        <SeatBar own={own} state={state} rules={view.rules} onGiveUp={claiming.leave} />
      </div>
      {pending?.kind === 'give-up' && (
        <Ask
          open
          title={`Give up your seat at ${pending.group.title}?`}
          yes="Give up seat"
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
          onYes={(from) => claiming.move(from, pending.to.code)}
        />
      )}
      {pending?.kind === 'ask' && (
        <AskForChange
          sheet={view.code}
          to={pending.to}
          from={pending.from}
          titleOf={titleOf}
          onClose={() => setPending(null)}
          onSend={async (from, reason) => {
            const fault = await source.ask(from, pending.to?.code ?? null, reason)
            if (!fault) {
              setPending(null)
              setSaid('Your request is sent.')
            }
            return fault
          }}
        />
      )}
    </>
  )
}

const NO_OFFER = { kind: 'none', because: null } as const
