import type { SettleView } from '../../../contract/plans.ts'

/** House rules that could not be carried out, with why. */
export function Troubles({ troubles }: Pick<SettleView, 'troubles'>) {
  if (troubles.length === 0) return null
  return (
    <ul className="flex flex-col gap-1 border-b border-line bg-ember-soft px-5 py-2">
      {troubles.map(({ rule, why }) => (
        <li key={rule}>
          <strong className="font-semibold text-ember">
            {rule === 'close'
              ? 'The rule for the close could not be carried out. '
              : 'The rule for late enrolments could not be carried out. '}
          </strong>
          {why}
        </li>
      ))}
    </ul>
  )
}
