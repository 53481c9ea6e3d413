import { useState } from 'react'
import { useParams } from 'react-router'
import { type CourseView, course as courseRoute } from '../../../contract/courses.ts'
import { courseMarksFile } from '../../../contract/marks.ts'
import { type RosterView, roster, undoRoster } from '../../../contract/roster.ts'
import { fill } from '../../../contract/route.ts'
import { counted } from '../../../core/counted.ts'
import { writeRosterCsv } from '../../../core/formats/rosterCsv.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { useDo } from '../../kit/useDo.ts'
import { FindBox } from '../FindBox.tsx'
import { BringIn } from './BringIn.tsx'
import { Lists } from './Lists.tsx'
import { People } from './People.tsx'
import { PersonAsk } from './PersonAsk.tsx'

const MARKS = [
  { file: 'marks.csv', label: 'CSV' },
  { file: 'marks.xlsx', label: 'XLSX' },
  { file: 'marks.ods', label: 'ODS' },
]

/** A course's roster: who is in it, bringing in a file, changing people by hand. */
export function RosterPage() {
  const { course: code = '' } = useParams()
  const course = useAnswer(courseRoute, { course: code })
  const people = useAnswer(roster, { course: code })
  const refetch = () => {
    void course.mutate()
    void people.mutate()
  }
  const put = (view: RosterView) => {
    void people.mutate(view, { revalidate: false })
    void course.mutate()
  }
  return (
    <Awaited
      of={{
        data: course.data && people.data && { course: course.data, view: people.data },
        error: course.error ?? people.error,
        mutate: refetch,
      }}
      what="the roster"
      elsewhere="/"
    >
      {({ course, view }) => (
        <Frame
          title={`Roster of ${course.courseCode}`}
          crumbs={[
            { label: `${course.courseCode} ${course.title}`, to: `/courses/${course.code}` },
            { label: 'Roster' },
          ]}
          find={<FindBox />}
        >
          <Roster course={course} view={view} put={put} onChanged={refetch} />
        </Frame>
      )}
    </Awaited>
  )
}

function Roster({
  course,
  view,
  put,
  onChanged,
}: {
  course: CourseView
  view: RosterView
  put: (view: RosterView) => void
  onChanged: () => void
}) {
  const { people, undo } = view
  const [bringing, setBringing] = useState(people.length <= 1)
  const [adding, setAdding] = useState(false)
  const mayEdit = course.role === 'instructor' && course.archivedAt === null
  useDo({
    import: mayEdit && (() => setBringing(true)),
    add: mayEdit && (() => setAdding(true)),
  })
  const active = people.filter(({ status }) => status === 'active')
  const staff = active.filter(({ role }) => role !== 'student').length
  const away = people.length - active.length
  const act = useAct()
  const takeBack = ({ step, what }: NonNullable<RosterView['undo']>) =>
    act.do({
      work: () => call(undoRoster, { course: course.code }, { step }),
      put,
      refetch: onChanged,
      said: `Undone: ${what}.`,
    })
  return (
    <div className="mx-auto flex w-full max-w-[78rem] flex-col gap-4 px-10 py-6 max-sm:px-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-[1.625rem]">Roster</h1>
          <p className="figures text-soft">
            {[
              counted(course.students, 'student'),
              ...course.sections.map(({ name, students }) => `${name} ${students}`),
              staff === 1 ? '1 instructor or tutor' : `${staff} instructors and tutors`,
              ...(away > 0 ? [`${away} paused or left`] : []),
            ].join(' · ')}
          </p>
          {mayEdit && (
            <p className="text-sm text-soft print:hidden">
              Marks of all sheets:{' '}
              {MARKS.map(({ file, label }) => (
                <a
                  key={file}
                  href={fill(courseMarksFile.path, { course: course.code, file })}
                  download
                  aria-label={`Marks of all sheets as ${label}`}
                  className="mr-2 text-seat underline underline-offset-2"
                >
                  {label}
                </a>
              ))}
            </p>
          )}
        </div>
        {mayEdit && (
          <div className="flex flex-wrap gap-2 print:hidden">
            <Button
              onClick={() => download(`${course.courseCode} roster.csv`, writeRosterCsv(active), 'text/csv')}
            >
              Export as CSV
            </Button>
            <Button onClick={() => setAdding(true)}>Add a person</Button>
            <ButtonLink to={`/courses/${course.code}/sheets/new`}>New sheet</ButtonLink>
            {!bringing && (
              <Button look="main" onClick={() => setBringing(true)}>
                Import roster
              </Button>
            )}
          </div>
        )}
      </div>
      {mayEdit && undo && (
        <p className="flex flex-wrap items-center gap-3 rounded-field bg-seat-soft px-4 py-1.5 print:hidden">
          <span>
            Last change, {sayInstant(undo.at, course.zone)}
            {undo.by && `, by ${undo.by}`}: {undo.what}.
          </span>
          <Button size="small" busy={act.busy} onClick={() => void takeBack(undo)}>
            Undo this change, seats included
          </Button>
        </p>
      )}
      {mayEdit && bringing && (
        <BringIn course={course} onDone={onChanged} onClose={() => setBringing(false)} />
      )}
      <div className="print:hidden">
        <Lists course={course.code} mayEdit={mayEdit} />
      </div>
      <People course={course} people={people} mayEdit={mayEdit} put={put} />
      {adding && (
        <PersonAsk course={course} person={null} people={people} put={put} onClose={() => setAdding(false)} />
      )}
    </div>
  )
}
