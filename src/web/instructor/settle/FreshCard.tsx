import type { SettleView } from '../../../contract/plans.ts'
import type { MixReport } from '../../../core/plan/types.ts'
import { Card } from '../../kit/Card.tsx'
import { Check } from '../../kit/Check.tsx'
import type { Choices } from './input.ts'

/** With whom people sat before, and are not to again as far as possible. */
export function FreshCard({
  view,
  choices,
  change,
}: {
  view: SettleView
  choices: Choices
  change: (more: Partial<Choices>) => void
}) {
  const { fresh } = choices
  if (view.sat.length === 0) return null
  const all = view.sat.map(({ sheet }) => sheet)
  return (
    <Card title="Fresh partners">
      <p className="text-sm text-soft">
        Who sat together on these sheets does not again, as far as possible.
      </p>
      {view.sat.length > 1 && (
        <Check
          checked={all.every((sheet) => fresh.includes(sheet))}
          onValue={(on) => change({ fresh: on ? all : [] })}
        >
          <strong className="font-semibold">All sheets of the course</strong>
        </Check>
      )}
      <ul className="max-h-40 overflow-auto">
        {view.sat.map(({ sheet, title }) => (
          <li key={sheet}>
            <Check
              checked={fresh.includes(sheet)}
              onValue={(on) =>
                change({ fresh: on ? [...fresh, sheet] : fresh.filter((one) => one !== sheet) })
              }
            >
              {title}
            </Check>
          </li>
        ))}
      </ul>
    </Card>
  )
}

/** How many meet again, and whether that is proven to be the fewest. */
export function MixWords({ mix: { before, after, proven } }: { mix: MixReport }) {
  const pairs = (n: number) => (n === 0 ? 'No pair meets' : n === 1 ? '1 pair meets' : `${n} pairs meet`)
  return (
    <p className="figures rounded-field bg-seat-soft px-3 py-1.5">
      <strong>{pairs(after.again)} again</strong>
      {before.again !== after.again && `, ${before.again} before people were exchanged`}.{' '}
      {proven ? 'Fewer are not possible.' : 'The fewest that were found; fewer may be possible.'}
    </p>
  )
}
