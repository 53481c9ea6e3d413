import { useState } from 'react'
import type { ComposeView, SheetChanges } from '../../../contract/sheets.ts'
import { msOf } from '../../../core/instant.ts'
import { sayLength } from '../../../core/window.ts'
import { serverNow } from '../../data/clock.ts'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { sentTime, TimeField, typedFault } from '../../kit/TimeField.tsx'
import { FieldNotes, sayLocal } from './cells.tsx'
import type { Composing } from './useComposing.ts'
import { useChoice, useTimeField } from './useField.ts'
import { windowDoubts } from './windowDoubts.ts'

/** The two ends of the window, as wall-clock times of the course's zone. */
export function WindowFields({ view, composing }: { view: ComposeView; composing: Composing }) {
  const { opensAt, closesAt } = view
  const visible = useChoice({
    key: `compose ${view.code} visibleBefore`,
    value: view.visibleBefore,
    keep: (chosen, was) => composing.sheet({ visibleBefore: chosen }, { visibleBefore: was }),
    read: (next) => next.visibleBefore,
    refetch: composing.refetch,
  })
  return (
    <div className="flex flex-col gap-3">
      <End
        label="Opens"
        name="opensAt"
        which="whichOpens"
        usual="08:00"
        hint={opensAt ? undefined : 'Left empty, it opens when it is published.'}
        view={view}
        composing={composing}
      />
      <End
        label="Closes"
        name="closesAt"
        which="whichCloses"
        usual="17:00"
        hint={closesAt ? undefined : 'Needed before the sheet can be published.'}
        view={view}
        composing={composing}
      />
      {opensAt && closesAt && (
        <p className="text-sm text-faint">Open for {sayLength(msOf(closesAt) - msOf(opensAt))}.</p>
      )}
      {windowDoubts(view, serverNow()).map((doubt) => (
        <p key={doubt} className="rounded-field bg-sun-soft px-2.5 py-1 text-sm text-sun-ink">
          {doubt}
        </p>
      ))}
      {view.state === 'closed' && view.mayEdit && (
        <p className="text-sm text-soft">It is closed. A later closing time opens it again.</p>
      )}
      <Check checked={visible.value} disabled={!view.mayEdit} onValue={visible.change}>
        Students see it before it opens
      </Check>
      <FieldNotes field={visible} />
    </div>
  )
}

function End({
  label,
  name,
  which,
  usual,
  hint,
  view,
  composing,
}: {
  label: string
  name: 'opensAt' | 'closesAt'
  which: 'whichOpens' | 'whichCloses'
  usual: string
  hint: string | undefined
  view: ComposeView
  composing: Composing
}) {
  /** Which is meant of a time that occurs twice, once it was said. */
  const [meant, setMeant] = useState<'first' | 'second' | null>(null)
  const read = (one: ComposeView) => sayLocal(one[name], view.course.zone)
  const kept = useTimeField({
    key: `compose ${view.code} ${name}`,
    value: read(view),
    keep: (typed, was) => {
      const changes: SheetChanges = { [name]: sentTime(typed), ...(meant && { [which]: meant }) }
      return composing.sheet(changes, { [name]: sentTime(was) })
    },
    read,
    refetch: composing.refetch,
  })
  const twice = kept.fault?.code === 'time-occurs-twice'
  const choose = (one: 'first' | 'second') => {
    setMeant(one)
    // What stands there is sent again, with what was meant.
    setTimeout(kept.flush)
  }
  return (
    <TimeField
      label={label}
      hint={hint}
      usual={usual}
      value={kept.value}
      onValue={(value) => {
        setMeant(null)
        kept.change(value)
      }}
      onLeave={kept.flush}
      readOnly={!view.mayEdit}
      fault={
        kept.fault ||
        kept.theirs !== null ||
        (kept.state === 'retrying' && typedFault(kept.value) === null) ? (
          <>
            <FieldNotes field={kept} path={name} />
            {twice && (
              <span className="mt-1 flex gap-2">
                <Button size="small" onClick={() => choose('first')}>
                  The first, before clocks go back
                </Button>
                <Button size="small" onClick={() => choose('second')}>
                  The second
                </Button>
              </span>
            )}
          </>
        ) : undefined
      }
    />
  )
}
