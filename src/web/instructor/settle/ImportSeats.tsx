import { useRef, useState } from 'react'
import type { SettleView } from '../../../contract/plans.ts'
import { roster } from '../../../contract/roster.ts'
import { readSeatsCsv, type SeatsReading } from '../../../core/formats/groupsCsv.ts'
import { call, faultOf } from '../../data/call.ts'
import { readText } from '../../data/readText.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'

/** Reads a CSV of who sits where as a plan: looked at like any other, and applied only then. */
export function ImportSeats({
  view,
  onRead,
}: {
  view: SettleView
  /** Given where each person of the file is to sit. */
  onRead: (pins: ReadonlyMap<string, string | null>) => void
}) {
  const file = useRef<HTMLInputElement>(null)
  const [reading, setReading] = useState<SeatsReading | null>(null)
  const [fault, setFault] = useState('')
  const read = async (chosen: File | undefined) => {
    if (!chosen) return
    try {
      const text = await readText(chosen)
      const { people } = await call(roster, { course: view.course.code })
      const emails = new Map(people.map(({ code, email }) => [code, email]))
      const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
      const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
      const done = readSeatsCsv(text, {
        people: view.basis.people.map((person) => ({ ...person, email: emails.get(person.key) ?? '' })),
        groups: view.groups.map(({ code, topic, section }) => ({
          key: code,
          topic: titles.get(topic) ?? '',
          section,
          sectionName: sections.get(section ?? '') ?? '',
        })),
      })
      setFault('')
      setReading(done)
      if (done.faults.length === 0) use(done)
    } catch (error) {
      setFault(error instanceof Error && error.name !== 'Error' ? error.message : faultOf(error).message)
    }
  }
  /** Everybody of the file as it says; those without a group whom it does not name are left as they are. */
  const use = ({ seats }: SeatsReading) => {
    const seated = new Map(view.basis.seats.map(({ person, group }) => [person, group]))
    const named = new Set(seats.map(({ person }) => person))
    const others = view.basis.people.filter(({ key }) => !named.has(key) && !seated.has(key))
    const changes = seats.filter(({ person, group }) => (seated.get(person) ?? null) !== group)
    onRead(
      new Map([
        ...changes.map(({ person, group }) => [person, group] as const),
        ...seats
          .filter(({ person, group }) => group === null && !seated.has(person))
          .map(({ person }) => [person, null] as const),
        ...others.map(({ key }) => [key, null] as const),
      ]),
    )
  }
  return (
    <Card title="From a file">
      <p className="text-sm text-faint">
        A CSV with the columns email (or name) and topic, such as the Ledger saves, becomes a plan to look at.
      </p>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv,text/plain"
        className="sr-only"
        aria-label="CSV of who sits where"
        onChange={({ target }) => {
          void read(target.files?.[0])
          target.value = ''
        }}
      />
      <Button size="small" className="mt-2" onClick={() => file.current?.click()}>
        Choose a file
      </Button>
      {fault && (
        <p role="alert" className="mt-2 text-sm text-ember">
          {fault}
        </p>
      )}
      {reading && reading.faults.length > 0 && (
        <div role="alert" className="mt-2 text-sm">
          <p className="font-semibold text-ember">
            {reading.faults.length === 1 ? '1 line is' : `${reading.faults.length} lines are`} wrong. Nothing
            was changed.
          </p>
          <ul className="max-h-40 list-disc overflow-auto pl-5">
            {reading.faults.map(({ line, field, found, message }) => (
              <li key={`${line} ${field}`}>
                Line {line}
                {found && `, “${found}”`}: {message}
              </li>
            ))}
          </ul>
          {reading.seats.length > 0 && (
            <Button size="small" className="mt-1" onClick={() => use(reading)}>
              Take the {reading.seats.length} good lines
            </Button>
          )}
        </div>
      )}
    </Card>
  )
}
