import type { Gap } from '../../../core/plan/cost.ts'
import { Button } from '../../kit/Button.tsx'
import { gapWords } from './naming.ts'

/** Whether a plan is proven best, by how much at most it could be better, and the search that is under way. */
export function Proof({
  gap,
  searching,
  progress,
  stop,
}: {
  gap: Gap | null
  searching: boolean
  progress: number | null
  stop?: () => void
}) {
  if (!searching) return gap && <p className="text-sm text-sun-ink">{`Not proven best: ${gapWords(gap)}.`}</p>
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
      <progress
        className="w-40 accent-seat"
        value={progress ?? 0}
        max={1}
        aria-label="Share of the search that is done"
      />
      <span className={gap ? 'text-sun-ink' : 'text-soft'}>
        {gap
          ? `The best so far, and still looking: ${gapWords(gap)}.`
          : 'Proven best. Checking why each sits where they do.'}
      </span>
      {stop && (
        <Button size="small" onClick={stop}>
          Stop search
        </Button>
      )}
    </div>
  )
}
