import type { Concern } from '../../../contract/problems.ts'

/** What kept a plan from being applied: everything else of it was left as it was too. */
export function Misfits({ misfits }: { misfits: readonly Concern[] }) {
  if (misfits.length === 0) return null
  return (
    <div role="alert" className="rounded-field bg-ember-soft px-3 py-2">
      <p className="font-semibold text-ember">These did not fit any more, so nothing was applied:</p>
      <ul className="list-disc pl-5">
        {misfits.slice(0, 12).map(({ person, words }) => (
          <li key={person + words}>{words}</li>
        ))}
      </ul>
    </div>
  )
}
