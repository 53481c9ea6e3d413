import { useState } from 'react'
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { Button } from '../../kit/Button.tsx'
import { TOOLTIP } from '../../kit/chartLooks.ts'
import { demandOf, type Reached, reachedBy } from './wishFigures.ts'

/** Parts of a bar of ranks, the best first. */
const RANKS: { key: keyof Reached; name: string; colour: string }[] = [
  { key: 'first', name: 'first wish', colour: 'var(--color-seat)' },
  { key: 'second', name: 'second', colour: 'var(--color-open)' },
  { key: 'third', name: 'third', colour: 'var(--color-moss)' },
  { key: 'later', name: 'later', colour: 'var(--color-sun)' },
  { key: 'none', name: 'none of theirs', colour: 'var(--color-ember)' },
  { key: 'notRanked', name: 'ranked nothing', colour: 'var(--color-line-strong)' },
  { key: 'noSeat', name: 'no seat', colour: 'var(--color-ink)' },
]

/** Which wishes a plan reaches over all and per section, and how much topics are wanted; or the same as tables. */
export function WishCharts({ view, content }: { view: SettleView; content: PlanContent }) {
  const [asTable, setAsTable] = useState(false)
  const reached = reachedBy(view, content)
  const demand = demandOf(view)
  const share = reached.map((one) => ({
    name: one.name,
    ...Object.fromEntries(
      RANKS.map(({ key }) => [
        key,
        one.people === 0 ? 0 : Math.round((1000 * Number(one[key])) / one.people) / 10,
      ]),
    ),
  }))
  return (
    <div className="flex flex-col gap-4">
      <div className="flex justify-end">
        <Button size="small" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As charts' : 'As tables'}
        </Button>
      </div>
      {asTable ? (
        <>
          <Table
            caption="Wishes reached"
            heads={['', 'students', ...RANKS.map(({ name }) => name)]}
            rows={reached.map((one) => [one.name, one.people, ...RANKS.map(({ key }) => one[key])])}
          />
          <Table
            caption="Demand and seats"
            heads={['', 'want it first', 'second', 'seats']}
            rows={demand.map(({ title, first, second, seats }) => [
              title,
              first,
              second,
              seats ?? 'no limit',
            ])}
          />
        </>
      ) : (
        <>
          <Chart
            title="Wishes reached, in per cent of each section"
            data={share}
            name="name"
            most={100}
            bars={RANKS.map((bar) => ({ ...bar, stack: 'ranks' }))}
          />
          <Chart
            title="Demand and seats"
            data={demand.map((one) => ({ ...one, seats: one.seats ?? 0 }))}
            name="title"
            bars={[
              { key: 'first', name: 'want it first', colour: 'var(--color-seat)', stack: 'wanted' },
              { key: 'second', name: 'second', colour: 'var(--color-open)', stack: 'wanted' },
              { key: 'seats', name: 'seats', colour: 'var(--color-moss)', stack: 'seats' },
            ]}
          />
        </>
      )}
    </div>
  )
}

function Chart({
  title,
  data,
  name,
  bars,
  most,
}: {
  title: string
  data: object[]
  /** The field that names a bar. */
  name: string
  bars: { key: string; name: string; colour: string; stack: string }[]
  most?: number
}) {
  return (
    <figure>
      <figcaption className="mb-1 flex flex-wrap gap-x-4 text-sm text-soft">
        <span className="font-semibold">{title}</span>
        {bars.map(({ key, name: said, colour }) => (
          <span key={key} className="inline-flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className="drawn inline-block size-2.5 rounded-[2px]"
              style={{ background: colour }}
            />
            {said}
          </span>
        ))}
      </figcaption>
      <div style={{ height: 40 + 30 * data.length }}>
        <ResponsiveContainer width="100%" height="100%">
          <BarChart data={data} layout="vertical" margin={{ top: 4, right: 16, bottom: 0, left: 8 }}>
            <CartesianGrid stroke="var(--color-line)" horizontal={false} />
            <XAxis
              type="number"
              domain={[0, most ?? 'auto']}
              allowDecimals={false}
              tick={{ fill: 'var(--color-soft)', fontSize: 12 }}
              stroke="var(--color-line-strong)"
            />
            <YAxis
              type="category"
              dataKey={name}
              width={150}
              tick={{ fill: 'var(--color-ink)', fontSize: 12 }}
              stroke="var(--color-line-strong)"
            />
            <Tooltip contentStyle={TOOLTIP} cursor={{ fill: 'var(--color-canvas)' }} />
            {bars.map(({ key, name: said, colour, stack }) => (
              <Bar
                key={key}
                dataKey={key}
                name={said}
                stackId={stack}
                fill={colour}
                stroke="var(--color-surface)"
                isAnimationActive={false}
              />
            ))}
          </BarChart>
        </ResponsiveContainer>
      </div>
    </figure>
  )
}

function Table({
  caption,
  heads,
  rows,
}: {
  caption: string
  heads: readonly string[]
  rows: readonly (readonly (string | number)[])[]
}) {
  return (
    <div className="overflow-auto">
      <table className="w-full text-left">
        <caption className="pb-1 text-left text-sm font-semibold text-soft">{caption}</caption>
        <thead className="text-sm text-soft">
          <tr>
            {heads.map((head, i) => (
              <th key={head} scope="col" className={`py-1 pr-4 font-semibold ${i > 0 ? 'text-right' : ''}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="figures">
          {rows.map(([first, ...cells]) => (
            <tr key={first} className="border-t border-line">
              <th scope="row" className="py-1 pr-4 font-semibold">
                {first}
              </th>
              {cells.map((cell, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: cells keep their columns
                <td key={i} className="py-1 pr-4 text-right">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
