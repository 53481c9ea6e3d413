import { Minus, Plus } from 'lucide-react'
import { Link } from 'react-router'
import type { Restored } from '../../../contract/restored.ts'
import type { RunView } from '../../../contract/seats.ts'
import { changeGroup, type GroupChanges } from '../../../contract/topics.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { restoredWords } from '../restored.ts'

/** What an instructor changes of a group in place: its limit, who answers for it, whether it is offered at all. */
export function GroupTools({
  view,
  group,
  members,
  names,
  onChanged,
}: {
  view: RunView
  group: RunView['groups'][number]
  members: RunView['seats']
  names: ReadonlyMap<string, string>
  onChanged: () => void
}) {
  const act = useAct()
  const { busy } = act
  const at = { sheet: view.code, group: group.code }
  let restored: Restored | undefined
  /** Changes the group; undone by what was there, with its people where it was closed. */
  const send = (changes: GroupChanges, was: GroupChanges) =>
    void act.do({
      work: (confirmed) => call(changeGroup, at, { ...changes, was, confirmed }),
      undo: async (confirmed) => {
        const reopened = changes.offered === false
        const body = { ...was, was: changes, bringBack: reopened, confirmed }
        const answer = await call(changeGroup, at, body)
        restored = answer.restored
        return answer
      },
      put: onChanged,
      refetch: onChanged,
      ask:
        changes.offered === false
          ? { title: 'Close this group?', yes: 'Close group' }
          : { title: 'Fewer seats than people?', yes: 'Make extra seats' },
      said: changes.offered === false ? 'The group is closed.' : 'The group is changed.',
      saidUndone: () => (restored ? restoredWords('The group', restored) : ''),
    })
  const nameConvener = (convener: string | null) =>
    void act.do({
      work: () => call(changeGroup, at, { convener }),
      undo: () => call(changeGroup, at, { convener: group.convener }),
      put: onChanged,
      refetch: onChanged,
      said:
        convener === null
          ? 'Nobody answers for the group now.'
          : `${names.get(convener)} answers for the group.`,
    })
  const { seats } = group
  const setLimit = (next: number) =>
    send(
      { seats: next },
      { seats: group.ownSeats === null ? null : group.ownSeats === NO_LIMIT ? 'none' : group.ownSeats },
    )
  return (
    <div className="mt-3 flex flex-col gap-2 border-t tear pt-2 text-sm">
      <div className="flex items-center justify-between gap-2">
        <span className="text-soft">Seats</span>
        {seats === NO_LIMIT ? (
          <Button size="small" busy={busy} onClick={() => setLimit(Math.max(1, members.length))}>
            Set a limit
          </Button>
        ) : (
          <span className="flex items-center gap-1.5">
            <Button
              size="small"
              aria-label="One seat fewer"
              disabled={busy || seats <= 1}
              onClick={() => setLimit(seats - 1)}
            >
              <Minus size={14} aria-hidden="true" />
            </Button>
            <output className="figures w-8 text-center font-bold" aria-label="Limit">
              {seats}
            </output>
            <Button
              size="small"
              aria-label="One seat more"
              disabled={busy || seats >= LIMITS.seats}
              onClick={() => setLimit(seats + 1)}
            >
              <Plus size={14} aria-hidden="true" />
            </Button>
          </span>
        )}
      </div>
      {view.rules.convener !== 'none' && members.length > 0 && (
        <label className="flex items-center justify-between gap-2 text-soft">
          Answers for it
          <Choice
            value={group.convener ?? ''}
            disabled={busy}
            onValue={(value) => nameConvener(value || null)}
            className="max-w-40"
          >
            {(view.rules.convener === 'named' || group.convener === null) && (
              <option value="">nobody yet</option>
            )}
            {members.map(({ person }) => (
              <option key={person} value={person}>
                {names.get(person)}
              </option>
            ))}
          </Choice>
        </label>
      )}
      <div className="flex flex-wrap gap-2">
        <Button size="small" busy={busy} onClick={() => send({ offered: false }, { offered: true })}>
          Close this group
        </Button>
        {members.length > 0 && (
          <Link
            to={`?nudge=${group.code}`}
            className="inline-flex min-h-8 items-center rounded-field border border-line-strong px-2.5 font-semibold hover:border-open"
          >
            Write to them
          </Link>
        )}
      </div>
    </div>
  )
}
