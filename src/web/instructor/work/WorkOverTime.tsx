import { useMemo, useState } from 'react'
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts'
import type { WorkView } from '../../../contract/tasks.ts'
import { msOf } from '../../../core/instant.ts'
import { sayDay, sayInstant } from '../../../core/zone.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { TOOLTIP } from '../../kit/chartLooks.ts'
import { NudgeWork } from './NudgeWork.tsx'
import { byDay, notBegun, overTime } from './overTime.ts'
import { workName } from './workName.ts'

/** Line patterns that tell sections apart besides their names. */
const DASHES = ['6 3', '2 3', '8 3 2 3', '1 4']

/** How the work for a task came in, against when it is due, by section; and who has not begun. */
export function WorkOverTime({ view }: { view: WorkView }) {
  const tasks = view.tasks.filter(({ handsIn, outAt }) => handsIn && outAt !== null)
  const [chosen, setChosen] = useState('')
  const [asTable, setAsTable] = useState(false)
  const [nudging, setNudging] = useState(false)
  // What is due next is what one looks at first.
  const next = tasks.find(({ dueAt }) => dueAt !== null && dueAt > view.now) ?? tasks.at(-1)
  const task = tasks.find(({ code }) => code === chosen) ?? next
  const moments = useMemo(() => (task ? overTime(view, task) : []), [view, task])
  if (!task) return <p className="text-soft">No task is out yet, so nothing can have come in.</p>
  const { zone } = view.course
  const idle = notBegun(task)
  const last = moments.at(-1)
  const lines = [
    { key: 'all', name: 'all', dash: '0', colour: 'var(--color-seat)' },
    ...(view.sections.length > 1
      ? view.sections.map(({ code, name }, i) => ({
          key: code,
          name,
          dash: DASHES[i % DASHES.length] ?? '6 3',
          colour: 'var(--color-open)',
        }))
      : []),
  ]
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <Choice aria-label="Task whose work came in" value={task.code} onValue={setChosen}>
          {tasks.map(({ code, title }) => (
            <option key={code} value={code}>
              {title}
            </option>
          ))}
        </Choice>
        <Button size="small" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As curves' : 'As a table'}
        </Button>
        <span className="figures text-soft">
          {last?.all ?? 0} of {task.work.length} handed in
          {task.dueAt && `, due ${sayInstant(task.dueAt, zone)}`}
        </span>
      </div>
      {asTable ? (
        <div className="max-h-80 overflow-auto">
          <table className="max-w-3xl text-left">
            <caption className="sr-only">Handed in by the end of each day</caption>
            <thead className="text-soft">
              <tr>
                <th scope="col" className="py-1 pr-4 font-semibold">
                  By the end of
                </th>
                {lines.map(({ key, name }) => (
                  <th key={key} scope="col" className="py-1 pr-4 text-right font-semibold">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="figures">
              {byDay(moments, (at) => sayDay(at, zone)).map(({ day, all, sections }) => (
                <tr key={day} className="border-t border-line">
                  <th scope="row" className="py-1 pr-4 font-semibold">
                    {day}
                    {task.dueAt && sayDay(task.dueAt, zone) === day && ' (due)'}
                  </th>
                  {lines.map(({ key }) => (
                    <td key={key} className="py-1 pr-4 text-right">
                      {key === 'all' ? all : (sections[key] ?? 0)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <figure>
          <figcaption className="mb-1 flex flex-wrap gap-x-4 text-sm text-soft">
            Handed in:
            {lines.map(({ key, name, dash, colour }) => (
              <span key={key} className="inline-flex items-center gap-1.5">
                <svg aria-hidden="true" width="26" height="6">
                  <line x1="0" x2="26" y1="3" y2="3" stroke={colour} strokeWidth="2" strokeDasharray={dash} />
                </svg>
                {name}
              </span>
            ))}
            {task.dueAt && <span>· upright line: due</span>}
          </figcaption>
          <div className="h-56 max-w-4xl">
            <ResponsiveContainer width="100%" height="100%">
              <LineChart
                data={moments.map(({ at, all, sections }) => ({ at: msOf(at), all, ...sections }))}
                margin={{ top: 8, right: 16, bottom: 0, left: 0 }}
              >
                <CartesianGrid stroke="var(--color-line)" vertical={false} />
                <XAxis
                  type="number"
                  dataKey="at"
                  domain={[
                    'dataMin',
                    task.dueAt ? (max: number) => Math.max(max, msOf(task.dueAt ?? '')) : 'dataMax',
                  ]}
                  tickFormatter={(ms: number) => sayDay(new Date(ms).toISOString(), zone)}
                  tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
                  stroke="var(--color-line-strong)"
                />
                <YAxis
                  allowDecimals={false}
                  domain={[0, task.work.length]}
                  width={34}
                  tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
                  stroke="var(--color-line-strong)"
                />
                <Tooltip
                  isAnimationActive={false}
                  labelFormatter={(ms) => sayInstant(new Date(Number(ms)).toISOString(), zone)}
                  contentStyle={TOOLTIP}
                />
                {task.dueAt && (
                  <ReferenceLine x={msOf(task.dueAt)} stroke="var(--color-ember)" strokeDasharray="3 3" />
                )}
                {lines.map(({ key, name, dash, colour }) => (
                  <Line
                    key={key}
                    type="stepAfter"
                    dataKey={key}
                    name={name}
                    stroke={colour}
                    strokeWidth={key === 'all' ? 2.5 : 1.5}
                    strokeDasharray={dash}
                    dot={false}
                    isAnimationActive={false}
                  />
                ))}
              </LineChart>
            </ResponsiveContainer>
          </div>
        </figure>
      )}
      {idle.length > 0 && (
        <div className="flex flex-wrap items-center gap-3">
          <p>
            <strong className="figures">{idle.length}</strong>{' '}
            {idle.length === 1 ? 'has not begun' : 'have not begun'}: nothing is written, brought or handed
            in.
          </p>
          {view.mayEdit && (
            <Button size="small" onClick={() => setNudging(true)}>
              Nudge those who have not begun
            </Button>
          )}
          <details className="basis-full text-sm">
            <summary className="min-h-8 cursor-pointer text-seat">Who they are</summary>
            <ul className="grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
              {idle.map((work) => (
                <li key={work.owner} className="truncate">
                  {workName(view, work.owner)}
                </li>
              ))}
            </ul>
          </details>
        </div>
      )}
      {nudging && <NudgeWork view={view} task={task} idle={idle} onClose={() => setNudging(false)} />}
    </div>
  )
}
