import { useRef, useState } from 'react'
import type { CouldMeetView } from '../../contract/groupCalendar.ts'
import type { GroupPage } from '../../contract/groups.ts'
import { meetThen, removeMeeting, setCouldMeet } from '../../contract/meetings.ts'
import { msOf } from '../../core/instant.ts'
import { NEVER } from '../../core/meetings.ts'
import { call } from '../data/call.ts'
import { draftWords } from '../data/draft.ts'
import { useDraft } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Check } from '../kit/Check.tsx'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
/** Hours of a day that are shown, unless all of them are wanted. */
const USUAL = { from: 8, to: 21 }
/** Milliseconds after the last press at which the week is sent. */
const PAUSE = 700

/** When could we meet: a small week in which each member marks when they could, and the times that suit most. */
export function CouldMeet({
  page,
  view,
  put,
}: {
  page: GroupPage
  view: CouldMeetView
  put: (page: GroupPage) => void
}) {
  const [open, setOpen] = useState(false)
  const { said, size } = view
  return (
    <details
      open={open}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
      className="border-t tear px-4 py-2"
    >
      <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-3 font-semibold text-seat">
        When could we meet?
        <span className="text-sm font-normal text-soft">
          {said} of {size} have said when they can
        </span>
      </summary>
      <Best page={page} view={view} put={put} />
      {page.as === 'member' && page.may.write ? (
        <OwnWeek page={page} view={view} put={put} />
      ) : (
        <Week hours={NEVER} counts={view.counts} />
      )}
    </details>
  )
}

/** `Tue 10:00–11:00` */
const hourWords = (hour: number, length: number) =>
  `${DAYS[Math.floor(hour / 24)]} ${String(hour % 24).padStart(2, '0')}:00–${String((hour % 24) + length).padStart(2, '0')}:00`

