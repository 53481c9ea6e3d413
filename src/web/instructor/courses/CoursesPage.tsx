import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { type CoursesView, courses, type WaitingItem } from '../../../contract/courses.ts'
import { addSheet } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { useMe } from '../../access/me.tsx'
import { useAnswer } from '../../data/answers.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { useNow } from '../../data/clock.ts'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { Field } from '../../kit/Field.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { StudentSheets } from '../../student/StudentSheets.tsx'
import { FindBox } from '../FindBox.tsx'
import { Stub } from './Stub.tsx'
import { waitingWords } from './waiting.ts'

type Course = CoursesView['courses'][number]

/** The first page of instructors and tutors: their courses, each sheet a stub, and what waits for them. */
export function CoursesPage() {
  const me = useMe()
  const { data, error, mutate } = useAnswer(courses, {}, { refreshInterval: 15_000 })
  const alsoStudent = me.enrolments.some(({ role }) => role === 'student')
  return (
    <Frame title="Courses" crumbs={[{ label: 'Courses' }]} find={<FindBox />}>
      <div className="mx-auto grid w-full max-w-[78rem] grid-cols-[minmax(0,1fr)_20.5rem] gap-x-8 gap-y-6 px-10 py-8 max-lg:grid-cols-1 max-sm:px-4">
        {!data &&
          (error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="your courses" />)}
        {data && (
          <>
            <div className="flex min-w-0 flex-col gap-8">
              <h1 className="sr-only">Courses</h1>
              {data.courses.map((course) => (
                <CourseSheets key={course.code} course={course} />
              ))}
              {data.courses.length === 0 && (
                <p className="rounded-card border tear p-8 text-center text-soft">
                  You look after no course yet. Add one, then import its roster.
                </p>
              )}
              {me.mayAddCourses && (
                <div>
                  <ButtonLink to="/courses/new">Add a course</ButtonLink>
                </div>
              )}
              {alsoStudent && (
                <section aria-label="Where you are a student" className="flex max-w-2xl flex-col gap-4">
                  <StudentSheets />
                </section>
              )}
            </div>
            <Waiting items={data.waiting} />
          </>
        )}
      </div>
    </Frame>
  )
}

function CourseSheets({ course }: { course: Course }) {
  const now = useNow(30_000)
  const [adding, setAdding] = useState(false)
  const sections = course.sections.map(({ name }) => name).join(', ')
  const instructor = course.role === 'instructor'
  return (
    <section aria-labelledby={`course-${course.code}`} className="flex flex-col gap-2.5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <h2 id={`course-${course.code}`} className="text-[1.375rem]">
          {course.courseCode} {course.title}{' '}
          <span className="ml-1 font-sans text-[0.9375rem] font-normal text-soft">
            {course.students} students{sections && ` · ${sections}`}
            {!instructor && ' · you are a tutor'}
          </span>
        </h2>
        <span className="flex gap-4 font-semibold text-seat">
          <Link className="hover:underline" to={`/courses/${course.code}/roster`}>
            Roster
          </Link>
          {instructor && (
            <button type="button" className="hover:underline" onClick={() => setAdding(true)}>
              New sheet
            </button>
          )}
        </span>
      </div>
      {course.sheets.map((sheet) => (
        <Stub key={sheet.code} sheet={sheet} zone={course.zone} students={course.students} now={now} />
      ))}
      {course.sheets.length === 0 && (
        <p className="rounded-card border tear p-6 text-center text-soft">
          {course.students === 0
            ? 'Nobody is on the roster yet. Import it first, so that the seats can be counted against it.'
            : 'No sheet yet.'}
        </p>
      )}
      <NewSheet course={course} open={adding} onClose={() => setAdding(false)} />
    </section>
  )
}

function NewSheet({ course, open, onClose }: { course: Course; open: boolean; onClose: () => void }) {
  const navigate = useNavigate()
  const [title, setTitle] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const add = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const { code } = await call(addSheet, { course: course.code }, { title })
      navigate(`/sheets/${code}/compose`)
    } catch (error) {
      setFault(faultOf(error))
    }
  }
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[20vh] left-1/2 z-50 w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-lg">New sheet in {course.courseCode}</Dialog.Title>
          <form onSubmit={(event) => void add(event)} className="flex flex-col gap-4">
            <Field
              label="Title"
              value={title}
              maxLength={LIMITS.title}
              onChange={(event) => setTitle(event.target.value)}
              hint="What students read first. It can be changed later."
              fault={fault?.field('title') ?? fault?.message}
            />
            <div className="flex justify-end gap-2 border-t tear pt-4">
              <Button onClick={onClose}>Cancel</Button>
              <Button type="submit" look="main" disabled={title.trim() === ''}>
                Write the sheet
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Waiting({ items }: { items: readonly WaitingItem[] }) {
  return (
    <section aria-labelledby="waiting">
      <h2 id="waiting" className="mb-3 text-lg">
        Waiting for you
      </h2>
      {items.length === 0 ? (
        <p className="rounded-card border tear p-5 text-soft">Nothing waits. Every sheet runs by itself.</p>
      ) : (
        <ul className="rounded-card border border-line bg-surface px-4 py-1">
          {items.map((item) => {
            const { what, where, to } = waitingWords(item)
            return (
              <li
                key={`${item.kind}${item.sheet ?? item.course}`}
                className="border-b tear py-2.5 last:border-0"
              >
                <Link to={to} className="block hover:underline">
                  <strong className="block font-semibold">{what}</strong>
                  <span className="text-soft">{where}</span>
                </Link>
              </li>
            )
          })}
        </ul>
      )}
    </section>
  )
}
