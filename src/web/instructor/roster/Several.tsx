import { useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import { changePeople, type RosterView } from '../../../contract/roster.ts'
import type { EnrolmentStatus } from '../../../core/roster.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'

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
        <Choice
          aria-label="Put them into a section"
          value=""
          onValue={(value) => void send({ section: value })}
          className="max-w-48"
        >
          <option value="" disabled>
            Put into section…
          </option>
          {course.sections.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
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
        <Check checked={freeSeats} onValue={setFreeSeats} className="text-ink">
          Free their seats, so that others can take them
        </Check>
      </Ask>
    </div>
  )
}
