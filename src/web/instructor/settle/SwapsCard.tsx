import { useEffect } from 'react'
import type { SettleView } from '../../../contract/plans.ts'
import { changeSheet } from '../../../contract/sheets.ts'
import { type SwapEnding, type SwapsView, swaps } from '../../../contract/swaps.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import type { PlanNaming } from './naming.ts'

/** Swaps of seats that were given by wishes: whether they are offered, and how they stand. */
export function SwapsCard({
  view,
  naming,
  refetch,
}: {
  view: SettleView
  naming: PlanNaming
  refetch: () => void
}) {
  const { data, error, mutate } = useAnswer(swaps, { sheet: view.code })
  const act = useAct()
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked anew for whatever happened on the sheet
  useEffect(() => void mutate(), [view.rev])
  const offered = view.rules.swaps === 'offered'
  const set = (value: 'no' | 'offered') => () => call(changeSheet, { sheet: view.code }, { swaps: value })
  return (
    <Card title="Swaps">
      <p className="text-sm text-soft">
        {offered
          ? 'Students say what they would rather have. Where a ring of them would all be better off, each is offered the seat of the next; it is made once all accept, and nobody comes to a worse seat.'
          : 'Two or more students who would each rather have the other’s seat can swap, where you let them.'}
      </p>
      {error ? (
        <Trouble fault={error} retry={() => void mutate()} />
      ) : !data ? (
        <Loading what="the swaps" />
      ) : (
        (offered || data.swaps.length > 0) && <Standing data={data} view={view} naming={naming} />
      )}
      {view.mayEdit && (
        <p className="mt-2">
          <Button
            size="small"
            busy={act.busy}
            onClick={() =>
              void act.do({
                work: set(offered ? 'no' : 'offered'),
                undo: set(offered ? 'offered' : 'no'),
                put: refetch,
                said: offered
                  ? 'No seats are swapped any more.'
                  : 'Seats can be swapped. Students find it on the sheet.',
              })
            }
          >
            {offered ? 'End swaps' : 'Let students swap seats'}
          </Button>
        </p>
      )}
    </Card>
  )
}

/** Swaps that ended, shown below those that wait. */
const MOST_ENDED = 40

function Standing({ data, view, naming }: { data: SwapsView; view: SettleView; naming: PlanNaming }) {
  const waiting = data.swaps.filter(({ ending }) => ending === null)
  const ended = data.swaps.filter(({ ending }) => ending !== null)
  const made = ended.filter(({ ending }) => ending === 'made').length
  const many = data.wanting.length
  return (
    <>
      <p className="figures mt-1">
        {many === 0
          ? data.going
            ? 'Nobody wants another seat.'
            : 'Nothing is swapped now: the sheet is open for wishes, or not out.'
          : many === 1
            ? '1 student wants another seat.'
            : `${many} students want another seat.`}{' '}
        {waiting.length} {waiting.length === 1 ? 'swap waits' : 'swaps wait'} for answers, {made}{' '}
        {made === 1 ? 'was' : 'were'} made.
      </p>
      {waiting.length > 0 && <List swaps={waiting} view={view} naming={naming} />}
      {ended.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer py-1 font-semibold text-seat">Ended swaps</summary>
          <List swaps={ended.slice(0, MOST_ENDED)} view={view} naming={naming} />
          <p className="text-sm text-soft">
            {ended.length > MOST_ENDED && `The newest ${MOST_ENDED}; the ledger has all. `}
            One that was made is undone in the ledger.
          </p>
        </details>
      )}
    </>
  )
}

const ENDINGS: Readonly<Record<SwapEnding, string>> = {
  made: 'made',
  declined: 'declined',
  lapsed: 'not answered in time',
  fallen: 'not possible any more',
}

function List({ swaps, view, naming }: { swaps: SwapsView['swaps']; view: SettleView; naming: PlanNaming }) {
  const { zone } = view.course
  return (
    <ul
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too
      tabIndex={0}
      aria-label="Swaps"
      className="mt-1 max-h-64 overflow-y-auto"
    >
      {swaps.map(({ code, until, ending, endedAt, parts }) => (
        <li key={code} className="border-b tear py-1.5 last:border-0">
          <ul>
            {parts.map(({ person, from, to, accepted }) => (
              <li key={person} className="flex flex-wrap justify-between gap-x-2">
                <span className="min-w-0 wrap-anywhere">
                  {naming.person(person)}: {naming.group(from)} <span aria-hidden="true">→</span>
                  <span className="sr-only">to</span> {naming.group(to)}
                </span>
                {ending === null && (
                  <span className={`text-sm ${accepted ? 'text-moss' : 'text-soft'}`}>
                    {accepted ? 'accepted' : 'no answer yet'}
                  </span>
                )}
              </li>
            ))}
          </ul>
          <p className="figures text-sm text-soft">
            {ending === null
              ? `until ${sayInstant(until, zone)}`
              : `${ENDINGS[ending]}, ${sayInstant(endedAt ?? until, zone)}`}
          </p>
        </li>
      ))}
    </ul>
  )
}
