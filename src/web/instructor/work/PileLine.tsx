import type { DeskPile } from '../../../contract/marks.ts'
import { STATES } from './states.ts'

/** Shapes of a pip on the line: marked filled, to mark outlined, late hatched, missing crossed. */
function shapeOf({ marked, state }: DeskPile): string {
  if (marked) return 'bg-seat border-seat'
  if (state === 'missing' || state === 'no-group')
    return 'border-ember bg-[linear-gradient(to_top_right,transparent_44%,var(--color-ember)_44%_56%,transparent_56%)]'
  if (state === 'late')
    return 'border-open bg-[repeating-linear-gradient(135deg,var(--color-open)_0_1px,transparent_1px_3.5px)]'
  return state === 'handed-in' || state === 'took-place' ? 'border-open' : 'border-line-strong border-dashed'
}

/** The line of pips through the pile, one for each group or student; sections stand apart. */
export function PileLine({
  piles,
  at,
  others = [],
  onGo,
}: {
  piles: readonly DeskPile[]
  at: number
  /** Who else is where in the pile. */
  others?: readonly { name: string; owner: string }[]
  onGo: (index: number) => void
}) {
  return (
    <div role="toolbar" aria-label="The pile" className="flex flex-wrap items-center gap-[3px]">
      {piles.map((pile, i) => {
        const { owner, title, section, marked, state } = pile
        const apart = i > 0 && piles[i - 1]?.section !== section
        const there = others.filter((one) => one.owner === owner).map(({ name }) => name)
        const said = `${title}${section ? `, ${section}` : ''}: ${marked ? 'marked' : STATES[state].word}${there.length > 0 ? `; ${there.join(', ')} is there` : ''}`
        return (
          <button
            key={owner}
            type="button"
            aria-label={said}
            aria-current={i === at || undefined}
            title={said}
            tabIndex={i === at ? 0 : -1}
            onClick={() => onGo(i)}
            onKeyDown={(event) => {
              const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
              if (step === undefined) return
              event.preventDefault()
              onGo(i + step)
              const buttons = event.currentTarget.parentElement?.querySelectorAll('button')
              buttons?.[(i + step + piles.length) % piles.length]?.focus()
            }}
            className={`drawn relative h-[1.125rem] w-3.5 rounded-pip border-[1.5px] ${shapeOf(pile)} ${apart ? 'ml-3' : ''} ${
              i === at ? 'outline-2 outline-offset-2 outline-ink' : ''
            }`}
          >
            {there.length > 0 && (
              <span aria-hidden="true" className="absolute inset-x-0 -bottom-2 h-1 rounded-full bg-sun" />
            )}
          </button>
        )
      })}
    </div>
  )
}
