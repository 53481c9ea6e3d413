import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import {
  archiveCourse,
  type CourseView,
  changeCourse,
  deleteCourse,
  type TutorsMay as May,
  restoreCourse,
} from '../../../contract/courses.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Named } from './Named.tsx'
import { Sections } from './Sections.tsx'
import { ZoneAsk } from './ZoneAsk.tsx'
import { zonesWith } from './zones.ts'

/** How a course is set: code, title, zone, sections, what tutors may do; and what is done to it as a whole. */
export function CourseSettings({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  if (course.archivedAt !== null)
    return (
      <Card title="Settings">
        <Whole course={course} onChanged={onChanged} />
      </Card>
    )
  const at = { course: course.code }
  return (
    <Card title="Settings">
      <div className="flex flex-col gap-4">
        <div className="flex flex-wrap items-start gap-x-6 gap-y-3">
          <div className="flex flex-col gap-1">
            <span className="text-sm font-semibold text-soft">Course code</span>
            <Named
              label="Course code"
              value={course.courseCode}
              most={20}
              field="courseCode"
              rename={(courseCode) => call(changeCourse, at, { courseCode })}
              put={onChanged}
              said={(to) => `The course’s code is ${to} now.`}
              className="w-40"
            />
          </div>
          <div className="flex min-w-0 flex-1 basis-56 flex-col gap-1">
            <span className="text-sm font-semibold text-soft">Title</span>
            <Named
              label="Title"
              value={course.title}
              most={LIMITS.title}
              field="title"
              rename={(title) => call(changeCourse, at, { title })}
              put={onChanged}
              said={(to) => `The course is called ${to} now.`}
              className="w-full min-w-0"
            />
          </div>
          <Zone course={course} onChanged={onChanged} />
        </div>
        <Sections course={course} onChanged={onChanged} />
        <TutorsMay course={course} onChanged={onChanged} />
        <p className="text-sm text-soft">
          <Link className="font-semibold text-seat hover:underline" to={`/courses/${course.code}/programs`}>
            Programs and their tokens
          </Link>{' '}
          read this course, or change it, as you may.
        </p>
        <Whole course={course} onChanged={onChanged} />
      </div>
    </Card>
  )
}

function Zone({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  const [to, setTo] = useState<string | null>(null)
  return (
    <label className="flex min-w-0 flex-col gap-1">
      <span className="text-sm font-semibold text-soft">Time zone</span>
      <Choice value={course.zone} onValue={setTo} className="max-w-64">
        {zonesWith(course.zone).map((zone) => (
          <option key={zone}>{zone}</option>
        ))}
      </Choice>
      {to !== null && to !== course.zone && (
        <ZoneAsk course={course} zone={to} onChanged={onChanged} onClose={() => setTo(null)} />
      )}
    </label>
  )
}

/** What tutors may do besides seeing the groups. */
function TutorsMay({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  const act = useAct()
  const choose = (changes: { tutorsMay?: May; tutorsMark?: boolean }) =>
    act.do({
      work: () => call(changeCourse, { course: course.code }, changes),
      put: onChanged,
    })
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
      <label className="flex max-w-full flex-wrap items-center gap-2">
        Tutors
        <Choice
          value={course.tutorsMay}
          onValue={(value) => void choose({ tutorsMay: value as May })}
          className="max-w-full font-semibold"
        >
          <option value="see">see groups and who sits there</option>
          <option value="seat">also seat people in the groups they look after</option>
        </Choice>
      </label>
      <Check checked={course.tutorsMark} onValue={(on) => void choose({ tutorsMark: on })}>
        and mark the work of those groups
      </Check>
    </div>
  )
}

/** Puts the whole course away, takes it out again, deletes it. */
function Whole({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  const navigate = useNavigate()
  const [deleting, setDeleting] = useState(false)
  const act = useAct()
  const archived = course.archivedAt !== null
  const setArchived = (to: boolean) => () => call(archiveCourse, { course: course.code }, { archived: to })
  const archive = () =>
    act.do({
      work: setArchived(!archived),
      undo: setArchived(archived),
      put: onChanged,
      said: archived
        ? `${course.courseCode} is restored, with the sheets that went away with it.`
        : `${course.courseCode} is archived with its sheets. They can be read, and not changed.`,
    })
  const remove = () => {
    setDeleting(false)
    return act.do<CourseView | null>({
      work: () => call(deleteCourse, { course: course.code }),
      undo: () => call(restoreCourse, { gone: course.code }),
      put: (back) => navigate(back ? `/courses/${course.code}` : '/'),
      said: `${course.courseCode} is deleted.`,
    })
  }
  return (
    <div className="flex flex-wrap items-center gap-2 border-t tear pt-3">
      <Button busy={act.busy} onClick={() => void archive()}>
        {archived ? 'Restore course' : 'Archive course'}
      </Button>
      <Button look="quiet" onClick={() => setDeleting(true)}>
        Delete course…
      </Button>
      <Ask
        open={deleting}
        title={`Delete ${course.courseCode} ${course.title}?`}
        yes="Delete course"
        onNo={() => setDeleting(false)}
        onYes={() => void remove()}
      >
        <p>
          Nobody sees it any more: its sheets, groups, tasks and marks are out of sight for
          {course.students === 1 ? ' its student' : ` its ${course.students} students`} and for everybody who
          looks after it. The next message offers to undo it.
        </p>
      </Ask>
    </div>
  )
}
