import { useState } from 'react'
import type { RunView } from '../../../../contract/seats.ts'
import type { WishesView } from '../../../../contract/wishes.ts'
import { aimLabel, rankWords } from '../../../../contract/wishWords.ts'
import type { WishFigures } from '../../../../core/wishes/types.ts'
import { useSheetState } from '../../../data/state.ts'
import { Button, ButtonLink } from '../../../kit/Button.tsx'
import type { AimTold } from '../../settle/planner.worker.ts'
import { WhoRanked } from './WhoRanked.tsx'
import { notRanked } from './wanted.ts'

/** How many have ranked, whom to nudge, and what it would come to if the sheet closed now. */
export function WishColumn({
  view,
  wishes,
  forecast,
  fault,
  onNudge,
}: {
  view: RunView
  wishes: WishesView
  forecast: AimTold | null
  fault: string | null
  onNudge: () => void
}) {
  const [looking, setLooking] = useState(false)
  const open = useSheetState(view) === 'open'
  const lacking = notRanked(view, wishes.lists).length
  const seated = new Set(view.seats.map(({ person }) => person)).size
  return (
    <section
      aria-label="Wishes"
      className="overflow-auto border-r border-line px-[1.125rem] py-4 max-lg:border-r-0 max-lg:border-b"
    >
      <p aria-live="polite" className="flex items-center gap-3">
        <strong
          className={`figures font-display text-[3.25rem] leading-none font-bold ${lacking === 0 ? 'text-moss' : 'text-ember'}`}
        >
          {lacking}
        </strong>
        <span className="leading-tight text-soft">
          {view.people.length === 0
            ? 'students on the roster'
            : `of ${view.people.length} ${lacking === 1 ? 'has' : 'have'} ranked nothing, or too little`}
        </span>
      </p>
      <div className="mt-4 flex flex-col gap-2">
        {view.publishedAt !== null && view.mayEdit && (
          <Button look={lacking > 0 && open ? 'ember' : 'plain'} onClick={onNudge}>
            {lacking > 0 && open ? `Nudge ${lacking} by mail` : 'Write to students'}
          </Button>
        )}
        <Button onClick={() => setLooking(true)}>Who ranked what</Button>
        {view.mayEdit && seated < view.people.length && (
          <ButtonLink to={`/sheets/${view.code}/settle`}>Plan by wishes</ButtonLink>
        )}
      </div>
      {view.people.length > 0 && (
        <div className="mt-5 border-t tear pt-4">
          <h2 className="text-base">{open ? 'If it closed now' : 'By the wishes there are'}</h2>
          <p className="text-sm text-soft">{aimLabel(view.rules.aim)}</p>
          {fault ? (
            <p role="alert" className="mt-1 text-sm text-ember">
              {fault}
            </p>
          ) : forecast ? (
            <Forecast figures={forecast.figures} />
          ) : (
            <p className="mt-1 text-sm text-faint">Computing…</p>
          )}
        </div>
      )}
      <ul
        aria-hidden="true"
        className="mt-4 flex flex-wrap gap-x-3 gap-y-0.5 border-t tear pt-3 text-sm text-soft"
      >
        <li className="flex items-center gap-1.5">
          <span className="drawn h-1.5 w-2.5 rounded-t-[3px] bg-seat" /> first wish
        </li>
        <li className="flex items-center gap-1.5">
          <span className="drawn h-1.5 w-2.5 rounded-t-[3px] bg-open/60" /> second
        </li>
        <li className="flex items-center gap-1.5">
          <span className="drawn h-1.5 w-2.5 rounded-t-[3px] bg-ember" /> more than seats
        </li>
      </ul>
      {looking && <WhoRanked view={view} wishes={wishes} onClose={() => setLooking(false)} />}
    </section>
  )
}

/** How many would come to each wish. */
function Forecast({ figures }: { figures: WishFigures }) {
  const { byRank, none, left, seatedWithout } = figures
  const later = byRank.slice(3).reduce((sum, n) => sum + n, 0)
  const lines = [
    ...[0, 1, 2].map((i) => ({ what: rankWords(i + 1), n: byRank[i] ?? 0, hot: false })),
    { what: 'later', n: later, hot: false },
    { what: 'none', n: none, hot: true },
    { what: 'not ranked', n: seatedWithout, hot: false },
    { what: 'no seat', n: left, hot: true },
  ]
  const most = Math.max(1, ...lines.map(({ n }) => n))
  return (
    <dl className="mt-2 grid grid-cols-[5rem_1fr_2rem] items-center gap-x-2 gap-y-1">
      {lines.map(({ what, n, hot }) => (
        <div key={what} className="contents">
          <dt className="text-sm text-soft">{what}</dt>
          <dd aria-hidden="true">
            <span
              className={`drawn block h-3 rounded-[3px] ${hot ? 'bg-ember' : 'bg-seat'}`}
              style={{ width: `${(100 * n) / most}%` }}
            />
          </dd>
          <dd className={`figures text-right font-bold ${hot && n > 0 ? 'text-ember' : ''}`}>{n}</dd>
        </div>
      ))}
    </dl>
  )
}
