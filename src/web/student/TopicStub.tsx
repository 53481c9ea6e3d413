import { CalendarDays, MapPin } from 'lucide-react'
import { memo, type ReactNode, useState } from 'react'
import type { StudentGroup } from '../../contract/seats.ts'
import { NO_LIMIT, seatsLeft } from '../../core/limit.ts'
import { ordinal } from '../../core/ordinal.ts'
import { saySlot } from '../../core/zone.ts'
import { Button } from '../kit/Button.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { PipRow } from '../kit/Pip.tsx'
import type { Offer } from './choices.ts'

/**
 * One topic: what it is, and past the tear-off edge its seats and the one button. Drawn anew only when something of
 * it changed, so that a list of 120 stays quick.
 */
export const TopicStub = memo(function TopicStub({
  group,
  own,
  zone,
  offer,
  folded,
  busy,
  again,
  anyBusy,
  onPress,
  children,
}: {
  group: StudentGroup
  /** Whether the student sits here. */
  own: boolean
  zone: string
  offer: Offer
  /** Whether the brief is folded away until it is asked for. */
  folded: boolean
  busy: boolean
  again: boolean
  anyBusy: boolean
  onPress: (group: StudentGroup) => void
  /** What stands below the seats. */
  children?: ReactNode
}) {
  const { title, called, brief, section, place, startsAt, endsAt, seats, taken, held } = group
  const full = seatsLeft(seats, taken, held) === 0
  const wantsSeat = busy && (offer.kind === 'take' || offer.kind === 'move')
  const waiting = again ? 'Trying again…' : 'One moment…'
  return (
    <article
      id={stubId(group.code)}
      tabIndex={-1}
      aria-label={section ? `${title}, ${section}` : title}
      className={`rounded-card border bg-surface ${own ? 'border-seat' : 'border-line'} ${full && !own ? 'text-soft' : ''}`}
    >
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-3">
          <h2 className={`min-w-0 text-lg wrap-anywhere ${full && !own ? 'text-soft' : ''}`}>
            {title}
            {section && (
              <span className="font-sans text-[0.9375rem] font-normal text-soft"> · {section}</span>
            )}
            {called && (
              <span className="block font-sans text-[0.9375rem] font-normal text-soft">called {called}</span>
            )}
          </h2>
          {own && (
            <span className="shrink-0 rounded bg-seat-soft px-2 py-0.5 text-[0.8125rem] font-semibold text-seat">
              Your seat
            </span>
          )}
        </div>
        {brief && <Brief key={String(folded)} text={brief} folded={folded} title={title} />}
        {startsAt && (
          <p className="figures mt-1 flex items-center gap-1.5 text-sm">
            <CalendarDays size={15} aria-hidden="true" className="shrink-0" />{' '}
            {saySlot(startsAt, endsAt, zone)}
          </p>
        )}
        {place && (
          <p className="mt-0.5 flex items-center gap-1.5 text-sm text-faint">
            <MapPin size={15} aria-hidden="true" className="shrink-0" /> {place}
          </p>
        )}
      </div>
      <div className="flex min-h-[3.75rem] flex-wrap items-center justify-between gap-x-3 gap-y-2 border-t tear px-4 py-2">
        <span className="flex flex-wrap items-center gap-2.5">
          <PipRow taken={taken} seats={seats} held={held} own={own} asked={wantsSeat} size="large" />
          <span className="figures text-soft">{roomWords(group)}</span>
        </span>
        {offer.kind !== 'none' && (
          <Button
            size="touch"
            look={offer.kind === 'take' ? 'main' : 'plain'}
            disabled={anyBusy}
            busy={busy}
            onClick={() => onPress(group)}
            aria-label={`${busy ? waiting : LABELS[offer.kind]} ${section ? `${title}, ${section}` : title}`}
          >
            {busy ? waiting : LABELS[offer.kind]}
          </Button>
        )}
        {offer.kind === 'none' && offer.because === 'time-clash' && (
          <span className="text-sm text-sun-ink">at the same time as a seat of yours</span>
        )}
        {!own && group.names && group.names.length > 0 && (
          <p className="w-full text-soft">
            <strong className="text-ink">{group.names.join(', ')}</strong>
          </p>
        )}
        {!own && group.convener && (
          <p className="w-full text-sm text-soft">{group.convener} answers for this group.</p>
        )}
        {children}
      </div>
    </article>
  )
})

/** By which a group's stub is found on the page. */
export const stubId = (group: string) => `group-${group}`

const LABELS: Record<Exclude<Offer['kind'], 'none'>, string> = {
  take: 'Take a seat',
  move: 'Move here',
  ask: 'Ask to move',
  wait: 'Wait in line',
  'in-line': 'Leave the line',
}

function Brief({ text, folded, title }: { text: string; folded: boolean; title: string }) {
  const [shown, setShown] = useState(!folded)
  return (
    <>
      {folded && (
        <button
          type="button"
          aria-expanded={shown}
          className="-ml-1 min-h-11 rounded-field px-1 text-sm font-semibold text-seat underline underline-offset-2"
          onClick={() => setShown(!shown)}
        >
          {shown ? 'Fold the brief' : 'What it is about'}
          <span className="sr-only"> ({title})</span>
        </button>
      )}
      {shown && (
        <div className="text-soft">
          <Markdown text={text} inline />
        </div>
      )}
    </>
  )
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
