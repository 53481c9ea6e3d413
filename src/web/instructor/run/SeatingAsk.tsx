import { Ask } from '../../kit/Ask.tsx'
import type { Seating } from './useSeating.ts'

/** Asks before people are seated although something speaks against it. */
export function SeatingAsk({ seating }: { seating: Seating }) {
  const { asked, busy, dismiss, confirm } = seating
  const people = new Set(asked?.concerns.map(({ person }) => person)).size
  return (
    <Ask
      open={asked !== null}
      title={people === 1 ? 'Seat them all the same?' : `Seat ${asked?.changes.length ?? 0} all the same?`}
      yes="Seat all the same"
      busy={busy}
      onYes={() => void confirm()}
      onNo={dismiss}
    >
      <ul className="flex max-h-64 list-disc flex-col gap-1 overflow-auto pl-5">
        {asked?.concerns.map(({ person, words }) => (
          <li key={`${person} ${words}`}>{words}</li>
        ))}
      </ul>
    </Ask>
  )
}
