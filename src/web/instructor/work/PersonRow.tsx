import { memo } from 'react'
import { Link } from 'react-router'
import type { TaskView } from '../../../contract/tasks.ts'
import { type PersonWork, STATES } from './states.ts'

/** Pixels of a row's height. */
export const ROW = 40

/** One person of the overview: each task's state and points, with the way to the desk and to a seat. */
export const PersonRow = memo(function PersonRow({
  sheet,
  index,
  person,
  name,
  labels,
  tasks,
  works,
}: {
  sheet: string
  /** The row's place in the whole list, from 0. */
  index: number
  person: string
  name: string
  /** The groups in which they sit, in words; empty for none. */
  labels: string
  tasks: readonly TaskView[]
  works: readonly PersonWork[]
}) {
  return (
    <tr aria-rowindex={index + 2} style={{ height: ROW }}>
      <th scope="row" className="truncate border-b border-line px-3 text-left font-semibold">
        {name}
      </th>
      <td className="truncate border-b border-line px-3 text-soft">
        {labels || (
          <Link
            to={`/sheets/${sheet}/run?person=${person}`}
            className="font-semibold text-ember underline underline-offset-2"
          >
            no group, seat them
          </Link>
        )}
      </td>
      {tasks.map((task, i) => {
        const work = works[i]
        return work ? <Cell key={task.code} sheet={sheet} name={name} task={task} work={work} /> : null
      })}
    </tr>
  )
})

function Cell({
  sheet,
  name,
  task,
  work,
}: {
  sheet: string
  name: string
  task: TaskView
  work: PersonWork
}) {
  const { state, points, apart, owner } = work
  const { word, sign, look } = STATES[state]
  const open = state === 'handed-in' || state === 'late' ? 'to mark' : '–'
  const said = `${points ?? open}${apart ? '*' : ''}`
  return (
    <td className="border-b border-l border-line px-3">
      <span className="flex items-center justify-between gap-2">
        <span className={`truncate ${look}`}>
          <span aria-hidden="true">{sign}</span> {word}
        </span>
        {owner !== null && (
          <Link
            to={`/sheets/${sheet}/tasks/${task.code}/desk?pile=${owner}`}
            aria-label={`${said}, ${task.title} of ${name} on the desk`}
            className="figures font-semibold text-seat underline underline-offset-2"
          >
            {said}
          </Link>
        )}
      </span>
    </td>
  )
}
