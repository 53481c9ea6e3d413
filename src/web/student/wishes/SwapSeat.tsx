import { useState } from 'react'
import type { StudentSheet } from '../../../contract/seats.ts'
import type { OwnSwaps } from '../../../contract/swaps.ts'
import type { OwnWishes } from '../../../contract/wishes.ts'
import { MOST_WISHES } from '../../../core/rules.ts'
import { sayInstant } from '../../../core/zone.ts'
import { draftWords } from '../../data/draft.ts'
import type { SheetSource } from '../source.ts'
import { OrderList } from './OrderList.tsx'
import { OtherOrder } from './OtherOrder.tsx'
import { Others } from './Others.tsx'
import { added, inRow, rankIn, takenOut } from './order.ts'
import { SWAP_SEAT } from './SwapOffer.tsx'
import { useSwapWish } from './useOrder.ts'

/** Swapping a seat that was given by wishes: what its student would rather have. */
export function SwapSeat({
  view,
  swaps,
  wishes,
  source,
}: {
  view: StudentSheet
  swaps: OwnSwaps
  wishes: OwnWishes
  source: Pick<SheetSource, 'swap' | 'wish'>
}) {
  const writing = useSwapWish(view, swaps, { save: source.swap.save, refetch: source.wish.refetch })
  const [said, setSaid] = useState('')
  const groupOf = (code: string) => view.groups.find((group) => group.code === code)
  const seat = groupOf(swaps.seat)?.title ?? 'your seat'
  const topics = new Map(wishes.topics.map((topic) => [topic.code, topic]))
  const titleOf = (code: string) => topics.get(code)?.title ?? 'A topic'
  const ranks = writing.value
  const ranked = inRow(ranks)
  const others = wishes.topics.filter(({ code }) => !ranked.includes(code) && code !== swaps.topic)
  const change = (next: string[][], words: string) => {
    writing.write(next)
    setSaid(words)
  }
  const zone = view.course.zone
  return (
    <section aria-labelledby={SWAP_SEAT} className="flex flex-col gap-2 border-t tear pt-3">
      <h2 id={SWAP_SEAT} className="text-lg">
        Swap your seat
      </h2>
      {!swaps.offer && swaps.last && (
        <p className="rounded-field bg-seat-soft px-3 py-2">
          {lastWords(swaps.last, groupOf(swaps.last.to)?.title ?? 'another group')}
          <span className="text-soft"> {sayInstant(swaps.last.at, zone)}.</span>
        </p>
      )}
      <p className="text-soft">
        Put in order what you would rather have than {seat}. Where others would rather have yours, a swap is
        offered to everybody in it, and made once all accept. Only staff see what you say.
      </p>
      {ranked.length === 0 ? (
        <p className="rounded-card border tear p-4 text-soft">
          Nothing: no swap is looked for. Press Add at what you would rather have.
        </p>
      ) : (
        <OrderList
          ranks={ranks}
          topics={topics}
          zone={zone}
          fixed={false}
          onRanks={change}
          onOut={(code) => change(takenOut(ranks, code), `${titleOf(code)} is out of your order.`)}
        />
      )}
      {writing.state === 'beside' && writing.theirs && (
        <OtherOrder
          ranks={writing.theirs}
          titleOf={titleOf}
          onMine={() => writing.decide('mine')}
          onTheirs={() => writing.decide('theirs')}
        />
      )}
      <output className="figures text-sm text-soft">
        {writing.state !== 'kept'
          ? draftWords(writing)
          : swaps.savedAt
            ? `Saved ${sayInstant(swaps.savedAt, zone)}`
            : ranked.length > 0
              ? 'Taken from what you ranked above your seat.'
              : ''}
      </output>
      <Others
        heading="Other topics"
        topics={others}
        cannot={[]}
        open
        room={MOST_WISHES - ranked.length}
        cannotLeft={0}
        cannotMost={0}
        zone={zone}
        anyFine={null}
        onAdd={({ code, title }) => {
          const next = added(ranks, code)
          change(next, `${title} is number ${rankIn(next, code)} in your order.`)
        }}
        onCannot={() => {}}
      />
      <div aria-live="polite" className="sr-only">
        {said}
      </div>
    </section>
  )
}

/** How the newest swap ended, for somebody who was in it. Whose doing it was is not told. */
function lastWords({ ending, mine }: NonNullable<OwnSwaps['last']>, to: string): string {
  if (ending === 'made') return `A swap brought you to ${to}.`
  if (mine || ending === 'fallen') return `The swap to ${to} was not made; you sit where you did.`
  return ending === 'lapsed'
    ? `You did not answer the swap to ${to} in time. None is looked for until you say again what you would rather have.`
    : `The swap to ${to} was declined.`
}
