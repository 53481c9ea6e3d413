import { NO_LIMIT } from '../../core/limit.ts'

/** One seat as it is drawn. Each kind has a shape of its own besides its colour. */
export type PipKind = 'taken' | 'free' | 'held' | 'own' | 'past' | 'needs' | 'asked'

const SHAPES: Record<PipKind, string> = {
  taken: 'bg-seat border-seat',
  free: 'border-open bg-transparent',
  held: 'border-open bg-[repeating-linear-gradient(135deg,var(--color-open)_0_1px,transparent_1px_3.5px)]',
  own: 'bg-seat border-seat after:absolute after:inset-x-[28%] after:bottom-[18%] after:h-[28%] after:rounded-full after:bg-surface',
  past: 'bg-sun border-sun ml-1',
  needs: 'bg-ember border-ember',
  asked: 'border-dashed border-seat bg-seat-soft',
}

const SIZES = {
  tiny: 'h-[0.5625rem] w-[0.375rem] rounded-[2px]',
  small: 'h-[0.8125rem] w-[0.6875rem] rounded-pip border-[1.5px]',
  large: 'h-[0.9375rem] w-[0.75rem] rounded-pip border-[1.5px]',
}

/** One seat: a small upright rectangle. Says nothing to a screen reader; the text beside it does. */
export function Pip({ kind, size = 'small' }: { kind: PipKind; size?: keyof typeof SIZES }) {
  return (
    <span
      aria-hidden="true"
      className={`drawn relative inline-block shrink-0 border transition-colors duration-150 ${SIZES[size]} ${SHAPES[kind]}`}
    />
  )
}

/**
 * The pips of a group: taken ones first, then free ones, then those kept; those past the limit set off at the end.
 * @param asked whether the reader asks for the first free one just now
 */
export function pipsOf(taken: number, seats: number, held: number, own: boolean, asked = false): PipKind[] {
  const limit = seats === NO_LIMIT ? taken : seats
  const within = Math.min(taken, limit)
  const free = Math.max(0, limit - taken)
  const kept = Math.min(held, free)
  return [
    ...Array.from({ length: within }, (_, i): PipKind => (own && i === within - 1 ? 'own' : 'taken')),
    ...Array.from({ length: free - kept }, (_, i): PipKind => (asked && i === 0 ? 'asked' : 'free')),
    ...Array.from({ length: kept }, (): PipKind => 'held'),
    ...Array.from({ length: Math.max(0, taken - limit) }, (): PipKind => 'past'),
  ]
}

/** Above this limit a group is drawn as a bar of proportions instead of single pips. */
const MOST_PIPS = 16

/** A group as its row of pips. */
export function PipRow({
  taken,
  seats,
  held = 0,
  own = false,
  asked = false,
  size = 'small',
}: {
  taken: number
  seats: number
  held?: number
  own?: boolean
  asked?: boolean
  size?: keyof typeof SIZES
}) {
  if (Math.max(taken, seats) > MOST_PIPS) {
    const share = seats === NO_LIMIT ? 100 : Math.min(100, (100 * taken) / seats)
    return (
      <span
        aria-hidden="true"
        className="drawn inline-block h-2.5 w-28 rounded-pip border-[1.5px] border-open"
      >
        <span
          className="block h-full bg-seat transition-[width] duration-150"
          style={{ width: `${share}%` }}
        />
      </span>
    )
  }
  return (
    <span className={`inline-flex ${size === 'tiny' ? 'gap-px' : 'gap-[0.1875rem]'}`}>
      {pipsOf(taken, seats, held, own, asked).map((kind, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a pip is its place in the row
        <Pip key={i} kind={kind} size={size} />
      ))}
    </span>
  )
}
