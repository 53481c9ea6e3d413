import { NO_LIMIT } from '../../../../core/limit.ts'
import type { Wanted } from './wanted.ts'

/** More marks than these are told as a number. */
const MOST_DRAWN = 24

/** How much a group is wanted, as a small cap for each first wish, paler ones for second; hot where there are more than seats. */
export function Caps({ wanted: { first, second }, seats }: { wanted: Wanted; seats: number }) {
  const within = seats === NO_LIMIT ? first.length : Math.min(first.length, seats)
  const looks = [
    ...Array.from({ length: within }, () => 'bg-seat'),
    ...Array.from({ length: first.length - within }, () => 'bg-ember'),
    ...Array.from({ length: second }, () => 'bg-open/60'),
  ]
  return (
    <span aria-hidden="true" className="flex min-h-1.5 flex-wrap gap-x-1 gap-y-0.5">
      {looks.slice(0, MOST_DRAWN).map((look, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: marks have nothing of their own
        <span key={i} className={`drawn h-1.5 w-[0.6875rem] rounded-t-[3px] ${look}`} />
      ))}
      {looks.length > MOST_DRAWN && (
        <span className="text-xs leading-none text-soft">+{looks.length - MOST_DRAWN}</span>
      )}
    </span>
  )
}

/** The same in words. */
export function wantedWords({ first, second }: Wanted): string {
  return `${first.length} first ${first.length === 1 ? 'wish' : 'wishes'}, ${second} second`
}
