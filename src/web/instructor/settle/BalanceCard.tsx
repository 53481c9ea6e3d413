import type { SettleView } from '../../../contract/plans.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import type { Balance, Choices } from './input.ts'

/** Attributes that one plan is balanced by. */
const MOST = 3

/** What groups are balanced by, in order of weight: a mix of it in each, or groups that are alike in it. */
export function BalanceCard({
  view,
  choices,
  change,
}: {
  view: SettleView
  choices: Choices
  change: (more: Partial<Choices>) => void
}) {
  const { balance } = choices
  if (view.attributes.length === 0) return null
  const left = view.attributes.filter(({ name }) => !balance.some((one) => one.name === name))
  const put = (at: number, next: Balance | null) =>
    change({ balance: balance.flatMap((one, i) => (i === at ? (next ?? []) : one)) })
  return (
    <Card title="Balanced by">
      <ol className="flex flex-col gap-1.5">
        {balance.map((one, i) => (
          <li key={one.name} className="flex items-center gap-1.5">
            <Choice
              aria-label={`Weight ${i + 1}`}
              value={one.name}
              onValue={(name) => put(i, { ...one, name })}
              className="min-w-0 flex-1 font-semibold"
            >
              {view.attributes
                .filter(({ name }) => name === one.name || left.some((other) => other.name === name))
                .map(({ name }) => (
                  <option key={name}>{name}</option>
                ))}
            </Choice>
            <Choice
              aria-label={`How ${one.name} is spread`}
              value={one.how}
              onValue={(how) => put(i, { ...one, how: how as Balance['how'] })}
            >
              <option value="mix">mixed</option>
              <option value="alike">alike</option>
            </Choice>
            <Button size="small" look="quiet" aria-label={`Remove ${one.name}`} onClick={() => put(i, null)}>
              ×
            </Button>
          </li>
        ))}
      </ol>
      {balance.length < MOST && left[0] && (
        <Button
          size="small"
          className="mt-1.5"
          onClick={() => change({ balance: [...balance, { name: left[0]?.name ?? '', how: 'mix' }] })}
        >
          {balance.length === 0 ? 'Balance by a column of the roster' : 'Add another, less weighty'}
        </Button>
      )}
    </Card>
  )
}
