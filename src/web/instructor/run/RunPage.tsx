import { useCallback, useMemo, useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import type { RunView } from '../../../contract/seats.ts'
import { changeSheet } from '../../../contract/sheets.ts'
import type { SeatingChange } from '../../../core/seating.ts'
import { tally } from '../../../core/tally.ts'
import { localTimeOf, sayInstant } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { type LiveState, liveWords } from '../../data/live.ts'
import { useSheetState } from '../../data/state.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { AddGroup } from './AddGroup.tsx'
import { ALL, type Look } from './arranged.ts'
import { Dragging } from './Dragging.tsx'
import { TRAY } from './drops.ts'
import type { Shown } from './GroupCell.tsx'
import { GroupPanel } from './GroupPanel.tsx'
import { LookBar } from './LookBar.tsx'
import { NudgeAsk } from './NudgeAsk.tsx'
import { PickBar } from './PickBar.tsx'
import type { Pick } from './picks.ts'
import { Requests } from './Requests.tsx'
import { SeatField } from './SeatField.tsx'
import { SeatThem } from './SeatThem.tsx'
import { ShownAs } from './ShownAs.tsx'
import { TallyColumn } from './TallyColumn.tsx'
import { Tray } from './Tray.tsx'
import { useRunSheet } from './useRunSheet.ts'
import { useSeating } from './useSeating.ts'
import { WindowRuler } from './WindowRuler.tsx'
import type { RunWishes } from './wished/useRunWishes.ts'
import { WhatHelps } from './wished/WhatHelps.tsx'
import { WishColumn } from './wished/WishColumn.tsx'
import { WishRun } from './wished/WishRun.tsx'
import type { Wanted } from './wished/wanted.ts'

/** Run: watch a sheet fill, seat people by hand, write to those who have no group. */
export function RunPage() {
  const { sheet: code = '' } = useParams()
  const { view, error, live, show, refetch } = useRunSheet(code)
  return (
    <Awaited of={{ data: view, error, mutate: refetch }} what="the seats" elsewhere={`/sheets/${code}`}>
      {(view) => <Running view={view} live={live} show={show} refetch={refetch} />}
    </Awaited>
  )
}

function Running({
  view,
  live,
  show,
  refetch,
}: {
  view: RunView
  live: LiveState
  show: (changes: readonly SeatingChange[]) => void
  refetch: () => void
}) {
  const { code } = view
  const act = useAct()
  /** Moves an end of the window, with a way back. */
  const moveEnd = async (end: 'opensAt' | 'closesAt', instant: string) => {
    const local = (at: string) => localTimeOf(at, view.course.zone)
    const before = view[end]
    const was = before === null ? null : local(before)
    const to = local(instant)
    await act.do({
      work: (confirmed) => call(changeSheet, { sheet: code }, { [end]: to, was: { [end]: was }, confirmed }),
      undo: (confirmed) => call(changeSheet, { sheet: code }, { [end]: was, was: { [end]: to }, confirmed }),
      put: refetch,
      refetch,
      said: `It ${end === 'opensAt' ? 'opens' : 'closes'} ${sayInstant(instant, view.course.zone)} now.`,
    })
  }
  return (
    <SheetFrame
      fit
      sheet={view}
      note={live !== 'live' && <output className="text-sun-ink">· {liveWords(live)}</output>}
      aside={
        view.rules.road !== 'made' && (
          <WindowRuler sheet={view} seats={view.seats} {...(view.mayEdit && { onChange: moveEnd })} />
        )
      }
    >
      {view.topics.length === 0 ? (
        <p className="m-auto p-10 text-center text-soft">
          There is nothing to watch yet: the sheet has no topics. Write them under Compose.
        </p>
      ) : (
        <WishRun view={view}>
          {(wished, trouble) => (
            <Watch view={view} wished={wished} trouble={trouble} show={show} refetch={refetch} />
          )}
        </WishRun>
      )}
    </SheetFrame>
  )
}

function Watch({
  view,
  wished,
  trouble,
  show,
  refetch,
}: {
  view: RunView
  /** Where topics are ranked; null until it is there, and everywhere else. */
  wished: RunWishes | null
  trouble: string | null
  show: (changes: readonly SeatingChange[]) => void
  refetch: () => void
}) {
  const [params, setParams] = useSearchParams()
  const [shown, setShown] = useState<Shown>('pips')
  const [look, setLook] = useState<Look>(ALL)
  const [seatingThem, setSeatingThem] = useState(false)
  /** The section that the tray shows alone. */
  const [section, setSection] = useState<string | null>(null)
  const standing = useMemo(() => tally(view), [view])
  // Off until it is wanted, and then as long as this tab is open.
  const tells = useUnsent(`run ${view.code} tells`, false)
  // While topics are ranked nobody is meant to sit yet.
  const ranking = useSheetState(view) === 'open' && view.rules.road === 'wished'
  const seating = useSeating(view, show, refetch, tells.value)
  const { picks } = seating
  const waiting =
    view.rules.fullGroups === 'line' ? new Set(view.groups.flatMap(({ line }) => line)).size : null
  const person = params.get('person')
  const topic = params.get('topic')
  const picked = params.get('group') ?? view.seats.find((seat) => seat.person === person)?.group ?? null
  const group = view.groups.find(({ code }) => code === picked)
  const nudge = params.get('nudge')
  const open = useCallback(
    (code: string | null) => setParams(code === null ? {} : { group: code }, { replace: true }),
    [setParams],
  )
  const people = useMemo(
    () => new Map([...view.people, ...view.away].map(({ code, name }) => [code, name])),
    [view.people, view.away],
  )
  const mayDrag = useCallback(
    (one: RunView['groups'][number]) =>
      view.maySeat === 'all' || (view.maySeat === 'own' && one.tutors.includes(view.you)),
    [view.maySeat, view.you],
  )
  const onDrop = (dropped: readonly Pick[], place: string) =>
    place === TRAY
      ? seating.seat(
          dropped.filter(({ from }) => from !== null),
          null,
        )
      : seating.seat(dropped, place)
  return (
    <Dragging
      picks={picks}
      nameOf={(code) => people.get(code) ?? ''}
      placeName={(place) => (place === TRAY ? 'no group' : groupName(view, place))}
      onDrop={onDrop}
      className="flex min-h-0 flex-1 flex-col"
    >
      <div className="grid min-h-0 flex-1 grid-cols-[14.25rem_minmax(0,1fr)_auto] max-lg:grid-cols-1">
        {wished ? (
          <WishColumn
            view={view}
            wishes={wished.wishes}
            forecast={wished.forecast}
            fault={wished.fault}
            onNudge={() => setParams({ nudge: 'none' }, { replace: true })}
          />
        ) : (
          <TallyColumn
            view={view}
            tally={standing}
            floors={view.groups.map(({ floor }) => floor)}
            waiting={waiting}
            section={section}
            onNudge={() => setParams({ nudge: 'none' }, { replace: true })}
            {...(view.publishedAt !== null &&
              view.maySeat !== 'none' && { tells: tells.value, onTells: tells.write })}
          />
        )}
        <div className="flex min-h-0 min-w-0 flex-col bg-surface">
          <div className="flex min-h-9 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3 py-0.5">
            <ShownAs shown={shown} onShown={setShown} />
            <LookBar look={look} onLook={setLook} />
            {trouble && (
              <span role="alert" className="text-sm text-ember">
                {trouble}
              </span>
            )}
            {view.mayEdit && (
              <span className="ml-auto">
                <AddGroup view={view} onAdded={refetch} />
              </span>
            )}
          </div>
          <SeatField
            view={view}
            taken={standing.taken}
            shown={shown}
            look={look}
            picked={picked}
            pointedTopic={topic}
            pointedPerson={person}
            mayDrag={mayDrag}
            {...(wished && { wanted: wished.wanted })}
            onPick={open}
          />
        </div>
        {group && (
          <GroupPanel
            key={group.code}
            view={view}
            group={group}
            seating={seating}
            onChanged={refetch}
            onClose={() => open(null)}
          >
            {wished?.wanted.has(group.code) && (
              <WhatHelps
                view={view}
                group={group}
                wanted={wished.wanted.get(group.code) as Wanted}
                input={wished.input}
              />
            )}
          </GroupPanel>
        )}
      </div>
      {view.requests > 0 && <Requests view={view} onAnswered={refetch} />}
      {picks.length > 0 && <PickBar view={view} seating={seating} onSeat={() => setSeatingThem(true)} />}
      {!ranking && (
        <Tray
          view={view}
          tally={standing}
          pointed={person}
          section={section}
          onSection={setSection}
          seating={seating}
        />
      )}
      {seatingThem && picks.length > 0 && (
        <SeatThem
          view={view}
          taken={standing.taken}
          picks={picks}
          onClose={() => setSeatingThem(false)}
          onSeat={(to) => {
            setSeatingThem(false)
            void seating.seat(picks, to)
          }}
        />
      )}
      {nudge !== null && (
        <NudgeAsk
          view={view}
          group={nudge === 'none' ? null : nudge}
          section={section}
          onClose={() => setParams({}, { replace: true })}
        />
      )}
    </Dragging>
  )
}

/** A group in words: its topic and section. */
function groupName({ groups, topics, sections }: RunView, code: string): string {
  const group = groups.find((one) => one.code === code)
  const topic = topics.find((one) => one.code === group?.topic)?.title
  const section = sections.find((one) => one.code === group?.section)?.name
  return [topic, section].filter(Boolean).join(', ')
}
