import { useState } from 'react'
import type { SettleView } from '../../../contract/plans.ts'
import { roster } from '../../../contract/roster.ts'
import { readSeatsCsv, type SeatsReading } from '../../../core/formats/groupsCsv.ts'
import { call, faultOf } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { TableFile } from '../../tables/TableFile.tsx'

/** Reads a CSV of who sits where as a plan: looked at like any other, and applied only then. */
export function ImportSeats({
  view,
  onRead,
}: {
  view: SettleView
  /** Given where each person of the file is to sit. */
  onRead: (pins: ReadonlyMap<string, string | null>) => void
}) {
  const [reading, setReading] = useState<SeatsReading | null>(null)
  const [fault, setFault] = useState('')
  const read = async (text: string) => {
    try {
      const { people } = await call(roster, { course: view.course.code })
      const known = new Map(people.map(({ code, email, number }) => [code, { email, number }]))
      const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
      const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
      const done = readSeatsCsv(text, {
        people: view.basis.people.map((person) => ({
          ...person,
          ...(known.get(person.key) ?? { email: '', number: '' }),
        })),
        seatsEach: view.rules.seatsEach,
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
  /**
   * Everybody of the file as it says; those without a group whom it does not name are left as they are. A plan gives or
   * changes one seat of a person: of several the one that is new.
   */
  const use = ({ seats }: SeatsReading) => {
    const held = new Map<string, (string | null)[]>()
    for (const { person, group } of view.basis.seats) held.set(person, [...(held.get(person) ?? []), group])
    const named = new Set(seats.map(({ person }) => person))
    const others = view.basis.people.filter(({ key }) => !named.has(key) && !held.has(key))
    const changes = seats.filter(({ person, group }) => !(held.get(person) ?? [null]).includes(group))
    onRead(
      new Map([
        ...changes.map(({ person, group }) => [person, group] as const),
        ...seats
          .filter(({ person, group }) => group === null && !held.has(person))
          .map(({ person }) => [person, null] as const),
        ...others.map(({ key }) => [key, null] as const),
      ]),
    )
  }
  return (
    <Card title="From a file">
      <p className="text-sm text-faint">
        A spreadsheet or CSV with the columns email (or name) and topic, such as the Ledger saves, becomes a
        plan to look at.
      </p>
      <div className="mt-2">
        <TableFile label="Choose a file" file="Table of who sits where" onText={(text) => void read(text)} />
      </div>
      {fault && (
        <p role="alert" className="mt-2 text-sm text-ember">
          {fault}
        </p>
      )}
      {reading?.notes.map((note) => (
        <p key={note} className="mt-2 text-sm text-faint">
          {note}
        </p>
      ))}
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
