import { AIMS, rankWords } from '../../../contract/wishWords.ts'
import type { WishAim, WishFigures } from '../../../core/wishes/types.ts'
import { RankBar, RankLegend } from './RankBar.tsx'
import type { AimsTold } from './useAims.ts'

/** What comes first: each aim in a sentence, with what it would come to for this class beside the others. */
export function AimTable({
  aim,
  aims: { told, searching, fault },
  onAim,
}: {
  aim: WishAim
  aims: AimsTold
  /** Left out where the aim is not to be chosen here. */
  onAim?: (aim: WishAim) => void
}) {
  const all = [...told.values()]
  const proven = all.length === AIMS.length && all.every((one) => one.proven)
  return (
    <section aria-labelledby="what-first">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="what-first" className="text-lg">
          What comes first
        </h2>
        <output className="text-sm text-faint">
          {fault ??
            (searching ? 'Comparing the aims…' : proven ? 'each is the best there is for its aim' : '')}
        </output>
      </div>
      <div role="radiogroup" aria-labelledby="what-first" className="mt-1 flex flex-col gap-1">
        {AIMS.map(({ aim: value, label, short }) => {
          const one = told.get(value)
          const chosen = value === aim
          return (
            <label
              key={value}
              className={`grid cursor-pointer grid-cols-[1.25rem_minmax(12rem,21rem)_minmax(8rem,1fr)_11rem] items-center gap-x-4 gap-y-1 rounded-card border px-3 py-1.5 max-md:grid-cols-[1.25rem_minmax(0,1fr)] ${chosen ? 'border-seat bg-seat-soft' : 'border-transparent hover:border-line-strong'}`}
            >
              <input
                type="radio"
                name="aim"
                className="accent-seat"
                checked={chosen}
                disabled={!onAim}
                onChange={() => onAim?.(value)}
              />
              <span>
                <span className="block font-semibold first-letter:uppercase">{label}</span>
                <span className="block text-sm text-soft">{short}</span>
              </span>
              <span className="max-md:col-start-2">
                {one && <RankBar figures={one.figures} words={ranksInWords(one.figures)} />}
              </span>
              <span
                className={`text-sm max-md:col-start-2 ${!one || !isHard(one.figures) ? 'text-soft' : chosen ? 'font-semibold' : 'text-ember'}`}
              >
                {one ? worstWords(one.figures, one.after.under) : ''}
              </span>
            </label>
          )
        })}
      </div>
      <RankLegend />
    </section>
  )
}

/** Whether somebody gets nothing of what they wanted. */
const isHard = ({ none, leftWithWishes }: WishFigures) => none + leftWithWishes > 0

/** How it ends for those who come off worst. */
function worstWords({ byRank, none, left }: WishFigures, under: number): string {
  const people = (n: number) => (n === 1 ? 'one' : String(n))
  const last = byRank.findLastIndex((n) => n > 0) + 1
  const at = byRank[last - 1] ?? 0
  const parts = [
    ...(left > 0 ? [`${people(left)} without a seat`] : []),
    none > 0
      ? `${people(none)} ${none === 1 ? 'has' : 'have'} none of their wishes`
      : last > 1
        ? `${people(at)} ${at === 1 ? 'is' : 'are'} at the ${rankWords(last)} wish`
        : last === 1
          ? 'everybody has the first wish'
          : 'nobody ranked anything',
    ...(under > 0 ? [`${people(under)} ${under === 1 ? 'group is' : 'groups are'} below the floor`] : []),
  ]
  return parts.join(', ')
}

/** All figures in a sentence, for whoever does not see the bar. */
function ranksInWords({ byRank, none, left, seatedWithout }: WishFigures): string {
  const ranks = byRank.flatMap((n, i) => (n > 0 ? [`${n} have their ${rankWords(i + 1)} wish`] : []))
  return [...ranks, `${none} none of theirs`, `${seatedWithout} ranked nothing`, `${left} no seat`].join(', ')
}
