import { useState } from 'react'
import {
  type CalendarFeed,
  calendarFeed,
  endCalendarFeed,
  makeCalendarFeed,
} from '../../contract/calendar.ts'
import { sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { BASE } from '../data/base.ts'
import { call } from '../data/call.ts'
import { useAct } from '../kit/Acting.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { BOX } from '../kit/Field.tsx'
import { toast } from '../kit/toast.ts'

/** Milliseconds after which a file that was pressed for has gone out. */
const AFTER = 1_000

/** What stands in one's calendar, by what one is. */
const WORDS = {
  student:
    'Your dated seats, your group’s meetings and what is due, in the calendar you use already: it follows when you move or a date changes.',
  staff:
    'What you look after, in the calendar you use already: sheets that open and close, tasks that are due, dated groups, and the meetings of your own groups.',
}

/** The private address under which a calendar program follows what is dated of somebody. */
export function CalendarCard({ of }: { of: keyof typeof WORDS }) {
  const { data, error, mutate } = useAnswer(calendarFeed, {}, { revalidateOnFocus: false })
  const [asking, setAsking] = useState<'renew' | 'end' | null>(null)
  const act = useAct()
  const { busy } = act
  const change = async (work: () => Promise<CalendarFeed>, done: string) => {
    await act.do({ work, put: (feed) => void mutate(feed, { revalidate: false }), said: done })
    setAsking(null)
  }
  const make = (done: string) => void change(() => call(makeCalendarFeed, {}), done)
  const address = data?.path ? `${location.origin}${data.path}` : null
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address ?? '')
      toast.success('The address of your calendar is copied.')
    } catch {
      toast.error('The browser did not let the address be copied. Select it and copy it by hand.')
    }
  }
  return (
    <section
      aria-labelledby="calendar"
      className="flex flex-col gap-2 rounded-card border border-line bg-surface p-4"
    >
      <h2 id="calendar" className="text-lg">
        Your calendar
      </h2>
      <p className="text-soft">{WORDS[of]}</p>
      {error && (
        <p role="alert" className="text-ember">
          {error.message}
        </p>
      )}
      {data && address === null && (
        <Button
          size="touch"
          className="self-start"
          busy={busy}
          onClick={() => make('Your calendar has a private address.')}
        >
          Make a private address
        </Button>
      )}
      {address && (
        <>
          <label className="flex flex-col gap-1">
            <span className="text-sm font-semibold text-soft">Private address: do not pass it on</span>
            <input
              readOnly
              value={address}
              onFocus={({ target }) => target.select()}
              className={`${BOX} min-h-11`}
            />
          </label>
          <div className="flex flex-wrap gap-2">
            <Button size="touch" onClick={() => void copy()}>
              Copy
            </Button>
            <a
              href={address.replace(/^https?:/, 'webcal:')}
              className="inline-flex min-h-11 items-center rounded-field border border-line-strong bg-surface px-4 font-semibold hover:border-open"
            >
              Add to a calendar
            </a>
            <Button size="touch" look="quiet" onClick={() => setAsking('renew')}>
              New address
            </Button>
            <Button size="touch" look="quiet" onClick={() => setAsking('end')}>
              End address
            </Button>
          </div>
        </>
      )}
      {data && data.saved.length > 0 && (
        <ul className="flex flex-col gap-2 rounded-field bg-sun-soft px-3 py-2">
          {data.saved.map(({ title, startsAt, zone, path, gone }) => (
            <li key={path} className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span className="min-w-0 flex-1 basis-60 wrap-anywhere">
                {gone
                  ? `You saved ${title}, ${sayInstant(startsAt, zone)}, and it is not yours any more.`
                  : `You saved ${title}, and it has changed since.`}
              </span>
              <a
                href={BASE + path}
                download="seat.ics"
                onClick={() => setTimeout(() => void mutate(), AFTER)}
                className="inline-flex min-h-11 items-center rounded-field border border-line-strong bg-surface px-4 font-semibold hover:border-open"
              >
                {gone ? 'Remove from calendar' : 'Update calendar'}
                <span className="sr-only">: {title}</span>
              </a>
            </li>
          ))}
        </ul>
      )}
      {asking && (
        <Ask
          open
          title={asking === 'renew' ? 'Make a new address?' : 'End the address?'}
          yes={asking === 'renew' ? 'Renew address' : 'End address'}
          busy={busy}
          onNo={() => setAsking(null)}
          onYes={() =>
            asking === 'renew'
              ? make('The address is new; the one before no longer works.')
              : void change(() => call(endCalendarFeed, {}), 'The address no longer works.')
          }
        >
          <p>Calendars that follow the present address will no longer be told of anything.</p>
        </Ask>
      )}
    </section>
  )
}
