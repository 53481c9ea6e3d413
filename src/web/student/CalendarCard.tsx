import { useState } from 'react'
import {
  type CalendarFeed,
  calendarFeed,
  endCalendarFeed,
  makeCalendarFeed,
} from '../../contract/calendar.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { useAct } from '../kit/Acting.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { BOX } from '../kit/Field.tsx'
import { toast } from '../kit/toast.ts'

/** The private address under which a calendar program follows one's dated seats. */
export function CalendarCard() {
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
      <p className="text-soft">
        Your dated seats in the calendar you use already: it follows when you move or a date changes.
      </p>
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
          <p>Calendars that follow the present address will no longer be told of your seats.</p>
        </Ask>
      )}
    </section>
  )
}
