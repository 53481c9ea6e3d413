import { useRef } from 'react'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { leftWords } from '../../../contract/planWords.ts'
import { grouped } from '../../../core/grouped.ts'
import type { MoveReason, PlanInput } from '../../../core/plan/types.ts'
import { Choice } from '../../kit/Choice.tsx'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { useLongTable } from '../../kit/useLongTable.tsx'
import { moveWords, type PlanNaming } from './naming.ts'
import { PlannedPips } from './PlannedPips.tsx'
import { WhyAsk } from './WhyAsk.tsx'

/** A group as the list of moves needs it: who stays and comes, and what it holds. */
export interface GroupAfter {
  key: string
  section: string | null
  seats: number
  blocked: number
  stay: number
  planned: number
}

/** Whether somebody had a wish that they like better than what they get. */
const isBelowFirst = (reason: MoveReason | null) =>
  reason?.code === 'wish' && reason.wished && reason.rank !== 1

const COLUMNS = [
  { head: 'Student', width: '23%' },
  { head: 'From', width: '13%' },
  { head: 'To', width: '25%' },
  { head: 'Group after', width: '15%' },
  { head: 'Why here', width: '24%' },
]
const ROW = 42
const NOWHERE = ''

/** Every move of a plan with its reason; each can be changed by hand, and the rest is planned around it. */
export function MoveList({
  view,
  content,
  groups,
  naming,
  pins,
  onPin,
  input,
}: {
  view: SettleView
  content: PlanContent
  groups: ReadonlyMap<string, GroupAfter>
  naming: PlanNaming
  pins: ReadonlyMap<string, string | null>
  /** Sets somebody by hand: in a group, nowhere with null, or free again with undefined. Left out, nothing is changed. */
  onPin?: (person: string, group: string | null | undefined) => void
  /** What a plan by wishes was made from, to say why somebody has no better one. */
  input?: PlanInput
}) {
  const rows = [
    ...content.moves.map((move) => ({
      ...move,
      to: move.to as string | null,
      why: moveWords(move.reason, naming),
    })),
    ...content.left.map(({ person, from, reason }) => ({
      person,
      from,
      to: null,
      reason: null,
      why: leftWords(reason),
    })),
  ].sort((a, b) => Number(a.to !== null) - Number(b.to !== null))
  const box = useRef<HTMLElement>(null)
  const { shown, measure, above, below } = useLongTable(box, rows.length, ROW)
  const held = grouped(view.basis.seats, (seat) => seat.person)
  const sectionOf = new Map(view.basis.people.map(({ key, section }) => [key, section]))
  const choicesFor = (person: string) =>
    [...groups.values()].filter(
      ({ section }) =>
        view.basis.offers === 'course' || section === null || section === sectionOf.get(person),
    )
  if (rows.length === 0)
    return (
      <p className="p-6 text-center text-soft">
        There is nothing to move: everybody who can be seated sits, and the groups are as even as the seats
        taken allow.
      </p>
    )
  return (
    <ScrollBox box={box} label="List of moves" className="min-h-64 flex-1">
      <table aria-rowcount={rows.length + 1} className="w-full min-w-[42rem] table-fixed border-collapse">
        <caption className="sr-only">Moves</caption>
        <thead className="sticky top-0 z-10 bg-surface">
          <tr className="border-b border-line text-left text-sm text-soft">
            {COLUMNS.map(({ head, width }) => (
              <th key={head} scope="col" style={{ width }} className="px-2 py-1.5 font-semibold first:pl-5">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above}
          {shown.map((index) => {
            const row = rows[index]
            if (!row) return null
            const { person, from, to, reason, why } = row
            const after = groups.get(to ?? '')
            const name = naming.person(person)
            return (
              <tr
                key={person}
                ref={measure}
                data-index={index}
                aria-rowindex={index + 2}
                style={{ height: ROW }}
                className={`border-b border-line [&>*]:px-2 [&>*:first-child]:pl-5 ${to === null ? 'bg-ember-soft' : ''}`}
              >
                <th scope="row" className="py-1 text-left font-semibold">
                  {name}
                  {naming.sectionOf(person) && (
                    <span className="ml-1.5 text-sm font-normal whitespace-nowrap text-soft">
                      {naming.sectionOf(person)}
                    </span>
                  )}
                </th>
                <td className="py-1 text-soft">
                  {from === null ? keptWords(held.get(person), naming) : naming.group(from)}
                </td>
                <td>
                  {onPin ? (
                    <Choice
                      aria-label={`Where ${name} sits`}
                      value={to ?? NOWHERE}
                      onValue={(value) => onPin(person, value === NOWHERE ? null : value)}
                      className="w-full font-semibold"
                    >
                      <option value={NOWHERE}>no group</option>
                      {choicesFor(person).map(({ key }) => (
                        <option key={key} value={key}>
                          {naming.group(key, view.basis.offers === 'course')}
                        </option>
                      ))}
                    </Choice>
                  ) : (
                    <strong className="font-semibold">{naming.group(to)}</strong>
                  )}
                </td>
                <td>
                  {after && (
                    <span className="flex items-center gap-2">
                      <PlannedPips {...after} />
                      <span className="figures text-sm text-soft">
                        {after.stay + after.planned}
                        {after.seats > 0 && `/${after.seats}`}
                      </span>
                    </span>
                  )}
                </td>
                <td className="py-1 text-sm text-soft">
                  {pins.has(person) && onPin ? (
                    <button
                      type="button"
                      className="text-seat underline underline-offset-2"
                      onClick={() => onPin(person, undefined)}
                    >
                      set by hand; let the plan decide
                    </button>
                  ) : input && isBelowFirst(reason) ? (
                    <WhyAsk
                      view={view}
                      input={input}
                      content={content}
                      person={person}
                      name={name}
                      words={why}
                    />
                  ) : (
                    why
                  )}
                </td>
              </tr>
            )
          })}
          {below}
        </tbody>
      </table>
    </ScrollBox>
  )
}

/** Where somebody comes from who leaves no seat: from none, or they keep those that they have. */
function keptWords(seats: readonly { group: string }[] | undefined, { group }: PlanNaming): string {
  return seats ? `keeps ${seats.map((seat) => group(seat.group)).join(', ')}` : group(null)
}
