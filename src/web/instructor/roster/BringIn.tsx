import { type ChangeEvent, useState } from 'react'
import { addSection, type CourseView } from '../../../contract/courses.ts'
import { importRoster, previewRoster, type RosterPreview } from '../../../contract/roster.ts'
import { counted } from '../../../core/counted.ts'
import type { OneRosterReading } from '../../../core/formats/oneRoster.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { ZipFault } from '../../data/unzip.ts'
import { Button } from '../../kit/Button.tsx'
import { Area } from '../../kit/Field.tsx'
import { toast } from '../../kit/toast.ts'
import { TABLES, TableState } from '../../tables/TableFile.tsx'
import { useTable } from '../../tables/useTable.ts'
import { withLine } from './lines.ts'
import { OneRosterPick, oneRosterIn } from './OneRosterPick.tsx'
import { type Pointed, PointOut } from './PointOut.tsx'
import { type Bringing, Preview } from './Preview.tsx'

type Exported = Extract<OneRosterReading, { readable: true }>

/** As it is read where nobody says otherwise. */
const AS_FOUND: Pointed = { columns: {} }

/** Brings in a roster file: choose or paste, look at what would change, then do it. Nothing is written before. */
export function BringIn({
  course,
  onDone,
  onClose,
}: {
  course: CourseView
  onDone: () => void
  onClose: () => void
}) {
  const [csv, setCsv] = useState('')
  const [preview, setPreview] = useState<RosterPreview | null>(null)
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const [exported, setExported] = useState<Exported | null>(null)
  const [fileFault, setFileFault] = useState<string | null>(null)
  /** How the file is read, where somebody said so. */
  const [pointed, setPointed] = useState<Pointed>(AS_FOUND)
  /** Further columns that are kept. */
  const [keep, setKeep] = useState<readonly string[]>([])

  const attempt = async (work: () => Promise<void>) => {
    setBusy(true)
    setFault(null)
    try {
      await work()
    } catch (error) {
      setFault(faultOf(error))
    } finally {
      setBusy(false)
    }
  }
  const how = (kept = keep, said = pointed) => ({
    columns: said.columns,
    ...(said.headings && { headings: said.headings }),
    ...(said.commas && { commas: said.commas }),
    ...(said.section && { section: said.section }),
    keep: [...kept],
  })
  const look = (text: string, kept = keep, said = pointed) =>
    attempt(async () =>
      setPreview(await call(previewRoster, { course: course.code }, { csv: text, ...how(kept, said) })),
    )
  /** Reads the file anew as somebody says. */
  const point = (said: Pointed) => {
    setPointed(said)
    void look(csv, keep, said)
  }
  const table = useTable((text) => {
    change(text)
    void look(text, [], AS_FOUND)
  })
  const bring = (bringing: Bringing) =>
    attempt(async () => {
      const done = await call(importRoster, { course: course.code }, { csv, ...how(), ...bringing })
      const skipped = done.skipped > 0 ? ` ${done.skipped} lines were left out.` : ''
      const unlisted = done.unlisted > 0 ? ` ${done.unlisted} who were not listed were changed.` : ''
      toast.success(
        `${counted(done.added, 'person', 'people')} added, ${done.changed} changed.${unlisted}${skipped}`,
      )
      onDone()
      onClose()
    })
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])]
    event.target.value = ''
    const [first] = files
    if (!first) return
    change('')
    table.clear()
    setExported(null)
    setFileFault(null)
    try {
      const reading = await oneRosterIn(files)
      if (reading) {
        if (reading.readable) setExported(reading)
        else setFileFault(reading.message)
        return
      }
      await table.choose(first)
    } catch (error) {
      setFileFault(
        error instanceof ZipFault ? error.message : 'The file could not be read. Save it anew and try again.',
      )
    }
  }
  const change = (text: string) => {
    setCsv(text)
    setPreview(null)
    setFault(null)
    setPointed(AS_FOUND)
    setKeep([])
  }

  const header = (fault?.problem.errors ?? [])
    .filter(({ path }) => path.startsWith('header['))
    .map(({ message }) => message)
  const example = course.sections[0]?.name
  return (
    <section aria-labelledby="bring-in" className="rounded-card border border-line bg-surface">
      <div className="flex flex-col gap-3 p-4">
        <h2 id="bring-in" className="text-lg">
          Import roster
        </h2>
        <p className="text-soft">
          A spreadsheet, a CSV file, or rows pasted from one: name, email
          {course.sections.length > 0 && ', section'}; a role (student, tutor, instructor) and a student
          number may be there too. You see which column is taken for what, and can say otherwise. A OneRoster
          export is read too: users, classes and enrollments, as three CSV files or one zip.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <label className="inline-flex min-h-9 cursor-pointer items-center rounded-field border border-line-strong px-3.5 font-semibold focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-seat hover:border-open">
            Choose a file
            <input
              type="file"
              accept={`.zip,${TABLES}`}
              multiple
              className="sr-only"
              onChange={(event) => void choose(event)}
            />
          </label>
          <span className="text-soft">or paste below</span>
        </div>
        <TableState table={table} />
        {fileFault && (
          <p role="alert" className="text-ember">
            {fileFault}
          </p>
        )}
        {exported && !preview && (
          <OneRosterPick
            course={course}
            reading={exported}
            onPicked={(text) => {
              setCsv(text)
              void look(text)
            }}
          />
        )}
        <Area
          label="Roster as text"
          rows={preview ? 3 : 6}
          spellCheck={false}
          value={csv}
          onChange={(event) => {
            table.clear()
            change(event.target.value)
          }}
          placeholder={`name,email,section\nMirela Strand,mirela.strand@school.example,${example ?? ''}`}
          fault={fault?.message}
          className="font-mono text-sm"
        />
        {header.length > 0 && !preview && (
          <div className="flex flex-col gap-1">
            <p className="text-soft">Say which column is which:</p>
            <PointOut
              header={header}
              found={{}}
              headed={false}
              commas={null}
              sections={course.sections.map(({ name }) => name)}
              pointed={pointed}
              onChange={point}
            />
          </div>
        )}
        {!preview && (
          <div className="flex gap-2">
            <Button look="main" busy={busy} disabled={csv.trim() === ''} onClick={() => void look(csv)}>
              {busy ? 'Reading…' : 'See what would change'}
            </Button>
            <Button look="quiet" onClick={onClose}>
              Cancel
            </Button>
          </div>
        )}
      </div>
      {preview && (
        <Preview
          preview={preview}
          csv={csv}
          course={course}
          onMend={(line, text) => {
            const mended = withLine(csv, line, text)
            setCsv(mended)
            void look(mended)
          }}
          busy={busy}
          keep={keep}
          pointed={pointed}
          onPoint={point}
          onKeep={(next) => {
            setKeep(next)
            void look(csv, next)
          }}
          onSections={(names) =>
            void attempt(async () => {
              for (const name of names) await call(addSection, { course: course.code }, { name })
              onDone()
              setPreview(await call(previewRoster, { course: course.code }, { csv, ...how() }))
            })
          }
          onBring={(bringing) => void bring(bringing)}
          onClose={onClose}
        />
      )}
    </section>
  )
}
