import type { StudentGroup } from '../../contract/seats.ts'
import { Button } from '../kit/Button.tsx'
import { BOX } from '../kit/Field.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { PipRow } from '../kit/Pip.tsx'

/** One topic: what it is, and past the tear-off edge its seats and the one button. */
export function TopicStub({
  group,
  mates,
  moving,
  open,
  busy,
  again,
  anyBusy,
  onTake,
}: {
  group: StudentGroup
  /** The others in the group, when it is the student's own. */
  mates: readonly string[] | null
  moving: boolean
  open: boolean
  busy: boolean
  again: boolean
  anyBusy: boolean
  onTake: () => void
}) {
  const { title, brief, place, seats, taken } = group
  const own = mates !== null
  const left = Math.max(0, seats - taken)
  const full = left === 0
  const waiting = again ? 'Trying again…' : 'One moment…'
  const label = busy ? waiting : moving ? 'Move here' : 'Take a seat'
  return (
    <article
      aria-label={title}
      className={`rounded-card border bg-surface ${own ? 'border-seat' : 'border-line'}`}
    >
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-3">
          <h2 className={`text-lg ${full && !own ? 'text-soft' : ''}`}>{title}</h2>
          {own && (
            <span className="shrink-0 rounded bg-seat-soft px-2 py-0.5 text-[0.8125rem] font-semibold text-seat">
              Your seat
            </span>
          )}
        </div>
        {brief && (
          <div className="text-soft">
            <Markdown text={brief} inline />
          </div>
        )}
        {place && <p className="text-sm text-faint">{place}</p>}
      </div>
      <div className="flex min-h-[3.75rem] flex-wrap items-center justify-between gap-x-3 gap-y-2 border-t tear px-4 py-2">
        <span className="flex items-center gap-2.5">
          <PipRow taken={taken} seats={seats} own={own} size="large" />
          <span className="figures text-soft">
            {full ? 'Full' : left === 1 ? '1 seat left' : `${left} seats left`}
          </span>
        </span>
        {!own && open && !full && (
          <Button
            size="touch"
            look={moving ? 'plain' : 'main'}
            disabled={anyBusy}
            busy={busy}
            onClick={onTake}
          >
            {label}
          </Button>
        )}
        {own && (
          <p className="w-full text-soft">
            {mates.length > 0 ? (
              <>
                With you: <strong className="text-ink">{mates.join(', ')}</strong>
              </>
            ) : (
              'You are the first here.'
            )}
          </p>
        )}
      </div>
    </article>
  )
}

/** What of the list is shown: all topics, those with room, or those that fit a word. */
export function Choices({
  all,
  withRoom,
  roomOnly,
  onRoomOnly,
  typed,
  onTyped,
}: {
  all: number
  withRoom: number
  roomOnly: boolean
  onRoomOnly: (value: boolean) => void
  typed: string | null
  onTyped: (value: string | null) => void
}) {
  const choice = (pressed: boolean) =>
    `min-h-11 rounded-field border px-3.5 font-semibold ${pressed ? 'border-seat-soft bg-seat-soft text-seat' : 'border-line-strong bg-surface'}`
  return (
    <fieldset className="flex flex-wrap gap-2">
      <legend className="sr-only">Which topics are shown</legend>
      <button
        type="button"
        aria-pressed={!roomOnly}
        className={choice(!roomOnly)}
        onClick={() => onRoomOnly(false)}
      >
        All {all}
      </button>
      <button
        type="button"
        aria-pressed={roomOnly}
        className={choice(roomOnly)}
        onClick={() => onRoomOnly(true)}
      >
        With seats {withRoom}
      </button>
      {typed === null ? (
        <button type="button" className={choice(false)} onClick={() => onTyped('')}>
          Search
        </button>
      ) : (
        <input
          type="search"
          aria-label="Search the topics"
          placeholder="A word of title or brief"
          className={`${BOX} min-h-11 max-w-56`}
          value={typed}
          // biome-ignore lint/a11y/noAutofocus: it appears because its button was pressed
          autoFocus
          onChange={(event) => onTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onTyped(null)}
          onBlur={() => typed === '' && onTyped(null)}
        />
      )}
    </fieldset>
  )
}
