import type { LiveState } from '../data/live.ts'
import { useOnline } from '../data/online.ts'
import { Button } from '../kit/Button.tsx'
import type { Underway } from './useClaim.ts'

/** Says that the page may be behind, and why. */
export function ConnectionNote({ live }: { live: LiveState }) {
  const online = useOnline()
  if (online && live === 'live') return null
  return (
    <output className="block rounded-field bg-sun-soft px-3 py-2 text-sm text-sun-ink">
      {online
        ? live === 'elsewhere'
          ? 'You have Haplon open in many places. Seats shown here may have changed; this page catches up when you come back to it.'
          : 'The connection is lost. Seats shown here may have changed; trying again…'
        : 'You are offline. Seats shown here may have changed. What you press is kept, and asked as soon as there is a connection.'}
    </output>
  )
}

/** Stands in reach while a claim waits for an answer that does not come. */
export function KeptNote({
  underway,
  titleOf,
  onStop,
}: {
  underway: Underway | null
  titleOf: (code: string) => string
  onStop: () => void
}) {
  if (!underway?.again) return null
  return (
    <aside aria-label="Waiting for the server" className="border-t border-sun bg-sun-soft">
      <div className="mx-auto flex max-w-2xl flex-wrap items-center justify-between gap-2 px-4 py-2">
        <p role="status" className="min-w-0 flex-1 basis-56 text-sun-ink">
          {WANTED[underway.kind]} {titleOf(underway.group)} is kept: no answer yet, asking again. Nothing is
          yours until the answer comes.
        </p>
        <Button size="touch" onClick={onStop}>
          Stop asking
        </Button>
      </div>
    </aside>
  )
}

const WANTED: Record<Underway['kind'], string> = {
  take: 'Your press for a seat at',
  move: 'Your move to',
  'give-up': 'Your wish to give up',
  wait: 'Your wish to wait for',
  'leave-line': 'Your wish to leave the line for',
}
