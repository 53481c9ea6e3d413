import { Link } from 'react-router'
import type { GroupPage, GroupTask } from '../../contract/groups.ts'
import { sayInstant } from '../../core/zone.ts'

/** What the group hands in together, and how it stands. */
export function GroupTasks({ page }: { page: GroupPage }) {
  const { tasks, sheet, as } = page
  const to = ({ code }: GroupTask) =>
    as === 'member'
      ? `/sheets/${sheet.code}/tasks`
      : `/sheets/${sheet.code}/tasks/${code}/desk?pile=${page.code}`
  return (
    <section aria-labelledby="tasks" className="rounded-card border border-line bg-surface">
      <h2 id="tasks" className="px-4 py-3 text-lg">
        Tasks
      </h2>
      {tasks.length === 0 && (
        <p className="border-t tear px-4 py-3 text-soft">No task is set for this group yet.</p>
      )}
      <ul>
        {tasks.map((task) => (
          <li
            key={task.code}
            className="flex min-h-12 flex-wrap items-center justify-between gap-x-4 gap-y-0.5 border-t border-line px-4 py-2"
          >
            <Link to={to(task)} className="py-1 font-semibold text-seat underline underline-offset-2">
              {task.title}
            </Link>
            <span className="flex flex-wrap items-center gap-x-3">
              <span className="figures text-sm text-soft">{whenWords(task, sheet.zone)}</span>
              <Standing task={task} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function whenWords({ dueAt, state }: GroupTask, zone: string): string {
  const takesPlace = state === 'ahead' || state === 'took-place'
  if (!dueAt) return takesPlace ? 'without a date' : 'without a due time'
  return `${takesPlace ? '' : 'due '}${sayInstant(dueAt, zone)}`
}

const LOOKS = {
  done: 'bg-moss-soft text-moss',
  late: 'bg-sun-soft text-sun-ink',
  missing: 'bg-ember-soft text-ember',
  open: 'bg-seat-soft text-seat',
}

function Standing({ task: { state, open } }: { task: GroupTask }) {
  const [word, look] =
    state === 'handed-in'
      ? ['handed in', LOOKS.done]
      : state === 'late'
        ? ['handed in late', LOOKS.late]
        : state === 'missing'
          ? [open ? 'late, still taken' : 'missing', LOOKS.missing]
          : state === 'took-place'
            ? ['took place', LOOKS.done]
            : state === 'ahead'
              ? ['still ahead', LOOKS.open]
              : [open ? 'to hand in' : 'not there yet', LOOKS.open]
  return <span className={`rounded px-2 py-px text-[0.8125rem] font-semibold ${look}`}>{word}</span>
}
