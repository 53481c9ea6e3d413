import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { Button } from '../../kit/Button.tsx'
import { differencesOf } from './compare.ts'
import { Figures } from './Figures.tsx'
import type { PlanNaming } from './naming.ts'

/** A plan that is looked at without being planned anew. */
export interface Opened {
  key: string
  title: string
  content: PlanContent
  /** Whether it was proposed, and is kept nowhere. */
  proposed?: boolean
}

/** Another plan beside this one: its figures, and whom the two seat differently. */
export function Compared({
  view,
  here,
  beside,
  naming,
  onTake,
}: {
  view: SettleView
  here: PlanContent
  beside: Opened
  naming: PlanNaming
  onTake: () => void
}) {
  const differences = differencesOf(here, beside.content, view.basis.seats)
  return (
    <section aria-label="The other plan" className="rounded-card border border-line bg-canvas px-4 py-2.5">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="text-base">Beside it: {beside.title}</h3>
        <Button size="small" disabled={differences.length === 0} onClick={onTake}>
          Take the other instead
        </Button>
      </div>
      <Figures
        content={beside.content}
        groupTitles={beside.content.dissolved.map((group) => naming.group(group, true))}
      />
      {differences.length === 0 ? (
        <p className="mt-2 text-soft">
          Both seat everybody alike. Change something, and the difference shows here.
        </p>
      ) : (
        <details className="mt-2">
          <summary className="cursor-pointer font-semibold">
            {differences.length === 1 ? '1 person sits' : `${differences.length} people sit`} differently
          </summary>
          <ul className="mt-1 grid max-h-40 gap-x-6 overflow-auto text-sm sm:grid-cols-2">
            {differences.map(({ person, here, there }) => (
              <li key={person}>
                {naming.person(person)}: {naming.group(here)} here, {naming.group(there)} there
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}
