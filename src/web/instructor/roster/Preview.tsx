import { type ReactNode, useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import type { RosterPreview, Unlisted } from '../../../contract/roster.ts'
import { LIMITS } from '../../../core/limits.ts'
import type { FieldChange } from '../../../core/roster.ts'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field } from '../../kit/Field.tsx'
import { lineOf } from './lines.ts'
import { type Pointed, PointOut } from './PointOut.tsx'

const people = (n: number) => (n === 1 ? '1 person' : `${n} people`)
/** What a file can change about somebody, in words. */
const SAID: Record<FieldChange['field'], string> = {
  name: 'name',
  given: 'given name',
  family: 'surname',
  called: 'called',
  number: 'student number',
  email: 'address',
  section: 'section',
  role: 'role',
  status: 'status',
}
/** Lines of one kind that are listed at first. */
const MOST = 200

/** How a file is brought in once it was looked at. */
export interface Bringing {
  skipFaults: boolean
  unlisted: Unlisted
  freeSeats: boolean
}

/** What a roster file would change, line by line, before anything is written. */
export function Preview({
  preview,
  csv,
  course,
  onMend,
  busy,
  keep,
  pointed,
  onPoint,
  onKeep,
  onSections,
  onBring,
  onClose,
}: {
  preview: RosterPreview
  /** The text that was read. */
  csv: string
  course: CourseView
  /** Puts another line in place of one, and reads the whole anew. */
  onMend: (line: number, text: string) => void
  busy: boolean
  /** Further columns that are kept. */
  keep: readonly string[]
  /** How it was said by hand that the file is read. */
  pointed: Pointed
  onPoint: (pointed: Pointed) => void
  onKeep: (columns: string[]) => void
  /** Adds the sections that the file names and the course does not have. */
  onSections: (names: readonly string[]) => void
  onBring: (how: Bringing) => void
  onClose: () => void
}) {
  const { fresh, changed, unchanged, missing, faults, sections, spare, attributes } = preview
  const { header, columns, headed, notes, commas } = preview
  const parted = fresh.some(({ name, family }) => family !== '' && !name.endsWith(family)) || commas !== null
  const numbered = fresh.some(({ number }) => number !== '')
  const otherwise = fresh.some(({ called }) => called !== '')
  const [mending, setMending] = useState<{ line: number; text: string } | null>(null)
  const wrong = new Set(faults.map(({ line }) => line)).size
  const [unlisted, setUnlisted] = useState<Unlisted>('leave')
  const [freeSeats, setFreeSeats] = useState(true)
  const gone = unlisted === 'leave' ? 0 : missing.length
  const good = fresh.length + changed.length + gone + attributes
  return (
    <div className="border-t tear p-4">
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2">
        <Figure n={fresh.length} what="new" tone="text-moss" />
        <Figure n={changed.length} what="changed" />
        <Figure
          n={wrong}
          what={wrong === 1 ? 'line wrong' : 'lines wrong'}
          tone={wrong > 0 ? 'text-ember' : ''}
        />
        <Figure n={missing.length} what="not in this file" />
        <Figure n={unchanged} what="as before" />
      </dl>
      <details className="mb-3 rounded-field border border-line px-3 py-1.5" open={!headed}>
        <summary className="cursor-pointer font-semibold">
          Which column is which{' '}
          <span className="font-normal text-soft">
            {headed
              ? 'by the headings'
              : 'no headings were found, so columns were told by what is in them, and the first line is a person'}
          </span>
        </summary>
        <div className="mt-1 mb-1">
          <PointOut
            header={header}
            found={columns}
            headed={headed}
            commas={commas}
            sections={columns.section === undefined ? course.sections.map(({ name }) => name) : []}
            pointed={pointed}
            onChange={onPoint}
          />
        </div>
      </details>
      {notes.length > 0 && (
        <ul className="mb-3 rounded-field bg-sun-soft px-3 py-1.5">
          {notes.map((note) => (
            <li key={note} className="wrap-anywhere">
              {note}
            </li>
          ))}
        </ul>
      )}
      {sections.length > 0 && (
        <p className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 rounded-field bg-sun-soft px-3 py-1.5">
          <span>
            {course.sections.length === 0
              ? `The course has no sections, and the file has ${sections.map((name) => `“${name}”`).join(', ')}. Without them nobody is in one.`
              : `The course has no section ${sections.map((name) => `“${name}”`).join(', ')}. Topics that have a group in each section would get one there too.`}
          </span>
          <Button size="small" busy={busy} onClick={() => onSections(sections)}>
            {sections.length === 1 ? 'Add this section' : 'Add these sections'}
          </Button>
        </p>
      )}
      {faults.length > 0 && (
        <Lines title="Wrong" open heads={['Line', 'Found', 'What is wrong', 'What to do']} of={faults}>
          {({ line, field, found, message }) => (
            <tr key={`${line}${field}${message}`} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1 font-semibold text-ember">{line}</td>
              <td className="px-3 py-1">{found || <span className="text-faint">nothing</span>}</td>
              <td className="px-3 py-1">{message}</td>
              <td className="px-3 py-1 text-right">
                <Button size="small" onClick={() => setMending({ line, text: lineOf(csv, line) })}>
                  Mend<span className="sr-only"> line {line}</span>
                </Button>
              </td>
            </tr>
          )}
        </Lines>
      )}
      {mending && (
        <form
          className="mb-3 flex flex-wrap items-end gap-2 rounded-field border border-ember px-3 py-2"
          onSubmit={(event) => {
            event.preventDefault()
            onMend(mending.line, mending.text)
            setMending(null)
          }}
        >
          <div className="min-w-0 flex-1 basis-72">
            <Field
              label={`Line ${mending.line} as it is to read`}
              autoFocus
              spellCheck={false}
              value={mending.text}
              onChange={({ target }) => setMending({ ...mending, text: target.value })}
              className="font-mono text-sm"
            />
          </div>
          <Button type="submit" look="main" busy={busy}>
            Save the line
          </Button>
          <Button onClick={() => setMending(null)}>Cancel</Button>
        </form>
      )}
      {changed.length > 0 && (
        <Lines title="Changed" open heads={['Line', 'Name', 'What changes']} of={changed}>
          {({ line, name, email, changes, keepsSeats }) => (
            <tr key={email} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1">{line}</td>
              <td className="px-3 py-1 font-semibold">{name}</td>
              <td className="px-3 py-1">
                {changes
                  .map(({ field, from, to }) => `${SAID[field]}: ${from ?? 'none'} → ${to ?? 'none'}`)
                  .join('; ')}
                {keepsSeats.length > 0 && (
                  <span className="text-sun-ink">; keeps the seat at {keepsSeats.join(', ')}</span>
                )}
              </td>
            </tr>
          )}
        </Lines>
      )}
      {fresh.length > 0 && (
        <Lines
          title="New"
          open={fresh.length <= 12}
          heads={[
            'Line',
            'Name',
            ...(parted ? ['Surname'] : []),
            ...(otherwise ? ['Called'] : []),
            ...(numbered ? ['Student number'] : []),
            'Email',
            'Section',
            'Role',
          ]}
          of={fresh}
        >
          {({ line, name, family, called, number, email, section, role }) => (
            <tr key={email} className="border-b border-line last:border-0">
              <td className="figures px-3 py-1">{line}</td>
              <td className="px-3 py-1 font-semibold">{name}</td>
              {parted && <td className="px-3 py-1">{family}</td>}
              {otherwise && <td className="px-3 py-1">{called}</td>}
              {numbered && <td className="figures px-3 py-1">{number}</td>}
              <td className="px-3 py-1 text-soft">{email}</td>
              <td className="px-3 py-1">{section}</td>
              <td className="px-3 py-1 text-soft">{role}</td>
            </tr>
          )}
        </Lines>
      )}
      {missing.length > 0 && (
        <>
          <Lines title="Not in this file" heads={['Name', 'Email', 'Section', 'Sits at']} of={missing}>
            {({ name, email, section, seats }) => (
              <tr key={email} className="border-b border-line last:border-0">
                <td className="px-3 py-1 font-semibold">{name}</td>
                <td className="px-3 py-1 text-soft">{email}</td>
                <td className="px-3 py-1">{section}</td>
                <td className="px-3 py-1 text-soft">{seats.join(', ')}</td>
              </tr>
            )}
          </Lines>
          <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
            <label className="flex items-center gap-2">
              Those {missing.length} who are not in this file
              <Choice value={unlisted} onValue={(value) => setUnlisted(value as Unlisted)}>
                <option value="leave">stay as they are</option>
                <option value="pause">are paused</option>
                <option value="left">have left</option>
              </Choice>
            </label>
            {gone > 0 && (
              <Check checked={freeSeats} onValue={setFreeSeats}>
                Free their seats
              </Check>
            )}
          </div>
        </>
      )}
      {spare.length > 0 && (
        <fieldset className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
          <legend className="float-left mr-4">
            Not read, unless you keep it for mixing groups, seen by staff alone:
          </legend>
          {spare.map((column) => (
            <Check
              key={column}
              checked={keep.includes(column)}
              disabled={!keep.includes(column) && keep.length >= LIMITS.attributes}
              onValue={(on) => onKeep(on ? [...keep, column] : keep.filter((one) => one !== column))}
            >
              {column}
            </Check>
          ))}
        </fieldset>
      )}
      <div className="flex flex-wrap items-center gap-2">
        {good > 0 ? (
          <Button
            look="main"
            busy={busy}
            onClick={() => onBring({ skipFaults: wrong > 0, unlisted, freeSeats: freeSeats && gone > 0 })}
          >
            {`${fresh.length + changed.length > 0 ? `Import ${people(fresh.length + changed.length)}` : gone > 0 ? `Change ${people(gone)}` : `Keep the columns of ${people(attributes)}`}${wrong > 0 ? `, leave out ${wrong} wrong` : ''}`}
          </Button>
        ) : (
          <p className="text-soft">
            {wrong > 0 ? 'No line can be imported as it is.' : 'The roster already says the same.'}
          </p>
        )}
        <Button look="quiet" onClick={onClose}>
          {good > 0 ? 'Leave the roster as it is' : 'Close'}
        </Button>
      </div>
    </div>
  )
}

