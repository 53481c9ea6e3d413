import { counted } from '../../../core/counted.ts'
import type { Writing } from '../../data/useDraft.ts'
import { Button } from '../../kit/Button.tsx'
import type { MarkDraft } from './mergeMarks.ts'

/** Where another marker changed the same part meanwhile: both are shown, and one is chosen. */
export function MarkedMeanwhile({
  writing: { state, theirs, decide },
  mine,
  theirsBy,
}: {
  writing: Omit<Writing<MarkDraft>, 'value'>
  mine: MarkDraft
  theirsBy: string
}) {
  if (state !== 'beside' || theirs === null) return null
  return (
    <div role="alert" className="flex flex-col gap-1.5 rounded-field bg-sun-soft px-3 py-2 text-sm">
      <p className="font-semibold text-sun-ink">{theirsBy} changed the same part meanwhile.</p>
      <p>
        Theirs: {said(theirs)}. Yours: {said(mine)}.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button size="small" onClick={() => decide('mine')}>
          Save mine
        </Button>
        <Button size="small" onClick={() => decide('theirs')}>
          Use theirs
        </Button>
      </div>
    </div>
  )
}

function said({ placements, points, feedback }: MarkDraft): string {
  const given = Object.values(placements)
  const placed = points ?? (given.length > 0 ? given.reduce((sum, own) => sum + own, 0) : null)
  const words = placed === null ? 'no points' : counted(placed, 'point')
  return `${words}${feedback ? `, “${feedback}”` : ''}`
}
