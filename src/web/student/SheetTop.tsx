import { Link } from 'react-router'
import type { StudentSheet } from '../../contract/seats.ts'
import type { SheetState } from '../../core/window.ts'
import { useNow } from '../data/clock.ts'
import { stateAt, stateWords } from '../data/state.ts'
import { part } from '../kit/part.tsx'
import { StateWord } from '../kit/StateWord.tsx'
import { ZoneNote } from '../kit/ZoneNote.tsx'
import { ConnectionNote } from './Connection.tsx'
import { rulesWords } from './rulesWords.ts'
import type { SheetSource } from './source.ts'

/** What a sheet is and how long there is, by the server's clock. */
function SheetTop({ view }: { view: StudentSheet }) {
  const now = useNow()
  return (
    <div className="flex flex-col gap-2">
      <p className="text-soft">
        {view.course.title}
        {view.section && ` · ${view.section}`}
      </p>
      <h1 className="text-[1.75rem]">{view.title}</h1>
      {view.rules.road !== 'made' && (
        <p className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <StateWord state={stateAt(view, now)} road={view.rules.road} />{' '}
          <span>{stateWords(view, view.course.zone, now)}</span>
        </p>
      )}
      <ZoneNote
        zone={view.course.zone}
        times={[
          ...(view.rules.road !== 'made'
            ? [
                { what: 'It opens', at: view.opensAt },
                { what: 'It closes', at: view.closesAt },
              ]
            : []),
          ...view.seats.map(({ group }) => {
            const own = view.groups.find(({ code }) => code === group)
            return { what: `${own?.title ?? 'Your group'} meets`, at: own?.startsAt ?? null }
          }),
        ]}
      />
      {view.tasks.there > 0 && (
        <Link
          to={`/sheets/${view.code}/tasks`}
          className={`flex min-h-11 items-center justify-between gap-3 rounded-field border px-4 font-semibold text-seat hover:border-open ${view.tasks.open > 0 ? 'border-ember' : 'border-line-strong'} bg-surface`}
        >
          <span>{view.tasks.there === 1 ? '1 task' : `${view.tasks.there} tasks`}</span>
          <span className={view.tasks.open > 0 ? 'text-ember' : 'text-soft'}>
            {view.tasks.open > 0 ? `${view.tasks.open} to hand in` : 'look at them'}
          </span>
        </Link>
      )}
    </div>
  )
}

/** What a student's sheet begins with: what it is, how the connection stands, and a swap that waits for an answer. */
export function SheetBeginning({ source: { view, live, swap } }: { source: SheetSource }) {
  return (
    <>
      <SheetTop view={view} />
      <ConnectionNote live={live} />
      {view.swaps?.offer && (
        <SwapOffer
          key={view.swaps.offer.code}
          view={view}
          seat={view.swaps.seat}
          offer={view.swaps.offer}
          onAnswer={swap.answer}
        />
      )}
    </>
  )
}

// A swap is offered seldom; the sheet does not wait for it.
const SwapOffer = part(async () => (await import('./wishes/SwapOffer.tsx')).SwapOffer)

/** What the house rules mean for whoever takes a seat, and whom to ask. */
export function RulesInWords({ view, state }: { view: StudentSheet; state: SheetState }) {
  return (
    <>
      <ul className="flex flex-col gap-1 text-sm text-soft">
        {rulesWords(view.rules, state).map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      {view.contact && (
        <p className="text-sm text-soft">
          Questions?{' '}
          <a
            className="font-semibold wrap-anywhere text-seat underline underline-offset-2"
            href={`mailto:${view.contact}?subject=${encodeURIComponent(view.title)}`}
          >
            {view.contact}
          </a>
        </p>
      )}
    </>
  )
}
