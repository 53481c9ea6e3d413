import { Link, useParams } from 'react-router'
import { type CoursePageView, type CourseTask, coursePage } from '../../../contract/coursePage.ts'
import { counted } from '../../../core/counted.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { useNow } from '../../data/clock.ts'
import { Awaited } from '../../kit/Awaited.tsx'
import { ButtonLink } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { FindBox } from '../FindBox.tsx'
import { CourseSettings } from './CourseSettings.tsx'
import { Stub } from './Stub.tsx'
import { WaitingCard } from './WaitingCard.tsx'

/** A course: its sheets, what waits there, what is due, and how it is set. */
export function CoursePage() {
  const { course: code = '' } = useParams()
  const answer = useAnswer(coursePage, { course: code }, { refreshInterval: 30_000 })
  return (
    <Awaited of={answer} what="the course" elsewhere="/">
      {(view) => <Course view={view} onChanged={() => void answer.mutate()} />}
    </Awaited>
  )
}

function Course({ view, onChanged }: { view: CoursePageView; onChanged: () => void }) {
  const { course, sheets, waiting, tasks } = view
  const now = useNow(30_000)
  const instructor = course.role === 'instructor'
  const archived = course.archivedAt !== null
  return (
    <Frame
      title={`${course.courseCode} ${course.title}`}
      crumbs={[{ label: 'Courses', to: '/' }, { label: `${course.courseCode} ${course.title}` }]}
      find={<FindBox />}
    >
      <div className="mx-auto flex w-full max-w-[78rem] flex-col gap-5 px-10 py-6 max-sm:px-4">
        <div className="flex flex-wrap items-end justify-between gap-3">
          <div className="min-w-0">
            <h1 className="text-[1.625rem] break-words">
              {course.courseCode} {course.title}
            </h1>
            <p className="figures text-soft">
              {[
                counted(course.students, 'student'),
                ...course.sections.map(({ name, students }) => `${name} ${students}`),
                `clocks of ${course.zone}`,
                ...(instructor ? [] : ['you are a tutor']),
              ].join(' · ')}
            </p>
          </div>
          <div className="flex flex-wrap gap-2">
            <ButtonLink to={`/courses/${course.code}/roster`}>Roster</ButtonLink>
            {instructor && !archived && (
              <ButtonLink look="main" to={`/courses/${course.code}/sheets/new`}>
                New sheet
              </ButtonLink>
            )}
          </div>
        </div>
        {archived && (
          <p className="rounded-field bg-seat-soft px-4 py-2">
            The course is archived since {sayInstant(course.archivedAt ?? now, course.zone)}. It can be read,
            and not changed.
          </p>
        )}
        <div className="grid grid-cols-[minmax(0,1fr)_20.5rem] gap-x-8 gap-y-6 max-lg:grid-cols-1">
          <section aria-labelledby="sheets" className="flex min-w-0 flex-col gap-2.5">
            <h2 id="sheets" className="text-lg">
              Sheets
            </h2>
            {sheets.map((sheet) => (
              <Stub key={sheet.code} sheet={sheet} zone={course.zone} now={now} />
            ))}
            {sheets.length === 0 && (
              <p className="rounded-card border tear p-6 text-center text-soft">
                {course.students === 0
                  ? 'Nobody is on the roster yet. Import it first, so that the seats can be counted against it.'
                  : 'No sheet yet.'}
              </p>
            )}
          </section>
          <div className="flex flex-col gap-6">
            <WaitingCard items={waiting} onChanged={onChanged} />
            <TasksDue tasks={tasks} zone={course.zone} now={now} />
          </div>
        </div>
        {instructor && <CourseSettings course={course} onChanged={onChanged} />}
      </div>
    </Frame>
  )
}

function TasksDue({ tasks, zone, now }: { tasks: readonly CourseTask[]; zone: string; now: string }) {
  return (
    <Card title="Tasks">
      {tasks.length === 0 ? (
        <p className="text-soft">No task is due, and none waits for marks.</p>
      ) : (
        <ul>
          {tasks.map((task) => (
            <li key={task.code} className="border-b tear py-2 last:border-0">
              <Link to={`/sheets/${task.sheet}/work`} className="block hover:underline">
                <strong className="block font-semibold">{task.title}</strong>
                <span className="block text-soft">{task.sheetTitle}</span>
                <span className="figures block text-sm text-soft">{taskWords(task, zone, now)}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </Card>
  )
}

/** When a task is due, how much of it is in, and how much of that waits for a mark. */
export function taskWords(task: CourseTask, zone: string, now: string): string {
  const { dueAt, awaited, handedIn, handsIn, toMark } = task
  const due =
    dueAt === null
      ? 'no date'
      : dueAt > now
        ? `${handsIn ? 'due' : 'takes place'} ${sayInstant(dueAt, zone)}`
        : `${handsIn ? 'was due' : 'took place'} ${sayInstant(dueAt, zone)}`
  const marks = toMark === 0 ? [] : [`${toMark} to mark`]
  return [due, `${handedIn} of ${awaited} ${handsIn ? 'handed in' : 'took place'}`, ...marks].join(' · ')
}
