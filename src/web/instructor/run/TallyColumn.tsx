import type { RunView } from '../../../contract/seats.ts'
import type { Tally } from '../../../core/tally.ts'
import { justOpened } from '../../../core/window.ts'
import { useNow } from '../../data/clock.ts'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { PaceAsk } from './PaceAsk.tsx'

/** The tally: who has no group, per section, and how the groups stand. */
export function TallyColumn({
  view,
  tally,
  floors,
  waiting,
  section,
  onNudge,
  tells,
  onTells,
}: {
  view: RunView
  tally: Tally
  floors: readonly number[]
  /** People who wait in lines; null where full groups keep none. */
  waiting: number | null
  /** The section that the tray shows alone: a nudge goes to those it shows. */
  section: string | null
  onNudge: () => void
  /** Whether those who are seated by hand are told by mail; left out where nobody is to be told. */
  tells?: boolean
  onTells?: (tells: boolean) => void
}) {
  const { students, noGroup, sections, seatsOpen, groupsFull, underFloor } = tally
  const lacking =
    section === null ? noGroup.length : (sections.find(({ code }) => code === section)?.left ?? 0)
  const fresh = justOpened(view, useNow(30_000))
  const common = new Set(floors).size === 1 ? floors[0] : undefined
  return (
    <section
      aria-label="Tally"
      className="overflow-auto border-r border-line px-[1.125rem] py-4 max-lg:border-r-0 max-lg:border-b"
    >
      <p aria-live="polite" className="flex items-center gap-3">
        <strong
          className={`figures font-display text-[3.25rem] leading-none font-bold ${noGroup.length === 0 ? 'text-moss' : fresh ? '' : 'text-ember'}`}
        >
          {noGroup.length}
        </strong>
        <span className="leading-tight text-soft">
          {students === 0
            ? 'students on the roster'
            : `of ${students} students ${noGroup.length === 1 ? 'has' : 'have'} no group yet`}
        </span>
      </p>
      {sections.length > 0 && (
        <ul className="mt-5 flex flex-col gap-3">
          {sections.map(({ code, name, students, left }) => (
            <li key={code}>
              <span className="flex justify-between gap-2">
                <span>{name}</span>
                <span className="figures text-soft">
                  {left === 0 ? `all ${students} seated` : `${left} left of ${students}`}
                </span>
              </span>
              <span aria-hidden="true" className="drawn mt-1 flex h-2 overflow-hidden rounded-full bg-line">
                <span
                  className="bg-seat transition-[width] duration-150"
                  style={{ width: `${students === 0 ? 0 : (100 * (students - left)) / students}%` }}
                />
                <span className="flex-1 bg-ember" style={{ opacity: students === 0 ? 0 : 1 }} />
              </span>
            </li>
          ))}
        </ul>
      )}
      <dl className="mt-5 grid grid-cols-[1fr_auto] gap-y-1.5 border-t tear pt-4">
        <dt>Seats open</dt>
        <dd className="figures text-right font-bold">
          {Number.isFinite(seatsOpen) ? seatsOpen : 'no limit'}
        </dd>
        <dt>Groups full</dt>
        <dd className="figures text-right font-bold">{groupsFull}</dd>
        <dt>{common === undefined ? 'Under their floor' : `Under the floor of ${common}`}</dt>
        <dd className={`figures text-right font-bold ${underFloor > 0 && !fresh ? 'text-ember' : ''}`}>
          {underFloor}
        </dd>
        {waiting !== null && (
          <>
            <dt>Waiting in line</dt>
            <dd className="figures text-right font-bold">{waiting}</dd>
          </>
        )}
      </dl>
      <div className="mt-4 flex flex-col gap-2">
        {view.publishedAt !== null && view.mayEdit && (
          <Button look={lacking > 0 ? 'ember' : 'plain'} onClick={onNudge}>
            {lacking > 0 ? `Nudge ${lacking} by mail` : 'Write to students'}
          </Button>
        )}
        {view.mayEdit && noGroup.length > 0 && (
          <ButtonLink to={`/sheets/${view.code}/settle`}>Plan for the rest</ButtonLink>
        )}
        <PaceAsk view={view} />
        {onTells && (
          <Check checked={tells === true} onValue={onTells}>
            Mail those whom I seat or move
          </Check>
        )}
      </div>
    </section>
  )
}
