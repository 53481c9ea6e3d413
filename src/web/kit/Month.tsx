import { format, isValid, parse } from 'date-fns'
import { ChevronLeft, ChevronRight } from 'lucide-react'
import { DayPicker } from 'react-day-picker'

const DAY = 'yyyy-MM-dd'

function Arrow({ orientation }: { orientation?: 'up' | 'down' | 'left' | 'right' }) {
  return orientation === 'left' ? <ChevronLeft size={18} /> : <ChevronRight size={18} />
}

/**
 * A month to pick a day from; weeks begin on Monday.
 * @param day the day that is chosen, `YYYY-MM-DD`, or null
 */
export function Month({ day, onDay }: { day: string | null; onDay: (day: string) => void }) {
  const at = day === null ? undefined : parse(day, DAY, new Date())
  const chosen = at && isValid(at) ? at : undefined
  return (
    <DayPicker
      autoFocus
      mode="single"
      weekStartsOn={1}
      showOutsideDays
      selected={chosen as Date}
      {...(chosen && { defaultMonth: chosen })}
      onDayClick={(picked) => onDay(format(picked, DAY))}
      components={{
        Chevron: Arrow,
      }}
      classNames={{
        months: 'relative',
        month_caption: 'flex h-9 items-center justify-center font-semibold',
        nav: 'absolute inset-x-0 top-0 flex h-9 items-center justify-between',
        button_previous: 'grid size-9 place-items-center rounded-field hover:bg-seat-soft',
        button_next: 'grid size-9 place-items-center rounded-field hover:bg-seat-soft',
        weekday: 'size-9 text-sm font-semibold text-soft',
        day: 'p-0 text-center',
        day_button: 'figures size-9 rounded-field hover:bg-seat-soft',
        today: 'font-bold underline underline-offset-4',
        selected: '[&>button]:bg-seat [&>button]:text-on-seat',
        outside: 'text-faint',
      }}
    />
  )
}