function Figure({ n, what, tone = '' }: { n: number; what: string; tone?: string }) {
  return (
    <div className="flex flex-col-reverse">
      <dt className="text-soft">{what}</dt>
      <dd className={`figures font-display text-2xl leading-tight font-bold ${n > 0 ? tone : 'text-faint'}`}>
        {n}
      </dd>
    </div>
  )
}

function Lines<Item>({
  title,
  heads,
  of,
  open = false,
  children,
}: {
  title: string
  heads: string[]
  of: readonly Item[]
  open?: boolean
  /** One line of the list. */
  children: (item: Item) => ReactNode
}) {
  const [all, setAll] = useState(false)
  const more = of.length > MOST && !all
  return (
    <details open={open} className="mb-3 rounded-field border border-line">
      <summary className="cursor-pointer px-3 py-1.5 font-semibold">
        {title} {more && <span className="font-normal text-soft">(the first {MOST})</span>}
      </summary>
      <div className="max-h-72 overflow-auto border-t border-line">
        <table className="w-full border-collapse text-left">
          <thead className="text-sm text-soft">
            <tr>
              {heads.map((head) => (
                <th key={head} scope="col" className="px-3 py-1 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{(more ? of.slice(0, MOST) : of).map(children)}</tbody>
        </table>
        {more && (
          <p className="px-3 py-1.5">
            <Button size="small" onClick={() => setAll(true)}>
              Show all {of.length.toLocaleString('en')}
            </Button>
          </p>
        )}
      </div>
    </details>
  )
}
