import { type ChangeEvent, useState } from 'react'
import { addSection, type CourseView } from '../../../contract/courses.ts'
import { importRoster, previewRoster, type RosterPreview } from '../../../contract/roster.ts'
import type { OneRosterReading } from '../../../core/formats/oneRoster.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { readText } from '../../data/readText.ts'
import { ZipFault } from '../../data/unzip.ts'
import { Button } from '../../kit/Button.tsx'
import { Area } from '../../kit/Field.tsx'
import { toast } from '../../kit/toast.ts'
import { OneRosterPick, oneRosterIn } from './OneRosterPick.tsx'
import { type Pointed, PointOut } from './PointOut.tsx'
import { type Bringing, Preview } from './Preview.tsx'

type Exported = Extract<OneRosterReading, { readable: true }>

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
  const [columns, setColumns] = useState<Pointed>({})
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
  const look = (text: string, kept = keep) =>
    attempt(async () =>
      setPreview(await call(previewRoster, { course: course.code }, { csv: text, columns, keep: [...kept] })),
    )
  const bring = (how: Bringing) =>
    attempt(async () => {
      const done = await call(
        importRoster,
        { course: course.code },
        { csv, columns, keep: [...keep], ...how },
      )
      const skipped = done.skipped > 0 ? ` ${done.skipped} lines were left out.` : ''
      const unlisted = done.unlisted > 0 ? ` ${done.unlisted} who were not listed were changed.` : ''
      toast.success(`${done.added} people added, ${done.changed} changed.${unlisted}${skipped}`)
      onDone()
      onClose()
    })
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])]
    event.target.value = ''
    const [first] = files
    if (!first) return
    change('')
    setExported(null)
    setFileFault(null)
    try {
      const reading = await oneRosterIn(files)
      if (reading) {
        if (reading.readable) setExported(reading)
        else setFileFault(reading.message)
        return
      }
      const text = await readText(first)
      setCsv(text)
      await look(text)
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
    setColumns({})
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
          A CSV file or rows from a spreadsheet. The first line names the columns: name, email
          {course.sections.length > 0 && ', section'}; a role column (student, tutor, instructor) may follow.
          A OneRoster export is read too: users, classes and enrollments, as three CSV files or one zip.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <label className="inline-flex min-h-9 cursor-pointer items-center rounded-field border border-line-strong px-3.5 font-semibold focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-seat hover:border-open">
            Choose a file
            <input
              type="file"
              accept=".csv,.tsv,.txt,.zip,text/csv"
              multiple
              className="sr-only"
              onChange={(event) => void choose(event)}
            />
          </label>
          <span className="text-soft">or paste below</span>
        </div>
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
          onChange={(event) => change(event.target.value)}
          placeholder={`name,email,section\nMirela Strand,mirela.strand@school.example,${example ?? ''}`}
          fault={fault?.message}
          className="font-mono text-sm"
        />
        {header.length > 0 && <PointOut header={header} columns={columns} onChange={setColumns} />}
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
          busy={busy}
          keep={keep}
          onKeep={(next) => {
            setKeep(next)
            void look(csv, next)
          }}
          onSections={(names) =>
            void attempt(async () => {
              for (const name of names) await call(addSection, { course: course.code }, { name })
              onDone()
              setPreview(
                await call(previewRoster, { course: course.code }, { csv, columns, keep: [...keep] }),
              )
            })
          }
          onBring={(how) => void bring(how)}
          onClose={onClose}
        />
      )}
    </section>
  )
}
