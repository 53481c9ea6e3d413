import { Minus, Plus } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import type { AffectedPerson } from '../../../contract/problems.ts'
import type { RunView } from '../../../contract/seats.ts'
import { changeGroup, type GroupChanges } from '../../../contract/topics.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, faultOf } from '../../data/call.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'

/** A change of the group that is asked about first, because people sit there. */
interface Asked {
  changes: GroupChanges
  words: string
  affected: readonly AffectedPerson[]
}

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
  const [asked, setAsked] = useState<Asked | null>(null)
  const [busy, setBusy] = useState(false)
  const send = async (changes: GroupChanges, before?: GroupChanges): Promise<void> => {
    setBusy(true)
    try {
      await call(changeGroup, { sheet: view.code, group: group.code }, changes)
      setAsked(null)
      if (before) {
        toast(changes.offered === false ? 'The group is closed.' : 'The group is changed.', {
          duration: 8_000,
          action: { label: 'Undo', onClick: () => void send({ ...before, confirmed: true }) },
        })
      }
      onChanged()
    } catch (error) {
      const fault = faultOf(error)
      if (fault.code === 'seated-affected')
        setAsked({ changes, words: fault.message, affected: fault.problem.affected ?? [] })
      else toast.error(fault.message, { duration: 8_000 })
    } finally {
      setBusy(false)
    }
  }
  const { seats } = group
  const setLimit = (next: number) =>
    void send({ seats: next }, { seats: seats === NO_LIMIT ? 'none' : seats })
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
          <select
            value={group.convener ?? ''}
            disabled={busy}
            onChange={({ target }) => void send({ convener: target.value || null })}
            className="min-h-8 max-w-40 rounded-field border border-line-strong bg-surface px-1.5 text-ink"
          >
            {(view.rules.convener === 'named' || group.convener === null) && (
              <option value="">nobody yet</option>
            )}
            {members.map(({ person }) => (
              <option key={person} value={person}>
                {names.get(person)}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="flex flex-wrap gap-2">
        <Button size="small" busy={busy} onClick={() => void send({ offered: false }, { offered: true })}>
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
      <Ask
        open={asked !== null}
        title={asked?.changes.offered === false ? 'Close this group?' : 'Fewer seats than people?'}
        yes={asked?.changes.offered === false ? 'Close group' : 'Make extra seats'}
        busy={busy}
        onNo={() => setAsked(null)}
        onYes={() => asked && void send({ ...asked.changes, confirmed: true })}
      >
        <p>{asked?.words}</p>
        <ul className="list-disc pl-5">
          {asked?.affected.map(({ name }) => (
            <li key={name}>{name}</li>
          ))}
        </ul>
      </Ask>
    </div>
  )
}
