import { Link } from 'react-router'
import type { WorkView } from '../../../contract/tasks.ts'
import { workName } from './workName.ts'

/** Works that are named at most; the others are at the desk. */
const MOST = 6

/** How many answers there are to the remarks on a task’s works, with the way to each work that has some. */
export function AnswersTo({ view, task }: { view: WorkView; task: WorkView['tasks'][number] }) {
  const answered = task.remarked.filter(({ answers }) => answers > 0)
  const all = answered.reduce((sum, { answers }) => sum + answers, 0)
  if (all === 0) return null
  const desk = `/sheets/${view.code}/tasks/${task.code}/desk`
  return (
    <p className="flex flex-wrap gap-x-2">
      <span className="font-semibold">
        {all === 1 ? '1 answer to a remark' : `${all} answers to remarks`}
      </span>
      {answered.slice(0, MOST).map(({ owner }) => (
        <Link
          key={owner}
          to={`${desk}?pile=${owner}`}
          className="text-seat underline underline-offset-2 wrap-anywhere"
        >
          {workName(view, owner)}
        </Link>
      ))}
      {answered.length > MOST && <span className="text-soft">and {answered.length - MOST} more</span>}
    </p>
  )
}
