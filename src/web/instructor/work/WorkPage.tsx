import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { marksFile } from '../../../contract/marks.ts'
import { fill } from '../../../contract/route.ts'
import {
  handInsZip,
  removeTask,
  restoreTask,
  type TaskView,
  type WorkView,
  work,
} from '../../../contract/tasks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useLive } from '../../data/live.ts'
import { useSoon } from '../../data/useSoon.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, ButtonLink } from '../../kit/Button.tsx'
import { part } from '../../kit/part.tsx'
import { useDo } from '../../kit/useDo.ts'
import { Loading } from '../../kit/Waiting.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { AnswersTo } from './AnswersTo.tsx'
import { DifferencesAsk } from './DifferencesAsk.tsx'
import { MarksIn } from './MarksIn.tsx'
import { Overview } from './Overview.tsx'
import { SecondReadings } from './SecondReadings.tsx'
import { standingOf } from './states.ts'
import { TaskAsk } from './TaskAsk.tsx'
import { WorkParts } from './WorkParts.tsx'

// The charts are a chunk of their own.
const Distribution = part(
  async () => (await import('./Distribution.tsx')).Distribution,
  <Loading what="the bars" />,
)

const WorkOverTime = part(
  async () => (await import('./WorkOverTime.tsx')).WorkOverTime,
  <Loading what="the curves" />,
)

const FILES = [
  { file: 'students.csv', label: 'by student, CSV' },
  { file: 'students.xlsx', label: 'by student, XLSX' },
  { file: 'students.ods', label: 'by student, ODS' },
  { file: 'groups.csv', label: 'by group, CSV' },
  { file: 'groups.xlsx', label: 'by group, XLSX' },
  { file: 'groups.ods', label: 'by group, ODS' },
]

