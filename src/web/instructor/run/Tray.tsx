import { type ReactNode, useRef, useState } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { bySurname, matches } from '../../../core/names.ts'
import type { Tally } from '../../../core/tally.ts'
import { BOX } from '../../kit/Field.tsx'
import { Pip } from '../../kit/Pip.tsx'
import { useKey } from '../keys.ts'

/** The tray: everybody who has no group yet, by section, searchable. */
export function Tray({ view, tally, pointed }: { view: RunView; tally: Tally; pointed: string | null }) {
  const [section, setSection] = useState<string | null>(null)
  const [typed, setTyped] = useState('')
  const search = useRef<HTMLInputElement>(null)
  useKey('/', () => search.current?.focus())

  const left = new Set(tally.noGroup)
  const people = view.people.filter(({ code }) => left.has(code))
  const shown = people
    .filter((person) => (section === null || person.section === section) && matches(typed, person.name))
    .sort((a, b) => bySurname(a.name, b.name))
  const sectionNames = new Map(view.sections.map(({ code, name }) => [code, name]))
  if (people.length === 0) {
    if (view.people.length === 0) {
      return (
        <p className="border-t border-line px-5 py-4 text-soft">
          Nobody is on the roster yet, so nobody is without a group.
        </p>
      )
    }
    return (
      <p className="flex items-center gap-2 border-t border-line bg-moss-soft px-5 py-4 font-semibold text-moss">
        <Pip kind="taken" /> Everybody has a seat.
      </p>
    )
  }
  return (
    <section aria-labelledby="tray" className="shrink-0 border-t border-line bg-ember-soft px-5 py-2.5">
      <div className="flex flex-wrap items-center gap-2">
        <h2 id="tray" className="mr-1 text-lg">
          No group yet
        </h2>
        <Choice pressed={section === null} onPress={() => setSection(null)}>
          All {people.length}
        </Choice>
        {tally.sections.map(({ code, name, left }) => (
          <Choice
            key={code}
            pressed={section === code}
            onPress={() => setSection(section === code ? null : code)}
          >
            {name} {left}
          </Choice>
        ))}
        <input
          ref={search}
          type="search"
          aria-label="Search those who have no group"
          placeholder="Search by name  /"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              event.preventDefault()
              setTyped('')
              event.currentTarget.blur()
            }
          }}
          className={`${BOX} ml-auto min-h-8 max-w-60 max-sm:ml-0`}
        />
      </div>
      <ul className="mt-2.5 flex max-h-[6.75rem] flex-wrap gap-1.5 overflow-auto">
        {shown.map(({ code, name, section: own }) => (
          <li
            key={code}
            className={`flex items-center gap-2 rounded-field border bg-surface px-2.5 py-px ${
              code === pointed ? 'border-seat outline-2 outline-seat' : 'border-line-strong'
            }`}
          >
            <Pip kind="needs" size="tiny" />
            {name}
            {own && <span className="text-soft">{sectionNames.get(own)?.split(' ')[0]}</span>}
          </li>
        ))}
      </ul>
      {shown.length === 0 && (
        <p className="mt-2 text-soft">
          Nobody without a group is called that{section ? ' in this section' : ''}.
        </p>
      )}
    </section>
  )
}

function Choice({
  pressed,
  onPress,
  children,
}: {
  pressed: boolean
  onPress: () => void
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      onClick={onPress}
      className={`figures min-h-7 rounded-field border px-2 text-sm font-semibold ${
        pressed ? 'border-seat-soft bg-seat-soft text-seat' : 'border-line-strong bg-surface'
      }`}
    >
      {children}
    </button>
  )
}
