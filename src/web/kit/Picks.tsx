import { useId, useState } from 'react'
import { matches } from '../../core/names.ts'
import { Check } from './Check.tsx'
import { SearchBox } from './SearchBox.tsx'

/** Something that can be ticked: its name, and what stands softly behind it. */
export interface Pick {
  code: string
  name: string
  more?: string
}

/** From so many on, the list is searched. */
const LONG = 12

/** Several out of a list, ticked. Those that are ticked and not in the list any more stay as they are. */
export function Picks({
  label,
  all,
  picked,
  onPicked,
  nobody = 'Nothing is called that.',
}: {
  label: string
  all: readonly Pick[]
  picked: ReadonlySet<string>
  onPicked: (picked: ReadonlySet<string>) => void
  /** Said where the search finds nothing. */
  nobody?: string
}) {
  const [typed, setTyped] = useState('')
  const id = useId()
  const found = all.filter(({ name, more = '' }) => matches(typed, name, more))
  return (
    <div className="flex flex-col gap-1">
      <p id={id} className="text-sm font-semibold text-soft">
        {label}: {all.filter(({ code }) => picked.has(code)).length} of {all.length}
      </p>
      {all.length > LONG && <SearchBox label={`Search: ${label}`} value={typed} onValue={setTyped} />}
      <ul
        aria-labelledby={id}
        className="grid max-h-40 overflow-auto rounded-field border border-line-strong px-3 py-1 sm:grid-cols-2"
      >
        {found.map(({ code, name, more }) => (
          <li key={code}>
            <Check
              checked={picked.has(code)}
              onValue={(on) => {
                const next = new Set(picked)
                if (on) next.add(code)
                else next.delete(code)
                onPicked(next)
              }}
              className="text-sm"
            >
              <span>
                {name} {more && <span className="text-soft">{more}</span>}
              </span>
            </Check>
          </li>
        ))}
        {found.length === 0 && <li className="py-1 text-soft">{nobody}</li>}
      </ul>
    </div>
  )
}
