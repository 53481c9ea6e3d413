import { CalendarDays, MapPin } from 'lucide-react'
import type { OwnSeat, StudentGroup } from '../../contract/seats.ts'
import { NO_LIMIT, seatsLeft } from '../../core/limit.ts'
import { saySlot } from '../../core/zone.ts'
import { Button } from '../kit/Button.tsx'
import { BOX } from '../kit/Field.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { PipRow } from '../kit/Pip.tsx'
import type { Offer } from './choices.ts'

/** One topic: what it is, and past the tear-off edge its seats and the one button. */
export function TopicStub({
  group,
  own,
  zone,
  offer,
  busy,
  again,
  anyBusy,
  onPress,
}: {
  group: StudentGroup
  /** The student's seat here, if there is one. */
  own: OwnSeat | null
  zone: string
  offer: Offer
  busy: boolean
  again: boolean
  anyBusy: boolean
  onPress: () => void
}) {
  const { title, brief, section, place, startsAt, endsAt, seats, taken, held } = group
  const full = seatsLeft(seats, taken, held) === 0
  const waiting = again ? 'Trying again…' : 'One moment…'
  const label = {
    take: 'Take a seat',
    move: 'Move here',
    ask: 'Ask to move',
    wait: 'Wait in line',
    'in-line': 'Leave the line',
    none: '',
  }[offer.kind]
  return (
    <article
      aria-label={section ? `${title}, ${section}` : title}
      className={`rounded-card border bg-surface ${own ? 'border-seat' : 'border-line'} ${full && !own ? 'text-soft' : ''}`}
    >
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-3">
          <h2 className={`text-lg ${full && !own ? 'text-soft' : ''}`}>
            {title}
            {section && (
              <span className="font-sans text-[0.9375rem] font-normal text-soft"> · {section}</span>
            )}
          </h2>
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
        {startsAt && (
          <p className="figures mt-1 flex items-center gap-1.5 text-sm">
            <CalendarDays size={15} aria-hidden="true" /> {saySlot(startsAt, endsAt, zone)}
          </p>
        )}
        {place && (
          <p className="mt-0.5 flex items-center gap-1.5 text-sm text-faint">
            <MapPin size={15} aria-hidden="true" /> {place}
          </p>
        )}
      </div>
      <div className="flex min-h-[3.75rem] flex-wrap items-center justify-between gap-x-3 gap-y-2 border-t tear px-4 py-2">
        <span className="flex items-center gap-2.5">
          <PipRow taken={taken} seats={seats} held={held} own={own !== null} size="large" />
          <span className="figures text-soft">{roomWords(group)}</span>
        </span>
        {offer.kind !== 'none' && (
          <Button
            size="touch"
            look={offer.kind === 'take' ? 'main' : 'plain'}
            disabled={anyBusy}
            busy={busy}
            onClick={onPress}
          >
            {busy ? waiting : label}
          </Button>
        )}
        {offer.kind === 'none' && offer.because === 'time-clash' && (
          <span className="text-sm text-sun-ink">at the same time as a seat of yours</span>
        )}
        <Names group={group} own={own} />
      </div>
    </article>
  )
}

function ordinal(n: number): string {
  const end = n % 100 > 10 && n % 100 < 14 ? 'th' : ({ 1: 'st', 2: 'nd', 3: 'rd' }[n % 10] ?? 'th')
  return `${n}${end}`
}

function roomWords({ seats, taken, held, heldForYou, waiting, yourPlace }: StudentGroup): string {
  if (seats === NO_LIMIT) return `${taken} here, no limit`
  const left = seatsLeft(seats, taken, held)
  const kept = heldForYou && left > 0 ? ', one is kept for you' : ''
  const line = waiting > 0 ? ` · ${waiting} in line` : ''
  const yours = yourPlace === null ? '' : `, you are ${ordinal(yourPlace)}`
  if (left === 0) return `${held > 0 && taken < seats ? 'Full, the rest is kept' : 'Full'}${line}${yours}`
  return `${left === 1 ? '1 seat left' : `${left} seats left`}${kept}${line}${yours}`
}

function Names({ group, own }: { group: StudentGroup; own: OwnSeat | null }) {
  const { names, convener } = group
  if (!own && (names === null || names.length === 0)) return null
  return (
    <div className="flex w-full flex-col gap-0.5 text-soft">
      {names && names.length > 0 && (
        <p>
          {own ? 'With you: ' : ''}
          <strong className="text-ink">{names.join(', ')}</strong>
        </p>
      )}
      {own && names?.length === 0 && (
        <p>{group.taken <= 1 ? 'You are the first here.' : 'Nobody else sits here.'}</p>
      )}
      {own && names === null && group.taken > 1 && <p>{group.taken - 1} more sit here.</p>}
      {(own?.convener || convener) && (
        <p className="text-sm">
          {own?.convener ? 'You answer for this group.' : `${convener} answers for this group.`}
        </p>
      )}
      {own?.link && (
        <p>
          <a
            href={own.link}
            target="_blank"
            rel="noreferrer"
            className="font-semibold text-seat underline underline-offset-2"
          >
            Meet online
          </a>
        </p>
      )}
    </div>
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
