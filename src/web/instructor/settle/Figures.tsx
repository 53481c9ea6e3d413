import type { PlanContent } from '../../../contract/plans.ts'
import { withoutWords } from './content.ts'

const range = (sizes: PlanContent['after']['sizes']) =>
  sizes === null ? '–' : sizes.least === sizes.most ? `${sizes.most}` : `${sizes.least}–${sizes.most}`

/** What a plan comes to, before and after. */
export function Figures({ content, groupTitles }: { content: PlanContent; groupTitles: readonly string[] }) {
  const { moves, left, before, after, conflicts } = content
  const moved = [...moves, ...left].filter(({ from }) => from !== null).length
  const figures: { value: string; label: string; hot?: boolean }[] = [
    {
      value: String(moves.length - moves.filter(({ from }) => from !== null).length),
      label: 'students seated',
    },
    {
      value: String(after.left),
      label: `left ${withoutWords(content)}, was ${before.left}`,
      hot: after.left > 0,
    },
    { value: range(after.sizes), label: `group sizes, was ${range(before.sizes)}` },
    { value: String(after.under), label: `under their floor, was ${before.under}`, hot: after.under > 0 },
    { value: String(moved), label: 'moved from where they sit' },
    ...(conflicts.length > 0
      ? [
          {
            value: String(conflicts.length),
            label: conflicts.length === 1 ? 'rule that cannot hold' : 'rules that cannot hold',
            hot: true,
          },
        ]
      : []),
    ...(groupTitles.length > 0
      ? [{ value: String(groupTitles.length), label: `emptied: ${groupTitles.join('; ')}` }]
      : []),
  ]
  return (
    <dl className="flex flex-wrap items-start gap-x-8 gap-y-2">
      {figures.map(({ value, label, hot }) => (
        <div key={label} className="flex flex-col-reverse">
          <dt className="max-w-44 text-sm text-soft">{label}</dt>
          <dd
            className={`figures font-display text-[1.625rem] leading-tight font-bold ${hot ? 'text-ember' : ''}`}
          >
            {value}
          </dd>
        </div>
      ))}
    </dl>
  )
}
