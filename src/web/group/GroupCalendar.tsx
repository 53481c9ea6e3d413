import { useState } from 'react'
import type { MeetingView } from '../../contract/groupCalendar.ts'
import type { GroupPage } from '../../contract/groups.ts'
import { removeMeeting, restoreMeeting, skipDay, unskipDay } from '../../contract/meetings.ts'
import { sayDay, saySlot } from '../../core/zone.ts'
import { call } from '../data/call.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { CouldMeet } from './CouldMeet.tsx'
import { MeetingAsk } from './MeetingAsk.tsx'

/** Meetings that are shown before more are asked for. */
const SOONEST = 5

/** The group's calendar: when it meets, and when it could. */
export function GroupCalendar({ page, put }: { page: GroupPage; put: (page: GroupPage) => void }) {
  const { calendar, may } = page
  const [asking, setAsking] = useState<MeetingView | 'new' | null>(null)
  const [all, setAll] = useState(false)
  if (!calendar) return null
  const ahead = calendar.meetings.filter((one) => one.ahead.length > 0)
  const off = calendar.meetings.flatMap((meeting) => meeting.skipped.map((day) => ({ meeting, day })))
  const shown = all ? ahead : ahead.slice(0, SOONEST)
  return (
    <section aria-labelledby="meetings" className="rounded-card border border-line bg-surface">
      <div className="flex flex-wrap items-center justify-between gap-2 px-4 py-3">
        <h2 id="meetings" className="text-lg">
          When we meet
        </h2>
        {may.write && (
          <Button size="touch" onClick={() => setAsking('new')}>
            Set a meeting
          </Button>
        )}
      </div>
      {ahead.length === 0 && (
        <p className="border-t tear px-4 py-3 text-soft">
          No meeting is set. What is set here is in each member’s own calendar too.
        </p>
      )}
      <ul>
        {shown.map((meeting) => (
          <Next
            key={meeting.code}
            page={page}
            meeting={meeting}
            put={put}
            onChange={() => setAsking(meeting)}
          />
        ))}
      </ul>
      {ahead.length > SOONEST && (
        <div className="border-t border-line px-4 py-1">
          <Button size="small" look="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? 'Show less' : `Show ${ahead.length - SOONEST} more`}
          </Button>
        </div>
      )}
      {off.length > 0 && <CalledOff page={page} off={off} put={put} />}
      <CouldMeet page={page} view={calendar.couldMeet} put={put} />
      {asking && (
        <MeetingAsk
          page={page}
          meeting={asking === 'new' ? null : asking}
          put={put}
          onClose={() => setAsking(null)}
        />
      )}
    </section>
  )
}

/** A meeting with its next time, and what can be done about it. */
function Next({
  page,
  meeting,
  put,
  onChange,
}: {
  page: GroupPage
  meeting: MeetingView
  put: (page: GroupPage) => void
  onChange: () => void
}) {
  const { zone } = page.sheet
  const { title, place, link, weeks, ahead } = meeting
  const [next] = ahead
  const last = ahead.at(-1)
  const act = useAct()
  const params = { sheet: page.sheet.code, group: page.code, meeting: meeting.code }
  if (!next || !last) return null
  const { day } = next
  const words = saySlot(next.startsAt, next.endsAt, zone)
  const drop = () =>
    act.do({
      work: () => call(removeMeeting, params),
      undo: () => call(restoreMeeting, params),
      put,
      said: `“${title}” is called off.`,
    })
  const skip = () =>
    act.do({
      work: () => call(skipDay, { ...params, day }),
      undo: () => call(unskipDay, { ...params, day }),
      put,
      said: `“${title}” is called off on ${words}.`,
    })
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line px-4 py-2">
      <div className="min-w-0">
        <p className="font-semibold wrap-anywhere">{title}</p>
        <p className="figures text-soft">
          {words}
          {last !== next && `, then every week until ${sayDay(last.startsAt, zone)}`}
        </p>
        {(place || link) && (
          <p className="text-soft wrap-anywhere">
            {place}
            {place && link && ' · '}
            {link && (
              <a
                href={link}
                target="_blank"
                rel="noreferrer"
                className="text-seat underline underline-offset-2"
              >
                Meet online
              </a>
            )}
          </p>
        )}
      </div>
      {page.may.write && (
        <div className="flex flex-wrap gap-1">
          <Button size="small" busy={act.busy} onClick={onChange}>
            Change<span className="sr-only"> “{title}”</span>
          </Button>
          {weeks > 1 && (
            <Button size="small" busy={act.busy} onClick={() => void skip()}>
              Not this time
              <span className="sr-only">
                : “{title}”, {words}
              </span>
            </Button>
          )}
          <Button size="small" look="quiet" busy={act.busy} onClick={() => void drop()}>
            Call off<span className="sr-only"> “{title}”</span>
          </Button>
        </div>
      )}
    </li>
  )
}

/** Days of weekly meetings that were called off, with the way to take that back. */
function CalledOff({
  page,
  off,
  put,
}: {
  page: GroupPage
  off: readonly { meeting: MeetingView; day: string }[]
  put: (page: GroupPage) => void
}) {
  const act = useAct()
  return (
    <ul className="border-t tear px-4 py-1 text-sm text-soft">
      {off.map(({ meeting, day }) => {
        const params = { sheet: page.sheet.code, group: page.code, meeting: meeting.code, day }
        const said = new Date(`${day}T00:00:00Z`).toLocaleDateString('en-GB', {
          weekday: 'short',
          day: 'numeric',
          month: 'short',
          timeZone: 'UTC',
        })
        return (
          <li key={`${meeting.code} ${day}`} className="flex min-h-9 flex-wrap items-center gap-x-3">
            “{meeting.title}” does not take place on {said}.
            {page.may.write && (
              <Button
                size="small"
                look="quiet"
                onClick={() =>
                  void act.do({
                    work: () => call(unskipDay, params),
                    undo: () => call(skipDay, params),
                    put,
                    said: `“${meeting.title}” takes place on ${said}.`,
                  })
                }
              >
                Restore
                <span className="sr-only">
                  {' '}
                  “{meeting.title}” on {said}
                </span>
              </Button>
            )}
          </li>
        )
      })}
    </ul>
  )
}
