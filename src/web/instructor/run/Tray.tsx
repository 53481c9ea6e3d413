import { useDroppable } from '@dnd-kit/core'
import { type ReactNode, useRef, useState } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { bySurname, matches, shortNames } from '../../../core/names.ts'
import type { Tally } from '../../../core/tally.ts'
import { BOX } from '../../kit/Field.tsx'
import { useKey } from '../../kit/keys.ts'
import { Pip } from '../../kit/Pip.tsx'
import { PersonChip } from './PersonChip.tsx'
import type { Seating } from './useSeating.ts'

/** Where those who are dropped lose their seat. */
export const TRAY = 'tray'

/** The tray: everybody who has no group yet, by section, searchable, to be picked and dragged. */
export function Tray({
  view,
  tally,
  pointed,
  seating,
}: {
  view: RunView
  tally: Tally
  pointed: string | null
  seating: Seating
}) {
  const [section, setSection] = useState<string | null>(null)
  const [typed, setTyped] = useState('')
  const search = useRef<HTMLInputElement>(null)
  const { setNodeRef, isOver } = useDroppable({ id: TRAY })
  useKey('/', () => search.current?.focus())

  const left = new Set(tally.noGroup)
  const people = view.people.filter(({ code }) => left.has(code))
  const shown = people
    .filter((person) => (section === null || person.section === section) && matches(typed, person.name))
    .sort((a, b) => bySurname(a.name, b.name))
  const list = shown.map(({ code }) => ({ person: code, from: null }))
  const short = shortNames(view.sections.map(({ name }) => name))
  const sectionNames = new Map(view.sections.map(({ code }, i) => [code, short[i]]))
  const mayPick = view.maySeat !== 'none'
  if (people.length === 0) {
    if (view.people.length === 0) {
      return (
        <p className="border-t border-line px-5 py-4 text-soft">
          Nobody is on the roster yet, so nobody is without a group.
        </p>
      )
    }
    return (
      <p
        ref={setNodeRef}
        className={`flex items-center gap-2 border-t border-line bg-moss-soft px-5 py-4 font-semibold text-moss ${isOver ? 'outline-2 -outline-offset-2 outline-seat' : ''}`}
      >
        <Pip kind="taken" /> Everybody has a seat.
      </p>
    )
  }
  return (
    <section
      ref={setNodeRef}
      aria-labelledby="tray"
      className={`shrink-0 border-t border-line bg-ember-soft px-5 py-2 ${isOver ? 'outline-2 -outline-offset-2 outline-seat' : ''}`}
    >
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
      {mayPick ? (
        <div
          role="listbox"
          aria-multiselectable="true"
          aria-label="People without a group"
          className="mt-2 flex max-h-[5.75rem] flex-wrap gap-1.5 overflow-auto p-0.5"
        >
          {shown.map(({ code, name, section: own }) => (
            <PersonChip
              key={code}
              pick={{ person: code, from: null }}
              name={name}
              after={sectionNames.get(own ?? '')}
              pip="needs"
              pointed={code === pointed}
              list={list}
              seating={seating}
            />
          ))}
        </div>
      ) : (
        <ul className="mt-2 flex max-h-[5.75rem] flex-wrap gap-1.5 overflow-auto p-0.5">
          {shown.map(({ code, name, section: own }) => (
            <li
              key={code}
              className="flex items-center gap-2 rounded-field border border-line-strong bg-surface px-2.5 py-px"
            >
              <Pip kind="needs" size="tiny" />
              {name}
              {own && <span className="text-soft">{sectionNames.get(own)}</span>}
            </li>
          ))}
        </ul>
      )}
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
