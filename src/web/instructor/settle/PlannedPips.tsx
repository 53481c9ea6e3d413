import { NO_LIMIT } from '../../../core/limit.ts'
import { Pip, type PipKind } from '../../kit/Pip.tsx'

/** A group as its pips once a plan is applied: those who stay, those newly planned, and what is left free. */
export function PlannedPips({
  stay,
  planned,
  seats,
  blocked,
}: {
  stay: number
  planned: number
  seats: number
  blocked: number
}) {
  const limit = seats === NO_LIMIT ? stay + planned : seats
  const free = Math.max(0, limit - stay - planned)
  const kept = Math.min(blocked, free)
  const past = Math.max(0, stay + planned - limit)
  if (Math.max(limit, stay + planned) > 16)
    return (
      <span className="figures">
        {stay} <span className="font-semibold text-ember">+{planned}</span>
      </span>
    )
  const pips: PipKind[] = [
    ...Array.from({ length: stay }, (): PipKind => 'taken'),
    ...Array.from({ length: Math.max(0, planned - past) }, (): PipKind => 'needs'),
    ...Array.from({ length: free - kept }, (): PipKind => 'free'),
    ...Array.from({ length: kept }, (): PipKind => 'held'),
    ...Array.from({ length: past }, (): PipKind => 'past'),
  ]
  return (
    <span className="inline-flex gap-[0.1875rem]">
      {pips.map((kind, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a pip is its place in the row
        <Pip key={i} kind={kind} />
      ))}
    </span>
  )
}
