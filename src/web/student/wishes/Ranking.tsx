import { useState } from 'react'
import type { StudentSheet } from '../../../contract/seats.ts'
import type { OwnList, OwnWishes, WishTopic } from '../../../contract/wishes.ts'
import { matches } from '../../../core/names.ts'
import type { SheetState } from '../../../core/window.ts'
import { neededBy } from '../../../core/wishes/list.ts'
import { sayInstant } from '../../../core/zone.ts'
import { draftWords } from '../../data/draft.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import { KeptBar } from './KeptBar.tsx'
import { Mates } from './Mates.tsx'
import { OrderList } from './OrderList.tsx'
import { added, inRow, rankIn, takenOut } from './order.ts'
import { type Order, useOrder } from './useOrder.ts'
import { topicWords } from './words.ts'

/** Above this number of topics there is a field to look for one. */
const MANY_TOPICS = 8

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
  const needed = neededBy({ cannot }, wishes.topics.length, { least: wishesLeast })
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
            order={writing.theirs}
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
          odds={view.rules.wishWorth === 'odds'}
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

/** What was made of the order elsewhere, to choose between. */
function OtherOrder({
  order,
  titleOf,
  onMine,
  onTheirs,
}: {
  order: Order
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
        {order.ranks.map((topics, i) => `${i + 1} ${topics.map(titleOf).join(', ')}`).join(' · ') ||
          'nothing'}
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

/** Topics that are not ranked: to be added, or left out as impossible. */
function Others({
  topics,
  cannot,
  open,
  room,
  cannotLeft,
  cannotMost,
  zone,
  onAdd,
  onCannot,
  anyFine,
}: {
  topics: readonly WishTopic[]
  cannot: Order['cannot']
  open: boolean
  /** How many topics can still be ranked, and left out as impossible. */
  room: number
  cannotLeft: number
  cannotMost: number
  zone: string
  onAdd: (topic: WishTopic) => void
  onCannot: (cannot: Order['cannot'], words: string) => void
  /** Ranks all the others equally; null where that cannot be. */
  anyFine: (() => void) | null
}) {
  const [typed, setTyped] = useState('')
  if (topics.length === 0) return null
  const shown = topics.filter(({ title, brief, slots }) =>
    matches(typed, title, brief, ...slots.map(({ place }) => place)),
  )
  const reasonOf = (code: string) => cannot.find(({ topic }) => topic === code)?.reason
  return (
    <section aria-labelledby="not-ranked" className="border-t tear pt-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 id="not-ranked" className="text-lg">
          Not in your order
        </h2>
        {anyFine && (
          <Button size="touch" onClick={anyFine}>
            Any of these is fine
          </Button>
        )}
      </div>
      {topics.length > MANY_TOPICS && (
        <input
          type="search"
          aria-label="Search the topics"
          placeholder="A word of title or brief"
          className={`${BOX} mt-2 min-h-11`}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
      )}
      {open && room <= 0 && (
        <p className="mt-1 text-sm text-soft">Your order has as many topics as it can.</p>
      )}
      <ul className="mt-1">
        {shown.map((topic) => {
          const reason = reasonOf(topic.code)
          return (
            <li key={topic.code} className="border-b border-line py-2.5 last:border-0">
              <div className="flex items-start justify-between gap-3">
                <div className="min-w-0">
                  <h3 className={`text-base wrap-anywhere ${reason === undefined ? '' : 'text-soft'}`}>
                    {topic.title}
                  </h3>
                  <p className="figures text-sm text-faint">{topicWords(topic, zone)}</p>
                  {topic.brief && (
                    <div className="text-sm text-soft">
                      <Markdown text={topic.brief} inline />
                    </div>
                  )}
                </div>
                {open && reason === undefined && (
                  <div className="flex shrink-0 flex-col gap-1">
                    <Button
                      size="touch"
                      disabled={room <= 0}
                      aria-label={`Add ${topic.title}`}
                      onClick={() => onAdd(topic)}
                    >
                      Add
                    </Button>
                    {cannotLeft > 0 && (
                      <Button
                        size="touch"
                        look="quiet"
                        aria-label={`I cannot have ${topic.title}`}
                        onClick={() =>
                          onCannot(
                            [...cannot, { topic: topic.code, reason: '' }],
                            `Say why you cannot have ${topic.title}.`,
                          )
                        }
                      >
                        I cannot
                      </Button>
                    )}
                  </div>
                )}
              </div>
              {reason !== undefined && (
                <Impossible
                  title={topic.title}
                  reason={reason}
                  open={open}
                  onReason={(next) =>
                    onCannot(
                      cannot.map((one) => (one.topic === topic.code ? { ...one, reason: next } : one)),
                      '',
                    )
                  }
                  onDrop={() =>
                    onCannot(
                      cannot.filter((one) => one.topic !== topic.code),
                      `${topic.title} can be had again.`,
                    )
                  }
                />
              )}
            </li>
          )
        })}
      </ul>
      {shown.length === 0 && <p className="py-3 text-soft">No topic fits what you look for.</p>}
      {open && cannotMost > 0 && cannotLeft <= 0 && (
        <p className="text-sm text-soft">
          {cannotMost === 1 ? 'One topic is' : `${cannotMost} topics are`} the most that can be left out as
          impossible.
        </p>
      )}
    </section>
  )
}

/** Why somebody cannot have a topic; they never get it. */
function Impossible({
  title,
  reason,
  open,
  onReason,
  onDrop,
}: {
  title: string
  reason: string
  open: boolean
  onReason: (reason: string) => void
  onDrop: () => void
}) {
  if (!open) return <p className="text-sm text-soft">You said that you cannot: {reason}</p>
  return (
    <div className="mt-1 flex flex-wrap items-end gap-2">
      <label className="flex min-w-0 flex-1 basis-56 flex-col text-sm text-soft">
        You cannot have it, because
        <input
          className={`${BOX} min-h-11 text-ink`}
          value={reason}
          maxLength={200}
          placeholder="a few words, which staff read"
          aria-label={`Why you cannot have ${title}`}
          // biome-ignore lint/a11y/noAutofocus: it appears because its button was pressed
          autoFocus={reason === ''}
          onChange={({ target }) => onReason(target.value)}
        />
      </label>
      <Button size="touch" look="quiet" onClick={onDrop} aria-label={`I can have ${title}`}>
        I can
      </Button>
    </div>
  )
}
