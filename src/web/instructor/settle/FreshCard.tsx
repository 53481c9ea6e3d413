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

/** How well people are mixed, before exchanges and after, and whether that is proven to be the best. */
export function MixWords({ mix: { before, after, proven }, fresh }: { mix: MixReport; fresh: boolean }) {
  const pairs = (n: number) => (n === 0 ? 'No pair meets' : n === 1 ? '1 pair meets' : `${n} pairs meet`)
  const lines = [
    ...(fresh
      ? [
          `${pairs(after.again)} again${before.again !== after.again ? `, ${before.again} before people were exchanged` : ''}.`,
        ]
      : []),
    ...after.spread.map(({ name, off }, i) => {
      const was = before.spread[i]?.off ?? off
      const first = was === off ? '' : `, ${was} off before people were exchanged`
      return off === 0
        ? `${name}: spread as well as it can be${first}.`
        : `${name}: ${off} ${off === 1 ? 'person' : 'people'} off the best spread there could be${first}.`
    }),
  ]
  return (
    <div className="figures rounded-field bg-seat-soft px-3 py-1.5">
      {lines.map((line) => (
        <p key={line} className="font-semibold">
          {line}
        </p>
      ))}
      <p className="text-sm text-soft">
        {proven
          ? 'Better is not possible with these sizes.'
          : 'The best that was found; a better one may be possible.'}
      </p>
    </div>
  )
}
