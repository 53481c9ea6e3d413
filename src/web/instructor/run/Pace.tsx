import { useMemo, useState } from 'react'
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { RunView } from '../../../contract/seats.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useNow } from '../../data/clock.ts'
import { Button } from '../../kit/Button.tsx'
import { TOOLTIP } from '../../kit/chartLooks.ts'
import { paceOf } from './pace.ts'

/** Line patterns that tell sections apart besides their names at the end of the line. */
const DASHES = ['0', '6 3', '2 3', '8 3 2 3']

/** The curve: seats taken over the window, the pace needed, and the share seated per section; or the same as a table. */
export function Pace({ view }: { view: RunView }) {
  const now = useNow(60_000)
  const [asTable, setAsTable] = useState(false)
  const { opensAt, closesAt, people, seats, sections, course } = view
  const points = useMemo(
    () => (opensAt && closesAt ? paceOf({ opensAt, closesAt, now, people, seats, sections }) : []),
    [opensAt, closesAt, now, people, seats, sections],
  )
  const last = points.at(-1)
  if (!last || !opensAt || now < opensAt)
    return <p className="p-4 text-soft">The curve begins when the sheet opens.</p>
  const behind = last.needed - last.seated
  const data = points.map(({ at, seated, needed, shares }) => ({ at, seated, needed, ...shares }))
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p>
          {last.seated} of {people.length} seated.{' '}
          {behind > 0
            ? `At an even pace ${last.needed} would be seated by now: ${behind} behind.`
            : 'That is ahead of an even pace to the close.'}
        </p>
        <Button size="small" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As curves' : 'As a table'}
        </Button>
      </div>
      {asTable ? (
        <div className="max-h-80 overflow-auto">
          <table className="w-full text-left">
            <thead className="sticky top-0 bg-surface text-soft">
              <tr>
                <th className="py-1 pr-4 font-semibold">By</th>
                <th className="py-1 pr-4 text-right font-semibold">Seated</th>
                <th className="py-1 pr-4 text-right font-semibold">Needed</th>
                {sections.map(({ code, name }) => (
                  <th key={code} className="py-1 pr-4 text-right font-semibold">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="figures">
              {points
                .filter((_, i) => i % 4 === 0)
                .map(({ at, seated, needed, shares }) => (
                  <tr key={at} className="border-t border-line">
                    <td className="py-1 pr-4">{sayInstant(at, course.zone)}</td>
                    <td className="py-1 pr-4 text-right">{seated}</td>
                    <td className="py-1 pr-4 text-right">{needed}</td>
                    {sections.map(({ code }) => (
                      <td key={code} className="py-1 pr-4 text-right">
                        {shares[code]} %
                      </td>
                    ))}
                  </tr>
                ))}
            </tbody>
          </table>
        </div>
      ) : (
        <>
          <Chart
            title="Seats taken, and the pace needed"
            data={data}
            zone={course.zone}
            lines={[
              { key: 'seated', name: 'seated', dash: '0', colour: 'var(--color-seat)' },
              { key: 'needed', name: 'needed', dash: '5 4', colour: 'var(--color-ember)' },
            ]}
          />
          {sections.length > 0 && (
            <Chart
              title="Share seated per section, in per cent"
              data={data}
              zone={course.zone}
              most={100}
              lines={sections.map(({ code, name }, i) => ({
                key: code,
                name,
                dash: DASHES[i % DASHES.length] ?? '0',
                colour: i % 2 === 0 ? 'var(--color-seat)' : 'var(--color-moss)',
              }))}
            />
          )}
        </>
      )}
    </div>
  )
}

function Chart({
  title,
  data,
  zone,
  lines,
  most,
}: {
  title: string
  data: readonly Record<string, string | number>[]
  zone: string
  lines: { key: string; name: string; dash: string; colour: string }[]
  most?: number
}) {
  return (
    <figure>
      <figcaption className="mb-1 flex flex-wrap gap-x-4 text-sm text-soft">
        <span className="font-semibold">{title}</span>
        {lines.map(({ key, name, dash, colour }) => (
          <span key={key} className="inline-flex items-center gap-1.5">
            <svg aria-hidden="true" width="26" height="6">
              <line x1="0" x2="26" y1="3" y2="3" stroke={colour} strokeWidth="2" strokeDasharray={dash} />
            </svg>
            {name}
          </span>
        ))}
      </figcaption>
      <div className="h-44">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={[...data]} margin={{ top: 6, right: 12, bottom: 0, left: -18 }}>
            <CartesianGrid stroke="var(--color-line)" vertical={false} />
            <XAxis
              dataKey="at"
              minTickGap={80}
              tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
              stroke="var(--color-line-strong)"
              tickFormatter={(at: string) => sayInstant(at, zone).replace(/^\w+ /, '')}
            />
            <YAxis
              domain={[0, most ?? 'auto']}
              allowDecimals={false}
              tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
              stroke="var(--color-line-strong)"
            />
            <Tooltip
              isAnimationActive={false}
              labelFormatter={(at) => sayInstant(String(at), zone)}
              contentStyle={TOOLTIP}
            />
            {lines.map(({ key, name, dash, colour }) => (
              <Line
                key={key}
                dataKey={key}
                name={name}
                type="stepAfter"
                stroke={colour}
                strokeWidth={2}
                strokeDasharray={dash}
                dot={false}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  )
}
