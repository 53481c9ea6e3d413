import { X } from 'lucide-react'
import type { ReactNode } from 'react'
import type { SettleView } from '../../../contract/plans.ts'
import { Card } from '../../kit/Card.tsx'
import { Choice } from '../../kit/Choice.tsx'
import type { Choices } from './input.ts'
import { PersonPick } from './PersonPick.tsx'

/** What a plan has to hold. */
export function HoldCard({
  view,
  choices,
  change,
}: {
  view: SettleView
  choices: Choices
  change: (more: Partial<Choices>) => void
}) {
  const { floorsFirst, mayDissolve, release, released, making } = choices
  const seated = new Set(view.basis.seats.map(({ person }) => person))
  const people = view.basis.people.filter(({ key }) => seated.has(key))
  const names = new Map(people.map(({ key, name }) => [key, name]))
  return (
    <Card title="Must hold">
      <dl className="mt-1">
        <Line term="Sections">
          {view.basis.offers === 'section' ? 'each stays in its own' : 'the whole course mixes'}
        </Line>
        <Line term="Seats">up to the limits, none that is kept free</Line>
      </dl>
      <label className="flex items-center justify-between gap-2 border-b tear py-1.5">
        Bring groups to their floor first
        <input
          type="checkbox"
          className="size-4 accent-seat"
          checked={floorsFirst}
          onChange={({ target }) => change({ floorsFirst: target.checked })}
        />
      </label>
      {!making && (
        <label
          className={`flex items-center justify-between gap-2 border-b tear py-1.5 ${floorsFirst ? '' : 'text-faint'}`}
        >
          Empty groups that cannot reach it
          <input
            type="checkbox"
            className="size-4 accent-seat"
            disabled={!floorsFirst}
            checked={mayDissolve && floorsFirst}
            onChange={({ target }) => change({ mayDissolve: target.checked })}
          />
        </label>
      )}
      <label className="flex flex-col gap-1 py-1.5">
        Seats that are taken
        <Choice
          value={release}
          onValue={(value) => change({ release: value as Choices['release'], pins: new Map() })}
          className="font-semibold"
        >
          <option value="none">stay</option>
          <option value="some">stay, but for some people</option>
          <option value="all">may be moved where it helps</option>
          <option value="afresh">are drawn afresh, everybody’s</option>
        </Choice>
      </label>
      {release === 'some' && (
        <div className="flex flex-col gap-1.5">
          <PersonPick
            label="Whose seat may be moved"
            people={people.filter(({ key }) => !released.includes(key))}
            onPick={(person) => change({ released: [...released, person] })}
          />
          <ul className="flex flex-wrap gap-1">
            {released.map((person) => (
              <li
                key={person}
                className="flex items-center gap-1 rounded-field bg-seat-soft py-0.5 pr-1 pl-2 text-sm"
              >
                {names.get(person) ?? 'Somebody'}
                <button
                  type="button"
                  aria-label={`${names.get(person)} stays`}
                  onClick={() => change({ released: released.filter((one) => one !== person) })}
                  className="grid size-6 place-items-center rounded hover:bg-surface"
                >
                  <X size={14} aria-hidden="true" />
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </Card>
  )
}

function Line({ term, children }: { term: string; children: ReactNode }) {
  return (
    <div className="flex justify-between gap-3 border-b tear py-1.5">
      <dt>{term}</dt>
      <dd className="text-right font-semibold">{children}</dd>
    </div>
  )
}
