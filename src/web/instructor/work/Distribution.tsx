import { useState } from 'react'
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { WorkView } from '../../../contract/tasks.ts'
import { mostPoints } from '../../../core/marks.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { TOOLTIP } from '../../kit/chartLooks.ts'
import { distributionOf } from './distribution.ts'

/** From pale to dark, so that more points are darker; the numbers stand in the table too. */
const SHADES = ['25%', '42%', '60%', '80%', '100%'].map(
  (share) => `color-mix(in oklab, var(--color-seat) ${share}, var(--color-surface))`,
)

/** How the marks of a task lie by section or by topic, as bars or as a table. */
export function Distribution({ view }: { view: WorkView }) {
  const marked = view.tasks.filter(({ work }) => work.some(({ marked }) => marked))
  const [chosen, setChosen] = useState(marked[0]?.code ?? '')
  const [by, setBy] = useState<'section' | 'topic' | 'marker'>(view.sections.length > 0 ? 'section' : 'topic')
  const [asTable, setAsTable] = useState(false)
  const task = marked.find(({ code }) => code === chosen) ?? marked[0]
  if (!task) return <p className="text-soft">Nothing is marked yet, so there is nothing to compare.</p>
  const most = mostPoints(task)
  const spreads = distributionOf(view, task.code, most, by)
  const bands = [0, 1, 2, 3, 4].map((i) => `${(most * i) / 5} to ${(most * (i + 1)) / 5}`)
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <Choice aria-label="Task" value={task.code} onValue={setChosen}>
          {marked.map(({ code, title }) => (
            <option key={code} value={code}>
              {title}
            </option>
          ))}
        </Choice>
        <Choice aria-label="Compared by" value={by} onValue={(value) => setBy(value as typeof by)}>
          {view.sections.length > 0 && <option value="section">by section</option>}
          <option value="topic">by topic</option>
          <option value="marker">by marker</option>
        </Choice>
        <Button size="small" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As bars' : 'As a table'}
        </Button>
      </div>
      {asTable ? (
        <table className="max-w-3xl text-left">
          <caption className="sr-only">Students by points</caption>
          <thead className="text-soft">
            <tr>
              <th className="py-1 pr-4 font-semibold">
                {{ section: 'Section', topic: 'Topic', marker: 'Marker' }[by]}
              </th>
              {bands.map((band) => (
                <th key={band} className="py-1 pr-4 text-right font-semibold">
                  {band}
                </th>
              ))}
              <th className="py-1 pr-4 text-right font-semibold">Median</th>
              <th className="py-1 text-right font-semibold">Marked</th>
            </tr>
          </thead>
          <tbody className="figures">
            {spreads.map(({ name, fifths, median, count }) => (
              <tr key={name} className="border-t border-line">
                <th scope="row" className="py-1 pr-4 font-semibold">
                  {name}
                </th>
                {fifths.map((n, i) => (
                  <td key={bands[i]} className="py-1 pr-4 text-right">
                    {n}
                  </td>
                ))}
                <td className="py-1 pr-4 text-right">{median ?? '–'}</td>
                <td className="py-1 text-right">{count}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <figure>
          <figcaption className="mb-1 flex flex-wrap gap-x-4 text-sm text-soft">
            Students by points:
            {bands.map((band, i) => (
              <span key={band} className="inline-flex items-center gap-1.5">
                <span
                  aria-hidden="true"
                  className="size-3 rounded-pip border border-open"
                  style={{ background: SHADES[i] }}
                />
                {band}
              </span>
            ))}
          </figcaption>
          <div style={{ height: 40 + spreads.length * 34 }}>
            <ResponsiveContainer width="100%" height="100%">
              <BarChart
                layout="vertical"
                data={spreads.map(({ name, fifths }) => ({
                  name,
                  ...Object.fromEntries(fifths.map((n, i) => [`f${i}`, n])),
                }))}
                margin={{ top: 0, right: 16, bottom: 0, left: 0 }}
              >
                <CartesianGrid stroke="var(--color-line)" horizontal={false} />
                <XAxis
                  type="number"
                  allowDecimals={false}
                  tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
                  stroke="var(--color-line-strong)"
                />
                <YAxis
                  type="category"
                  dataKey="name"
                  width={170}
                  tick={{ fill: 'var(--color-ink)', fontSize: 13 }}
                  stroke="var(--color-line-strong)"
                />
                <Tooltip
                  isAnimationActive={false}
                  cursor={{ fill: 'var(--color-seat-soft)' }}
                  contentStyle={TOOLTIP}
                />
                {bands.map((band, i) => (
                  <Bar
                    key={band}
                    dataKey={`f${i}`}
                    name={band}
                    stackId="all"
                    fill={SHADES[i] as string}
                    stroke="var(--color-open)"
                    isAnimationActive={false}
                  />
                ))}
              </BarChart>
            </ResponsiveContainer>
          </div>
        </figure>
      )}
    </div>
  )
}
