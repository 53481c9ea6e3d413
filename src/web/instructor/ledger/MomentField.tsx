import { useState } from 'react'
import { ledgerMoment } from '../../../contract/ledger.ts'
import { type RunView, run } from '../../../contract/seats.ts'
import { tally } from '../../../core/tally.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { ALL } from '../run/arranged.ts'
import type { Shown } from '../run/GroupCell.tsx'
import { SeatField } from '../run/SeatField.tsx'
import { ShownAs } from '../run/ShownAs.tsx'

/** The seat field as it stood at an instant, told from the ledger. */
export function MomentField({ sheet, at }: { sheet: string; at: string }) {
  const base = useAnswer(run, { sheet }, { revalidateOnFocus: false })
  const then = useAnswer(ledgerMoment, { sheet, at }, { revalidateOnFocus: false, keepPreviousData: true })
  const [shown, setShown] = useState<Shown>('names')
  const error = base.error ?? then.error
  if (!base.data || !then.data)
    return error ? (
      <Trouble fault={error} retry={() => void then.mutate()} />
    ) : (
      <Loading what="who sat where" />
    )
  const view: RunView = { ...base.data, seats: then.data.seats }
  const standing = tally(view)
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col bg-surface">
      <div className="flex flex-wrap items-center justify-between gap-3 border-b border-line bg-seat-soft px-5 py-1.5">
        <p>
          As it stood {sayInstant(then.data.at, view.course.zone)}:{' '}
          <strong className="figures">{then.data.seats.length}</strong> seats taken,{' '}
          <strong className="figures">{standing.noGroup.length}</strong> of today’s students had no group.
          Groups and limits are those of today.
        </p>
        <ShownAs shown={shown} onShown={setShown} />
      </div>
      <SeatField
        view={view}
        taken={standing.taken}
        shown={shown}
        look={ALL}
        picked={null}
        pointedTopic={null}
        pointedPerson={null}
        onPick={() => {}}
      />
    </div>
  )
}
