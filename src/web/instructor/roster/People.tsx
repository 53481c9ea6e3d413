import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { CourseView } from '../../../contract/courses.ts'
import type { RosterView } from '../../../contract/roster.ts'
import { counted } from '../../../core/counted.ts'
import { matches } from '../../../core/names.ts'
import type { EnrolmentStatus } from '../../../core/roster.ts'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { BOX } from '../../kit/Field.tsx'
import { useKey } from '../../kit/keys.ts'
import { part } from '../../kit/part.tsx'
import { usePrinting } from '../../kit/usePrinting.ts'
import { PersonAsk } from './PersonAsk.tsx'
import { Several } from './Several.tsx'

const AddressesAsk = part(async () => (await import('../../kit/AddressesAsk.tsx')).AddressesAsk)

type Person = RosterView['people'][number]
type SortKey = 'name' | 'email' | 'number' | 'section' | 'role' | 'status'

const ROW = 37
const STATUSES: { value: EnrolmentStatus; label: string }[] = [
  { value: 'active', label: 'active' },
  { value: 'paused', label: 'paused' },
  { value: 'left', label: 'left' },
]
const ROLES = ['instructor', 'tutor', 'student']

/** Everybody on the roster: searched, filtered, sorted, and changed one or several at once. */
export function People({
  course,
  people,
  mayEdit,
  put,
}: {
  course: CourseView
  people: readonly Person[]
  mayEdit: boolean
  put: (view: RosterView) => void
}) {
  const [params] = useSearchParams()
  const pointed = people.find(({ code }) => code === params.get('person'))
  const [typed, setTyped] = useState(pointed ? pointed.called || pointed.name : '')
  // The find box leads to somebody while this page is open, too.
  const [led, setLed] = useState(pointed?.code)
  if (led !== pointed?.code) {
    setLed(pointed?.code)
    if (pointed) setTyped(pointed.called || pointed.name)
  }
  const [section, setSection] = useState('')
  const [status, setStatus] = useState<EnrolmentStatus | ''>('active')
  const [sort, setSort] = useState<{ by: SortKey; down: boolean }>({ by: 'role', down: false })
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set())
  const printing = usePrinting()
  const [copying, setCopying] = useState(false)
  const [editing, setEditing] = useState<Person | null>(null)
  const search = useRef<HTMLInputElement>(null)
  const scroller = useRef<HTMLDivElement>(null)
  useKey('/', () => search.current?.focus())
  const ranks = useMemo(() => new Map(people.map(({ code }, i) => [code, i])), [people])
  const shown = useMemo(
    () =>
      people
        .filter(
          (person) =>
            (section === '' || person.section === section) &&
            (status === '' || person.status === status) &&
            matches(typed, person.called, person.name, person.email, person.number),
        )
        .sort((a, b) => (sort.down ? -1 : 1) * compare(a, b, sort.by, ranks)),
    [people, section, status, typed, sort, ranks],
  )
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  const hasSections = course.sections.length > 0
  const numbered = people.some(({ number }) => number !== '')
  const columns = [
    ...(mayEdit ? ['2.25rem'] : []),
    'minmax(10rem, 1.4fr) minmax(12rem, 1.6fr)',
    ...(numbered ? ['8rem'] : []),
    ...(hasSections ? ['8rem'] : []),
    '7rem 6rem',
    ...(mayEdit ? ['4.5rem'] : []),
  ].join(' ')
  const allPicked = shown.length > 0 && shown.every(({ code }) => picked.has(code))
  const pick = (code: string) => {
    const next = new Set(picked)
    if (!next.delete(code)) next.add(code)
    setPicked(next)
  }
  const heads: { by: SortKey; label: string }[] = [
    { by: 'name', label: 'Name' },
    { by: 'email', label: 'Email' },
    ...(numbered ? [{ by: 'number' as const, label: 'Student number' }] : []),
    ...(hasSections ? [{ by: 'section' as const, label: 'Section' }] : []),
    { by: 'role', label: 'Role' },
    { by: 'status', label: 'Status' },
  ]
  if (printing) return <Printed people={shown} hasSections={hasSections} numbered={numbered} />
  return (
    <section aria-label="People" className="rounded-card border border-line bg-surface">
      <div className="flex flex-wrap gap-2 px-4 py-3">
        <input
          ref={search}
          type="search"
          aria-label="Search people"
          placeholder="Search by name, address or number  /"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className={`${BOX} max-w-80`}
        />
        {hasSections && (
          <Choice aria-label="Section" value={section} onValue={setSection} className="max-w-44">
            <option value="">All sections</option>
            {course.sections.map(({ code, name }) => (
              <option key={code}>{name}</option>
            ))}
          </Choice>
        )}
        <Choice
          aria-label="Status"
          value={status}
          onValue={(value) => setStatus(value as EnrolmentStatus | '')}
          className="max-w-40"
        >
          {STATUSES.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
          <option value="">every status</option>
        </Choice>
        <output className="figures self-center text-soft">
          {shown.length === people.length
            ? counted(people.length, 'person', 'people')
            : `${shown.length} of ${counted(people.length, 'person', 'people')}`}
        </output>
        <Button className="ml-auto" disabled={shown.length === 0} onClick={() => setCopying(true)}>
          Copy addresses
        </Button>
      </div>
      {picked.size > 0 && (
        <Several course={course} picked={[...picked]} put={put} onDone={() => setPicked(new Set())} />
      )}
      <div
        ref={scroller}
        className="max-h-[min(60vh,44rem)] overflow-auto border-t border-line"
        role="table"
        aria-rowcount={shown.length + 1}
        aria-label="Roster"
      >
        <div className={numbered ? 'min-w-[58rem]' : 'min-w-[46rem]'}>
          <div
            role="row"
            aria-rowindex={1}
            style={{ gridTemplateColumns: columns }}
            className={`grid items-center sticky top-0 z-10 border-b border-line bg-surface px-4 text-sm text-soft`}
          >
            {mayEdit && (
              <span role="columnheader">
                <Check
                  checked={allPicked}
                  onValue={() => setPicked(allPicked ? new Set() : new Set(shown.map(({ code }) => code)))}
                  name="Pick all that are shown"
                />
              </span>
            )}
            {heads.map(({ by, label }) => (
              <span
                key={by}
                role="columnheader"
                aria-sort={sort.by === by ? (sort.down ? 'descending' : 'ascending') : 'none'}
              >
                <button
                  type="button"
                  className="min-h-8 font-semibold hover:text-ink"
                  onClick={() => setSort({ by, down: sort.by === by && !sort.down })}
                >
                  {label} {sort.by === by && <span aria-hidden="true">{sort.down ? '↓' : '↑'}</span>}
                </button>
              </span>
            ))}
            {mayEdit && (
              <span role="columnheader">
                <span className="sr-only">Change</span>
              </span>
            )}
          </div>
          <div role="rowgroup" style={{ height: rows.getTotalSize() }} className="relative">
            {rows.getVirtualItems().map((item) => {
              const person = shown[item.index]
              if (!person) return null
              const { code, called, number, email, section, role, status } = person
              const name = called || person.name
              return (
                <div
                  key={code}
                  role="row"
                  aria-rowindex={item.index + 2}
                  style={{
                    height: ROW,
                    transform: `translateY(${item.start}px)`,
                    gridTemplateColumns: columns,
                  }}
                  className={`grid items-center absolute inset-x-0 border-b border-line px-4 ${picked.has(code) ? 'bg-seat-soft' : ''} ${
                    status === 'active' ? '' : 'text-soft'
                  }`}
                >
                  {mayEdit && (
                    <span role="cell">
                      <Check checked={picked.has(code)} onValue={() => pick(code)} name={`Pick ${name}`} />
                    </span>
                  )}
                  <span role="rowheader" className="truncate pr-3 font-semibold">
                    {mayEdit ? (
                      <Link className="hover:underline" to={`/courses/${course.code}/people/${code}`}>
                        {name}
                      </Link>
                    ) : (
                      name
                    )}
                    {besides(person).length > 0 && (
                      <span className="ml-2 text-sm font-normal text-faint">
                        {besides(person).join(', ')}
                      </span>
                    )}
                  </span>
                  <span role="cell" className="truncate pr-3 text-soft">
                    {email}
                  </span>
                  {numbered && (
                    <span role="cell" className="figures truncate pr-3 text-soft">
                      {number}
                    </span>
                  )}
                  {hasSections && <span role="cell">{section ?? ''}</span>}
                  <span role="cell" className="text-soft">
                    {role}
                  </span>
                  <span role="cell" className={status === 'active' ? 'text-soft' : 'text-sun-ink'}>
                    {status}
                  </span>
                  {mayEdit && (
                    <span role="cell">
                      <button
                        type="button"
                        aria-label={`Edit ${name}`}
                        onClick={() => setEditing(person)}
                        className="font-semibold text-seat hover:underline"
                      >
                        Edit
                      </button>
                    </span>
                  )}
                </div>
              )
            })}
          </div>
        </div>
      </div>
      {shown.length === 0 && <p className="p-6 text-center text-soft">Nobody on this roster fits.</p>}
      {copying && (
        <AddressesAsk
          of={section === '' ? 'those shown' : `those shown of ${section}`}
          emails={shown.map(({ email }) => email)}
          onClose={() => setCopying(false)}
        />
      )}
      {editing && (
        <PersonAsk
          course={course}
          person={editing}
          people={people}
          put={put}
          onClose={() => setEditing(null)}
        />
      )}
    </section>
  )
}

