import type { WishFigures } from '../../../core/wishes/types.ts'

/** Parts of a bar of ranks: first, second, third, later, and none of one’s own or no seat. */
const PARTS = [
  { what: 'first', look: 'bg-seat text-on-seat' },
  { what: 'second', look: 'bg-seat/80 text-on-seat' },
  { what: 'third', look: 'bg-open text-on-seat' },
  { what: 'later', look: 'bg-line-strong text-ink' },
  { what: 'none of them', look: 'bg-ember text-on-ember' },
] as const

/** How many have their first wish, their second, … as a bar. */
export function RankBar({ figures, words }: { figures: WishFigures; words: string }) {
  const { byRank, none, leftWithWishes } = figures
  const [first = 0, second = 0, third = 0, ...later] = byRank
  const counts = [first, second, third, later.reduce((sum, n) => sum + n, 0), none + leftWithWishes]
  return (
    <span className="flex items-center">
      <span className="sr-only">{words}</span>
      <span aria-hidden="true" className="flex h-5 w-full gap-0.5">
        {counts.map((n, i) =>
          n === 0 ? null : (
            <span
              key={PARTS[i]?.what}
              style={{ flexGrow: n }}
              className={`drawn figures flex min-w-1.5 basis-0 items-center justify-center overflow-hidden rounded-[3px] text-xs font-semibold ${PARTS[i]?.look}`}
            >
              {n > 3 ? n : ''}
            </span>
          ),
        )}
      </span>
    </span>
  )
}

/** What the parts of the bar are. */
export function RankLegend() {
  return (
    <ul aria-hidden="true" className="mt-1 flex flex-wrap gap-x-3 text-sm text-soft">
      {PARTS.map(({ what, look }) => (
        <li key={what} className="flex items-center gap-1.5">
          <span className={`drawn inline-block size-2.5 rounded-[2px] ${look}`} /> {what}
        </li>
      ))}
    </ul>
  )
}
