import { useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import { changePeople, type RosterView } from '../../../contract/roster.ts'
import type { EnrolmentStatus } from '../../../core/roster.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'

/** Changes section or status of everybody who is picked. */
export function Several({
  course,
  picked,
  put,
  onDone,
}: {
  course: CourseView
  picked: string[]
  put: (view: RosterView) => void
  onDone: () => void
}) {
  const [stopping, setStopping] = useState<EnrolmentStatus | null>(null)
  const [freeSeats, setFreeSeats] = useState(true)
  const act = useAct()
  const send = async (change: { section?: string | null; status?: EnrolmentStatus; freeSeats?: boolean }) => {
    const { fault } = await act.do({
      work: () => call(changePeople, { course: course.code }, { people: picked, ...change }),
      put,
      said: picked.length === 1 ? '1 person was changed.' : `${picked.length} people were changed.`,
    })
    if (!fault) onDone()
  }
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-line bg-seat-soft px-4 py-2">
      <strong>{picked.length} picked</strong>
      {course.sections.length > 0 && (
        <select
          aria-label="Put them into a section"
          value=""
          onChange={({ target }) => void send({ section: target.value })}
          className={`${BOX} min-h-8 max-w-48 py-0.5`}
        >
          <option value="" disabled>
            Put into section…
          </option>
          {course.sections.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </select>
      )}
      <Button size="small" onClick={() => setStopping('paused')}>
        Pause
      </Button>
      <Button size="small" onClick={() => setStopping('left')}>
        Mark as left
      </Button>
      <Button size="small" onClick={() => void send({ status: 'active' })}>
        Make active
      </Button>
      <Button size="small" look="quiet" onClick={onDone}>
        Pick nobody
      </Button>
      <Ask
        open={stopping !== null}
        title={stopping === 'paused' ? `Pause ${picked.length}?` : `Mark ${picked.length} as left?`}
        yes={stopping === 'paused' ? 'Pause people' : 'Mark as left'}
        onNo={() => setStopping(null)}
        onYes={() => {
          if (stopping) void send({ status: stopping, freeSeats })
          setStopping(null)
        }}
      >
        <p>They count nowhere from then on and keep their history. One undo brings them back.</p>
        <label className="flex min-h-9 items-center gap-2 text-ink">
          <input
            type="checkbox"
            checked={freeSeats}
            onChange={({ target }) => setFreeSeats(target.checked)}
            className="size-4 accent-seat"
          />
          Free their seats, so that others can take them
        </label>
      </Ask>
    </div>
  )
}