/** Work: tasks for the groups of a sheet, what was handed in, and the way to the desk. */
export function WorkPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(work, { sheet: code })
  const { data, mutate } = answer
  const soon = useSoon(() => void mutate())
  useLive(code, data?.rev ?? null, { seats: () => soon(600), refresh: () => soon(600) })
  return (
    <Awaited of={answer} what="the tasks" elsewhere={`/sheets/${code}/tasks`}>
      {(view) => (
        <Work
          view={view}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

function Work({
  view,
  put,
  refetch,
}: {
  view: WorkView
  put: (view: WorkView) => void
  refetch: () => void
}) {
  const [editing, setEditing] = useState<TaskView | 'new' | null>(null)
  const [differing, setDiffering] = useState<string | null>(null)
  const differs = view.tasks.find(({ code }) => code === differing)
  useDo({ task: view.mayEdit && (() => setEditing('new')) })
  const act = useAct()
  const remove = ({ code, title }: TaskView) =>
    act.do({
      work: () => call(removeTask, { sheet: view.code, task: code }),
      undo: () => call(restoreTask, { sheet: view.code, task: code }),
      put,
      said: `“${title}” is deleted.`,
    })
  return (
    <SheetFrame
      sheet={view}
      aside={
        view.mayEdit && (
          <div className="mb-2">
            <Button look="main" onClick={() => setEditing('new')}>
              Set a task
            </Button>
          </div>
        )
      }
    >
      <div className="flex flex-col gap-5 px-5 py-4">
        <WorkParts sheet={view.code} />
        {view.tasks.length === 0 ? (
          <p className="mx-auto max-w-xl rounded-card border tear p-8 text-center text-soft">
            No task yet. A task is handed in once for a whole group by any of its members, or by each student
            alone; those without a group see that it is locked, and why.
          </p>
        ) : (
          <ul className="grid gap-3 lg:grid-cols-2 xl:grid-cols-3">
            {view.tasks.map((task) => {
              const { all, handedIn, late, missing, tookPlace, noGroup, marked, released } = standingOf(
                task.work,
              )
              return (
                <li key={task.code} className="flex flex-col rounded-card border border-line bg-surface">
                  <div className="flex flex-1 flex-col gap-1 px-4 py-3">
                    <h2 className="text-lg">{task.title}</h2>
                    <p className="figures text-soft">
                      {task.outAt === null ? 'being written; students do not see it' : whenWords(task, view)}
                    </p>
                    <p>
                      {task.handsIn
                        ? `${handedIn} of ${all} handed in${late > 0 ? `, ${late} of them late` : ''}`
                        : `${tookPlace} of ${all} took place; nothing is handed in`}
                      {missing > 0 && <span className="font-semibold text-ember"> · {missing} missing</span>}
                    </p>
                    <p className="text-soft">
                      {marked} marked, {released} of them out
                    </p>
                    <AnswersTo view={view} task={task} />
                    {(noGroup > 0 || (task.forWhom === 'groups' && view.noGroup.length > 0)) && (
                      <Link
                        to={`/sheets/${view.code}/run`}
                        className="font-semibold text-ember underline underline-offset-2"
                      >
                        {noGroup || view.noGroup.length}{' '}
                        {task.handsIn
                          ? 'can hand nothing in: no group. Seat them'
                          : 'without a group. Seat them'}
                      </Link>
                    )}
                  </div>
                  <div className="flex flex-wrap gap-2 border-t tear px-4 py-2">
                    <ButtonLink size="small" look="main" to={`/sheets/${view.code}/tasks/${task.code}/desk`}>
                      {view.mayMark === 'none' ? 'Look at the work' : 'To the desk'}
                    </ButtonLink>
                    {handedIn > 0 && (
                      <a
                        href={fill(handInsZip.path, { sheet: view.code, task: task.code })}
                        download
                        className="inline-flex min-h-8 items-center rounded-field border border-line-strong px-2.5 text-sm font-semibold hover:border-open"
                      >
                        As a zip
                      </a>
                    )}
                    {view.mayEdit && (
                      <>
                        <Button size="small" onClick={() => setEditing(task)}>
                          Change
                        </Button>
                        <Button size="small" onClick={() => setDiffering(task.code)}>
                          {task.differences.length > 0
                            ? `Differs (${task.differences.length})`
                            : 'Let it differ…'}
                        </Button>
                        <Button size="small" look="quiet" onClick={() => void remove(task)}>
                          Delete
                        </Button>
                      </>
                    )}
                  </div>
                </li>
              )
            })}
          </ul>
        )}
        {view.tasks.length > 0 && <Overview view={view} />}
        {view.tasks.some(({ handsIn, outAt }) => handsIn && outAt !== null) && (
          <section aria-labelledby="over-time" className="flex flex-col gap-2">
            <h2 id="over-time" className="text-lg">
              How the work comes in
            </h2>
            <WorkOverTime view={view} />
          </section>
        )}
        {view.tasks.some(({ work }) => work.some(({ marked }) => marked)) && (
          <section aria-labelledby="spread" className="flex flex-col gap-2">
            <h2 id="spread" className="text-lg">
              How the marks are spread
            </h2>
            <Distribution view={view} />
          </section>
        )}
        <SecondReadings view={view} put={put} />
        {view.mayEdit && view.tasks.length > 0 && (
          <section aria-labelledby="files" className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <h2 id="files" className="text-lg">
              Export marks
            </h2>
            {FILES.map(({ file, label }) => (
              <a
                key={file}
                href={fill(marksFile.path, { sheet: view.code, file })}
                download
                className="text-seat underline underline-offset-2"
              >
                {label}
              </a>
            ))}
            <MarksIn view={view} put={put} />
          </section>
        )}
      </div>
      {differs && <DifferencesAsk view={view} task={differs} put={put} onClose={() => setDiffering(null)} />}
      {editing !== null && (
        <TaskAsk
          view={view}
          task={editing === 'new' ? null : (view.tasks.find(({ code }) => code === editing.code) ?? editing)}
          put={put}
          refetch={refetch}
          onClose={() => setEditing(null)}
        />
      )}
    </SheetFrame>
  )
}

/** When a task is due or takes place, for those for whom nothing differs. */
function whenWords({ dueAt, datedBy, handsIn }: TaskView, { now, course: { zone } }: WorkView): string {
  if (datedBy === 'group') return `${handsIn ? 'due' : 'takes place'} on each group’s own date`
  if (dueAt === null) return handsIn ? 'without a due time' : 'without a date'
  const word = handsIn ? 'due' : dueAt > now ? 'takes place' : 'took place'
  return `${word} ${sayInstant(dueAt, zone)}`
}