/** The times that suit most; one press makes the meeting. */
function Best({ page, view, put }: { page: GroupPage; view: CouldMeetView; put: (page: GroupPage) => void }) {
  const [long, setLong] = useState(1)
  const act = useAct()
  const params = { sheet: page.sheet.code, group: page.code }
  const known = new Set(page.calendar?.meetings.map(({ code }) => code))
  const times = view.best.find(({ hours }) => hours === long)?.times ?? []
  const meet = (hour: number, weeks: number) => {
    let made = ''
    return act.do({
      work: async () => {
        const next = await call(meetThen, params, { hour, hours: long, weeks })
        made = next.calendar?.meetings.find(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      undo: () => call(removeMeeting, { ...params, meeting: made }),
      put,
      said: `You meet ${hourWords(hour, long)}${weeks > 1 ? `, ${weeks} weeks in a row` : ''}.`,
    })
  }
  if (view.said < 2)
    return (
      <p className="pb-2 text-soft">
        Once two of you have marked when they can, the times that suit most stand here.
      </p>
    )
  return (
    <div className="flex flex-col gap-1 pb-3">
      <fieldset className="flex flex-wrap items-center gap-x-4">
        <legend className="sr-only">How long</legend>
        {view.best.map(({ hours }) => (
          <label key={hours} className="flex min-h-9 items-center gap-2 pointer-coarse:min-h-11">
            <input
              type="radio"
              name="long"
              checked={long === hours}
              onChange={() => setLong(hours)}
              className="size-4 accent-seat"
            />
            {hours === 1 ? 'one hour' : `${hours} hours`}
          </label>
        ))}
      </fieldset>
      {times.length === 0 && <p className="text-soft">At no time can two of you for so long.</p>}
      <ol className="flex flex-col gap-1">
        {times.map(({ hour, can, cannot }) => (
          <li key={hour} className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="figures font-semibold">{hourWords(hour, long)}</span>
            <span className="text-soft">
              {can === view.size ? 'all of you can' : `${can} of the ${view.said} who have said can`}
              {cannot.length > 0 && `, not ${cannot.join(', ')}`}
            </span>
            {page.may.write && (
              <span className="flex gap-1">
                <Button size="small" busy={act.busy} onClick={() => void meet(hour, 1)}>
                  Meet once<span className="sr-only"> {hourWords(hour, long)}</span>
                </Button>
                <Button size="small" busy={act.busy} onClick={() => void meet(hour, 10)}>
                  Meet ten weeks<span className="sr-only"> {hourWords(hour, long)}</span>
                </Button>
              </span>
            )}
          </li>
        ))}
      </ol>
    </div>
  )
}

/** The reader's own week, which keeps itself. */
function OwnWeek({
  page,
  view,
  put,
}: {
  page: GroupPage
  view: CouldMeetView
  put: (page: GroupPage) => void
}) {
  const params = { sheet: page.sheet.code, group: page.code }
  const known = (from: GroupPage) => ({
    value: from.calendar?.couldMeet.own ?? NEVER,
    // Nobody else writes it, so it is its own version.
    version: from.calendar?.couldMeet.own ?? null,
    at: msOf(from.now),
  })
  const week = useDraft(
    `could-meet ${page.code}`,
    {
      pause: PAUSE,
      send: async (hours: string) => {
        const next = await call(setCouldMeet, params, { hours })
        put(next)
        return known(next)
      },
    },
    known(page),
  )
  return (
    <>
      <Week hours={week.value} counts={view.counts} onHours={(hours) => week.write(hours)} />
      <output
        className={`text-sm ${['refused', 'retrying'].includes(week.state) ? 'text-ember' : 'text-moss'}`}
      >
        {week.state === 'kept' ? (view.own === null ? '' : 'Saved.') : draftWords(week)}
      </output>
    </>
  )
}

/**
 * A week of hours: pressed or painted over, or by keys (arrows move, Space turns one over). A figure says how many can.
 */
function Week({
  hours,
  counts,
  onHours,
}: {
  hours: string
  counts: readonly number[]
  onHours?: (hours: string) => void
}) {
  const [whole, setWhole] = useState(false)
  const [at, setAt] = useState(9)
  const grid = useRef<HTMLTableElement>(null)
  const painting = useRef<'1' | '0' | null>(null)
  const newest = useRef(hours)
  newest.current = hours
  const { from, to } = whole ? { from: 0, to: 24 } : USUAL
  const set = (hour: number, sign: '1' | '0') => {
    const now = newest.current
    if (!onHours || now[hour] === sign) return
    newest.current = now.slice(0, hour) + sign + now.slice(hour + 1)
    onHours(newest.current)
  }
  const under = (x: number, y: number): number | null => {
    const cell = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-hour]')
    return cell && grid.current?.contains(cell) ? Number(cell.dataset.hour) : null
  }
  const go = (hour: number) => {
    setAt(hour)
    grid.current?.querySelector<HTMLElement>(`[data-hour="${hour}"]`)?.focus()
  }
  const onKey = (key: string, hour: number): boolean => {
    const step = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 24, ArrowLeft: -24 }[key]
    if (step === undefined) return false
    const next = hour + step
    const inside = next >= 0 && next < 168 && next % 24 >= from && next % 24 < to
    const sameDay = Math.abs(step) === 24 || Math.floor(next / 24) === Math.floor(hour / 24)
    if (inside && sameDay) go(next)
    return true
  }
  return (
    <>
      {onHours && (
        <p className="text-soft">
          Mark when you can in a usual week: press an hour, or draw over several. Figures say how many can.
        </p>
      )}
      <table
        ref={grid}
        className="mt-1 w-full max-w-xl table-fixed border-separate border-spacing-0.5 select-none"
        onPointerMove={({ clientX, clientY }) => {
          if (painting.current === null) return
          const hour = under(clientX, clientY)
          if (hour !== null) set(hour, painting.current)
        }}
        onPointerUp={() => {
          painting.current = null
        }}
        onPointerCancel={() => {
          painting.current = null
        }}
      >
        <caption className="sr-only">
          {onHours ? 'When you can, by hour of the week' : 'How many can, by hour of the week'}
        </caption>
        <thead>
          <tr className="text-sm text-soft">
            <th className="w-10">
              <span className="sr-only">Hour</span>
            </th>
            {DAYS.map((day) => (
              <th key={day} scope="col" className="font-semibold">
                {day}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: to - from }, (_, row) => from + row).map((clock) => (
            <tr key={clock}>
              <th scope="row" className="figures text-right text-xs font-normal text-soft">
                {clock}:00
              </th>
              {DAYS.map((day, column) => {
                const hour = 24 * column + clock
                const own = hours[hour] === '1'
                const count = counts[hour] ?? 0
                const look = own
                  ? 'bg-seat text-on-seat border-seat'
                  : count > 0
                    ? 'bg-seat-soft border-line-strong'
                    : 'border-line'
                if (!onHours)
                  return (
                    <td key={day} className={`figures h-7 rounded border text-center text-sm ${look}`}>
                      {count || ''}
                    </td>
                  )
                return (
                  <td key={day}>
                    <button
                      type="button"
                      data-hour={hour}
                      aria-pressed={own}
                      aria-label={`${day} ${clock}:00, ${count} can`}
                      tabIndex={hour === at ? 0 : -1}
                      onFocus={() => setAt(hour)}
                      onPointerDown={(event) => {
                        // A finger on it begins to paint at once; the page is scrolled beside the week.
                        event.currentTarget.releasePointerCapture(event.pointerId)
                        painting.current = own ? '0' : '1'
                        set(hour, painting.current)
                      }}
                      onKeyDown={(event) => {
                        if (event.key === ' ' || event.key === 'Enter') {
                          event.preventDefault()
                          set(hour, own ? '0' : '1')
                        } else if (onKey(event.key, hour)) event.preventDefault()
                      }}
                      className={`figures drawn block min-h-7 w-full touch-none rounded border text-sm pointer-coarse:min-h-9 ${look}`}
                    >
                      {count || <span className="sr-only">nobody</span>}
                    </button>
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <Check checked={whole} onValue={setWhole} className="text-sm">
        early and late hours too
      </Check>
    </>
  )
}
