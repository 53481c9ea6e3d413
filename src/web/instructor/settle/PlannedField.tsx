import type { SettleView } from '../../../contract/plans.ts'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { columnsOf } from '../columns.ts'
import type { GroupAfter } from './MoveList.tsx'
import type { PlanNaming } from './naming.ts'
import { PlannedPips } from './PlannedPips.tsx'

/** The seat field as a plan would leave it: a row per topic, a column per section, newly planned pips in ember. */
export function PlannedField({
  view,
  groups,
  naming,
}: {
  view: SettleView
  groups: ReadonlyMap<string, GroupAfter>
  naming: PlanNaming
}) {
  const columns = columnsOf(view.sections, [...groups.values()])
  const rows = new Map<string, GroupAfter[]>()
  for (const group of groups.values()) {
    const title = naming.group(group.key)
    rows.set(title, [...(rows.get(title) ?? []), group])
  }
  return (
    <ScrollBox label="The seat field, planned" className="min-h-64 flex-1">
      <table className="w-full border-collapse" style={{ minWidth: `${14 + columns.length * 11}rem` }}>
        <caption className="sr-only">Groups as the plan leaves them</caption>
        <thead className="sticky top-0 bg-surface">
          <tr className="border-b border-line text-left text-soft">
            <th scope="col" className="px-3 py-1.5 font-semibold">
              Topic
            </th>
            {columns.map((section) => (
              <th key={section?.code ?? ''} scope="col" className="border-l tear px-3 py-1.5 font-semibold">
                {section?.name ?? 'Everybody'}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {[...rows].map(([title, own]) => (
            <tr key={title} className="border-b border-line">
              <th scope="row" className="px-3 py-1 text-left font-semibold">
                {title}
              </th>
              {columns.map((section) => {
                const group = own.find((one) => one.section === (section?.code ?? null))
                return (
                  <td key={section?.code ?? ''} className="border-l tear px-3 py-1">
                    {group && (
                      <span className="flex items-center justify-between gap-3">
                        <PlannedPips {...group} />
                        <span className="figures text-soft">
                          {group.stay + group.planned}
                          {group.seats > 0 && `/${group.seats}`}
                          {group.planned > 0 && (
                            <span className="sr-only">, {group.planned} newly planned</span>
                          )}
                        </span>
                      </span>
                    )}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollBox>
  )
}
