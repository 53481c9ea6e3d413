import { Link } from 'react-router'
import { type CoursesView, courses } from '../../../contract/courses.ts'
import { counted } from '../../../core/counted.ts'
import { useMe } from '../../access/me.tsx'
import { useAnswer } from '../../data/answers.ts'
import { useNow } from '../../data/clock.ts'
import { Awaited } from '../../kit/Awaited.tsx'
import { ButtonLink } from '../../kit/Button.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { CalendarCard } from '../../student/CalendarCard.tsx'
import { StudentSheets } from '../../student/StudentSheets.tsx'
import { FindBox } from '../FindBox.tsx'
import { Stub } from './Stub.tsx'
import { WaitingCard } from './WaitingCard.tsx'

type Course = CoursesView['courses'][number]

/** The first page of instructors and tutors: their courses, each sheet a stub, and what waits for them. */
export function CoursesPage() {
  const answer = useAnswer(courses, {}, { refreshInterval: 15_000 })
  return (
    <Awaited of={answer} what="your courses">
      {(view) => (
        <Frame title="Courses" crumbs={[{ label: 'Courses' }]} find={<FindBox />}>
          <Courses view={view} onChanged={() => void answer.mutate()} />
        </Frame>
      )}
    </Awaited>
  )
}

function Courses({ view, onChanged }: { view: CoursesView; onChanged: () => void }) {
  const me = useMe()
  const current = view.courses.filter(({ archivedAt }) => archivedAt === null)
  const archived = view.courses.filter(({ archivedAt }) => archivedAt !== null)
  const alsoStudent = me.enrolments.some(({ role }) => role === 'student')
  return (
    <div className="mx-auto grid w-full max-w-[78rem] grid-cols-[minmax(0,1fr)_20.5rem] gap-x-8 gap-y-6 px-10 py-8 max-lg:grid-cols-1 max-sm:px-4">
      <div className="flex min-w-0 flex-col gap-8">
        <h1 className="sr-only">Courses</h1>
        {current.map((course) => (
          <CourseSheets key={course.code} course={course} />
        ))}
        {current.length === 0 && (
          <p className="rounded-card border tear p-8 text-center text-soft">
            {archived.length === 0
              ? 'You look after no course yet. Add one, then import its roster.'
              : 'Every course that you look after is archived.'}
          </p>
        )}
        {me.mayAddCourses && (
          <div>
            <ButtonLink to="/courses/new">Add a course</ButtonLink>
          </div>
        )}
        {archived.length > 0 && (
          <section aria-labelledby="archived-courses">
            <h2 id="archived-courses" className="text-lg">
              Archived courses
            </h2>
            <ul className="flex flex-col gap-1">
              {archived.map(({ code, courseCode, title }) => (
                <li key={code}>
                  <Link className="font-semibold text-seat hover:underline" to={`/courses/${code}`}>
                    {courseCode} {title}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        )}
        {alsoStudent && (
          <section aria-label="Where you are a student" className="flex max-w-2xl flex-col gap-4">
            <StudentSheets />
          </section>
        )}
      </div>
      <div className="flex flex-col gap-4">
        <WaitingCard items={view.waiting} onChanged={onChanged} />
        <CalendarCard of="staff" />
      </div>
    </div>
  )
}

function CourseSheets({ course }: { course: Course }) {
  const now = useNow(30_000)
  const sections = course.sections.map(({ name }) => name).join(', ')
  const instructor = course.role === 'instructor'
  return (
    <section aria-labelledby={`course-${course.code}`} className="flex flex-col gap-2.5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <h2 id={`course-${course.code}`} className="text-[1.375rem]">
          <Link className="hover:underline" to={`/courses/${course.code}`}>
            {course.courseCode} {course.title}
          </Link>{' '}
          <span className="font-sans text-[0.9375rem] font-normal text-soft sm:ml-1">
            {counted(course.students, 'student')}
            {sections && ` · ${sections}`}
            {!instructor && ' · you are a tutor'}
          </span>
        </h2>
        <span className="flex gap-4 font-semibold text-seat">
          <Link className="hover:underline" to={`/courses/${course.code}/roster`}>
            Roster
          </Link>
          {instructor && (
            <Link className="hover:underline" to={`/courses/${course.code}/sheets/new`}>
              New sheet
            </Link>
          )}
        </span>
      </div>
      {course.sheets.map((sheet) => (
        <Stub key={sheet.code} sheet={sheet} zone={course.zone} now={now} />
      ))}
      {course.sheets.length === 0 && (
        <p className="rounded-card border tear p-6 text-center text-soft">
          {course.students === 0
            ? 'Nobody is on the roster yet. Import it first, so that the seats can be counted against it.'
            : 'No sheet yet.'}
        </p>
      )}
    </section>
  )
}
