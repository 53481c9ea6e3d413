import { Button } from '../../kit/Button.tsx'
import type { Ranks } from './order.ts'

/** What was made of an order elsewhere, to choose between. */
export function OtherOrder({
  ranks,
  titleOf,
  onMine,
  onTheirs,
}: {
  ranks: Ranks
  titleOf: (code: string) => string
  onMine: () => void
  onTheirs: () => void
}) {
  return (
    <div role="alert" className="flex flex-col gap-2 rounded-field bg-sun-soft px-3 py-2">
      <p className="font-semibold text-sun-ink">
        Your order was changed elsewhere meanwhile, perhaps in another tab. This page’s stands above; the
        other:
      </p>
      <p className="rounded-field bg-surface px-2 py-1 text-sm">
        {ranks.map((topics, i) => `${i + 1} ${topics.map(titleOf).join(', ')}`).join(' · ') || 'nothing'}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button size="touch" onClick={onMine}>
          Save this page’s
        </Button>
        <Button size="touch" onClick={onTheirs}>
          Use the other
        </Button>
      </div>
    </div>
  )
}
