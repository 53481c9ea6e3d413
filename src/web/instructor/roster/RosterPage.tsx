import { useRef, useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { type CourseView, course as courseRoute } from '../../../contract/courses.ts'
import { type RosterView, roster } from '../../../contract/roster.ts'
import { bySurname, matches } from '../../../core/names.ts'
import { useAnswer } from '../../data/answers.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { FindBox } from '../FindBox.tsx'
import { useKey } from '../keys.ts'
import { BringIn } from './BringIn.tsx'

/** A course's roster: who is in it, and bringing in a file. */
export function RosterPage() {
  const { course: code = '' } = useParams()
  const course = useAnswer(courseRoute, { course: code })
  const people = useAnswer(roster, { course: code })
  const error = course.error ?? people.error
  if (error?.code === 'not-allowed') return <Navigate replace to="/" />
  const title = course.data ? `${course.data.courseCode} ${course.data.title}` : ''
  const refetch = () => {
    void course.mutate()
    void people.mutate()
  }
  return (
    <Frame
      title="Roster"
      crumbs={title ? [{ label: title, to: '/' }, { label: 'Roster' }] : []}
      find={<FindBox />}
    >
      {course.data && people.data ? (
        <Roster course={course.data} people={people.data.people} onChanged={refetch} />
      ) : error ? (
        <Trouble fault={error} retry={refetch} />
      ) : (
        <Loading what="the roster" />
      )}
    </Frame>
  )
}

function Roster({
  course,
  people,
  onChanged,
}: {
  course: CourseView
  people: RosterView['people']
  onChanged: () => void
}) {
  const [bringing, setBringing] = useState(people.length <= 1)
  const mayEdit = course.role === 'instructor'
  const staff = people.filter(({ role }) => role !== 'student').length
  return (
    <div className="mx-auto flex w-full max-w-[78rem] flex-col gap-4 px-10 py-6 max-sm:px-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-[1.625rem]">Roster</h1>
          <p className="figures text-soft">
            {[
              `${course.students} students`,
              ...course.sections.map(({ name, students }) => `${name} ${students}`),
              `${staff} instructors and tutors`,
            ].join(' · ')}
          </p>
        </div>
        {mayEdit && !bringing && (
          <Button look="main" onClick={() => setBringing(true)}>
            Bring in a roster file
          </Button>
        )}
      </div>
      {mayEdit && bringing && (
        <BringIn course={course} onDone={onChanged} onClose={() => setBringing(false)} />
      )}
      <People course={course} people={people} />
    </div>
  )
}

function People({ course, people }: { course: CourseView; people: RosterView['people'] }) {
  const [typed, setTyped] = useState('')
  const [section, setSection] = useState('')
  const search = useRef<HTMLInputElement>(null)
  useKey('/', () => search.current?.focus())
  const shown = people
    .filter(
      (person) => (section === '' || person.section === section) && matches(typed, person.name, person.email),
    )
    .sort((a, b) => rank(a.role) - rank(b.role) || bySurname(a.name, b.name))
  return (
    <section aria-label="People" className="rounded-card border border-line bg-surface">
      <div className="flex flex-wrap gap-2 px-4 py-3">
        <input
          ref={search}
          type="search"
          aria-label="Search people"
          placeholder="Search by name or address  /"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className={`${BOX} max-w-80`}
        />
        {course.sections.length > 0 && (
          <select
            aria-label="Section"
            value={section}
            onChange={(event) => setSection(event.target.value)}
            className={`${BOX} max-w-48`}
          >
            <option value="">All sections</option>
            {course.sections.map(({ code, name }) => (
              <option key={code}>{name}</option>
            ))}
          </select>
        )}
        <output className="figures self-center text-soft">
          {shown.length === people.length
            ? `${people.length} people`
            : `${shown.length} of ${people.length} people`}
        </output>
      </div>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="border-y border-line text-sm text-soft">
              {['Name', 'Email', ...(course.sections.length > 0 ? ['Section'] : []), 'Role', 'Status'].map(
                (head) => (
                  <th key={head} scope="col" className="px-4 py-1.5 font-semibold">
                    {head}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {shown.map(({ code, name, email, section, role, status }) => (
              <tr key={code} className="border-b border-line last:border-0">
                <th scope="row" className="px-4 py-1.5 font-semibold">
                  {name}
                </th>
                <td className="px-4 py-1.5 text-soft">{email}</td>
                {course.sections.length > 0 && <td className="px-4 py-1.5">{section ?? ''}</td>}
                <td className="px-4 py-1.5 text-soft">{role}</td>
                <td className="px-4 py-1.5 text-soft">{status}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {shown.length === 0 && <p className="p-6 text-center text-soft">Nobody on this roster fits.</p>}
    </section>
  )
}

function rank(role: string): number {
  return ['instructor', 'tutor', 'student'].indexOf(role)
}
