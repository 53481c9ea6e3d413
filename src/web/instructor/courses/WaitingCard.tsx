import { Link } from 'react-router'
import type { SmallGroup, WaitingItem } from '../../../contract/courses.ts'
import { changeGroup } from '../../../contract/topics.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { smallWords, waitingWords } from './waiting.ts'

/** What waits for an instructor or tutor, each with the way to it, and what can be done at once. */
export function WaitingCard({ items, onChanged }: { items: readonly WaitingItem[]; onChanged: () => void }) {
  return (
    <section aria-labelledby="waiting">
      <h2 id="waiting" className="mb-3 text-lg">
        Waiting for you
      </h2>
      {items.length === 0 ? (
        <p className="rounded-card border tear p-5 text-soft">Nothing waits. Every sheet runs by itself.</p>
      ) : (
        <ul className="rounded-card border border-line bg-surface px-4 py-1">
          {items.map((item) => {
            const { what, where, to } = waitingWords(item)
            return (
              <li
                key={`${item.kind}${item.sheet ?? item.course}`}
                className="border-b tear py-2.5 last:border-0"
              >
                <Link to={to} className="block hover:underline">
                  <strong className="block font-semibold">{what}</strong>
                  <span className="text-soft">{where}</span>
                </Link>
                {item.small.map((group) => (
                  <Small key={group.group} sheet={item.sheet ?? ''} small={group} onChanged={onChanged} />
                ))}
              </li>
            )
          })}
        </ul>
      )}
    </section>
  )
}

/** A group that somebody left: merge it, fill it up, or leave it as it is. */
function Small({ sheet, small, onChanged }: { sheet: string; small: SmallGroup; onChanged: () => void }) {
  const { group, title, size, ownFloor, can } = small
  const act = useAct()
  const setFloor = (floor: number | null) => () => call(changeGroup, { sheet, group }, { floor })
  const leave = () =>
    act.do({
      work: setFloor(size),
      undo: setFloor(ownFloor),
      put: onChanged,
      said: `${title} stays as it is: its floor is ${size} now.`,
    })
  const way = (by: string) => `/sheets/${sheet}/settle?mend=${group}&by=${by}`
  return (
    <div className="mt-2 flex flex-col gap-1.5 rounded-field bg-canvas px-2.5 py-2">
      <p className="text-sm">
        <strong className="font-semibold">{title}</strong> {smallWords(small)}
      </p>
      <p className="flex flex-wrap gap-1.5">
        {can.includes('merge') && (
          <ButtonLink size="small" to={way('merge')} label={`Merge group: ${title} into another`}>
            Merge group
          </ButtonLink>
        )}
        {can.includes('fill') && (
          <ButtonLink size="small" to={way('fill')} label={`Fill group up: ${title}`}>
            Fill group up
          </ButtonLink>
        )}
        <Button
          size="small"
          busy={act.busy}
          onClick={() => void leave()}
          aria-label={`Lower floor: ${title} stays as it is`}
        >
          Lower floor
        </Button>
      </p>
    </div>
  )
}
