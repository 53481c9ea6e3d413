import { useState } from 'react'
import type { ComposeView } from '../../../contract/sheets.ts'
import { msOf } from '../../../core/instant.ts'
import { sayLength } from '../../../core/window.ts'
import { localTimeOf, sayInstant } from '../../../core/zone.ts'
import type { Fault } from '../../data/call.ts'
import { serverNow } from '../../data/clock.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX, FieldFrame } from '../../kit/Field.tsx'
import type { ChangeSheet } from './Card.tsx'
import { useChosen } from './useChosen.ts'
import { windowDoubts } from './windowDoubts.ts'

/** The two ends of the window, as wall-clock times of the course's zone. */
export function WindowFields({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const { opensAt, closesAt } = view
  const visible = useChosen(view.visibleBefore, (chosen) =>
    change({ visibleBefore: chosen }, { visibleBefore: view.visibleBefore }),
  )
  return (
    <div className="flex flex-col gap-3">
      <End
        label="Opens"
        instant={opensAt}
        view={view}
        path="opensAt"
        hint={opensAt ? sayInstant(opensAt, view.course.zone) : 'Left empty, it opens when it is published.'}
        keep={(local, which) => change({ opensAt: local, ...(which && { whichOpens: which }) })}
      />
      <End
        label="Closes"
        instant={closesAt}
        view={view}
        path="closesAt"
        hint={closesAt ? sayInstant(closesAt, view.course.zone) : 'Needed before the sheet can be published.'}
        keep={(local, which) => change({ closesAt: local, ...(which && { whichCloses: which }) })}
      />
      <p className="text-sm text-faint">
        {opensAt && closesAt && `Open for ${sayLength(msOf(closesAt) - msOf(opensAt))}. `}
        Times are those of {view.course.zone}.
      </p>
      {windowDoubts(view, serverNow()).map((doubt) => (
        <p key={doubt} className="rounded-field bg-sun-soft px-2.5 py-1 text-sm text-sun-ink">
          {doubt}
        </p>
      ))}
      {view.state === 'closed' && view.mayEdit && (
        <p className="text-sm text-soft">It is closed. A later closing time opens it again.</p>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={visible.value}
          disabled={!view.mayEdit}
          onChange={({ target }) => void visible.choose(target.checked)}
          className="size-4 accent-seat"
        />
        Students see it before it opens
      </label>
    </div>
  )
}

function End({
  label,
  instant,
  view,
  path,
  hint,
  keep,
}: {
  label: string
  instant: string | null
  view: ComposeView
  path: 'opensAt' | 'closesAt'
  hint: string
  keep: (local: string | null, which?: 'first' | 'second') => Promise<Fault | null>
}) {
  const kept = instant === null ? '' : localTimeOf(instant, view.course.zone)
  const [typed, setTyped] = useState<string | null>(null)
  const [fault, setFault] = useState<Fault | null>(null)
  const send = async (local: string, which?: 'first' | 'second') => {
    if (local === kept && !which) {
      setTyped(null)
      setFault(null)
      return
    }
    const refused = await keep(local === '' ? null : local, which)
    setFault(refused)
    if (!refused) setTyped(null)
  }
  const twice = fault?.code === 'time-occurs-twice'
  return (
    <FieldFrame
      label={label}
      hint={hint}
      fault={
        fault && (
          <>
            {fault.field(path) ?? fault.message}
            {twice && typed !== null && (
              <span className="mt-1 flex gap-2">
                <Button size="small" onClick={() => void send(typed, 'first')}>
                  The first, before clocks go back
                </Button>
                <Button size="small" onClick={() => void send(typed, 'second')}>
                  The second
                </Button>
              </span>
            )}
          </>
        )
      }
    >
      {(ids) => (
        <input
          {...ids}
          type="datetime-local"
          readOnly={!view.mayEdit}
          value={typed ?? kept}
          onChange={(event) => {
            setTyped(event.target.value)
            setFault(null)
          }}
          onBlur={() => typed !== null && void send(typed)}
          onKeyDown={(event) => event.key === 'Enter' && typed !== null && void send(typed)}
          className={`${BOX} figures min-h-9`}
        />
      )}
    </FieldFrame>
  )
}
