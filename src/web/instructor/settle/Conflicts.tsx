import { dropKeeping, type PlanContent, type SettleView } from '../../../contract/plans.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { conflictWords, type PlanNaming } from './naming.ts'

/** The first few by name, and how many more. */
function whoSits(names: readonly string[]): string {
  const more = names.length - 2
  return more > 0 ? `${names.slice(0, 2).join(', ')} and ${more} more` : names.join(' and ')
}

/** Rules for people that cannot hold, or keep somebody out: those have a way to be released. */
export function Conflicts({
  view,
  content,
  naming,
  put,
}: {
  view: SettleView
  content: PlanContent
  naming: PlanNaming
  put: (view: SettleView) => void
}) {
  const act = useAct()
  if (content.conflicts.length === 0) return null
  const release = (keeping: string) =>
    act.do({
      work: () => call(dropKeeping, { sheet: view.code, keeping }),
      put,
      said: 'The rule is released.',
    })
  const kinds = new Map(view.keepings.map(({ code, kind }) => [code, kind]))
  return (
    <ul className="flex flex-col gap-1 rounded-field bg-ember-soft px-3 py-2">
      {content.conflicts.map((conflict) => (
        <li
          key={conflict.keeping + conflict.code}
          className="flex flex-wrap items-center justify-between gap-2"
        >
          <span>{conflictWords(conflict, kinds.get(conflict.keeping) ?? 'apart', naming)}</span>
          {kinds.has(conflict.keeping) && conflict.seats && conflict.seats.length > 0 && (
            <Button size="small" onClick={() => void release(conflict.keeping)}>
              {`Release rule, seats ${whoSits(conflict.seats.map(naming.person))}`}
            </Button>
          )}
        </li>
      ))}
    </ul>
  )
}
