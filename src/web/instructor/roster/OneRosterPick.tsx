import { useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import { counted } from '../../../core/counted.ts'
import { type OneRosterReading, readOneRoster, rosterOfClasses } from '../../../core/formats/oneRoster.ts'
import { writeRosterCsv } from '../../../core/formats/rosterCsv.ts'
import { readText } from '../../data/readText.ts'
import { unzip } from '../../data/unzip.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'

const FILES = ['users.csv', 'classes.csv', 'enrollments.csv'] as const

/**
 * Reads a OneRoster export from chosen files, one zip or three CSV files; null when they are something else.
 * @throws ZipFault when the zip cannot be read
 */
export async function oneRosterIn(files: readonly File[]): Promise<OneRosterReading | null> {
  const [first] = files
  const isZip = files.length === 1 && first !== undefined && /\.zip$/i.test(first.name)
  const texts = new Map<string, string>()
  if (isZip) {
    for (const [name, bytes] of unzip(new Uint8Array(await first.arrayBuffer()), FILES)) {
      texts.set(name, await readText(new Blob([bytes as BlobPart])))
    }
  } else {
    for (const file of files) {
      const name = file.name.toLowerCase()
      if (FILES.some((one) => one === name)) texts.set(name, await readText(file))
    }
    if (texts.size === 0) return null
  }
  const missing = FILES.filter((name) => !texts.has(name))
  if (missing.length > 0) {
    return {
      readable: false,
      message: `A OneRoster export has ${FILES.join(', ')}; missing: ${missing.join(', ')}.`,
    }
  }
  const text = (name: (typeof FILES)[number]) => texts.get(name) ?? ''
  return readOneRoster({
    users: text('users.csv'),
    classes: text('classes.csv'),
    enrollments: text('enrollments.csv'),
  })
}

/** Says which classes of a OneRoster export belong to this course, and as which section. */
export function OneRosterPick({
  course,
  reading,
  onPicked,
}: {
  course: CourseView
  reading: Extract<OneRosterReading, { readable: true }>
  onPicked: (csv: string) => void
}) {
  const [chosen, setChosen] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      reading.classes.map(({ id, title }) => [
        id,
        course.sections.find(({ name }) => name.toLowerCase() === title.toLowerCase())?.name ?? '',
      ]),
    ),
  )
  const wanted = (id: string) => chosen[id] !== undefined && chosen[id] !== ''
  /** The section of those who are in several of the classes, where somebody said it. */
  const [said, setSaid] = useState<ReadonlyMap<string, string>>(new Map())
  const { lines, several } = rosterOfClasses(
    reading.people,
    (id) => {
      if (!wanted(id)) return undefined
      return course.sections.length > 0 ? chosen[id] : null
    },
    said,
  )
  return (
    <fieldset className="flex flex-col gap-2 rounded-field border border-line p-3">
      <legend className="px-1 font-semibold">Which classes of the export are this course?</legend>
      {reading.classes.map(({ id, title, people }) => (
        <label key={id} className="flex flex-wrap items-center justify-between gap-2">
          <span>
            {title} <span className="figures text-soft">{counted(people, 'person', 'people')}</span>
          </span>
          <Choice value={chosen[id] ?? ''} onValue={(value) => setChosen({ ...chosen, [id]: value })}>
            <option value="">not this course</option>
            {course.sections.map(({ code, name }) => (
              <option key={code}>{name}</option>
            ))}
            {course.sections.length === 0 && <option value="yes">this course</option>}
          </Choice>
        </label>
      ))}
      {several.length > 0 && (
        <fieldset className="flex flex-col gap-1 rounded-field bg-sun-soft px-3 py-1.5">
          <legend className="float-left mb-1 font-semibold">
            {several.length === 1
              ? 'One student is in several of these classes. Which section is theirs?'
              : `${several.length} students are in several of these classes. Which section is theirs?`}
          </legend>
          <div className="clear-both flex max-h-48 flex-col gap-1 overflow-auto">
            {several.map(({ userId, name, sections }) => (
              <label key={userId} className="flex flex-wrap items-center justify-between gap-2">
                {name}
                <Choice
                  value={said.get(userId) ?? sections[0] ?? ''}
                  onValue={(value) => setSaid(new Map(said).set(userId, value))}
                >
                  {sections.map((section) => (
                    <option key={section}>{section}</option>
                  ))}
                </Choice>
              </label>
            ))}
          </div>
        </fieldset>
      )}
      {reading.notes.length > 0 && (
        <ul className="rounded-field bg-sun-soft px-3 py-1.5">
          {reading.notes.map((note) => (
            <li key={note} className="wrap-anywhere">
              {note}
            </li>
          ))}
        </ul>
      )}
      <div>
        <Button look="main" disabled={lines.length === 0} onClick={() => onPicked(writeRosterCsv(lines))}>
          {lines.length === 1
            ? 'See what 1 person would change'
            : `See what ${lines.length} people would change`}
        </Button>
      </div>
    </fieldset>
  )
}
