import { useState } from 'react'
import type { StudentSheet } from '../../../contract/seats.ts'
import type { OwnList, OwnWishes, WishTopic } from '../../../contract/wishes.ts'
import type { SheetState } from '../../../core/window.ts'
import { neededBy } from '../../../core/wishes/list.ts'
import { sayInstant } from '../../../core/zone.ts'
import { draftWords } from '../../data/draft.ts'
import { KeptBar } from './KeptBar.tsx'
import { Mates } from './Mates.tsx'
import { OrderList } from './OrderList.tsx'
import { OtherOrder } from './OtherOrder.tsx'
import { Others } from './Others.tsx'
import { added, inRow, rankIn, takenOut } from './order.ts'
import { type Order, useOrder } from './useOrder.ts'

/** A student’s order of topics: ranked ones above, the others below, and at the foot what is kept of it. */
export function Ranking({
  view,
  wishes,
  state,
  save,
  refetch,
}: {
  view: StudentSheet
  wishes: OwnWishes
  state: SheetState
  save: (order: Order, over: number) => Promise<OwnList>
  refetch: () => void
}) {
  const writing = useOrder(view, wishes, { save, refetch })
  const [said, setSaid] = useState('')
  const { ranks, cannot, mates } = writing.value
  const { wishesLeast, wishesMost, cannotMost, matesMost } = view.rules
  const open = state === 'open'
  const topics = new Map(wishes.topics.map((topic) => [topic.code, topic]))
  const titleOf = (code: string) => topics.get(code)?.title ?? 'A topic'
  const change = (more: Partial<Order>, words: string) => {
    writing.write({ ranks, cannot, mates, ...more })
    setSaid(words)
  }
  const ranked = inRow(ranks)
  const others = wishes.topics.filter(({ code }) => !ranked.includes(code))
  const free = others.filter(({ code }) => !cannot.some(({ topic }) => topic === code))
  const room = wishesMost - ranked.length
  const add = (topic: WishTopic) => {
    const next = added(ranks, topic.code)
    change(
      { ranks: next, cannot: cannot.filter((one) => one.topic !== topic.code) },
      `${topic.title} is number ${rankIn(next, topic.code)} in your order.`,
    )
  }
  const neededWith = (reasons: Order['cannot']) =>
    neededBy({ cannot: reasons }, wishes.topics.length, { least: wishesLeast })
  const needed = neededWith(cannot)
  return (
    <>
      <section aria-labelledby="your-order" className="flex flex-col gap-2">
        <h2 id="your-order" className="text-lg">
          Your order
        </h2>
        {wishes.gone.length > 0 && (
          <p className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
            {wishes.gone.join(', ')} {wishes.gone.length === 1 ? 'is' : 'are'} not offered any more and no
            longer in your order.
          </p>
        )}
        {ranked.length === 0 ? (
          <p className="rounded-card border tear p-4 text-soft">
            {open
              ? 'Nothing yet. Press Add at the topic that you want most, then at the next.'
              : 'You ranked nothing.'}
          </p>
        ) : (
          <OrderList
            ranks={ranks}
            topics={topics}
            zone={view.course.zone}
            fixed={!open}
            onRanks={(next, words) => change({ ranks: next }, words)}
            onOut={(code) =>
              change({ ranks: takenOut(ranks, code) }, `${titleOf(code)} is out of your order.`)
            }
          />
        )}
        {writing.state === 'beside' && writing.theirs && (
          <OtherOrder
            ranks={writing.theirs.ranks}
            titleOf={titleOf}
            onMine={() => writing.decide('mine')}
            onTheirs={() => writing.decide('theirs')}
          />
        )}
      </section>
      {matesMost > 0 && (
        <Mates
          mates={mates}
          agreed={wishes.agreed}
          most={matesMost}
          open={open}
          fault={writing.fault}
          onMates={(next, words) => change({ mates: next }, words)}
        />
      )}
      <Others
        topics={others}
        cannot={cannot}
        open={open}
        room={room}
        cannotLeft={cannotMost - cannot.length}
        cannotMost={cannotMost}
        zone={view.course.zone}
        onAdd={add}
        onCannot={(next, words) => change({ cannot: next }, words)}
        anyFine={
          open && ranked.length > 0 && free.length > 1 && free.length <= room
            ? () =>
                change(
                  { ranks: [...ranks, free.map(({ code }) => code)] },
                  `The other ${free.length} topics are as good as each other, last in your order.`,
                )
            : null
        }
      />
      <div aria-live="polite" className="sr-only">
        {said}
      </div>
      {open && (
        <KeptBar
          sheet={view.code}
          zone={view.course.zone}
          ranked={ranked.length}
          needed={needed}
          chances={view.rules.wishWorth === 'odds' && inRow(wishes.ranks).length >= neededWith(wishes.cannot)}
          version={wishes.version}
          said={
            writing.state !== 'kept'
              ? draftWords(writing)
              : cannot.some(({ reason }) => reason.trim() === '')
                ? 'Saved, but for what has no reason yet'
                : wishes.savedAt
                  ? `Saved ${sayInstant(wishes.savedAt, view.course.zone)}`
                  : ''
          }
        />
      )}
    </>
  )
}
