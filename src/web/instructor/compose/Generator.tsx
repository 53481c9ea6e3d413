import { useState } from 'react'
import type { NewTopic } from '../../../contract/topics.ts'
import { type NamePattern, topicsOfPattern } from '../../../core/pattern.ts'
import { serverNow } from '../../data/clock.ts'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field, FieldFrame } from '../../kit/Field.tsx'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const KINDS: { value: NamePattern['kind']; label: string }[] = [
  { value: 'numbers', label: 'Numbers' },
  { value: 'letters', label: 'Letters' },
  { value: 'weekdays', label: 'Weekdays' },
  { value: 'slots', label: 'Dated slots' },
]

/** Makes topics by a naming pattern: numbers, letters, weekdays, or dated slots. */
export function Generator({ room, onAdd }: { room: number; onAdd: (topics: NewTopic[]) => Promise<void> }) {
  const [kind, setKind] = useState<NamePattern['kind']>('numbers')
  const [name, setName] = useState('Group #')
  const [count, setCount] = useState('12')
  const [first, setFirst] = useState('1')
  const [days, setDays] = useState<number[]>([0, 1, 2, 3, 4])
  const [firstDay, setFirstDay] = useState(serverNow().slice(0, 10))
  const [weeks, setWeeks] = useState('1')
  const [from, setFrom] = useState('10:00')
  const [to, setTo] = useState('12:00')
  const [minutes, setMinutes] = useState('20')

  const number = (text: string, least: number) => Math.max(least, Math.floor(Number(text)) || least)
  const pattern: NamePattern =
    kind === 'slots'
      ? { kind, pattern: name, firstDay, weeks: number(weeks, 1), from, to, minutes: number(minutes, 5) }
      : kind === 'weekdays'
        ? { kind, pattern: name, days }
        : { kind, pattern: name, count: number(count, 0), first: number(first, 1) }
  const topics = topicsOfPattern(pattern, room)
  const titles = topics.map(({ title }) => title)
  const shown = titles.length > 6 ? [...titles.slice(0, 4), '…', titles.at(-1)] : titles
  const dated = kind === 'slots'
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <FieldFrame label="What counts">
          {(ids) => (
            <Choice {...ids} value={kind} onValue={(value) => setKind(value as NamePattern['kind'])}>
              {KINDS.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Choice>
          )}
        </FieldFrame>
        <Field label="Name, # counts" value={name} onChange={(event) => setName(event.target.value)} />
        {(kind === 'numbers' || kind === 'letters') && (
          <>
            <Field
              label="How many"
              inputMode="numeric"
              value={count}
              onChange={(event) => setCount(event.target.value)}
            />
            <Field
              label="Beginning at"
              inputMode="numeric"
              value={first}
              onChange={(event) => setFirst(event.target.value)}
            />
          </>
        )}
        {dated && (
          <>
            <Field
              label="First day"
              type="date"
              value={firstDay}
              onChange={(event) => setFirstDay(event.target.value)}
            />
            <Field
              label="Weeks"
              inputMode="numeric"
              value={weeks}
              onChange={(event) => setWeeks(event.target.value)}
            />
            <Field label="From" type="time" value={from} onChange={(event) => setFrom(event.target.value)} />
            <Field label="To" type="time" value={to} onChange={(event) => setTo(event.target.value)} />
            <Field
              label="Minutes each"
              inputMode="numeric"
              value={minutes}
              onChange={(event) => setMinutes(event.target.value)}
            />
          </>
        )}
      </div>
      {kind === 'weekdays' && (
        <fieldset className="flex flex-wrap gap-3">
          <legend className="sr-only">Days</legend>
          {DAYS.map((day, i) => (
            <Check
              key={day}
              checked={days.includes(i)}
              onValue={(on) => setDays(on ? [...days, i].sort() : days.filter((one) => one !== i))}
            >
              {day}
            </Check>
          ))}
        </fieldset>
      )}
      <output className="text-soft">
        {titles.length === 0 ? 'This makes no topic yet.' : shown.join(' · ')}
        {titles.length === room && ` The sheet has room for ${room}.`}
      </output>
      <div>
        <Button look="main" disabled={titles.length === 0} onClick={() => void onAdd(topics)}>
          {titles.length === 1 ? 'Add 1 topic' : `Add ${titles.length} topics`}
        </Button>
      </div>
    </div>
  )
}
