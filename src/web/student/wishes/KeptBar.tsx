import { useEffect, useState } from 'react'
import { type OwnOdds, ownOdds } from '../../../contract/wishes.ts'
import { rankWords } from '../../../contract/wishWords.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'

/** Milliseconds after which chances are asked for again; sooner where they are not those of the order as it is. */
const AGAIN = 60_000
const SOON = 10_000

/** Stays in reach at the foot: what is kept of the order, whether it counts, and, where the rules show them, the chances. */
export function KeptBar({
  sheet,
  zone,
  ranked,
  needed,
  chances,
  version,
  said,
}: {
  sheet: string
  zone: string
  ranked: number
  needed: number
  /** Whether the rules show chances and the order that is kept counts: lots are drawn with no other. */
  chances: boolean
  /** The version of the order that is kept. */
  version: number
  said: string
}) {
  return (
    <div className="sticky bottom-0 z-10 -mx-4 mt-auto">
      <aside aria-label="What is kept" className="bg-seat text-on-seat sm:rounded-t-card">
        <div className="mx-auto flex min-h-14 max-w-2xl flex-wrap items-center justify-between gap-x-3 px-4 py-2">
          <p className="min-w-0">
            <span className="figures block text-sm">
              {ranked} ranked, at least {needed}
            </span>
            <strong className="block font-display leading-tight">{countWords(ranked, needed)}</strong>
          </p>
          <output className="figures text-sm">{said}</output>
          {chances && ranked >= needed && <Chances sheet={sheet} zone={zone} version={version} />}
        </div>
      </aside>
    </div>
  )
}

/** Whether a list counts, and what it still needs. */
function countWords(ranked: number, needed: number): string {
  if (ranked >= needed) return 'Your order counts'
  if (ranked === 0) return 'You have ranked nothing yet'
  const more = needed - ranked
  return `It counts with ${more === 1 ? 'one topic' : `${more} topics`} more`
}

function Chances({ sheet, zone, version }: { sheet: string; zone: string; version: number }) {
  const [how, setHow] = useState(false)
  const { data, error, mutate } = useAnswer(
    ownOdds,
    { sheet },
    { refreshInterval: (known) => (known?.version === version ? AGAIN : SOON) },
  )
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked anew for each order that is kept
  useEffect(() => void mutate(), [version])
  if (error) return <p className="w-full text-sm">Your chances could not be drawn. They are tried again.</p>
  if (!data) return <p className="w-full text-sm">Drawing lots for your chances…</p>
  const words = chanceWords(data)
  return (
    <div className="w-full text-sm">
      <p className="flex flex-wrap items-center justify-between gap-2">
        <strong className="font-display text-base">{words}</strong>
        <button
          type="button"
          aria-expanded={how}
          onClick={() => setHow(!how)}
          className="min-h-11 rounded-field border border-on-seat px-3 font-semibold hover:bg-on-seat hover:text-seat focus-visible:outline-on-seat"
        >
          How?
        </button>
      </p>
      {how && (
        <p className="figures pb-1">
          {data.draws} lots were drawn with the wishes of {sayInstant(data.at, zone)}
          {data.version !== version && ', before your last change'}: you came {allWords(data)}. Others can
          still change theirs.
        </p>
      )}
    </div>
  )
}

/** With fewer lots than these a share says little. */
const FEW = 20

/** The chance of the first wish in a few words, as a fraction that is easily read. */
function chanceWords({ byRank, draws, version }: OwnOdds): string {
  if (version === null) return 'Your chances come in a moment'
  if (draws < FEW) return `Your first in ${byRank[0] ?? 0} of ${draws} lots`
  const share = (byRank[0] ?? 0) / draws
  if (share >= 0.995) return 'Chance of your first: nearly certain'
  if (share <= 0.005) return 'Chance of your first: hardly any'
  const { n, of } = nearest(share)
  return `Chance of your first: ${n} in ${of}`
}

/** The fraction with a small denominator that is nearest. */
function nearest(share: number): { n: number; of: number } {
  const all = [2, 3, 4, 5, 6, 7, 8, 10, 20].map((of) => ({
    n: Math.min(of - 1, Math.max(1, Math.round(share * of))),
    of,
  }))
  const off = ({ n, of }: { n: number; of: number }) => Math.abs(n / of - share)
  return all.reduce((best, one) => (off(one) < off(best) - 0.01 ? one : best))
}

function allWords({ byRank, none, left, draws }: OwnOdds): string {
  const percent = (n: number) => `${Math.round((100 * n) / Math.max(1, draws))} %`
  return [
    ...byRank.flatMap((n, i) => (n > 0 ? [`to your ${rankWords(i + 1)} wish in ${percent(n)}`] : [])),
    ...(none > 0 ? [`to none of them in ${percent(none)}`] : []),
    ...(left > 0 ? [`to no seat in ${percent(left)}`] : []),
  ].join(', ')
}
