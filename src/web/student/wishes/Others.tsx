import { useState } from 'react'
import type { WishTopic } from '../../../contract/wishes.ts'
import { matches } from '../../../core/names.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import type { Order } from './useOrder.ts'
import { topicWords } from './words.ts'

/** Above this number of topics there is a field to look for one. */
const MANY_TOPICS = 8

/** Topics that are not ranked: to be added, or left out as impossible. */
export function Others({
  heading = 'Not in your order',
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
  heading?: string
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
          {heading}
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