/** Everybody who is shown as a plain table, for paper. */
function Printed({
  people,
  hasSections,
  numbered,
}: {
  people: readonly Person[]
  hasSections: boolean
  numbered: boolean
}) {
  return (
    <table aria-label="Roster" className="w-full border-collapse text-left text-sm">
      <thead>
        <tr className="border-b-2 border-ink">
          <th scope="col">Name</th>
          <th scope="col">Email</th>
          {numbered && <th scope="col">Student number</th>}
          {hasSections && <th scope="col">Section</th>}
          <th scope="col">Role</th>
          <th scope="col">Status</th>
        </tr>
      </thead>
      <tbody>
        {people.map((person) => (
          <tr key={person.code} className="break-inside-avoid border-b border-line">
            <th scope="row" className="font-semibold">
              {person.called || person.name}
            </th>
            <td>{person.email}</td>
            {numbered && <td>{person.number}</td>}
            {hasSections && <td>{person.section}</td>}
            <td>{person.role}</td>
            <td>{person.status}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What the roster says of somebody beside the name: the name it has for them where they are called otherwise, and attributes. */
function besides({ name, called, attributes }: Person): string[] {
  return [called === '' ? '' : name, ...Object.values(attributes)].filter((one) => one !== '')
}

/** Compares two people by a column, those alike as the class list has them. */
function compare(a: Person, b: Person, by: SortKey, ranks: ReadonlyMap<string, number>): number {
  const names = (ranks.get(a.code) ?? 0) - (ranks.get(b.code) ?? 0)
  switch (by) {
    case 'name':
      return names
    case 'role':
      return ROLES.indexOf(a.role) - ROLES.indexOf(b.role) || names
    default:
      return (a[by] ?? '').localeCompare(b[by] ?? '', 'en', { numeric: true }) || names
  }
}
